import { useQuery } from '@tanstack/react-query';
import type { DraftView } from '@underpass/contracts';
import { useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { useDrafts } from '../api/drafts.js';
import { useCanEdit } from '../api/session.js';
import { cellOf } from '../estate/kinds.js';
import { useTitle } from '../shell/useTitle.js';
import { Empty, Failed, Loading } from '../ui/States.js';
import { moment } from '../ui/times.js';
import { useNotice } from '../ui/Notice.js';
import { ApplyDraft } from './ApplyDraft.js';
import { DraftImpact } from './DraftImpact.js';
import { settingsQueries } from './queries.js';
import { stepsOf } from './stepWords.js';
import { useAtPlace } from './useAtPlace.js';
import { useDraft } from './useDraft.js';

/** One draft: what it does, to whom, whether it still stands on what it was made on; applied from here, whole or at one place. */
export function DraftPage() {
  const { id = '' } = useParams();
  const navigate = useNavigate();
  const canEdit = useCanEdit();
  const working = useDraft(id, () => void navigate('/settings/drafts'));
  const { draft } = working;
  const place = useAtPlace(draft);
  // of one place alone what it does there is shown, before it is applied
  const there = place.there?.steps ? place.there.change : null;
  useTitle(draft?.name ?? 'Draft');
  if (working.isGone)
    return (
      <>
        <h1>There is no such draft</h1>
        <Empty
          action={
            <Link className="btn" to="/settings/drafts">
              See the drafts
            </Link>
          }
        >
          It may have been dropped.
        </Empty>
      </>
    );
  if (working.asked.isError)
    return <Failed page what="The draft" error={working.asked.error} onRetry={() => void working.asked.refetch()} />;
  if (!draft) return <Loading what="the draft" />;
  return (
    <div className="grid gap-x-12 gap-y-6 grid-cols-[minmax(0,1fr)] min-[1000px]:grid-cols-[minmax(0,1fr)_340px]">
      <div className="min-w-0">
        <Name key={draft.id} draft={draft} canEdit={canEdit} onName={working.rename} />
        <p className="text-ink-2">
          Begun by {draft.createdBy}, {moment(draft.createdAt)}. On paper, nothing is applied. <CopyAddress />
        </p>
        {working.fault && (
          <p role="alert" className="text-brick mt-2">
            {working.fault}
          </p>
        )}
        {draft.done && <p className="mt-2 text-ink-2">Everything in it stands so already.</p>}
        {draft.conflicts.length > 0 && (
          <section aria-label="Changed since" className="mt-3 border-l-[5.5px] border-amber pl-3">
            <h2 className="text-amber">Changed since it was written</h2>
            <ul>
              {draft.conflicts.map((each) => (
                <li key={each.text}>{each.text}</li>
              ))}
            </ul>
            <p className="mt-1 text-ink-2">Nothing was overwritten. Refresh it, and it rests on what stands now; its own values stay.</p>
            {canEdit && (
              <button className="btn mt-2" disabled={working.busy} onClick={() => void working.refresh()}>
                Refresh the draft
              </button>
            )}
          </section>
        )}
        <h2 className="mt-4">Steps</h2>
        <ol className="border-t-[1.5px] border-ink mt-1">
          {stepsOf(draft.change).map((text, i) => (
            <li key={text} className="border-b border-rule py-1 flex gap-3 items-center">
              <span className="flex-1">{text}</span>
              {canEdit && draft.change.patches.length + draft.change.hypotheses.length > 1 && i < draft.change.patches.length && (
                <button
                  className="btn btn-small"
                  aria-label={`Leave out: ${text}`}
                  disabled={working.busy}
                  onClick={() =>
                    void working.write({ ...draft.change, patches: draft.change.patches.filter((_, at) => at !== i) }, draft.name)
                  }
                >
                  Leave it out
                </button>
              )}
            </li>
          ))}
        </ol>
        {canEdit && <ApplyDraft draft={draft} place={place} onDrop={() => void working.drop()} />}
        <Beside draft={draft} />
      </div>
      <section aria-label="Impact" className="min-w-0 min-[1000px]:border-l border-rule min-[1000px]:pl-6">
        <h2>What it does to everybody{there && place.target && `, at ${place.target.name} only`}</h2>
        <DraftImpact change={there ?? draft.change} />
      </section>
    </div>
  );
}

function Name({ draft, canEdit, onName }: { draft: DraftView; canEdit: boolean; onName: (name: string) => Promise<boolean> }) {
  const [typed, setTyped] = useState<{ text: string; over: string } | null>(null);
  if (typed === null)
    return (
      <h1 className="flex flex-wrap gap-3 items-center">
        {draft.name}
        {canEdit && (
          <button className="btn btn-small" onClick={() => setTyped({ text: draft.name, over: draft.name })}>
            Rename it
          </button>
        )}
      </h1>
    );
  const { text, over } = typed;
  const fault = text.trim() === '' ? 'A draft needs a name.' : text.trim().length > 120 ? 'At most 120 characters.' : null;
  return (
    <form
      className="flex flex-wrap gap-2 items-center"
      onSubmit={(event) => {
        event.preventDefault();
        if (fault) return;
        // what was typed stays where it could not be kept
        void onName(text.trim()).then((done) => done && setTyped(null));
      }}
    >
      <label className="sr-only" htmlFor="draft-name">
        Name of the draft
      </label>
      <input
        id="draft-name"
        className="field w-[320px] max-w-full"
        value={text}
        autoFocus
        aria-invalid={fault !== null}
        aria-describedby="draft-name-fault"
        onChange={({ target }) => setTyped({ text: target.value, over })}
      />
      <button className="btn" disabled={fault !== null}>
        Keep the name
      </button>
      <button type="button" className="btn btn-quiet" onClick={() => setTyped(null)}>
        Leave it
      </button>
      {draft.name !== over && <span className="text-amber">Somebody called it “{draft.name}” meanwhile.</span>}
      <span id="draft-name-fault" role="alert" className="text-brick">
        {fault}
      </span>
    </form>
  );
}

function CopyAddress() {
  const notice = useNotice();
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(location.href);
      notice({ text: 'The address of the draft is copied. Whoever is signed in sees it there.' });
    } catch {
      notice({ text: 'The browser does not let this page copy. Take the address from above.' });
    }
  };
  return (
    <button className="link min-h-[24px]" onClick={() => void copy()}>
      Copy its address
    </button>
  );
}

