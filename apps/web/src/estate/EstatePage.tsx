import { useQuery } from '@tanstack/react-query';
import { kindOrder, kindWords, type ObjectKind } from '@underpass/contracts';
import { Link, NavLink, useParams } from 'react-router';
import { useCanEdit } from '../api/session.js';
import { ExportButton } from '../ui/ExportButton.js';
import { useTitle } from '../shell/useTitle.js';
import { NoSuchKind } from './NoSuchKind.js';
import { ObjectList } from './ObjectList.js';
import { estateQueries } from './queries.js';

/** The estate as it is written down: every object by kind, to look at, edit, bring in and take out. */
export function EstatePage() {
  const { kind: wanted } = useParams();
  const kind = (kindOrder.includes(wanted as ObjectKind) ? wanted : 'location') as ObjectKind;
  const canEdit = useCanEdit();
  const unknown = wanted !== undefined && !kindOrder.includes(wanted as ObjectKind);
  const counts = useQuery(estateQueries.counts());
  useTitle(kindWords[kind].many);
  return (
    <div className="px-6 max-[719px]:px-4 pt-[15px]">
      <div className="flex items-baseline gap-x-4 gap-y-2 flex-wrap">
        <h1>Estate</h1>
        <span className="text-ink-3 flex-1 min-w-[200px]">what is written down; every crossing is worked out from it</span>
        <span className="flex gap-3 flex-wrap items-center no-print">
          <Link className="btn" to="/estate/assumed">
            What is assumed
          </Link>
          <Link className="btn" to="/estate/gaps">
            What is known
          </Link>
          <Link className="btn" to="/estate/sources">
            Sources
          </Link>
          <Link className="btn" to="/estate/changes">
            Changes
          </Link>
          {canEdit && (
            <ExportButton path="estate/exports" name="estate.zip">
              Export all
            </ExportButton>
          )}
          {canEdit && (
            <Link className="btn" to="/estate/measurements">
              Bring in a measurement
            </Link>
          )}
          {canEdit && (
            <Link className="btn" to="/estate/import">
              Import a folder
            </Link>
          )}
          {canEdit && (
            <Link className="btn btn-primary" to="/estate/list">
              Take in a list
            </Link>
          )}
        </span>
      </div>
      <div className="grid grid-cols-1 min-[900px]:grid-cols-[190px_minmax(0,1fr)] gap-x-12 mt-4">
        <nav aria-label="Kinds" className="border-t-[1.5px] border-ink flex min-[900px]:block overflow-x-auto no-print">
          {kindOrder.map((each) => (
            <NavLink
              key={each}
              to={`/estate/${each}`}
              className={({ isActive }) =>
                `flex items-center gap-3 h-[29px] border-b border-rule pl-3.5 pr-2 relative whitespace-nowrap ${isActive || (each === kind && !unknown) ? 'font-bold' : 'hover:bg-earth'}`
              }
              aria-current={each === kind && !unknown ? 'page' : undefined}
            >
              {each === kind && !unknown && <span aria-hidden className="absolute left-0 top-0 bottom-0 w-[5.5px] bg-tile" />}
              <span className="flex-1">{kindWords[each].many}</span>
              <span className="text-ink-3 font-normal">{counts.data?.find((row) => row.kind === each)?.count ?? ''}</span>
            </NavLink>
          ))}
        </nav>
        {unknown && <NoSuchKind word={wanted} />}
        <section aria-label={kindWords[kind].many} hidden={unknown} className="min-w-0 border-t-[1.5px] border-ink pt-2.5">
          {!unknown && <ObjectList key={kind} kind={kind} />}
        </section>
      </div>
    </div>
  );
}
