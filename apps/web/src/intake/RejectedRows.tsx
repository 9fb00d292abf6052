import type { ListLook, ListOutcome, TableMap } from '@underpass/contracts';
import { labelOf } from '../ui/form/labels.js';
import { Pick } from '../ui/Pick.js';
import { Wide } from '../ui/Wide.js';
import { fieldsOfMap, filledBy } from './mapping.js';

/** Rows that are told in full; more are in the file of those that are not taken. */
const mostShown = 200;

/** Why rows are not taken: texts that stand in many of them once, to be said what they mean; then each row with its cell to mend. */
export function RejectedRows({
  look,
  map,
  outcome,
  mends,
  onMend,
  onValue,
}: {
  look: ListLook;
  map: TableMap;
  outcome: ListOutcome;
  mends: Record<string, Record<string, string>>;
  onMend: (mends: Record<string, Record<string, string>>) => void;
  onValue: (column: string, from: string, to: string) => void;
}) {
  if (outcome.rejected.length === 0) return null;
  const texts = textsOf(outcome);
  return (
    <>
      {texts.length > 0 && (
        <div className="mt-4">
          <h3 className="font-bold">Texts that are not known here</h3>
          <p className="text-ink-2">Say once what each means; it is kept with the mapping.</p>
          <ul className="mt-1">
            {texts.map(({ column, field, value, rows, wanted }) => (
              <li key={`${column}\n${value}`} className="border-b border-rule py-1 flex flex-wrap gap-3 items-center">
                <span className="min-w-[220px]">
                  “{value}” <span className="text-ink-3">{`${column}, ${rows === 1 ? '1 row' : `${rows} rows`}`}</span>
                </span>
                <Meaning map={map} look={look} column={column} field={field} value={value} wanted={wanted} onValue={onValue} />
              </li>
            ))}
          </ul>
        </div>
      )}
      <h3 className="font-bold mt-4">Rows that are not taken</h3>
      <Wide label="Rows that are not taken">
        <table className="w-full border-collapse mt-1">
          <thead className="head">
            <tr>
              <th scope="col" className="text-right pr-4">
                Row
              </th>
              <th scope="col">Column</th>
              <th scope="col">What is wrong</th>
              <th scope="col">What would be right</th>
              <th scope="col" className="w-[220px]">
                Mend the cell
              </th>
            </tr>
          </thead>
          <tbody>
            {alikeOf(outcome, look).map(({ column, field, text, wanted, rows }) => (
              <tr key={`${field}\n${text}`} className="border-b border-rule align-top">
                <td className="text-right pr-4 py-1.5">{rows.length}</td>
                <td className="pr-4 py-1.5">{column || labelOf(field || 'row')}</td>
                <td className="pr-4 py-1.5 text-brick">{sentence(text)}</td>
                <td className="pr-4 py-1.5">{wanted}</td>
                <td className="py-1.5 text-ink-2">
                  in {rows.length} rows: {rows.slice(0, 6).join(', ')}
                  {rows.length > 6 && ' and others'}
                </td>
              </tr>
            ))}
            {single(outcome, look)
              .slice(0, mostShown)
              .map((each, i) => (
                <tr key={i} className="border-b border-rule align-top">
                  <td className="text-right pr-4 py-1.5">{each.row}</td>
                  <td className="pr-4 py-1.5">{each.column || labelOf(each.field || 'row')}</td>
                  <td className="pr-4 py-1.5 text-brick">{sentence(each.text)}</td>
                  <td className="pr-4 py-1.5">{each.wanted}</td>
                  <td className="py-1">
                    {look.head.includes(each.column) && !outcome.applied && (
                      <input
                        className="field w-[200px]"
                        aria-label={`Row ${each.row}, ${each.column}`}
                        value={mends[each.row]?.[each.column] ?? each.value}
                        onChange={({ target }) => onMend({ ...mends, [each.row]: { ...mends[each.row], [each.column]: target.value } })}
                      />
                    )}
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      </Wide>
      {outcome.rejected.length > mostShown && (
        <p className="text-ink-3 py-1">and {outcome.rejected.length - mostShown} more, all in the file of those that are not taken</p>
      )}
    </>
  );
}

/** So many rows with the same fault, which no cell mends, are told in one line. */
const many = 3;
const faultKey = ({ column, field, text }: ListOutcome['rejected'][number]): string => `${column}\n${field}\n${text}`;

/** Faults that no cell of the list mends, such as a field that no column fills, by what they say. */
function alikeOf(outcome: ListOutcome, look: ListLook) {
  const found = new Map<string, ListOutcome['rejected'][number] & { rows: number[] }>();
  for (const each of outcome.rejected) {
    if (look.head.includes(each.column)) continue;
    const known = found.get(faultKey(each));
    if (known) known.rows.push(each.row);
    else found.set(faultKey(each), { ...each, rows: [each.row] });
  }
  return [...found.values()].filter(({ rows }) => rows.length >= many);
}

function single(outcome: ListOutcome, look: ListLook): ListOutcome['rejected'] {
  const together = new Set(alikeOf(outcome, look).map(faultKey));
  // what is said once above for all its rows is not told again for each of them
  const said = new Set(textsOf(outcome).flatMap(({ column, value, rows }) => (rows > 1 ? [`${column}\n${value}`] : [])));
  return outcome.rejected.filter(
    (each) => !said.has(`${each.column}\n${each.value}`) && (look.head.includes(each.column) || !together.has(faultKey(each))),
  );
}

const sentence = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

interface Unknown {
  column: string;
  field: string;
  value: string;
  rows: number;
  wanted: string;
}
/** Texts of a column that were not known, each once with how many rows have it. */
function textsOf(outcome: ListOutcome): Unknown[] {
  const found = new Map<string, Unknown>();
  for (const { column, field, value, wanted, text } of outcome.rejected) {
    if (column === '' || field === '' || value === '' || !/is not a word known here|^no [a-zA-Z]+ is called|neither yes nor no/.test(text))
      continue;
    const key = `${column}\n${value}`;
    const known = found.get(key);
    if (known) known.rows++;
    else found.set(key, { column, field, value, wanted, rows: 1 });
  }
  return [...found.values()].sort((a, b) => b.rows - a.rows).slice(0, 50);
}

/** What a text of a column means: a word of the field, or what is nearest. */
function Meaning({
  map,
  look,
  column,
  field,
  value,
  wanted,
  onValue,
}: Omit<Unknown, 'rows'> & { map: TableMap; look: ListLook; onValue: (column: string, from: string, to: string) => void }) {
  const of = fieldsOfMap(map).find(({ name }) => name === field);
  const chosen = (look.head.includes(column) ? filledBy(map, column)?.values?.[value] : undefined) ?? '';
  // those that may be meant are told as name and id
  const near = [...wanted.matchAll(/(?:^|, or )([^,()]+) \(([A-Za-z0-9._-]+)\)/g)].map(([, name, id]) => ({
    id: id as string,
    name: name as string,
  }));
  if (of?.kind)
    return (
      <>
        <Pick
          kind={of.kind}
          label={`${value} means`}
          value={chosen && chosen !== 'unknown' ? { id: chosen, name: near.find(({ id }) => id === chosen)?.name ?? chosen } : null}
          onPick={(picked) => onValue(column, value, picked?.id ?? '')}
        />
        {near.map(({ id, name }) => (
          <button key={id} type="button" className="btn btn-small" aria-pressed={chosen === id} onClick={() => onValue(column, value, id)}>
            {name}
          </button>
        ))}
        <button
          type="button"
          className="btn btn-small btn-quiet"
          aria-pressed={chosen === 'unknown'}
          onClick={() => onValue(column, value, 'unknown')}
        >
          It is not known
        </button>
      </>
    );
  const words = of?.options ?? [];
  return (
    <select
      className="field w-[220px]"
      aria-label={`${value} means`}
      value={chosen}
      onChange={({ target }) => onValue(column, value, target.value)}
    >
      <option value="">Not said</option>
      {words.map((word) => (
        <option key={word}>{word}</option>
      ))}
      <option value="unknown">Nothing: it is not known</option>
    </select>
  );
}
