import { z } from 'zod';
import { objectSchemas, references, type ObjectKind } from '../estate/estate.js';
import { Clock, Key } from '../estate/fields.js';
import { Decoder } from '../estate/endpoint.js';
import { shownAs } from '../estate/shownAs.js';
import { CellError } from './cellError.js';
import { columnsOf, unwrap, type Column } from './columns.js';
import './wording.js';

/** What a form holds of a field: a text, texts in order, or rows with their own fields. */
export type FormValue = string | string[] | FormRow[];
export type FormRow = Record<string, string>;

/** A field of an object as a form shows it. It derives from the schema, as its column in a file does. */
export interface Field {
  name: string;
  path: readonly string[];
  description: string;
  /** It has no meaning without it. */
  required: boolean;
  /** Only with it the part of the object that it belongs to is there, such as a line's kind. */
  neededInside: boolean;
  /** One value, several of them, or rows. */
  shape: 'one' | 'list' | 'rows';
  /** What one value is; `named` is an object of `kind`. */
  type: 'text' | 'number' | 'yes or no' | 'word' | 'named' | 'time of day' | 'any' | 'lines' | 'secret';
  words: readonly string[];
  kind?: ObjectKind;
  min?: number;
  /** In place of `min`, where that itself is too little. */
  above?: number;
  max?: number;
  /** Fields of a row. */
  row?: readonly Field[];
  /** The first field of a row says which part it is; two rows cannot say the same. */
  keyed: boolean;
  /** What says that there are none, where that is another thing than not knowing. */
  none?: string;
  write: (value: unknown) => FormValue;
  /** @throws CellError of what cannot be read, with the place in it */
  read: (value: FormValue) => unknown;
}

/** Where in a field something cannot be read. */
export class PlacedError extends CellError {
  constructor(
    message: string,
    readonly place: readonly string[],
  ) {
    super(message);
  }
}

const partKey = 'part';
const partValue = 'value';
const blank = (row: FormRow): boolean => Object.values(row).every((text) => text.trim() === '');

function oneOf(column: Column, schema: z.ZodType, kind?: ObjectKind): Field {
  const [type, bounds]: [Field['type'], Bounds] = kind
    ? ['named', {}]
    : schema === Clock
      ? ['time of day', {}]
      : schema instanceof z.ZodNumber
        ? ['number', boundsOf(schema)]
        : schema instanceof z.ZodBoolean
          ? ['yes or no', {}]
          : schema instanceof z.ZodEnum
            ? ['word', {}]
            : [shownAs.get(schema)?.as ?? (schema instanceof z.ZodUnion ? 'any' : 'text'), {}];
  // blanks and ends of lines belong to those
  const whole = type === 'lines' || type === 'secret';
  return {
    ...aboutOf(column),
    ...bounds,
    ...(kind ? { kind } : {}),
    shape: 'one',
    type,
    words: column.options,
    write: column.write,
    read: (value) => {
      const text = whole ? (value as string) : (value as string).trim();
      return text === '' ? undefined : column.read(text);
    },
  };
}

const aboutOf = ({ name, path, description, required }: Column): Omit<Field, 'shape' | 'type' | 'words' | 'write' | 'read'> => ({
  name,
  path,
  description,
  required: required && path.length === 1,
  neededInside: required && path.length > 1,
  keyed: false,
});

type Bounds = Pick<Field, 'min' | 'above' | 'max'>;
function boundsOf(schema: z.ZodNumber): Bounds {
  const { minValue: min, maxValue: max } = schema;
  const told = (bound: number | null): bound is number => bound !== null && Math.abs(bound) < Number.MAX_SAFE_INTEGER;
  const least = told(min) ? { [schema.safeParse(min).success ? 'min' : 'above']: min } : {};
  return { ...least, ...(told(max) ? { max } : {}) };
}

/** Several words, names or texts. */
function listOf(column: Column, kind?: ObjectKind): Field {
  return {
    ...aboutOf(column),
    ...(kind ? { kind } : {}),
    shape: 'list',
    type: kind ? 'named' : column.options.length ? 'word' : 'text',
    words: column.options,
    write: (value) => [...((value as string[] | undefined) ?? [])],
    read: (value) => {
      const texts = (value as string[]).map((text) => text.trim()).filter(Boolean);
      return texts.length ? texts : undefined;
    },
  };
}

/** What is read of rows, each field at its own place. */
function readRows(rows: readonly FormRow[], fields: readonly Field[]): Record<string, unknown>[] {
  return rows.flatMap((row, i) => {
    if (blank(row)) return [];
    const object: Record<string, unknown> = {};
    for (const field of fields) {
      try {
        const value = field.read(row[field.name] ?? '');
        if (value !== undefined) object[field.name] = value;
      } catch (error) {
        throw error instanceof CellError ? new PlacedError(error.message, [String(i), field.name]) : error;
      }
    }
    return [object];
  });
}
const rowOf = (value: unknown, fields: readonly Field[]): FormRow =>
  Object.fromEntries(fields.map((field) => [field.name, field.write((value as Record<string, unknown>)[field.name]) as string]));

/** Rows of a list of objects. */
function rowsOf(column: Column, element: z.ZodObject): Field {
  const row = fieldsIn(element, {});
  // an empty list of decoders says that there are none; for all others it says nothing
  const none = element === (Decoder as z.ZodObject) ? 'none' : undefined;
  return {
    ...aboutOf(column),
    shape: 'rows',
    type: 'text',
    words: [],
    row,
    ...(none ? { none } : {}),
    write: (value) => {
      const list = value as unknown[] | undefined;
      return list?.length === 0 && none ? none : (list ?? []).map((each) => rowOf(each, row));
    },
    read: (value) => {
      if (value === none) return [];
      const read = readRows(value as FormRow[], row);
      return read.length ? read : undefined;
    },
  };
}

