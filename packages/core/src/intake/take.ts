import { same } from '../estate/difference.js';
import type { ObjectKind, TableMap } from '@underpass/contracts';
import { keyOfText, Lookup } from './lookup.js';
import { MapError, type Intake, type Rejected, type TakenRow, type Translated } from './intake.js';
import { columnsIn, newColumns, type Column } from './mapping.js';
import { fieldsOfPattern, partBy, type Pattern } from './pattern.js';
import type { Sheet } from './sheet.js';
import type { IntakeField, IntakeTarget, Named } from './target.js';
import type { Tidied } from './figures.js';
import { saysNothing, tidyCell } from './tidy.js';

/** Texts of a column that are remembered with what they mean. */
const mostRemembered = 5000;
/** How often it is told how far it is, in rows. */
const toldEvery = 500;

/**
 * Takes the rows of a list in by a mapping: what each comes to, over what is there. Nothing is written.
 * @param told how many rows are done
 * @throws MapError of a mapping that names what is not there
 */
export function takeIn(sheet: Sheet, map: TableMap, target: IntakeTarget, told: (done: number, total: number) => void = () => {}): Intake {
  return new Taking(sheet, map, target).run(told);
}

type KeyOf = { object: Named } | { several: string[] };
type Keys = Map<string, KeyOf>;
type Fault = Pick<Rejected, 'text' | 'wanted'>;

class Taking {
  readonly #fields: ReadonlyMap<string, IntakeField>;
  readonly #columns: readonly Column[];
  readonly #notes: string[] = [];
  readonly #rejected: Rejected[] = [];
  readonly #lookup: Lookup;
  /** Whether a row may name another of the list. */
  readonly #namesItself: boolean;
  readonly #there: readonly Named[];
  /** What is there, and what the rows came to so far. */
  readonly #ids: Map<string, Named>;

  constructor(
    private readonly sheet: Sheet,
    private readonly map: TableMap,
    private readonly target: IntakeTarget,
  ) {
    this.#fields = new Map(target.fields.map((field) => [field.name, field]));
    if (!this.#fields.has(map.key)) throw new MapError(`“${map.key}” is not a field of it`, 'key');
    for (const name of Object.keys(map.constants))
      if (!this.#fields.has(name)) throw new MapError(`“${name}” is not a field of it`, `constants.${name}`);
    this.#lookup = new Lookup(map.make, target);
    this.#columns = columnsIn(sheet, map, this.#fields, this.#notes);
    this.#notes.push(...newColumns(sheet, map));
    this.#there = [...target.objects(target.kind)];
    this.#ids = new Map(this.#there.map((object) => [object.id, object]));
    this.#namesItself = this.#columns.some(({ field }) => field?.kind === target.kind);
    if (this.#namesItself) this.#announce();
  }

  /** Where rows name others of the list, all of them are known before: one may name another further down. */
  #announce(): void {
    const told = this.#columns.filter(({ map: { to = '' } }) => to === 'id' || to === 'name');
    for (const { cells } of this.sheet.rows) {
      const textOf = (field: string) => {
        const column = told.find(({ map: { to } }) => to === field);
        return column?.at.map((at) => cells[at]?.trim() ?? '').join(column.map.with) ?? '';
      };
      const [id, name] = [textOf('id'), textOf('name')];
      const key = id === '' ? this.target.keyOf(name) : keyOfText(id, this.target);
      if (key !== '') this.#lookup.add(this.target.kind, name === '' ? { id: key } : { id: key, name });
    }
  }

  run(told: (done: number, total: number) => void): Intake {
    const byKey = this.#keysThere();
    const seen = new Map<string, number>();
    const found = new Set<string>();
    const taken: TakenRow[] = [];
    const { rows } = this.sheet;
    rows.forEach(({ row, cells }, i) => {
      if (i % toldEvery === 0) told(i, rows.length);
      if (cells.every((cell) => cell.trim() === '')) return;
      const before = this.#rejected.length;
      const texts = this.#texts(row, cells);
      const key = this.#keyOf(texts);
      const there = byKey.get(key);
      // a row that is not taken may be one that is there all the same: it is not missing
      if (there && 'object' in there) found.add(there.object.id);
      if (this.#rejected.length > before) return;
      const refused = this.#keyFault(key, seen, there);
      if (refused) return this.#refuse(row, this.map.key, texts[this.map.key] ?? '', refused);
      const done = this.#object(row, texts, there && 'object' in there ? there.object : null);
      if (!done) return;
      seen.set(key, row);
      taken.push(done);
    });
    told(rows.length, rows.length);
    return {
      taken,
      made: this.#lookup.made,
      rejected: this.#rejected,
      translated: this.#translated,
      missing: this.#there.filter(({ id }) => !found.has(id)),
      notes: this.#notes,
      alike: this.#lookup.alike((field) => this.#columnOf(field)),
    };
  }

  /** Why a row cannot be told by its key. */
  #keyFault(key: string, seen: ReadonlyMap<string, number>, there: KeyOf | undefined): Fault | null {
    if (key === '') return { text: 'is missing: the row is told by it', wanted: this.#fields.get(this.map.key)?.expected ?? 'text' };
    const first = seen.get(key);
    if (first !== undefined) return { text: `stands in row ${first} already`, wanted: 'each once' };
    return there && 'several' in there
      ? { text: `is what several are called: ${there.several.join(', ')}`, wanted: 'the id of the one that is meant' }
      : null;
  }

  #refuse(row: number, field: string, value: string, fault: Fault, column = this.#columnOf(field)): void {
    this.#rejected.push({ row, column, field, value, ...fault });
  }

  #columnOf(field: string): string {
    const column = this.#columns.find(({ map, pattern }) => map.to === field || (pattern && fieldsOfPattern(pattern).includes(field)));
    return column?.head ?? '';
  }

  #keysThere(): Keys {
    const keys: Keys = new Map();
    for (const object of this.#there) {
      const key = keyText((object as unknown as Record<string, unknown>)[this.map.key]);
      if (key === '') continue;
      const before = keys.get(key);
      keys.set(
        key,
        !before ? { object } : { several: 'several' in before ? [...before.several, object.id] : [before.object.id, object.id] },
      );
    }
    return keys;
  }

