import type { ObjectKind, TableMap } from '@underpass/contracts';
import { coreWords, fieldWords, plainWords } from './fieldWords.js';
import { styleOf } from './figures.js';
import { looksLike, type Look } from './looksLike.js';
import { NameBook } from './names.js';
import type { Sheet } from './sheet.js';
import type { IntakeField, IntakeTarget } from './target.js';
import { saysNothing, tidyCell } from './tidy.js';

/** A column of a list: what it looks like, and the field it may be. */
export interface ColumnGuess {
  name: string;
  looksLike: Look;
  samples: string[];
  /** Field it is taken for; null where none fits. */
  field: string | null;
  /** How sure, 0 to 1: below `sureEnough` it is only offered. */
  sure: number;
}

/** A column is taken for a field by itself from here on. */
export const sureEnough = 0.5;
/** Cells of a column that are read to see whether they fit. */
const tried = 60;
const samplesShown = 5;
/** Share of a score that its name has; the rest is what its cells say. */
const byName = 0.65;

/** The cells of a column that say something. */
export function cellsOf(sheet: Sheet, column: number, most = Infinity): string[] {
  const cells: string[] = [];
  for (const { cells: row } of sheet.rows) {
    const cell = row[column]?.trim() ?? '';
    if (!saysNothing(cell)) cells.push(cell);
    if (cells.length >= most) break;
  }
  return cells;
}

/** How well a name of a column fits a field, 0 to 1. */
function nameFits(head: string, field: IntakeField): number {
  const plain = plainWords(head);
  const core = coreWords(head);
  const own = plainWords(field.name);
  if (plain === own || head.trim() === field.name) return 1;
  const words = fieldWords[field.name] ?? [];
  if (words.includes(plain)) return 0.97 - words.indexOf(plain) / 1000;
  if (words.includes(core)) return 0.92 - words.indexOf(core) / 1000;
  const last = own.split(' ').at(-1) as string;
  const parts = core.split(' ');
  // “Device memory (GB)” has all words of “memory”
  const held = words.filter((word) => word.length > 2 && word.split(' ').every((part) => parts.includes(part)));
  if (held.length) return 0.55 + 0.25 * (Math.max(...held.map((word) => word.split(' ').length)) / parts.length);
  // one word of German is often two of ours: “Gerätestandort” ends with “standort”
  if (words.some((word) => word.length > 4 && parts.some((part) => part.length > word.length && part.endsWith(word)))) return 0.5;
  return parts.includes(last) && last.length > 3 ? 0.45 : 0;
}

/** What the cells of a column say for a field by their form alone, where the form is telling. */
const formOf: readonly (readonly [field: string, looks: readonly Look[], fits: number])[] = [
  ['screens', ['resolution'], 1],
  ['addressRange', ['address range'], 1],
  ['address', ['host name'], 0.6],
];

/** How well the cells of a column fit a field, 0 to 1; null where they say nothing. */
function cellsFit(cells: readonly string[], field: IntakeField, head: string, look: Look, book: NameBook | null): number | null {
  if (cells.length === 0) return null;
  const form = formOf.find(([name]) => name === field.name);
  if (form?.[1].includes(look)) return form[2];
  if (book) {
    const found = cells.filter((cell) => cell.split(/[;,]/).every((part) => book.find(part.trim()) !== null)).length;
    // names that are not there yet may come with the list: that none is known says nothing
    return found === 0 ? null : found / cells.length;
  }
  const style = styleOf(cells);
  const fit = cells.filter((cell) => 'text' in tidyCell(cell, field, head, style)).length / cells.length;
  // a text takes anything: that says little, and figures are seldom one
  if (field.type === 'text' || field.type === 'list')
    return field.options.length > 0
      ? fit
      : look === 'name' || look === 'word' || look === 'text' || look === 'serial number'
        ? 0.5
        : field.name === 'name' || field.name === 'id'
          ? 0.35
          : 0.2;
  return field.type === 'structured' ? (fit === 1 && field.name === 'screens' ? 1 : 0.2) : fit;
}

/** Fields that a list fills seldom, and never by the form of its cells. */
const seldom = new Set(['reportedAt', 'screensAt', 'decodersAt']);

