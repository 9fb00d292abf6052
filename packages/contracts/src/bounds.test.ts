import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { z } from 'zod';
import * as contracts from './index.js';
import { BoundedJson, faultOfJsonShape } from './bounds.js';
import { objectSchemas } from './estate/estate.js';

interface Def {
  type: string;
  innerType?: z.ZodType;
  element?: z.ZodType;
  in?: z.ZodType;
  keyType?: z.ZodType;
  valueType?: z.ZodType;
  shape?: Record<string, z.ZodType>;
  options?: z.ZodType[];
  catchall?: z.ZodType;
  format?: string;
  checks?: { _zod: { def: { check: string; maximum?: number; format?: string; pattern?: RegExp } } }[];
}
const internals = (schema: z.ZodType) => (schema as unknown as { _zod: { def: Def } })._zod;
const checksOf = (def: Def) => (def.checks ?? []).map((check) => check._zod.def);
const hasMost = (def: Def) => checksOf(def).some(({ check }) => check === 'max_length' || check === 'length_equals');
const bounded = (schema: z.ZodType) => (schema.meta() as { bounded?: boolean } | undefined)?.bounded === true;

/** Every place in a schema that has no bound: texts, lists and records without a most, objects that take any field, free JSON. */
function unbounded(schema: z.ZodType, path: string, seen = new Set<z.ZodType>(), strict = true): string[] {
  if (seen.has(schema) || bounded(schema)) return [];
  seen.add(schema);
  const { def } = internals(schema);
  const inside = (inner: z.ZodType | undefined, name: string) => (inner ? unbounded(inner, `${path}${name}`, seen, strict) : []);
  switch (def.type) {
    case 'string': {
      const formats = [def.format, ...checksOf(def).map(({ format }) => format)];
      const fixed = formats.some((format) => ['uuid', 'date', 'guid'].includes(String(format)));
      // a pattern without repetition that has no end bounds the length by itself
      const ends = checksOf(def).some(({ pattern }) => pattern && /^\^[^*+]*\$$/.test(pattern.source.replace(/\\[*+]/g, '')));
      return hasMost(def) || fixed || ends ? [] : [`${path}: text`];
    }
    case 'array':
      return [...(hasMost(def) ? [] : [`${path}: list`]), ...inside(def.element, '[]')];
    case 'record': {
      const closed = def.keyType && internals(def.keyType).def.type === 'enum';
      return [...(closed ? [] : [`${path}: record`]), ...inside(def.keyType, '{key}'), ...inside(def.valueType, '{}')];
    }
    case 'object':
      return [
        ...(strict && internals(def.catchall ?? z.string()).def.type !== 'never' ? [`${path}: takes any field`] : []),
        ...Object.entries(def.shape ?? {}).flatMap(([key, inner]) => inside(inner, `.${key}`)),
      ];
    case 'union':
      return (def.options ?? []).flatMap((inner, i) => inside(inner, `|${i}`));
    case 'pipe':
      return inside(def.in, '');
    case 'unknown':
    case 'any':
    case 'custom':
      return [`${path}: anything`];
    default:
      return inside(def.innerType, '');
  }
}

const isSchema = (value: unknown): value is z.ZodType => typeof value === 'object' && value !== null && '_zod' in value;
/** What comes from outside; answers go out and are made here. */
const incoming = Object.entries(contracts).filter(
  ([name, value]) =>
    isSchema(value) && /((Request|Query)$|^(SignIn|AccessChange|FromPage|PortalReport|RequirementText|DoorRules)$)/.test(name),
) as unknown as [string, z.ZodType][];

describe('everything that comes in has bounds', () => {
  test.each(Object.entries(objectSchemas))('objects of the kind %s', (kind, schema) => {
    expect(unbounded(schema, kind)).toEqual([]);
  });
  test('measurements and figures', () => {
    expect(unbounded(contracts.Measurement, 'measurement')).toEqual([]);
  });
  test('requests and messages', () => {
    expect(incoming.length).toBeGreaterThan(25);
    // queries are short by the length of an address, and a query may carry what another page put there
    expect(incoming.flatMap(([name, schema]) => unbounded(schema, name, new Set(), !name.endsWith('Query')))).toEqual([]);
  });
  test('the walk itself notices what has none', () => {
    const free = z.object({ a: z.string(), b: z.array(z.string().max(3)), c: z.record(z.string().max(3), z.number()), d: z.unknown() });
    expect(unbounded(free, 'x')).toEqual(['x: takes any field', 'x.a: text', 'x.b: list', 'x.c: record', 'x.d: anything']);
  });
});

describe('a JSON text is looked over before it is parsed', () => {
  test('depth and number, just at and just above', () => {
    const nested = (depth: number) => '['.repeat(depth) + ']'.repeat(depth);
    expect(faultOfJsonShape(nested(32))).toBeNull();
    expect(faultOfJsonShape(nested(33))).toContain('32 deep');
    expect(faultOfJsonShape(`[${Array.from({ length: 20_000 }, () => 1).join()}]`)).toBeNull();
    expect(faultOfJsonShape(`[${Array.from({ length: 20_001 }, () => 1).join()}]`)).toContain('20000 values');
  });
  test('what stands in strings does not count, whatever is escaped there', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        expect(faultOfJsonShape(JSON.stringify({ [text]: `${text}${'[{,'.repeat(40)}` }), 2, 3)).toBeNull();
      }),
    );
  });
  test('any value within the bounds passes, and any depth is told', () => {
    const depth = (value: unknown): number =>
      typeof value === 'object' && value !== null ? 1 + Math.max(0, ...Object.values(value).map(depth)) : 0;
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 6 }), (value) => {
        expect(faultOfJsonShape(JSON.stringify(value), 4) === null).toBe(depth(value) <= 4);
      }),
    );
  });
  test('a free value inside a request is bounded in depth, length and number', () => {
    const good = (value: unknown) => BoundedJson.safeParse(value).success;
    const deep = (n: number): unknown => (n === 0 ? 1 : [deep(n - 1)]);
    expect([good(deep(8)), good(deep(9))]).toEqual([true, false]);
    expect([good('x'.repeat(2000)), good('x'.repeat(2001))]).toEqual([true, false]);
    expect([good(Array(1999).fill(0)), good(Array(2000).fill(0))]).toEqual([true, false]);
    expect([good({ ['k'.repeat(80)]: 1 }), good({ ['k'.repeat(81)]: 1 })]).toEqual([true, false]);
  });
});
