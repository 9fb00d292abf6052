import type { MappedColumn, TableMap } from '@underpass/contracts';
import { styleOf, type FigureStyle, type Tidied } from './figures.js';
import { cellsOf } from './guess.js';
import { MapError, type Translated } from './intake.js';
import { fieldsOfPattern, readPattern, type Pattern } from './pattern.js';
import type { Sheet } from './sheet.js';
import type { IntakeField } from './target.js';

/** Cells by which it is found how figures are written. */
const mostLooked = 20_000;

/** A column of a mapping, found in a list. */
export interface Column {
  map: MappedColumn;
  /** Its name, or those of several with a plus between. */
  head: string;
  at: readonly number[];
  field?: IntakeField;
  pattern?: Pattern;
  style: FigureStyle;
  /** What its texts mean, by field, as far as they were met. */
  read: Map<string, Map<string, Tidied>>;
  /** What they were taken for, where that is another text. */
  told: Map<string, Map<string, Translated>>;
}

const headsOf = (map: MappedColumn): readonly string[] => (typeof map.from === 'string' ? [map.from] : map.from);

/** The columns of a mapping in a list. Those that are not in it are told and left out. */
export function columnsIn(sheet: Sheet, map: TableMap, fields: ReadonlyMap<string, IntakeField>, notes: string[]): Column[] {
  const places = new Map(sheet.head.map((name, i) => [name, i]));
  const filled = new Map<string, string>();
  return map.columns.flatMap((each, i) => {
    const heads = headsOf(each);
    const pattern = each.pattern === undefined ? undefined : readPattern(each.pattern);
    for (const name of pattern ? fieldsOfPattern(pattern) : [each.to as string]) {
      const place = `columns.${i}`;
      if (!fields.has(name)) throw new MapError(`“${name}” is not a field of it`, place);
      const before = filled.get(name);
      if (before !== undefined) throw new MapError(`“${name}” is filled by “${before}” already`, place);
      filled.set(name, heads.join(' + '));
    }
    const gone = heads.filter((name) => !places.has(name));
    if (gone.length) {
      notes.push(`The column “${gone.join('”, “')}” is not in this list; what it fills is left as it is.`);
      return [];
    }
    const at = heads.map((name) => places.get(name) as number);
    const field = each.to === undefined ? undefined : fields.get(each.to);
    return [
      {
        map: each,
        head: heads.join(' + '),
        at,
        read: new Map(),
        told: new Map(),
        style: styleOf(at.flatMap((column) => cellsOf(sheet, column, mostLooked))),
        ...(field ? { field } : {}),
        ...(pattern ? { pattern } : {}),
      },
    ];
  });
}

/** Columns that came since the mapping was made. */
export function newColumns(sheet: Sheet, map: TableMap): string[] {
  if (!map.heads) return [];
  const known = new Set(map.heads);
  const fresh = sheet.head.filter((name) => !known.has(name));
  return fresh.length ? [`New since the mapping was made, and not taken: “${fresh.join('”, “')}”.`] : [];
}
