import { zodResolver } from '@hookform/resolvers/zod';
import { SeenForm, type Named, type SeenRequest, type TesterRow } from '@underpass/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { Pick } from '../ui/Pick.js';
import { SourceMark } from '../ui/SourceMark.js';
import { Beneath } from '../ui/form/Beneath.js';
import { useSent } from '../ui/form/useSent.js';
import { moment } from '../ui/times.js';

/** A person who tests: what they should see, what they saw, and writing it down. */
export function Tester({
  tester,
  editable,
  onSaw,
}: {
  tester: TesterRow;
  editable: boolean;
  /** Resolves to whether it was kept. */
  onSaw: (seen: SeenRequest) => Promise<boolean>;
}) {
  const [editing, setEditing] = useState(false);
  return (
    <li className="border-b border-rule py-1.5 grid grid-cols-1 min-[640px]:grid-cols-[170px_1fr_auto] gap-4">
      <Link className="font-semibold" to={`/access/people/${encodeURIComponent(tester.person)}`}>
        {tester.name}
      </Link>
      <div className="min-w-0">
        {editing ? (
          <WriteDown tester={tester} onSaw={async (seen) => (await onSaw(seen)) && setEditing(false)} />
        ) : (
          <>
            <span className="text-ink-2">Should see {tester.expected.map(({ name }) => name).join(', ')}</span>
            <Saw tester={tester} />
          </>
        )}
      </div>
      {editable && !editing && (
        <button className="btn btn-small self-start" onClick={() => setEditing(true)}>
          {tester.saw === null ? 'Write down' : 'Write down again'}
          <span className="sr-only"> what {tester.name} saw</span>
        </button>
      )}
    </li>
  );
}

/** What they saw, who says so and when; nothing until it is known. */
function Saw({ tester }: { tester: TesterRow }) {
  if (tester.saw === null) return null;
  const different = tester.missing.length + tester.extra.length > 0;
  return (
    <p>
      <SourceMark source={tester.source === 'reported' ? 'reported' : 'declared'} />{' '}
      {different ? (
        <b className="text-amber">
          {tester.missing.length > 0 && `did not see ${tester.missing.map(({ name }) => name).join(', ')}`}
          {tester.missing.length > 0 && tester.extra.length > 0 && '; '}
          {tester.extra.length > 0 && `also saw ${tester.extra.map(({ name }) => name).join(', ')}`}
        </b>
      ) : (
        <b className="text-tile">saw exactly that</b>
      )}
      <span className="text-ink-3">
        {' '}
        {tester.source} by {tester.by}
        {tester.at && `, ${moment(tester.at)}`}
        {tester.note && `: ${tester.note}`}
      </span>
    </p>
  );
}

/** When it was written down, where somebody did. */
const enteredAt = ({ source, at }: TesterRow): string | null => (source === 'entered' ? at : null);

/** What they saw: of what they should see, and anything else. */
function WriteDown({ tester, onSaw }: { tester: TesterRow; onSaw: (seen: SeenRequest) => Promise<unknown> }) {
  const [begunAt] = useState(enteredAt(tester));
  const form = useSent(
    {
      defaultValues: { saw: tester.saw ?? tester.expected.map(({ id }) => id), note: tester.note ?? '' },
      resolver: zodResolver(SeenForm),
    },
    async (seen) => void (await onSaw({ ...seen, seenAt: enteredAt(tester) })),
  );
  const [more, setMore] = useState<readonly Named[]>(tester.extra);
  const listed = [...tester.expected, ...more];
  const add = (resource: Named | null) => {
    if (!resource) return;
    if (!listed.some(({ id }) => id === resource.id)) setMore([...more, resource]);
    const saw = form.getValues('saw');
    if (!saw.includes(resource.id)) form.setValue('saw', [...saw, resource.id], { shouldDirty: true });
  };
  const note = `note-${tester.person}`;
  return (
    <form className="flex flex-wrap gap-x-4 gap-y-1 items-center" noValidate onSubmit={(event) => void form.send()(event)}>
      {listed.map((resource) => (
        <label key={resource.id} className="flex gap-1.5 items-center">
          <input type="checkbox" value={resource.id} {...form.register('saw')} />
          {resource.name}
        </label>
      ))}
      <span className="w-[170px]">
        <Pick kind="resource" label={`What else ${tester.name} saw`} placeholder="Saw something else?" value={null} onPick={add} />
      </span>
      <input
        className="field w-[200px]"
        aria-label="Note"
        placeholder="Note"
        aria-invalid={form.faultOf('note') !== undefined}
        aria-describedby={note}
        {...form.register('note')}
      />
      <button className="btn btn-small" disabled={form.busy}>
        Keep what {tester.name} saw
      </button>
      <Beneath id={note} fault={form.faultOf('note')} />
      {/* what somebody else wrote down meanwhile is seen before it is written over */}
      {enteredAt(tester) !== begunAt && (
        <div role="status" className="basis-full">
          Written down meanwhile: <Saw tester={tester} />
        </div>
      )}
    </form>
  );
}
