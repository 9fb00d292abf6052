import { keyOfName, kindWords, type AuditEntry } from '@underpass/contracts';
import { useEffect, useRef } from 'react';
import { useWatch, type FieldValues, type UseFormReturn } from 'react-hook-form';
import { Link } from 'react-router';
import { useCanEdit, useSession } from '../api/session.js';
import { Failed } from '../ui/States.js';
import { GatewayLook } from '../intake/GatewayLook.js';
import { Origins } from '../intake/sources/Origins.js';
import { useTitle } from '../shell/useTitle.js';
import { Conflict } from './Conflict.js';
import { EditEffect } from './EditEffect.js';
import { nameOf } from './kinds.js';
import { ObjectHistory } from './ObjectHistory.js';
import { PersonData } from './PersonData.js';
import { ObjectField } from './ObjectField.js';
import { fieldOfSetting, settingHelp } from './settingHelp.js';
import { useObjectForm, type Shown } from './useObjectForm.js';

/** The form of an object, from the same definition as the files; what somebody else writes meanwhile stands beside what is typed. */
export function ObjectForm({
  history,
  gone,
  ...shown
}: Shown & { history: AuditEntry[]; /** Removed while it was shown. */ gone: boolean }) {
  const { kind, object, fresh } = shown;
  const form = useObjectForm(shown);
  const madeId = useMadeId(form.form);
  const canEdit = useCanEdit();
  const isAdmin = useSession().data?.role === 'admin';
  const { one, many } = kindWords[kind];
  useTitle(`${fresh ? `New ${kind}` : nameOf(kind, object)}`);
  // what is being typed is not taken away: saved, it is added anew
  if (gone && !form.moved)
    return (
      <div className="px-6">
        <Failed page what="This object" error={new Error('It was removed.')} />
      </div>
    );
  return (
    <div className="px-6 pt-[15px]">
      {form.leaving}
      <p className="text-ink-3">
        <Link className="link" to={`/estate/${kind}`}>
          {many}
        </Link>
      </p>
      <h1>
        {fresh ? `New ${one.toLowerCase()}` : nameOf(kind, object)}{' '}
        {!fresh && nameOf(kind, object) !== object.id && (
          <span className="mono font-normal text-ink-3 text-[14px] ml-1">{String(object.id)}</span>
        )}
      </h1>
      <div className="grid grid-cols-1 min-[1000px]:grid-cols-[minmax(0,1fr)_360px] gap-x-12 mt-3">
        <form
          className="border-t-[1.5px] border-ink pt-3"
          onSubmit={(event) => {
            event.preventDefault();
            if (fresh) madeId.settle();
            void form.save();
          }}
        >
          {form.conflict && <Conflict conflict={form.conflict} chosen={form.chosen} onChoose={form.choose} />}
          {gone && !form.message && <p className="text-amber mb-3">It was removed meanwhile. Save it to add it anew.</p>}
          {form.message && (
            <p role="alert" className="text-brick mb-3">
              {form.message}
            </p>
          )}
          <Fields form={form} shown={shown} canEdit={canEdit} onNamed={madeId.onNamed} />
          {canEdit && <Foot form={form} shown={shown} />}
        </form>
        <ObjectHistory history={history}>
          {kind === 'gateway' && !fresh && canEdit && <GatewayLook id={String(object.id)} />}
          {!fresh && <Origins kind={kind} id={String(object.id)} />}
          {kind === 'person' && !fresh && isAdmin && <PersonData id={String(object.id)} name={nameOf(kind, object)} />}
        </ObjectHistory>
      </div>
    </div>
  );
}

type Form = ReturnType<typeof useObjectForm>;

/** A new object's id is made of its name until one is typed; it follows once the name rests, so that it holds up no letter. */
function useMadeId(form: UseFormReturn<FieldValues>) {
  const made = useRef('');
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const settle = () => {
    clearTimeout(timer.current);
    if (form.getValues('id') !== made.current) return;
    made.current = keyOfName(String(form.getValues('name') ?? ''));
    form.setValue('id', made.current, { shouldDirty: true });
  };
  useEffect(() => () => clearTimeout(timer.current), []);
  return {
    onNamed: () => {
      clearTimeout(timer.current);
      timer.current = setTimeout(settle, 250);
    },
    /** Before it is saved. */
    settle,
  };
}

/** The fields in the order of the schema. */
function Fields({
  form: { form, fields },
  shown: { kind, fresh },
  canEdit,
  onNamed,
}: {
  form: Form;
  shown: Shown;
  canEdit: boolean;
  onNamed: () => void;
}) {
  // of a setting alone fields hang on others; a form that watches all of itself is drawn anew with every letter
  const [layer, key] = useWatch({ control: form.control, name: ['layer', 'key'], disabled: kind !== 'setting' }) as unknown[];
  return (
    <div className="grid grid-cols-1 min-[560px]:grid-cols-[minmax(110px,150px)_minmax(0,1fr)] gap-x-3 gap-y-1 min-[560px]:gap-y-2">
      {fields.map((field) => (
        <ObjectField
          key={field.name}
          field={kind === 'setting' ? fieldOfSetting(field, { layer }) : field}
          form={form}
          disabled={!canEdit || (field.name === 'id' && !fresh)}
          help={kind === 'setting' ? settingHelp(field.name, String(key ?? '')) : null}
          {...(fresh && field.name === 'name' ? { onTyped: onNamed } : {})}
        />
      ))}
    </div>
  );
}

function Foot({ form, shown: { kind, object, fresh } }: { form: Form; shown: Shown }) {
  const one = kindWords[kind].one.toLowerCase();
  return (
    <div className="mt-5 sticky bottom-0 bg-paper py-3 border-t border-rule z-20">
      {(form.moved || fresh) && (
        <EditEffect
          kind={kind}
          fields={form.fields}
          form={form.form}
          schema={form.schema}
          before={fresh ? null : object}
          summary={fresh ? `A new ${one}` : `${kindWords[kind].one} ${nameOf(kind, object)} as it is typed`}
        />
      )}
      <div className="flex gap-3 flex-wrap mt-1.5">
        <button className="btn btn-primary" disabled={form.busy || form.undecided || (!form.moved && !fresh)}>
          Save {one}
        </button>
        {form.moved && (
          <button type="button" className="btn" onClick={form.reset}>
            {form.conflict ? `Take ${form.conflict.by}’s version` : 'Back to how it was'}
          </button>
        )}
        <span className="flex-1" />
        {!fresh && kind !== 'organisation' && (
          <button type="button" className="btn" onClick={() => void form.remove()}>
            Remove {one}
          </button>
        )}
      </div>
    </div>
  );
}
