import type { z } from 'zod';

/** Of which object's crossings a field names one; `id` is the object itself. */
export interface TouchedBy {
  field: string;
  as: 'location' | 'endpoint' | 'person' | 'resource' | 'pool' | 'gateway' | 'portal' | 'publication' | 'group';
}
/**
 * Which crossings may come out otherwise where an object of a kind is written: those of what its fields name, all, none; those of
 * the layer a setting stands at; or, for requirement sets, all where the gates are others.
 */
export type Touches = readonly TouchedBy[] | 'everything' | 'nothing' | 'its layer' | 'gates';

/** Everything there is to say of a kind of object. Files, forms, lists, validation, API, search and model derive from it. */
export interface KindDefinition {
  schema: z.ZodType<{ id: string }>;
  /** File of an estate folder: flat kinds are tables (.csv), nested ones documents (.yaml). */
  file: string;
  /** Fields that name another object: field → kind it must exist in. Dots go into nested objects. */
  references?: Readonly<Record<string, string>>;
  words: { one: string; many: string };
  /** Columns of its list: field and heading. */
  list: readonly (readonly [field: string, heading: string])[];
  /** Place in which people look for it among the kinds; without one it has a screen of its own and is in no list. */
  look?: number;
  touches: Touches;
  /** Fields by which no crossing comes out otherwise: what is only read by people, or counted elsewhere. */
  silent?: readonly string[];
  /** Fields that hold a secret: kept sealed, shown on demand alone, and the showing is logged. */
  secrets?: readonly string[];
  /** It changes what happens on a crossing, but never what its session asks of the line. */
  undemanding?: true;
  /** Machines report it: it keeps nothing from being taken away, and goes with what it tells of. */
  reported?: true;
  /** What is wrong only in the whole estate. */
  faults?: (estate: Readonly<Record<string, readonly { id: string }[]>>) => KindFault[];
}
export interface KindFault {
  id: string;
  field: string;
  problem: string;
  expected: string;
}

/** Registers a kind of object: its own file, and one line in `kinds/index.ts`. */
export const defineKind = <const D extends KindDefinition>(definition: D): D => definition;
