import { zodResolver } from '@hookform/resolvers/zod';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { NewBatch, type BatchMade, type BatchView, type Named } from '@underpass/contracts';
import { useState } from 'react';
import { call } from '../../api/client.js';
import { useCanEdit } from '../../api/session.js';
import { CopyLine } from '../../ui/CopyLine.js';
import { Labelled } from '../../ui/form/Labelled.js';
import { useSent } from '../../ui/form/useSent.js';
import { Pick } from '../../ui/Pick.js';
import { Failed, Loading } from '../../ui/States.js';
import { moment } from '../../ui/times.js';
import { useAction } from '../../ui/useAction.js';
import { intakeQueries } from '../queries.js';

const states = { open: 'good', full: 'used up', over: 'over', revoked: 'taken back' } as const;

/** Keys with which devices report: each for so many devices and so long. */
export function Batches() {
  const asked = useQuery(intakeQueries.batches());
  const canEdit = useCanEdit();
  const [made, setMade] = useState<BatchMade | null>(null);
  if (asked.isPending) return <Loading what="the keys" />;
  if (!asked.data) return <Failed what="The keys" error={asked.error} onRetry={() => void asked.refetch()} />;
  return (
    <section aria-labelledby="batches" className="mt-8">
      <h2 id="batches">Keys for batches of devices</h2>
      {made && <Made made={made} onDone={() => setMade(null)} />}
      {asked.data.length > 0 && (
        <ul className="mt-2 border-t border-rule">
          {asked.data.map((batch) => (
            <Batch key={batch.id} batch={batch} canEdit={canEdit} />
          ))}
        </ul>
      )}
      {asked.data.length === 0 && !made && <p className="text-ink-3 mt-1">None yet.</p>}
      {canEdit && <MakeBatch onMade={setMade} />}
    </section>
  );
}

function Made({ made: { batch, shell, objects }, onDone }: { made: BatchMade; onDone: () => void }) {
  return (
    <div role="status" className="mt-3 border border-rule-2 bg-sheet p-4 max-w-[900px]">
      <p className="font-semibold">
        Run one of these on each device of {batch.name}, or put it into its start script; they are shown this once
      </p>
      <CopyLine label="In a shell" value={shell} />
      <CopyLine label="In a shell of objects" value={objects} />
      <p className="text-ink-2 mt-2">
        Good for {batch.most} devices until {moment(batch.expiresAt)}. With <span className="mono">--print</span> the script tells what it
        would send, and sends nothing.
      </p>
      <button className="btn mt-2" onClick={onDone}>
        I have it
      </button>
    </div>
  );
}

function Batch({ batch: { id, name, most, used, by, at, expiresAt, state }, canEdit }: { batch: BatchView; canEdit: boolean }) {
  const client = useQueryClient();
  const { busy, run } = useAction('foot');
  return (
    <li className="border-b border-rule py-1.5 flex flex-wrap gap-x-5 items-baseline" aria-label={name}>
      <span className="font-semibold min-w-[200px]">{name}</span>
      <span className="text-ink-2 flex-1">
        {used} of {most} devices; {state === 'open' ? `good until ${moment(expiresAt)}` : states[state]}
        <span className="text-ink-3">
          ; made by {by}, {moment(at)}
        </span>
      </span>
      {canEdit && (state === 'open' || state === 'full') && (
        <button
          className="btn btn-small"
          disabled={busy}
          aria-label={`Take the key of ${name} back`}
          onClick={() =>
            void run(async () => {
              await call(`intake/batches/${id}`, 'DELETE');
              await client.invalidateQueries({ queryKey: intakeQueries.batches().queryKey });
              return { text: `The key of ${name} is not good any more. What its devices told stays.` };
            })
          }
        >
          Take it back
        </button>
      )}
    </li>
  );
}

function MakeBatch({ onMade }: { onMade: (made: BatchMade) => void }) {
  const client = useQueryClient();
  const [place, setPlace] = useState<Named | null>(null);
  const form = useSent({ defaultValues: { name: '', most: 100, hours: 168 }, resolver: zodResolver(NewBatch) }, async (batch) => {
    onMade(await call<BatchMade>('intake/batches', 'POST', { ...batch, ...(place ? { location: place.id } : {}) }));
    setPlace(null);
    await client.invalidateQueries({ queryKey: intakeQueries.batches().queryKey });
  });
  return (
    <form
      className="grid grid-cols-1 min-[640px]:grid-cols-[150px_1fr] gap-y-2 mt-3 items-start"
      noValidate
      onSubmit={(event) => void form.send(true)(event)}
    >
      <Labelled
        id="batch-name"
        label="For which devices"
        placeholder="Till computers"
        fault={form.faultOf('name')}
        {...form.register('name')}
      />
      <Labelled
        id="batch-most"
        label="How many"
        type="number"
        fault={form.faultOf('most')}
        {...form.register('most', { valueAsNumber: true })}
      />
      <label htmlFor="batch-hours" className="pt-1.5">
        Good for
      </label>
      <select id="batch-hours" className="field w-[320px] max-w-full" {...form.register('hours', { valueAsNumber: true })}>
        <option value={24}>a day</option>
        <option value={168}>a week</option>
        <option value={720}>30 days</option>
        <option value={8760}>a year, for start scripts</option>
      </select>
      <span className="pt-1.5">All at one place</span>
      <Pick kind="location" label="All at one place" value={place} onPick={setPlace} placeholder="By their addresses" />
      <span />
      <span>
        <button className="btn btn-primary" disabled={form.busy}>
          Make a key
        </button>
        <span role="alert" className="block text-brick empty:hidden">
          {form.fault}
        </span>
      </span>
    </form>
  );
}