/**
 * Which column is which field: by what it is called, and by what its cells are. Each field is taken once, by the column that fits best.
 */
export function guessColumns(sheet: Sheet, target: IntakeTarget): ColumnGuess[] {
  const books = new Map<ObjectKind, NameBook>();
  /** Names of what is there already; null where nothing is, or the field refers to nothing. */
  const bookOf = (kind: ObjectKind | undefined): NameBook | null => {
    if (kind === undefined) return null;
    let book = books.get(kind);
    if (!book) books.set(kind, (book = new NameBook(target.objects(kind))));
    return book.size > 0 ? book : null;
  };
  const columns = sheet.head.map((name, at) => {
    const cells = cellsOf(sheet, at, 500);
    return { name, at, cells, look: looksLike(cells) };
  });
  const scores = columns.flatMap((column) =>
    target.fields
      .filter(({ name }) => !seldom.has(name))
      .map((field) => {
        const named = nameFits(column.name, field);
        const book = bookOf(field.kind);
        const cells = cellsFit(column.cells.slice(0, tried), field, column.name, column.look, book);
        // what its name does not say at all has to be told by a form that few fields have
        const sure =
          named === 0
            ? formSure(cells, field, book !== null, column.look)
            : cells === null
              ? named * 0.9
              : named * byName + cells * (1 - byName);
        return { column, field, sure: named > 0 && named < 1 && cells === 0 ? sure * 0.4 : sure };
      }),
  );
  scores.sort((a, b) => b.sure - a.sure || a.column.at - b.column.at);
  const taken = new Map<number, { field: string; sure: number }>();
  const used = new Set<string>();
  for (const { column, field, sure } of scores) {
    if (sure < 0.2 || taken.has(column.at) || used.has(field.name)) continue;
    taken.set(column.at, { field: field.name, sure });
    used.add(field.name);
  }
  return columns.map(({ name, at, cells, look }) => {
    const { field = null, sure = 0 } = taken.get(at) ?? {};
    return {
      ...{ name, looksLike: look, samples: [...new Set(cells)].slice(0, samplesShown) },
      field: sure >= sureEnough ? field : null,
      sure: sure >= sureEnough ? Math.round(sure * 100) / 100 : 0,
    };
  });
}

function formSure(cells: number | null, field: IntakeField, isReference: boolean, look: Look): number {
  if (cells === null) return 0;
  if (formOf.some(([name, looks, fits]) => name === field.name && fits === 1 && looks.includes(look))) return 0.75;
  if (isReference) return cells >= 0.8 ? 0.7 * cells : 0;
  return field.type === 'enum' && cells === 1 && look === 'word' ? 0.55 : 0;
}

/** A mapping out of what the columns were taken for. The key is the id where a column says it, or the name. */
export function mapOf(kind: ObjectKind, sheet: Sheet, guesses: readonly ColumnGuess[]): TableMap {
  const columns = guesses.flatMap(({ name, field }) => (field === null ? [] : [{ from: name, with: ' ', to: field }]));
  const has = (field: string) => columns.some(({ to }) => to === field);
  return {
    kind,
    key: has('id') || !has('name') ? 'id' : 'name',
    columns,
    constants: {},
    make: {},
    heads: [...sheet.head],
    ...(sheet.sheets ? { sheet: sheet.sheets.read } : {}),
    ...(sheet.delimiter ? { delimiter: sheet.delimiter } : {}),
  };
}

/** The kind that a list is of: the one of which most columns are fields, and most needed fields are there. */
export function guessKind(sheet: Sheet, targets: readonly IntakeTarget[]): { kind: ObjectKind; guesses: ColumnGuess[] } | null {
  let best: { kind: ObjectKind; guesses: ColumnGuess[]; score: number } | null = null;
  for (const target of targets) {
    const guesses = guessColumns(sheet, target);
    const needed = target.fields.filter(({ required, name }) => required && name !== 'id');
    const there = needed.filter(({ name }) => guesses.some(({ field }) => field === name)).length;
    const score = guesses.reduce((sum, { sure }) => sum + sure, 0) + (needed.length ? there / needed.length : 0);
    if (!best || score > best.score + 1e-9) best = { kind: target.kind, guesses, score };
  }
  return best && best.score > 0 ? best : null;
}
