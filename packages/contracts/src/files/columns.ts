import { z } from 'zod';
import { saidAs } from '../estate/shownAs.js';
import { CellError } from './cellError.js';
import { listCells } from './cells.js';
import { readMix, writeMix } from './compact.js';

/** How one CSV column maps to a place in the object. */
export interface Column {
  name: string;
  path: string[];
  expected: string;
  /** How a form shows it. */
  type: 'text' | 'number' | 'boolean' | 'enum' | 'list' | 'structured';
  options: readonly string[];
  description: string;
  required: boolean;
  read: (text: string) => unknown;
  write: (value: unknown) => string;
}

/** The schema beneath what only says whether it may be missing. */
export function unwrap(schema: z.ZodType): z.ZodType {
  let inner = schema;
  while (inner instanceof z.ZodOptional || inner instanceof z.ZodDefault || inner instanceof z.ZodNullable)
    inner = inner.unwrap() as z.ZodType;
  return inner;
}

const list = (text: string) =>
  text
    .split(';')
    .map((part) => part.trim())
    .filter(Boolean);

type About = Pick<Column, 'description' | 'required'>;
type Base = Omit<Column, 'read' | 'write' | 'expected'>;
const written = (value: unknown): string => (value === undefined ? '' : String(value));

function leaf(path: string[], schema: z.ZodType, about: About): Column {
  const base: Base = { name: path.join('.'), path, type: 'structured', options: [], ...about };
  if (schema instanceof z.ZodNumber) return numberLeaf(base);
  if (schema instanceof z.ZodBoolean) return booleanLeaf(base, saidAs.get(schema));
  if (schema instanceof z.ZodEnum) return enumLeaf(base, schema.options.map(String));
  if (schema instanceof z.ZodRecord) return recordLeaf(base, unwrap(schema.valueType as z.ZodType));
  if (schema instanceof z.ZodArray) return listLeaf(base, unwrap(schema.element as z.ZodType));
  if (schema instanceof z.ZodUnion)
    return { ...base, expected: 'a number, yes, no, a word, or a list separated by ;', read: readAny, write: writeAny };
  return { ...base, type: 'text', expected: 'text', read: (cell) => cell, write: written };
}

const numberLeaf = (base: Base): Column => ({
  ...base,
  type: 'number',
  expected: 'a number with a point for decimals',
  write: written,
  read: (cell) => {
    if (!/^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(cell)) throw new CellError(`“${cell}” is not a number`);
    return Number(cell);
  },
});

const booleanLeaf = (base: Base, words?: { yes: readonly string[]; no: readonly string[] }): Column => ({
  ...base,
  type: 'boolean',
  options: ['yes', 'no'],
  expected: 'yes or no',
  write: (value) => (value === undefined ? '' : value ? 'yes' : 'no'),
  read: (cell) => {
    const word = cell.toLowerCase();
    if (/^(yes|true)$/.test(word) || words?.yes.includes(word)) return true;
    if (/^(no|false)$/.test(word) || words?.no.includes(word)) return false;
    throw new CellError(`“${cell}” is neither yes nor no`);
  },
});

const enumLeaf = (base: Base, words: readonly string[]): Column => ({
  ...base,
  type: 'enum',
  options: words,
  expected: `one of ${words.join(', ')}`,
  write: written,
  read: (cell) => {
    if (!words.includes(cell)) throw new CellError(`“${cell}” is not a known word`);
    return cell;
  },
});

function listLeaf(base: Base, element: z.ZodType): Column {
  const short = listCells.get(element);
  if (short) {
    const { expected, readPart, writePart, emptyAs, separator } = short;
    return {
      ...base,
      expected,
      read: (cell) => (cell === emptyAs ? [] : list(cell).map(readPart)),
      write: (value) => {
        const parts = value as never[] | undefined;
        return parts?.length === 0 && emptyAs ? emptyAs : (parts?.map(writePart).join(separator) ?? '');
      },
    };
  }
  if (element instanceof z.ZodObject)
    return { ...base, expected: 'a JSON list', read: readJson, write: (value) => (value === undefined ? '' : JSON.stringify(value)) };
  const words = element instanceof z.ZodEnum ? element.options.map(String) : null;
  return {
    ...base,
    type: 'list',
    options: words ?? [],
    expected: words ? `words from ${words.join(', ')}, separated by ;` : 'values separated by ;',
    read: list,
    write: (value) => (value as string[] | undefined)?.join(';') ?? '',
  };
}

function recordLeaf(base: Base, inner: z.ZodType): Column {
  if (inner instanceof z.ZodObject)
    return {
      ...base,
      expected: 'a JSON object',
      read: readJson,
      write: (value) => (value === undefined || Object.keys(value as object).length === 0 ? '' : JSON.stringify(value)),
    };
  const numbers = inner instanceof z.ZodNumber;
  return {
    ...base,
    expected: numbers ? 'parts such as text:0.6;still:0.4' : 'parts such as browser:1.2;native client:3.10',
    read: (cell) => readMix(cell, numbers),
    write: writeMix,
  };
}

/** A value of any of the plain types: what looks like a number, a yes or a list is one. */
function readAny(cell: string): unknown {
  if (cell.startsWith('[')) return readJson(cell);
  if (/^(yes|true)$/i.test(cell)) return true;
  if (/^(no|false)$/i.test(cell)) return false;
  if (/^[-+]?\d+(\.\d+)?$/.test(cell)) return Number(cell);
  return cell.includes(';') ? list(cell) : cell;
}
const writeAny = (value: unknown): string =>
  value === undefined
    ? ''
    : typeof value === 'boolean'
      ? value
        ? 'yes'
        : 'no'
      : Array.isArray(value)
        ? JSON.stringify(value)
        : String(value);

function readJson(cell: string): unknown {
  try {
    return JSON.parse(cell);
  } catch {
    throw new CellError('is not valid JSON');
  }
}

/** Objects within objects are flattened so deep; one that holds itself has no end. */
const deepest = 4;

/** The CSV columns of an object schema, nested objects flattened with dots. The schema is the only definition. */
export function columnsOf(schema: z.ZodType, prefix: string[] = []): Column[] {
  const object = unwrap(schema);
  const shape = object instanceof z.ZodObject ? (object.shape as Record<string, z.ZodType>) : {};
  return Object.entries(shape).flatMap(([key, child]) => {
    const inner = unwrap(child);
    const path = [...prefix, key];
    const required = !(child instanceof z.ZodOptional || child instanceof z.ZodDefault);
    return inner instanceof z.ZodObject && path.length < deepest
      ? columnsOf(child, path)
      : [leaf(path, inner, { description: child.description ?? '', required })];
  });
}
