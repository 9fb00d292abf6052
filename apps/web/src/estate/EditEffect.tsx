import type { Change, Field, ObjectKind } from '@underpass/contracts';
import type { Impact } from '@underpass/core';
import { lazy, Suspense, useEffect, useState } from 'react';
import type { FieldValues, UseFormReturn } from 'react-hook-form';
import { useLong } from '../api/jobs.js';
import { Loading } from '../ui/States.js';
import { Work } from '../ui/Work.js';
import { changeOf } from './changeOf.js';
import { effectSentence } from './effectSentence.js';
import type { schemaOfForm } from './useObjectForm.js';

const ImpactDialog = lazy(async () => ({ default: (await import('../crossings/ImpactDialog.js')).ImpactDialog }));

/** How long nothing is typed before it is worked out what the edit would do, ms. */
const restMs = 700;

/** What an edit would do to the crossings it touches, before it is saved. */
export function EditEffect({
  kind,
  fields,
  form,
  schema,
  before,
  summary,
}: {
  kind: ObjectKind;
  fields: readonly Field[];
  form: UseFormReturn<FieldValues>;
  schema: ReturnType<typeof schemaOfForm>;
  /** What is written down now; null where it is new. */
  before: Record<string, unknown> | null;
  summary: string;
}) {
  const [change, setChange] = useState<Change | null>(null);
  useEffect(() => {
    const look = () => {
      const read = schema.safeParse(form.getValues());
      setChange(read.success ? changeOf(kind, fields, before, read.data as Record<string, unknown>) : null);
    };
    let timer = setTimeout(look, restMs);
    const { unsubscribe } = form.watch(() => {
      clearTimeout(timer);
      timer = setTimeout(look, restMs);
    });
    return () => {
      clearTimeout(timer);
      unsubscribe();
    };
  }, [form, schema, kind, fields, before]);
  return change && <EditEffectOf key={JSON.stringify(change)} change={change} summary={summary} />;
}

/**
 * What a change would do, in a sentence, with who it is on request.
 * @param props.onLooked told the version of the estate that it was worked out on
 */
export function EditEffectOf({ change, summary, onLooked }: { change: Change; summary: string; onLooked?: (version: number) => void }) {
  const { data, job, error } = useLong<Impact & { version: number }>('impact', { change });
  const version = data?.version;
  useEffect(() => {
    if (version !== undefined) onLooked?.(version);
  }, [version, onLooked]);
  const [open, setOpen] = useState(false);
  if (job) return <Work job={job} />;
  return (
    <div role="status" className="min-h-[24px]">
      {error && <p className="text-ink-2">What it would do cannot be worked out yet: {error.message}</p>}
      {!data && !error && <span className="text-ink-3">working out what it would do…</span>}
      {data && (
        <p className="flex gap-3 flex-wrap items-center">
          <span className={data.worse || data.gone ? 'text-amber' : 'text-ink-2'}>{effectSentence(data)}</span>
          {data.changedVerdict > 0 && (
            <button type="button" className="btn btn-small" onClick={() => setOpen(true)}>
              See for whom
            </button>
          )}
        </p>
      )}
      {open && (
        <Suspense fallback={<Loading what="who it is" />}>
          <ImpactDialog change={change} summary={summary} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </div>
  );
}
