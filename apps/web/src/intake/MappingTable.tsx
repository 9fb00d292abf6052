import type { ListLook, TableMap } from '@underpass/contracts';
import { labelOf } from '../ui/form/labels.js';
import { Wide } from '../ui/Wide.js';
import { after, fieldsOfMap, filledBy, withBehind, withField, withPattern } from './mapping.js';

const nothing = '';
const parted = '{}';

/** Every column of the list: what stands in it, the field it fills, and how it stands here then. */
export function MappingTable({ look, map, onChange }: { look: ListLook; map: TableMap; onChange: (map: TableMap) => void }) {
  return (
    <Wide label="Columns of the list">
      <table className="w-full border-collapse mt-4">
        <thead className="head">
          <tr>
            <th scope="col">Column</th>
            <th scope="col">Looks like</th>
            <th scope="col">In the list</th>
            <th scope="col" className="w-[220px]">
              Fills
            </th>
            <th scope="col">Stands here as</th>
          </tr>
        </thead>
        <tbody>
          {look.columns.map((column) => (
            <ColumnRow key={column.name} column={column} look={look} map={map} onChange={onChange} />
          ))}
        </tbody>
      </table>
    </Wide>
  );
}

function ColumnRow({
  column: { name, looksLike, samples, field: guessed, sure },
  look,
  map,
  onChange,
}: {
  column: ListLook['columns'][number];
  look: ListLook;
  map: TableMap;
  onChange: (map: TableMap) => void;
}) {
  const filled = filledBy(map, name);
  const several = filled && typeof filled.from !== 'string' ? filled.from : null;
  const shown = after(map, look, name, samples.slice(0, 3));
  const value = filled?.pattern !== undefined ? parted : (filled?.to ?? nothing);
  return (
    <tr className="border-b border-rule align-top">
      <th scope="row" className="text-left font-semibold py-1.5 pr-4">
        {name}
      </th>
      <td className="text-ink-3 py-1.5 pr-4 whitespace-nowrap">{looksLike}</td>
      <td className="py-1.5 pr-4 text-ink-2 max-w-[260px]">
        <Samples texts={samples.slice(0, 3)} />
      </td>
      <td className="py-1 pr-4">
        <select
          className={`field w-[200px] ${value === nothing ? 'text-ink-3' : ''}`}
          aria-label={`${name} fills`}
          value={value}
          onChange={({ target }) =>
            onChange(
              target.value === parted
                ? withPattern(map, name, '{name}')
                : target.value.startsWith('+')
                  ? withBehind(map, name, target.value.slice(1))
                  : withField(map, name, target.value || null),
            )
          }
        >
          <option value={nothing}>Nothing: left out</option>
          {fieldsOfMap(map).map((field) => (
            <option key={field.name} value={field.name}>
              {labelOf(field.name)}
              {field.name === guessed && sure < 0.75 ? ' ?' : ''}
            </option>
          ))}
          <option value={parted}>Several, by a pattern</option>
          {map.columns
            .filter((each) => each.to !== undefined && each !== filled)
            .map((each) => (
              <option key={`+${each.to}`} value={`+${each.to}`}>
                {labelOf(each.to as string)}, behind what fills it
              </option>
            ))}
        </select>
        {filled?.pattern !== undefined && (
          <input
            className="field w-[200px] mt-1 mono"
            aria-label={`Pattern of ${name}`}
            title="Fields in braces, all else as it is in the list: {location}-{name}"
            value={filled.pattern}
            onChange={({ target }) => onChange(withPattern(map, name, target.value || ' '))}
          />
        )}
        {several && <p className="text-ink-3">with {several.filter((each) => each !== name).join(', ')}</p>}
      </td>
      <td className="py-1.5 max-w-[260px]">
        <Samples texts={shown} />
      </td>
    </tr>
  );
}

/** Some cells of a column, apart from each other; null is one that cannot be read. */
const Samples = ({ texts }: { texts: readonly (string | null)[] }) => (
  <span className="line-clamp-2 break-words">
    {texts.map((text, i) => (
      <span key={i} className="inline-block max-w-full mr-3.5">
        {text ?? <span className="text-brick">not read</span>}
      </span>
    ))}
  </span>
);
