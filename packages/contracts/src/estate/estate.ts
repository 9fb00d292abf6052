import { z } from 'zod';
import type { KindDefinition, KindFault, Touches } from '../kinds/defineKind.js';
import { kinds } from '../kinds/index.js';
import { Measurement } from './measurement.js';

export type ObjectKind = keyof typeof kinds;
export type ObjectOf<K extends ObjectKind> = z.infer<(typeof kinds)[K]['schema']>;
/** The objects of every kind. */
export type Estate = { [K in ObjectKind]: ObjectOf<K>[] };

const all = kinds as Record<ObjectKind, KindDefinition>;
export const objectKinds = Object.keys(kinds) as ObjectKind[];
const each = <T>(of: (definition: KindDefinition, kind: ObjectKind) => T): Record<ObjectKind, T> =>
  Object.fromEntries(objectKinds.map((kind) => [kind, of(all[kind], kind)])) as Record<ObjectKind, T>;

export const objectSchemas = each(({ schema }) => schema) as unknown as { readonly [K in ObjectKind]: (typeof kinds)[K]['schema'] };
export const MeasurementFile = z.array(Measurement);
export const emptyEstate = (): Estate => each(() => []) as unknown as Estate;

/** Fields that name another object: kind → field → kind it must exist in. */
export const references = each(({ references: named }) => (named ?? {}) as Record<string, ObjectKind>);
/** File of each kind of object in an estate folder. */
export const folderFiles = each(({ file }) => file);
export const kindWords = each(({ words }) => words);
export const listColumns = each(({ list }) => list);
/** Fields that hold a secret, by kind. */
export const secretFields = each(({ secrets }) => secrets ?? []) as Readonly<Record<ObjectKind, readonly string[]>>;
/** Kinds that have a list, in the order in which people look for things. */
export const kindOrder = objectKinds.filter((kind) => all[kind].look !== undefined).sort((a, b) => (all[a].look ?? 0) - (all[b].look ?? 0));
/** Kinds that machines report. */
export const reportedKinds = objectKinds.filter((kind) => all[kind].reported);

/** What the model has to know of a kind to follow edits. */
export interface KindTraits {
  touches: Touches;
  silent: readonly string[];
  undemanding: boolean;
}
export const kindTraits = each(({ touches, silent = [], undemanding = false }): KindTraits => ({
  touches,
  silent,
  undemanding,
})) as Readonly<Record<ObjectKind, KindTraits>>;

export const kindsWithFaults = objectKinds.filter((kind) => all[kind].faults);

/** What the kinds themselves find wrong in the whole estate. */
export const faultsOfKinds = (estate: Estate): (KindFault & { kind: ObjectKind })[] =>
  objectKinds.flatMap((kind) => (all[kind].faults?.(estate) ?? []).map((fault) => ({ kind, ...fault })));
