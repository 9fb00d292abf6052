import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { kindOrder, kindWords, listColumns, type ObjectKind } from '@underpass/contracts';
import { useEffect, useRef, useState } from 'react';
import { Link, NavLink, useParams, useSearchParams } from 'react-router';
import { useCanEdit } from '../api/session.js';
import { ExportButton } from '../ui/ExportButton.js';
import { Empty, Failed } from '../ui/States.js';
import { useTitle } from '../shell/useTitle.js';
import { NoSuchKind } from './NoSuchKind.js';
import { cellOf, nameOf } from './kinds.js';
import { estateQueries } from './queries.js';

/** The estate as it is written down: every object by kind, to look at, edit, bring in and take out. */
export function EstatePage() {
  const { kind: wanted } = useParams();
  const kind = (kindOrder.includes(wanted as ObjectKind) ? wanted : 'location') as ObjectKind;
  const [search, setSearch] = useSearchParams();
  const text = search.get('search') ?? '';
  const canEdit = useCanEdit();
  const unknown = wanted !== undefined && !kindOrder.includes(wanted as ObjectKind);
  const counts = useQuery(estateQueries.counts());
  const pages = useInfiniteQuery(estateQueries.list(kind, text));
  useTitle(kindWords[kind].many);
  const total = pages.data?.pages[0]?.total ?? 0;
  const rows = pages.data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <div className="px-6 pt-[15px]">
      <div className="flex items-baseline gap-4 flex-wrap">
        <h1>Estate</h1>
        <span className="text-ink-3 flex-1">what is written down; every crossing is worked out from it</span>
        <span className="flex gap-3 flex-wrap items-center">
          <Link className="btn" to="/estate/assumed">
            What is assumed
          </Link>
          <Link className="btn" to="/estate/changes">
            Changes
          </Link>
          {canEdit && (
            <ExportButton path="estate/exports" name="estate.zip">
              Export
            </ExportButton>
          )}
          {canEdit && (
            <Link className="btn" to="/estate/measurements">
              Bring in a measurement
            </Link>
          )}
          {canEdit && (
            <Link className="btn btn-primary" to="/estate/import">
              Import a folder
            </Link>
          )}
        </span>
      </div>
      <div className="grid grid-cols-1 min-[900px]:grid-cols-[190px_minmax(0,1fr)] gap-x-12 mt-4">
        <nav aria-label="Kinds" className="border-t-[1.5px] border-ink flex min-[900px]:block overflow-x-auto">
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
          <div className="flex gap-4 items-center pb-2">
            <label className="flex gap-2 items-center">
              Search
              <input
                className="field w-[240px]"
                value={text}
                onChange={(event) => setSearch(event.target.value ? { search: event.target.value } : {}, { replace: true })}
                placeholder="Name, id, location"
              />
            </label>
            <span className="text-ink-3 flex-1">
              {pages.data ? `${total} ${total === 1 ? kindWords[kind].one.toLowerCase() : kindWords[kind].many.toLowerCase()}` : '·····'}
            </span>
            {canEdit && (
              <Link className="btn btn-small" to={`/estate/${kind}/new`}>
                Add {/^[aeiou]/i.test(kindWords[kind].one) ? 'an' : 'a'} {kindWords[kind].one.toLowerCase()}
              </Link>
            )}
          </div>
          {pages.isError && <Failed what="This list" error={pages.error} onRetry={() => void pages.refetch()} />}
          {pages.data && total === 0 && (
            <Empty>{text ? `Nothing here is called “${text}”.` : `There is no ${kindWords[kind].one.toLowerCase()} yet.`}</Empty>
          )}
          {total > 0 && (
            <Rows kind={kind} rows={rows} onNearEnd={() => pages.hasNextPage && !pages.isFetchingNextPage && void pages.fetchNextPage()} />
          )}
        </section>
      </div>
    </div>
  );
}

function Rows({ kind, rows, onNearEnd }: { kind: ObjectKind; rows: Record<string, unknown>[]; onNearEnd: () => void }) {
  const frame = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => frame.current, estimateSize: () => 27, overscan: 12 });
  const columns = listColumns[kind];
  const items = virtual.getVirtualItems();
  const last = items.at(-1)?.index ?? 0;
  const [seen, setSeen] = useState(0);
  useEffect(() => {
    if (last > rows.length - 60 && seen !== rows.length) {
      setSeen(rows.length);
      onNearEnd();
    }
  }, [last, rows.length, seen, onNearEnd]);
  const grid = {
    display: 'grid',
    gridTemplateColumns: `minmax(150px, 1.4fr) 130px ${columns.map(() => 'minmax(80px, 1fr)').join(' ')}`,
    columnGap: 12,
  };
  return (
    <div ref={frame} className="overflow-auto h-[calc(100vh-218px)] min-h-[280px]" tabIndex={-1}>
      <div role="table" aria-label={kindWords[kind].many} aria-rowcount={rows.length} className="min-w-[760px]">
        <div role="row" style={grid} className="head sticky top-0 bg-paper z-10 h-[24px] items-center">
          <span role="columnheader">Name</span>
          <span role="columnheader">Id</span>
          {columns.map(([field, head]) => (
            <span role="columnheader" key={field} className="truncate">
              {head}
            </span>
          ))}
        </div>
        <div role="rowgroup" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {items.map((item) => {
            const row = rows[item.index] as Record<string, unknown>;
            return (
              <Link
                data-row
                role="row"
                key={String(row.id)}
                to={`/estate/${kind}/${encodeURIComponent(String(row.id))}`}
                style={{ ...grid, transform: `translateY(${item.start}px)`, height: 27 }}
                className="absolute inset-x-0 items-center border-b border-rule hover:bg-earth"
              >
                <b role="cell" className="truncate font-semibold">
                  {nameOf(kind, row)}
                </b>
                <span role="cell" className="mono truncate text-ink-2">
                  {String(row.id)}
                </span>
                {columns.map(([field]) => (
                  <span role="cell" key={field} className="truncate">
                    {cellOf(row[field])}
                  </span>
                ))}
              </Link>
            );
          })}
        </div>
      </div>
    </div>
  );
}
