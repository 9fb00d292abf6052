import { fieldsOf, kindWords, objectOf, type Change, type Field, type ObjectKind } from '@underpass/contracts';
import { useEffect, useMemo, useState } from 'react';
import { useForm, useWatch, type FieldValues } from 'react-hook-form';
import { call } from '../api/client.js';
import { Dialog } from '../ui/Dialog.js';
import { useAction } from '../ui/useAction.js';
import { EditEffectOf } from './EditEffect.js';
import { labelOf } from './labels.js';
import { ObjectField } from './ObjectField.js';

/** So many objects are edited as one change at most. */
export const mostAtOnce = 1000;
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
  const [change, setChange] = useState<Change | null>(null);
  const read = useMemo(() => objectOf([field], held), [field, held]);
  useEffect(() => {
    const at = field.path.reduce<unknown>((inner, key) => (inner as Record<string, unknown> | undefined)?.[key], read.object);
    const [problem] = read.faults;
    if (problem) form.setError(field.name, { message: problem.problem });
    else form.clearErrors(field.name);
    const patches = ids.map((id) => ({ do: 'change' as const, kind, id, set: { [field.name]: (at ?? null) as never } }));
    const timer = setTimeout(() => setChange(problem || (at === undefined && field.required) ? null : { patches, hypotheses: [] }), 400);
    return () => clearTimeout(timer);
  }, [read, field, ids, kind, form]);
  const summary = `${labelOf(field.name)} of ${of}`;
  const apply = () =>
    run(async () => {
      const { changeId } = await call<{ changeId: string }>('changes', 'POST', { change, summary });
      onDone?.();
      onClose();
      return { text: `Changed: ${summary}.`, changeId, takenBack: `Taken back: ${summary}.` };
    });
  return (
    <form
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (change) void apply();
      }}
    >
      <div className="grid grid-cols-1 min-[560px]:grid-cols-[minmax(110px,150px)_minmax(0,1fr)] gap-x-3 gap-y-2">
        <ObjectField field={field} form={form} disabled={false} />
      </div>
      <div className="mt-4 min-h-[48px]">{change && <EditEffectOf change={change} summary={summary} />}</div>
      {fault && (
        <p role="alert" className="text-brick">
          {fault}
        </p>
      )}
      <div className="flex gap-3 mt-3">
        <button className="btn btn-primary" disabled={busy || change === null}>
          Apply to {of}
        </button>
        <button type="button" className="btn" onClick={onClose}>
          Leave it
        </button>
      </div>
    </form>
  );
}
