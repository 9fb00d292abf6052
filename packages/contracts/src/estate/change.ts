import { z } from 'zod';
import { BoundedJson, boundedRecord } from '../bounds.js';
import { objectKinds, type ObjectKind } from './estate.js';
import { Key } from './fields.js';
import { SettingValue } from './setting.js';
import { Layer } from './words.js';

export const ObjectKindWord = z.enum(objectKinds as [ObjectKind, ...ObjectKind[]]);

const FieldPath = z
  .string()
  .max(80, 'must be at most 80 characters')
  .regex(/^[a-zA-Z][a-zA-Z0-9]*(\.[a-zA-Z0-9 /-]+){0,3}$/, 'must be a field such as graphics.mode');
/** Fields by path; dots go into nested objects, null stands for a field that is not there. */
const Fields = boundedRecord(FieldPath, BoundedJson, 60);
const KeyLists = boundedRecord(FieldPath, z.array(z.string().min(1).max(200)).min(1).max(10_000), 20);
const Whole = BoundedJson.refine(
  (value) => typeof value === 'object' && value !== null && !Array.isArray(value),
  'must be an object with its fields',
);

/**
 * One step of a change. What it was made from may stand beside it (`was`), so that on a newer estate it shows whether somebody
 * changed the same thing meanwhile.
 */
export const Patch = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('create'), kind: ObjectKindWord, id: Key, object: Whole }),
  z.strictObject({
    do: z.literal('change'),
    kind: ObjectKindWord,
    id: Key,
    set: Fields.optional().describe('Fields that get another value; null takes a field away'),
    add: KeyLists.optional().describe('Entries added to lists, whatever else stands in them'),
    drop: KeyLists.optional().describe('Entries taken out of lists'),
    was: Fields.optional().describe('What the fields of “set” were when the change was made'),
  }),
  z.strictObject({ do: z.literal('remove'), kind: ObjectKindWord, id: Key, was: Whole.optional() }),
  z.strictObject({
    do: z.literal('setting'),
    key: z.string().max(80),
    layer: Layer,
    target: z.string().min(1).max(64),
    value: SettingValue.describe('A list is added to the list that stands there; other values replace it'),
    was: z.union([SettingValue, z.null()]).optional().describe('null: it was not set there'),
  }),
  z.strictObject({
    do: z.literal('move'),
    people: z.array(Key).min(1).max(10_000).optional().describe('Left out: everybody who is in the group they leave'),
    leave: Key.nullable().default(null),
    join: Key.nullable().default(null),
  }),
]);

/** What nobody can apply by pressing a button: it is true once somebody has done the work outside. */
export const Hypothesis = z.discriminatedUnion('suppose', [
  z.strictObject({
    suppose: z.literal('line'),
    kind: z.enum(['location', 'endpoint']).describe('The shared line of a location, or the way of one endpoint'),
    id: Key,
    downMbps: z.number().positive().max(400_000).optional(),
    upMbps: z.number().positive().max(400_000).optional(),
    roundTripMs: z.number().min(0).max(120_000).optional(),
    jitterMs: z.number().min(0).max(120_000).optional(),
    lossPercent: z.number().min(0).max(100).optional(),
    udp: z.boolean().optional(),
  }),
  z.strictObject({ suppose: z.literal('drawing'), endpoint: Key, by: z.literal('graphics') }),
  z.strictObject({ suppose: z.literal('object'), kind: ObjectKindWord, id: Key, set: Fields }),
]);

/** A change of the estate: what can be applied, and what waits for work outside. The same everywhere: tried, kept, applied, taken back. */
export const Change = z
  .strictObject({
    patches: z.array(Patch).max(1000).default([]),
    hypotheses: z.array(Hypothesis).max(50).default([]),
  })
  .meta({ id: 'Change' });

export type Patch = z.infer<typeof Patch>;
export type Hypothesis = z.infer<typeof Hypothesis>;
export type Change = z.infer<typeof Change>;
