import type { Column } from '@underpass/contracts';
import type { FieldHelp } from './settingHelp.js';

/** "lineKind" → "Line kind"; "certificate.notAfter" → "Certificate, not after". */
const units: Record<string, string> = { Mbps: 'Mbit/s', Ms: 'ms', S: 's', Dbm: 'dBm', MB: 'MB', Px: 'px', Hz: 'Hz' };
export const labelOf = (name: string): string => {
  const words = name
    .split('.')
    .map((part) =>
      part
        .replace(/([a-z])([A-Z]+)/g, '$1 $2')
        .split(' ')
        .map((word) => units[word] ?? (word === word.toUpperCase() ? word : word.toLowerCase()))
        .join(' '),
    )
    .join(', ');
  return (words[0] as string).toUpperCase() + words.slice(1);
};

/** One field of an object's form; the fault stands beneath it and what was typed stays. */
export function ObjectField({
  column,
  value,
  fault,
  disabled,
  help,
  onChange,
}: {
  column: Column;
  value: string;
  fault: string | undefined;
  disabled: boolean;
  /** What is known of the field beyond its column. */
  help?: FieldHelp | null;
  onChange: (text: string) => void;
}) {
  const id = `field-${column.name}`;
  const common = {
    id,
    disabled,
    'aria-invalid': fault !== undefined,
    'aria-describedby': `${id}-more`,
    className: 'field w-full max-w-[520px] disabled:bg-earth',
  };
  const hint = help?.hint || column.description || (column.type === 'structured' || column.type === 'list' ? column.expected : '');
  return (
    <>
      <label htmlFor={id} className="pt-1.5 text-ink-2 break-words">
        {labelOf(column.name)}
        {column.required && <span className="text-ink-3"> needed</span>}
      </label>
      <div>
        {column.type === 'enum' || column.type === 'boolean' ? (
          <select {...common} value={value} onChange={(event) => onChange(event.target.value)}>
            <option value="">{column.required ? 'choose' : 'not known'}</option>
            {column.options.map((option) => (
              <option key={option}>{option}</option>
            ))}
          </select>
        ) : (
          <input
            {...common}
            type="text"
            inputMode={column.type === 'number' ? 'decimal' : 'text'}
            value={value}
            placeholder={column.required ? '' : 'not known'}
            list={help?.suggestions.length ? `${id}-list` : undefined}
            autoComplete="off"
            onChange={(event) => onChange(event.target.value)}
          />
        )}
        {help && help.suggestions.length > 0 && (
          <datalist id={`${id}-list`}>
            {help.suggestions.map(({ value: each, text }) => (
              <option key={each} value={each}>
                {text}
              </option>
            ))}
          </datalist>
        )}
        <p id={`${id}-more`} className={fault ? 'text-brick' : 'text-ink-3 text-[12.5px]'}>
          {fault ?? hint}
        </p>
      </div>
    </>
  );
}