/** Rows of a record: which part, and what it is. */
function partsOf(column: Column, key: z.ZodType, value: z.ZodType): Field {
  const words = key instanceof z.ZodEnum ? key.options.map(String) : [];
  const about = { description: '', required: true, path: [partKey], name: partKey };
  const part: Field = {
    ...oneOf(
      { ...about, type: words.length ? 'enum' : 'text', options: words, expected: '', read: (text) => text, write: (text) => String(text) },
      key,
    ),
    type: words.length ? 'word' : 'text',
  };
  const whole = value instanceof z.ZodObject;
  const inner = whole ? fieldsIn(value, {}) : fieldsIn(z.object({ [partValue]: value }), {});
  const row = [part, ...inner];
  return {
    ...aboutOf(column),
    shape: 'rows',
    type: 'text',
    words: [],
    row,
    keyed: true,
    write: (record) =>
      Object.entries((record ?? {}) as Record<string, unknown>)
        .filter(([, each]) => each !== undefined)
        .map(([name, each]) => ({ [partKey]: name, ...rowOf(whole ? each : { [partValue]: each }, inner) })),
    read: (value) => {
      const rows = value as FormRow[];
      const record: Record<string, unknown> = {};
      rows.forEach((row, i) => {
        if (blank(row)) return;
        const name = (row[partKey] ?? '').trim();
        if (name === '') throw new PlacedError('must say which part', [String(i), partKey]);
        if (Object.hasOwn(record, name)) throw new PlacedError(`“${name}” stands twice`, [String(i), partKey]);
        const [read = {}] = readRows([row], inner);
        record[name] = whole ? read : read[partValue];
        if (!whole && record[name] === undefined) throw new PlacedError('must not be empty', [String(i), partValue]);
      });
      return Object.keys(record).length ? record : undefined;
    },
  };
}

/** The fields of an object's schema; nested objects are flattened as in the files. */
function fieldsIn(schema: z.ZodType, named: Readonly<Record<string, ObjectKind>>): Field[] {
  return columnsOf(schema).map((column): Field => {
    const inner = schemaAt(schema, column.path);
    if (inner instanceof z.ZodArray) {
      const element = unwrap(inner.element as z.ZodType);
      return element instanceof z.ZodObject ? rowsOf(column, element) : listOf(column, named[column.name]);
    }
    if (inner instanceof z.ZodRecord) return partsOf(column, inner.keyType as z.ZodType, unwrap(inner.valueType as z.ZodType));
    return oneOf(column, inner, named[column.name]);
  });
}

function schemaAt(schema: z.ZodType, path: readonly string[]): z.ZodType {
  let inner = unwrap(schema);
  for (const key of path) inner = unwrap((inner as z.ZodObject).shape[key] as z.ZodType);
  return inner;
}

/** The fields of a kind of object, as its form shows them. */
export const fieldsOf = (kind: ObjectKind): Field[] => fieldsIn(objectSchemas[kind], references[kind]);

/** What a form holds of an object: as the object is made up, with texts for values. */
export interface FormTexts {
  [key: string]: FormValue | FormTexts;
}

/** The part of an object, or of what a form holds, at a field's place. */
export const partAt = (value: unknown, path: readonly string[]): unknown =>
  path.reduce<unknown>((inner, key) => (inner as Record<string, unknown> | null | undefined)?.[key], value);

/** An object with the value of a field put in its place. */
export function withPart<T extends object>(object: T, path: readonly string[], value: unknown): T {
  const [key, ...rest] = path as [string, ...string[]];
  const inner = (object as Record<string, unknown>)[key];
  return { ...object, [key]: rest.length ? withPart((inner ?? {}) as object, rest, value) : value };
}

/** What a form holds of an object. */
export const formOf = (fields: readonly Field[], object: object): FormTexts =>
  fields.reduce<FormTexts>((form, field) => withPart(form, field.path, field.write(partAt(object, field.path))), {});

/** The object that a form comes to, and what cannot be read of it, by field and place in it. */
export function objectOf(
  fields: readonly Field[],
  form: object,
): { object: Record<string, unknown>; faults: { path: string[]; problem: string }[] } {
  let object: Record<string, unknown> = {};
  const faults: { path: string[]; problem: string }[] = [];
  for (const field of fields) {
    try {
      const value = field.read((partAt(form, field.path) as FormValue | undefined) ?? field.write(undefined));
      if (value !== undefined) object = withPart(object, field.path, value);
    } catch (error) {
      if (!(error instanceof CellError)) throw error;
      faults.push({ path: [...field.path, ...(error instanceof PlacedError ? error.place : [])], problem: error.message });
    }
  }
  return { object, faults };
}

/**
 * The schema of what a form of a kind holds: what cannot be read of it is told at its place, then the object by its own schema.
 * @param finish what is done with the object before that, where a field's meaning hangs on another
 */
export function formSchemaOf(kind: ObjectKind, finish: (object: Record<string, unknown>, form: object) => object = (object) => object) {
  const fields = fieldsOf(kind);
  return z
    .record(z.string(), z.unknown())
    .transform((form, context) => {
      const { object, faults } = objectOf(fields, form);
      for (const { path, problem } of faults) context.addIssue({ code: 'custom', path, message: problem });
      return finish(object, form);
    })
    .pipe(objectSchemas[kind]);
}

/** A key made of a name: small letters, digits and dashes; empty where the name has none of them. */
export const keyOfName = (name: string): string => {
  const key = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 64)
    .replace(/-+$/, '');
  return Key.safeParse(key).success ? key : '';
};