/** The draft beside another one, field by field. */
function Beside({ draft }: { draft: DraftView }) {
  const [search, setSearch] = useSearchParams();
  const drafts = (useDrafts().data ?? []).filter(({ id }) => id !== draft.id);
  const other = search.get('beside') ?? '';
  const rows = useQuery(settingsQueries.draftBeside(draft.id, other));
  if (drafts.length === 0) return null;
  return (
    <section aria-label="Beside another draft" className="mt-6">
      <h2>Beside another draft</h2>
      <label className="flex gap-2 items-center mt-1">
        <span className="text-ink-3">Compare with</span>
        <select
          className="field max-w-[320px]"
          value={other}
          onChange={({ target }) => setSearch(target.value ? { beside: target.value } : {}, { replace: true })}
        >
          <option value="">none</option>
          {drafts.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {rows.isError && <Failed what="The comparison" error={rows.error} onRetry={() => void rows.refetch()} />}
      {other && rows.data && (
        <table className="w-full mt-2">
          <thead className="head">
            <tr>
              <th scope="col">What</th>
              <th scope="col">now</th>
              <th scope="col">this one</th>
              <th scope="col">the other</th>
            </tr>
          </thead>
          <tbody>
            {rows.data.map((row) => (
              <tr key={`${row.kind}/${row.id}/${row.field ?? ''}`} className="border-b border-rule">
                <th scope="row" className="text-left font-normal py-1 pr-3">
                  {row.kind} <span className="mono">{row.id}</span>
                  {row.field && `, ${row.field}`}
                </th>
                {[row.now, row.first, row.second].map((value, i) => (
                  <td key={i} className={`pr-3 ${i > 0 && !row.alike ? 'font-bold' : ''}`}>
                    {cellOf(value) || 'nothing'}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
