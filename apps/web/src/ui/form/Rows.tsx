import type { Field, FormRow } from '@underpass/contracts';
import { Plus, X } from 'lucide-react';
import { labelOf, rangeOf } from './labels.js';
import { said } from '../said.js';
import type { Control } from './control.js';
import { WordChoice } from './WordChoice.js';

/** Rows with their own fields, such as the screens of an endpoint. */
export function Rows({
  id,
  label,
  value,
  onChange,
  disabled,
  describedBy,
  field,
  faultAt,
}: Control<string | readonly FormRow[]> & {
  field: Field;
  /** What is wrong with a field of a row. */
  faultAt: (row: number, name: string) => string | undefined;
}) {
  const columns = field.row ?? [];
  const none = field.none !== undefined && value === field.none;
  const rows = typeof value === 'string' ? [] : value;
  const set = (i: number, name: string, text: string) => onChange(rows.map((row, at) => (at === i ? { ...row, [name]: text } : row)));
  const fresh = Object.fromEntries(columns.map(({ name, write }) => [name, write(undefined) as string]));
  return (
    <div role="group" aria-label={label} aria-describedby={describedBy}>
      {rows.length > 0 && (
        <div className="overflow-x-auto max-w-full">
          <table className="border-collapse">
            <thead className="head">
              <tr>
                {columns.map(({ name }) => (
                  <th key={name} scope="col" className="font-normal text-left pr-1.5 pb-0.5 whitespace-nowrap">
                    {labelOf(name)}
                  </th>
                ))}
                <th scope="col">
                  <span className="sr-only">Take out</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row, i) => (
                <tr key={i} className="align-top">
                  {columns.map((column) => {
                    const fault = faultAt(i, column.name);
                    const name = `${label} ${i + 1}, ${labelOf(column.name).toLowerCase()}`;
                    const control = {
                      id: i === 0 && column === columns[0] ? id : `${id}-${i}-${column.name}`,
                      label: name,
                      value: row[column.name] ?? '',
                      onChange: (text: string) => set(i, column.name, text),
                      disabled,
                      invalid: fault !== undefined,
                      describedBy: fault ? `${id}-${i}-${column.name}-fault` : describedBy,
                    };
                    return (
                      <td key={column.name} className="pr-1.5 pb-1.5">
                        <Cell column={column} control={control} />
                        {fault && (
                          <span id={control.describedBy} className="block text-brick max-w-[160px]">
                            {fault}
                          </span>
                        )}
                      </td>
                    );
                  })}
                  <td>
                    {!disabled && (
                      <button
                        type="button"
                        className="btn btn-small !px-1.5"
                        aria-label={`Take out ${label.toLowerCase()} ${i + 1}`}
                        onClick={() => onChange(rows.filter((_, at) => at !== i))}
                      >
                        <X size={14} aria-hidden />
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {field.keyed && <Sum rows={rows} columns={columns} />}
      <span className="flex items-center gap-4 flex-wrap">
        {!disabled && !none && (
          <button
            type="button"
            id={rows.length ? undefined : id}
            className="btn btn-small"
            aria-label={`Add one to ${label.toLowerCase()}`}
            onClick={() => onChange([...rows, nextRow(fresh, rows, field)])}
          >
            <Plus size={14} aria-hidden className="mr-1" />
            Add one
          </button>
        )}
        {field.none !== undefined && rows.length === 0 && (
          <label className="inline-flex items-center gap-1.5 min-h-[24px]">
            <input type="checkbox" disabled={disabled} checked={none} onChange={({ target }) => onChange(target.checked ? 'none' : [])} />
            it has none
          </label>
        )}
        {rows.length === 0 && !none && <span className="text-ink-3">{field.required ? 'none yet' : 'not known'}</span>}
      </span>
    </div>
  );
}

/** A new row; of parts that stand once each, the first that does not stand yet. */
function nextRow(fresh: FormRow, rows: readonly FormRow[], { keyed, row = [] }: Field): FormRow {
  const part = row[0];
  if (!keyed || !part) return fresh;
  const free = part.words.find((word) => !rows.some((each) => each[part.name] === word));
  return { ...fresh, [part.name]: free ?? '' };
}

/** What shares add up to, where they are shares. */
function Sum({ rows, columns }: { rows: readonly FormRow[]; columns: readonly Field[] }) {
  const value = columns[1];
  if (rows.length === 0 || columns.length !== 2 || value?.type !== 'number' || value.max !== 1) return null;
  const sum = rows.reduce((all, row) => all + (Number(row[value.name]) || 0), 0);
  return (
    <p className={Math.abs(sum - 1) < 0.011 ? 'text-ink-3' : 'text-amber'}>
      Together {Math.round(sum * 100)} %{Math.abs(sum - 1) < 0.011 ? '' : '; they must come to 100 %'}
    </p>
  );
}

function Cell({ column, control }: { column: Field; control: Control<string> }) {
  if (column.type === 'word' || column.type === 'yes or no')
    return (
      <WordChoice
        {...control}
        words={column.type === 'word' ? column.words : ['yes', 'no']}
        empty={column.required ? 'choose' : '—'}
        className="field min-w-[80px] max-w-[150px] disabled:bg-earth"
      />
    );
  return (
    <input
      id={control.id}
      aria-label={control.label}
      aria-invalid={control.invalid}
      aria-describedby={control.describedBy}
      disabled={control.disabled}
      title={rangeOf(column) || undefined}
      className={`field disabled:bg-earth ${column.type === 'number' ? 'w-[74px]' : 'w-[130px]'}`}
      inputMode={column.type === 'number' ? 'decimal' : 'text'}
      autoComplete="off"
      placeholder={column.required ? '' : said('—')}
      value={control.value}
      onChange={(event) => control.onChange(event.target.value)}
    />
  );
}
