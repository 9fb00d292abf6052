import type { z } from 'zod';
import { CellError } from './cellError.js';
import { readDecoder, readMix, readScreen, writeDecoder, writeMix, writeScreen } from './compact.js';

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

interface Def {
  type: string;
  innerType?: z.ZodType;
  element?: z.ZodType;
  valueType?: z.ZodType;
  entries?: Record<string, string>;
  shape?: Record<string, z.ZodType>;
}
const defOf = (schema: z.ZodType): Def => (schema as unknown as { _zod: { def: Def } })._zod.def;

const unwrap = (schema: z.ZodType): Def => {
  let def = defOf(schema);
  while (['optional', 'default', 'nullable'].includes(def.type) && def.innerType) def = defOf(def.innerType);
  return def;
};

const words = (def: Def) => Object.keys(def.entries ?? {});
const list = (text: string) =>
  text
    .split(';')
    .map((part) => part.trim())
    .filter(Boolean);

function leaf(path: string[], def: Def, about: Pick<Column, 'description' | 'required'>): Column {
  const base = { name: path.join('.'), path, type: 'structured' as Column['type'], options: [] as readonly string[], ...about };
  const text = (value: unknown) => (value === undefined ? '' : String(value));
  switch (def.type) {
    case 'number':
      return {
        ...base,
        type: 'number',
        expected: 'a number with a point for decimals',
        write: text,
        read: (cell) => {
          if (!/^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(cell)) throw new CellError(`“${cell}” is not a number`);
          return Number(cell);
        },
      };
    case 'boolean':
      return {
        ...base,
        type: 'boolean',
        options: ['yes', 'no'],
        expected: 'yes or no',
        write: (value) => (value === undefined ? '' : value ? 'yes' : 'no'),
        read: (cell) => {
          if (/^(yes|true)$/i.test(cell)) return true;
          if (/^(no|false)$/i.test(cell)) return false;
          throw new CellError(`“${cell}” is neither yes nor no`);
        },
      };
    case 'enum':
      return {
        ...base,
        type: 'enum',
        options: words(def),
        expected: `one of ${words(def).join(', ')}`,
        write: text,
        read: (cell) => {
          if (!words(def).includes(cell)) throw new CellError(`“${cell}” is not a known word`);
          return cell;
        },
      };
    case 'record':
      return recordLeaf(base, def);
    case 'array': {
      const element = def.element ? unwrap(def.element) : { type: 'string' };
      if (element.shape && 'widthPx' in element.shape)
        return {
          ...base,
          expected: 'screens such as 1920x1080@60 scale 1.5 hdmi-2.0 +0+0',
          read: (cell) => list(cell).map(readScreen),
          write: (v) => (v as never[] | undefined)?.map(writeScreen).join('; ') ?? '',
        };
      if (element.shape && 'chroma444' in element.shape)
        return {
          ...base,
          expected: 'decoders such as h264@5.1;hevc@5.1+444, or none',
          read: (cell) => (cell === 'none' ? [] : list(cell).map(readDecoder)),
          write: (v) => (v === undefined ? '' : (v as unknown[]).length === 0 ? 'none' : (v as never[]).map(writeDecoder).join(';')),
        };
      if (element.shape)
        return { ...base, expected: 'a JSON list', read: readJson, write: (v) => (v === undefined ? '' : JSON.stringify(v)) };
      return {
        ...base,
        type: 'list',
        options: element.type === 'enum' ? words(element) : [],
        expected: element.type === 'enum' ? `words from ${words(element).join(', ')}, separated by ;` : 'values separated by ;',
        read: list,
        write: (v) => (v as string[] | undefined)?.join(';') ?? '',
      };
    }
    default:
      return def.type === 'union'
        ? { ...base, expected: 'a number, yes, no, a word, or a list separated by ;', read: readAny, write: writeAny }
        : { ...base, type: 'text', expected: 'text', read: (cell) => cell, write: text };
  }
}

function recordLeaf(base: Omit<Column, 'read' | 'write' | 'expected'>, def: Def): Column {
  const inner = def.valueType ? unwrap(def.valueType) : { type: 'string' };
  if (inner.type === 'object')
    return {
      ...base,
      expected: 'a JSON object',
      read: readJson,
      write: (v) => (v === undefined || Object.keys(v as object).length === 0 ? '' : JSON.stringify(v)),
    };
  const numbers = inner.type === 'number';
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

/** The CSV columns of an object schema, nested objects flattened with dots. The schema is the only definition. */
export function columnsOf(schema: z.ZodType, prefix: string[] = []): Column[] {
  const shape = unwrap(schema).shape ?? {};
  return Object.entries(shape).flatMap(([key, child]) => {
    const def = unwrap(child);
    const path = [...prefix, key];
    const required = !['optional', 'default'].includes(defOf(child).type);
    return def.type === 'object' ? columnsOf(child, path) : [leaf(path, def, { description: child.description ?? '', required })];
  });
}
