import { fieldsOf, kindWords, objectOf, partAt, type Applied, type Change, type Field, type ObjectKind } from '@underpass/contracts';
import { useEffect, useMemo, useState } from 'react';
import { useForm, useWatch, type FieldValues } from 'react-hook-form';
import { call } from '../api/client.js';
import { Dialog } from '../ui/Dialog.js';
import { useAction } from '../ui/useAction.js';
import { EditEffectOf } from './EditEffect.js';
import { labelOf } from '../ui/form/labels.js';
import { ObjectField } from './ObjectField.js';

/** So many objects are edited as one change at most. */
export const mostAtOnce = 1000;
/** How long nothing is typed before it is worked out what the edit would do, ms. */
const restMs = 400;
/** Fields that belong to one object alone, or say when it was told. */
const own = new Set(['id', 'name', 'reportedAt', 'screensAt', 'decodersAt']);

/** One field of many objects, edited as one change: what it would do is seen first, and it is taken back as one. */
export function EditMany({
  kind,
  ids,
  onClose,
  onDone,
}: {
  kind: ObjectKind;
  ids: readonly string[];
  onClose: () => void;
  onDone?: () => void;
}) {
  const fields = useMemo(() => fieldsOf(kind).filter(({ name }) => !own.has(name)), [kind]);
  const [name, setName] = useState('');
  const field = fields.find((each) => each.name === name);
  const { many, one } = kindWords[kind];
  const of = `${ids.length} ${(ids.length === 1 ? one : many).toLowerCase()}`;
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Edit ${of}`}
      description="One change, which is taken back as one."
      wide
    >
      {ids.length > mostAtOnce ? (
        <p className="text-brick">
          At most {mostAtOnce} are edited as one change. Choose fewer, or export the list, edit it in a spreadsheet and import it.
        </p>
      ) : (
        <>
          <div className="grid grid-cols-1 min-[560px]:grid-cols-[minmax(110px,150px)_minmax(0,1fr)] gap-x-3 gap-y-2">
            <label htmlFor="many-field" className="pt-1.5 text-ink-2">
              Field
            </label>
            <select id="many-field" className="field max-w-[280px]" value={name} onChange={(event) => setName(event.target.value)}>
              <option value="">choose a field</option>
              {fields.map((each) => (
                <option key={each.name} value={each.name}>
                  {labelOf(each.name)}
                </option>
              ))}
            </select>
          </div>
          {field && <OneField key={name} kind={kind} ids={ids} field={field} of={of} onClose={onClose} {...(onDone ? { onDone } : {})} />}
        </>
      )}
    </Dialog>
  );
}

function OneField({
  kind,
  ids,
  field,
  of,
  onClose,
  onDone,
}: {
  kind: ObjectKind;
  ids: readonly string[];
  field: Field;
  of: string;
  onClose: () => void;
  onDone?: () => void;
}) {
  const form = useForm<FieldValues>();
  const held = useWatch({ control: form.control });
  const { busy, fault, run } = useAction();
  // that nothing is typed is no wish to take the field away from all of them
  const [takesAway, setTakesAway] = useState(false);
  const { object, faults } = useMemo(() => objectOf([field], held), [field, held]);
  const problem = takesAway ? undefined : faults[0]?.problem;
  const value = partAt(object, field.path);
  const change = useMemo((): Change | null => {
    if (problem !== undefined || (value === undefined && !takesAway)) return null;
    const set = { [field.name]: (takesAway ? null : value) as never };
    return { patches: ids.map((id) => ({ do: 'change' as const, kind, id, set })), hypotheses: [] };
  }, [problem, value, takesAway, field, ids, kind]);
  useEffect(() => {
    if (problem) form.setError(field.name, { message: problem });
    else form.clearErrors(field.name);
  }, [problem, field, form]);
  // only what was looked at is applied: what it does is asked for a moment after the last letter
  const [looked, setLooked] = useState<Change | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => setLooked(change), restMs);
    return () => clearTimeout(timer);
  }, [change]);
  const ready = change !== null && looked === change;
  // what somebody else wrote after it was looked at is not overwritten unseen
  const [seen, setSeen] = useState<number>();
  const [round, setRound] = useState(0);
  const summary = `${labelOf(field.name)} of ${of}`;
  const apply = async () => {
    const done = await run(async () => {
      const applied = await call<Applied>('changes', 'POST', { change, summary, seen });
      onDone?.();
      onClose();
      return { text: `Changed: ${summary}.`, applied, takenBack: `Taken back: ${summary}.` };
    });
    // it is looked at anew, on what stands there now
    if (!done) setRound((n) => n + 1);
  };
  return (
    <form
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) void apply();
      }}
    >
      <div className="grid grid-cols-1 min-[560px]:grid-cols-[minmax(110px,150px)_minmax(0,1fr)] gap-x-3 gap-y-2">
        <ObjectField field={field} form={form} disabled={takesAway} />
      </div>
      {!field.required && (
        <label className="flex gap-2 items-center mt-2 min-h-[24px]">
          <input type="checkbox" checked={takesAway} onChange={({ target }) => setTakesAway(target.checked)} />
          take it away from all of them: it is not known, or as it is by itself
        </label>
      )}
      <div className="mt-4 min-h-[48px]">
        {ready && <EditEffectOf key={`${round} ${JSON.stringify(value ?? null)}`} change={change} summary={summary} onLooked={setSeen} />}
      </div>
      {fault && (
        <p role="alert" className="text-brick">
          {fault}
        </p>
      )}
      <div className="flex gap-3 mt-3">
        <button className="btn btn-primary" disabled={busy || !ready}>
          Apply to {of}
        </button>
        <button type="button" className="btn" onClick={onClose}>
          Leave it
        </button>
      </div>
    </form>
  );
}
