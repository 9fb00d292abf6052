import type { ObjectKind } from '@underpass/contracts';
import type { Sheet, SheetNote } from '../sheet.js';
import { groupClasses, personClasses, readDirectory, usualWords, type DirectoryWords } from './directory.js';
import { valuesOf, type DirectoryEntry } from './entry.js';
import { sameName } from './names.js';

/** Entries as rows: a column for every attribute, several values of one parted by a semicolon. Its rows are the lines they begin in. */
export function sheetOfEntries(entries: readonly DirectoryEntry[], notes: readonly SheetNote[] = []): Sheet {
  const columns = new Map<string, number>([['dn', 0]]);
  for (const { attributes } of entries) for (const name of attributes.keys()) if (!columns.has(name)) columns.set(name, columns.size);
  const rows = entries.map(({ dn, attributes, line }) => {
    const cells = Array<string>(columns.size).fill('');
    cells[0] = dn;
    for (const [name, values] of attributes) cells[columns.get(name) as number] = values.join(';');
    return { row: line, cells };
  });
  return { format: 'ldif', encoding: 'utf-8', delimiter: null, headerRow: null, head: [...columns.keys()], rows, notes };
}

/** Classes of entry that are objects of a kind. */
const classesOf: Partial<Record<ObjectKind, readonly string[]>> = {
  person: personClasses,
  group: groupClasses,
  location: ['organizationalunit'],
};

/**
 * The entries of a directory that are of a kind, as rows: beside their attributes what the directory says by where they stand:
 * the place and the groups of a person, the groups that a group is a member of.
 */
export function directorySheet(
  entries: readonly DirectoryEntry[],
  kind: ObjectKind,
  notes: readonly SheetNote[] = [],
  words: DirectoryWords = usualWords,
): Sheet {
  const classes = classesOf[kind];
  if (!classes) return sheetOfEntries(entries, notes);
  const { people, groups, places, problems } = readDirectory(entries, words);
  const own = entries.filter((entry) => valuesOf(entry, 'objectClass').some((each) => classes.includes(each.toLowerCase())));
  const told = [...notes, ...problems.map(({ line, dn, text, wanted }) => ({ row: line, text: `${dn} ${text}; wanted: ${wanted}` }))];
  const sheet = sheetOfEntries(own, told);
  const added: Partial<Record<ObjectKind, readonly (readonly [head: string, of: (dn: string) => string])[]>> = {
    person: [
      ['id', (dn) => people.get(dn)?.key ?? ''],
      ['name', (dn) => people.get(dn)?.name ?? ''],
      ['location', (dn) => places.get(people.get(dn)?.place ?? '')?.name ?? ''],
      ['groups', (dn) => (people.get(dn)?.groups ?? []).map((each) => groups.get(each)?.name ?? '').join(';')],
    ],
    group: [
      ['name', (dn) => groups.get(dn)?.name ?? ''],
      ['memberOf', (dn) => (groups.get(dn)?.memberOf ?? []).map((each) => groups.get(each)?.name ?? '').join(';')],
    ],
    location: [['name', (dn) => places.get(dn)?.name ?? '']],
  };
  const columns = added[kind] ?? [];
  const heads = columns.map(([head]) => head);
  const kept = sheet.head.map((head, i) => ({ head, i })).filter(({ head }) => !heads.includes(head));
  return {
    ...sheet,
    head: [...heads, ...kept.map(({ head }) => head)],
    rows: sheet.rows
      .map(({ row, cells }) => {
        const dn = sameName(cells[0] ?? '');
        return { row, cells: [...columns.map(([, of]) => of(dn)), ...kept.map(({ i }) => cells[i] ?? '')] };
      })
      // units above nobody are no places
      .filter(({ cells }) => kind !== 'location' || cells[0] !== ''),
  };
}

/** What a directory is read for first: its people, where it has none its groups, then its places. */
export function kindOfEntries(entries: readonly DirectoryEntry[]): ObjectKind | null {
  const has = (classes: readonly string[]) =>
    entries.some((entry) => valuesOf(entry, 'objectClass').some((each) => classes.includes(each.toLowerCase())));
  return (Object.keys(classesOf) as ObjectKind[]).find((kind) => has(classesOf[kind] ?? [])) ?? null;
}
