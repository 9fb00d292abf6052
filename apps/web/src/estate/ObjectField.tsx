import { partAt, type Field, type FormRow } from '@underpass/contracts';
import { memo } from 'react';
import { useController, type FieldValues, type UseFormReturn } from 'react-hook-form';
import { NamedChoice, NamedChoices } from '../ui/form/NamedChoice.js';
import { Rows } from '../ui/form/Rows.js';
import { TextList } from '../ui/form/TextList.js';
import { WordChoice, WordChoices } from '../ui/form/WordChoice.js';
import { SecretField } from './SecretField.js';
import { labelOf, rangeOf } from '../ui/form/labels.js';
import type { FieldHelp } from './settingHelp.js';

/** What may stand in a field, where its description does not say. */
function hintOf(field: Field): string {
  const { type, description, shape } = field;
  if (shape === 'one' && type === 'time of day') return [description, 'such as 08:30'].filter(Boolean).join('; ');
  if (shape !== 'one' || type !== 'number') return description;
  return [description, rangeOf(field)].filter(Boolean).join('; ');
}

/** One field of an object's form; the fault stands beneath it and what was typed stays. */
export const ObjectField = memo(function ObjectField({
  field,
  form,
  disabled,
  help = null,
  onTyped,
}: {
  field: Field;
  form: UseFormReturn<FieldValues>;
  disabled: boolean;
  /** What is known of the field beyond its schema. */
  help?: FieldHelp | null;
  onTyped?: (value: string) => void;
}) {
  const { field: held, formState } = useController({ control: form.control, name: field.name });
  const id = `field-${field.name}`;
  const faultAt = (...place: (string | number)[]): string | undefined => {
    const found = partAt(formState.errors, [...field.path, ...place.map(String)]) as { message?: unknown } | undefined;
    return typeof found?.message === 'string' ? found.message : undefined;
  };
  const fault = faultAt() ?? (field.shape === 'list' ? faultOfList(partAt(formState.errors, field.path)) : undefined);
  const control = {
    id,
    label: `${labelOf(field.name)}${field.required ? ' needed' : ''}`,
    onChange: (value: unknown) => {
      held.onChange(value);
      if (typeof value === 'string') onTyped?.(value);
    },
    onBlur: held.onBlur,
    disabled,
    invalid: fault !== undefined,
    describedBy: `${id}-more`,
  };
  // figures and words are short: what may stand there stands beside them
  const beside = field.shape === 'one' && ['number', 'word', 'yes or no', 'time of day'].includes(field.type);
  const empty = field.required || field.neededInside ? 'choose' : 'not known';
  return (
    <>
      <label htmlFor={id} className="pt-1.5 text-ink-2 break-words">
        {labelOf(field.name)}
        {field.required && <span className="text-ink-3"> needed</span>}
      </label>
      <div className={beside ? 'flex flex-wrap items-center gap-x-3 min-w-0' : 'min-w-0'}>
        {field.shape === 'rows' ? (
          <Rows {...control} field={field} value={held.value as string | FormRow[]} faultAt={faultAt} />
        ) : field.shape === 'list' ? (
          <List {...control} field={field} value={held.value as string[]} />
        ) : field.type === 'named' && field.kind ? (
          <NamedChoice {...control} key={field.kind} kind={field.kind} value={held.value as string} empty={empty} />
        ) : field.type === 'word' || field.type === 'yes or no' ? (
          <WordChoice {...control} words={field.type === 'word' ? field.words : ['yes', 'no']} empty={empty} value={held.value as string} />
        ) : field.type === 'lines' ? (
          <Lines {...control} value={held.value as string} />
        ) : field.type === 'secret' ? (
          <SecretField {...control} name={field.name} value={held.value as string} />
        ) : (
          <Text {...control} field={field} value={held.value as string} help={help} />
        )}
        <p
          id={`${id}-more`}
          className={`${fault ? 'text-brick' : 'text-ink-3 text-[12.5px]'} ${beside ? 'min-[560px]:flex-1 min-w-[140px]' : ''}`}
        >
          {fault ?? (help?.hint || hintOf(field))}
        </p>
      </div>
    </>
  );
});

/** The first fault of any in a list. */
function faultOfList(errors: unknown): string | undefined {
  if (!Array.isArray(errors)) return undefined;
  const first = (errors as ({ message?: unknown } | undefined)[]).find((each) => typeof each?.message === 'string');
  return first?.message as string | undefined;
}

type Shared<T> = Omit<Parameters<typeof TextList>[0], 'value' | 'onChange'> & {
  field: Field;
  value: T;
  onChange: (value: unknown) => void;
};

function List({ field, ...control }: Shared<string[]>) {
  if (field.kind) return <NamedChoices {...control} kind={field.kind} />;
  return field.words.length ? <WordChoices {...control} words={field.words} /> : <TextList {...control} />;
}

/** Text of many lines, as it is: blanks and the ends of lines count. */
function Lines({ id, value, onChange, onBlur, disabled, invalid, describedBy }: Omit<Shared<string>, 'field'>) {
  return (
    <textarea
      id={id}
      disabled={disabled}
      aria-invalid={invalid}
      aria-describedby={describedBy}
      className="field block w-full h-auto font-mono text-[12.5px] disabled:bg-earth"
      rows={Math.min(24, Math.max(6, value.split('\n').length + 1))}
      spellCheck={false}
      wrap="off"
      value={value}
      onBlur={onBlur}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

function Text({ field, help, id, value, onChange, onBlur, disabled, invalid, describedBy }: Shared<string> & { help: FieldHelp | null }) {
  return (
    <>
      <input
        id={id}
        disabled={disabled}
        aria-invalid={invalid}
        aria-describedby={describedBy}
        // of a size of its own: what is typed is laid out and painted within, not the page anew with every letter
        className={`field block w-full [contain:strict] disabled:bg-earth ${field.type === 'number' || field.type === 'time of day' ? 'max-w-[130px]' : 'max-w-[520px]'}`}
        type="text"
        inputMode={field.type === 'number' ? 'decimal' : 'text'}
        value={value}
        placeholder={field.required ? '' : 'not known'}
        list={help?.suggestions.length ? `${id}-list` : undefined}
        autoComplete="off"
        onBlur={onBlur}
        onChange={(event) => onChange(event.target.value)}
      />
      {help && help.suggestions.length > 0 && (
        <datalist id={`${id}-list`}>
          {help.suggestions.map(({ value: each, text }) => (
            <option key={each} value={each}>
              {text}
            </option>
          ))}
        </datalist>
      )}
    </>
  );
}
