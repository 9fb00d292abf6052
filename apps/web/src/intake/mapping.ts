import { intakeTarget, type ListLook, type MappedColumn, type TableMap } from '@underpass/contracts';
import { saysNothing, styleOf, tidyCell, type IntakeField } from '@underpass/core';

const headsOf = ({ from }: MappedColumn): readonly string[] => (typeof from === 'string' ? [from] : from);

/** Fields of the kind of a mapping. */
export const fieldsOfMap = (map: Pick<TableMap, 'kind'>): readonly IntakeField[] => intakeTarget(map.kind, () => []).fields;

/** What fills from a column: a field, or a pattern of several. */
export const filledBy = (map: TableMap, head: string): MappedColumn | undefined => map.columns.find((each) => headsOf(each).includes(head));

/** Puts a column to a field; one that it was put to before is free again, and so is the column that filled it. Null takes it out. */
export function withField(map: TableMap, head: string, to: string | null): TableMap {
  const free = map.columns.flatMap((each): MappedColumn[] => {
    if (each.to !== undefined && each.to === to) return [];
    const rest = headsOf(each).filter((name) => name !== head);
    if (rest.length === headsOf(each).length) return [each];
    return rest.length ? [{ ...each, from: rest.length === 1 ? (rest[0] as string) : rest }] : [];
  });
  const constants = { ...map.constants };
  if (to !== null) delete constants[to];
  return { ...map, constants, columns: to === null ? free : [...free, { from: head, with: ' ', to }] };
}

/** Puts a column behind the one that fills a field already. */
export function withBehind(map: TableMap, head: string, to: string, between = ' '): TableMap {
  const first = map.columns.find((each) => each.to === to);
  if (!first) return withField(map, head, to);
  const free = withField(map, head, null);
  return {
    ...free,
    columns: free.columns.map((each) => (each.to === to ? { ...each, with: between, from: [...headsOf(each), head] } : each)),
  };
}

/** Parts a column by a pattern; without one it is taken out. */
export function withPattern(map: TableMap, head: string, pattern: string): TableMap {
  const free = withField(map, head, null);
  if (pattern.trim() === '') return free;
  const filled = new Set([...pattern.matchAll(/\{([^{}]+)\}/g)].map(([, name]) => (name as string).trim()));
  return {
    ...free,
    columns: [...free.columns.filter(({ to }) => to === undefined || !filled.has(to)), { from: head, with: ' ', pattern }],
  };
}

/** What a text of a column means from now on. */
export function withValue(map: TableMap, column: string, from: string, to: string): TableMap {
  const name = (each: MappedColumn) => headsOf(each).join(' + ');
  return {
    ...map,
    columns: map.columns.map((each) => (name(each) === column ? { ...each, values: { ...each.values, [from]: to } } : each)),
  };
}

/** A field that is the same for all rows; an empty text takes it out. */
export function withConstant(map: TableMap, field: string, text: string): TableMap {
  const constants = { ...map.constants };
  if (text === '') delete constants[field];
  else constants[field] = text;
  return { ...map, constants };
}

/** Fields that no object can be without, and that nothing fills yet. An id is made of the name; a part of an object may be left out whole. */
export function openFields(map: TableMap): IntakeField[] {
  const filled = new Set([
    ...map.columns.flatMap(({ to, pattern }) =>
      to ? [to] : [...(pattern ?? '').matchAll(/\{([^{}]+)\}/g)].map(([, name]) => (name as string).trim()),
    ),
    ...Object.keys(map.constants),
  ]);
  return fieldsOfMap(map).filter(({ name, required }) => required && name !== 'id' && !name.includes('.') && !filled.has(name));
}

/** How some cells of a column would stand here; null for what cannot be read. */
export function after(map: TableMap, look: Pick<ListLook, 'head' | 'sample'>, head: string, samples: readonly string[]): (string | null)[] {
  const column = filledBy(map, head);
  const field = column?.to === undefined ? undefined : fieldsOfMap(map).find(({ name }) => name === column.to);
  if (!column || !field) return [];
  const at = look.head.indexOf(head);
  const style = styleOf(look.sample.map(({ cells }) => cells[at] ?? ''));
  return samples.map((sample) => {
    const meant = column.values?.[sample] ?? sample;
    if (saysNothing(meant)) return '';
    const read = tidyCell(meant, field, head, style);
    return 'text' in read ? read.text : null;
  });
}

/** A kept mapping for another list: columns that are not in it are left out of it, and those that are new are not in the mapping. */
export function fitted(kept: TableMap, look: ListLook): { map: TableMap; gone: string[]; fresh: string[] } {
  const gone = kept.columns.flatMap(headsOf).filter((name) => !look.head.includes(name));
  const fresh = kept.heads ? look.head.filter((name) => !kept.heads?.includes(name)) : [];
  const map = { ...kept, columns: kept.columns.filter((each) => headsOf(each).every((name) => look.head.includes(name))) };
  return { map: { ...map, ...(look.sheets ? { sheet: look.sheets.read } : {}), heads: [...look.head] }, gone: [...new Set(gone)], fresh };
}