  #keyOf(texts: Readonly<Record<string, string>>): string {
    const text = texts[this.map.key] ?? '';
    if (text === '' && this.map.key === 'id') return keyText(this.target.keyOf(texts.name ?? ''));
    return keyText(text);
  }

  /** Texts of the fields of a row, as our own files have them; what cannot be read is told. */
  #texts(row: number, cells: readonly string[]): Record<string, string> {
    const texts: Record<string, string> = {};
    for (const column of this.#columns) {
      const value = column.at
        .map((at) => cells[at]?.trim() ?? '')
        .filter((cell) => !saysNothing(cell))
        .join(column.map.with);
      if (value === '') continue;
      if (column.field) this.#put(texts, row, column, column.field, value);
      else if (column.pattern) this.#putParts(texts, row, column, column.pattern, value);
    }
    return texts;
  }

  #putParts(texts: Record<string, string>, row: number, column: Column, pattern: Pattern, value: string): void {
    const parts = partBy(pattern, value);
    const made = `made like ${column.map.pattern}`;
    if (!parts) return this.#refuse(row, '', value, { text: `is not ${made}`, wanted: `a text ${made}` }, column.head);
    for (const [name, part] of Object.entries(parts))
      if (!saysNothing(part)) this.#put(texts, row, column, this.#fields.get(name) as IntakeField, part);
  }

  #put(texts: Record<string, string>, row: number, column: Column, field: IntakeField, value: string): void {
    const { head } = column;
    const chosen = column.map.values?.[value];
    if (chosen !== undefined && saysNothing(chosen)) return;
    const meant = chosen ?? value;
    const read = this.#tidied(column, field, meant);
    if ('problem' in read) return this.#refuse(row, field.name, value, { text: read.problem, wanted: read.wanted }, head);
    const text = field.kind
      ? this.#named(field, field.kind, read.text)
      : field.name === 'id'
        ? keyOfText(read.text, this.target)
        : read.text;
    if (typeof text === 'object') return this.#refuse(row, field.name, value, text, head);
    if (text === '') return;
    texts[field.name] = text;
    if (text !== value) this.#tell(column, field.name, value, text);
  }

  /** Ids of what a cell names: one, or a list of them. */
  #named(field: IntakeField, kind: ObjectKind, text: string): string | Fault {
    const ids = new Set<string>();
    for (const part of field.type === 'list' ? text.split(';') : [text]) {
      const found = this.#lookup.idOf(kind, part);
      if (!('id' in found)) return found;
      ids.add(found.id);
    }
    return [...ids].join(';');
  }

  /** What a text means is worked out once for each that stands in a column: most columns hold few. */
  #tidied(column: Column, field: IntakeField, text: string): Tidied {
    const known = column.read.get(field.name)?.get(text);
    if (known) return known;
    const read = tidyCell(text, field, column.head, column.style);
    const texts = column.read.get(field.name) ?? new Map<string, Tidied>();
    column.read.set(field.name, texts);
    if (texts.size < mostRemembered) texts.set(text, read);
    return read;
  }

  #tell(column: Column, field: string, from: string, to: string): void {
    const texts = column.told.get(field) ?? new Map<string, Translated>();
    column.told.set(field, texts);
    const known = texts.get(from);
    if (known) known.rows++;
    else if (texts.size < mostRemembered) texts.set(from, { column: column.head, field, from, to, rows: 1 });
  }

  get #translated(): Translated[] {
    return this.#columns.flatMap(({ told }) => [...told.values()].flatMap((texts) => [...texts.values()]));
  }

  /** The object of a row, over the one that is there. */
  #object(row: number, texts: Record<string, string>, before: Named | null): TakenRow | null {
    const id = before?.id ?? this.#freeId(texts);
    if (!before && this.#ids.has(id)) {
      this.#refuse(row, 'id', id, { text: 'is the id of another one', wanted: 'an id of its own' });
      return null;
    }
    const said = { ...this.#constants(before), ...texts };
    const built = this.target.build(this.target.kind, { ...said, id }, before);
    if ('faults' in built) {
      // one thing at a time of each field: it is one cell that is mended
      const firsts = built.faults.filter(({ field }, i) => built.faults.findIndex((each) => each.field === field) === i);
      for (const { field, problem, expected } of firsts.slice(0, 20))
        this.#refuse(row, field, texts[field] ?? '', { text: problem, wanted: expected });
      return null;
    }
    if (!before) this.#ids.set(id, built.object);
    // others may name it further down
    if (!before && this.#namesItself) this.#lookup.add(this.target.kind, built.object);
    const change = !before ? 'added' : same(before, built.object) ? 'unchanged' : 'changed';
    const fields = [...new Set(Object.keys(said).map((name) => name.split('.')[0] as string))].filter((name) => name !== 'id');
    return { row, change, object: built.object, before, fields };
  }

  /** What is the same for all rows: of one that is there it fills only what is not known. */
  #constants(before: Named | null): Readonly<Record<string, string>> {
    const said = Object.entries(this.map.constants).filter(([, text]) => text.trim() !== '');
    if (!before) return Object.fromEntries(said);
    const known = (name: string) =>
      name.split('.').reduce<unknown>((inner, key) => (inner as Record<string, unknown> | undefined)?.[key], before);
    return Object.fromEntries(said.filter(([name]) => known(name) === undefined));
  }

  /** The id of a row, or one made of its name that nobody else has. */
  #freeId(texts: Readonly<Record<string, string>>): string {
    if (texts.id) return texts.id;
    const key = this.target.keyOf(texts.name ?? texts[this.map.key] ?? '');
    let id = key;
    for (let i = 2; key !== '' && this.#ids.has(id); i++) id = `${key.slice(0, 60)}-${i}`;
    return id;
  }
}

const keyText = (value: unknown): string =>
  typeof value === 'string' || typeof value === 'number' ? String(value).trim().toLowerCase().replace(/\s+/g, ' ') : '';
