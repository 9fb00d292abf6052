import type { KindTraits, Measurement, ObjectKind, RequirementSet } from '@underpass/contracts';
import { AccessIndex } from '../access/index.js';
import { keying, keyedAfter, Layers, type Keyed, type KeyedBy, type Written } from '../indexes/index.js';
import { lookups, measuredBy, type Lookups, type Objects } from './lookups.js';
import { supposedPlace, type ObjectChange, type Over, type Supposition } from './over.js';

/** Fills in what a kind of object has where nothing was said, such as the schema does that reads it. */
export type Completing = (kind: ObjectKind, object: object) => object;
/** What each kind of object touches where it is changed, by kind. */
export type Traits = Readonly<Record<ObjectKind, KindTraits>>;

/** What a model is given besides the estate. */
export interface ModelOptions {
  complete?: Completing;
  /** What each kind touches; without it every edit touches everything. */
  traits?: Traits;
  /** Requirement sets that count where the estate has none of its own by their id. */
  shipped?: readonly RequirementSet[];
}
const asItIs: Completing = (_kind, object) => object;

/** What a model is made of: the objects, and the ways to look them up. Never changed. */
export interface Parts {
  complete: Completing;
  traits: Traits | undefined;
  shipped: readonly RequirementSet[];
  objects: Objects;
  lookups: Lookups;
  access: AccessIndex;
  /** By location, oldest first. */
  measurementsAt: Keyed<Measurement>;
  /** What is supposed of a location’s line or of an endpoint, by `kind/id`. */
  supposed: ReadonlyMap<string, readonly Supposition[]>;
}

/** The parts of an estate by itself, made in steps, so that whoever waits can be served between them. */
export function* buildingParts(
  given: ReadonlyMap<ObjectKind, ReadonlyMap<string, object>>,
  measurements: Iterable<Measurement>,
  { complete = asItIs, shipped = [], traits }: ModelOptions,
): Generator<void, Parts> {
  const objects = Object.fromEntries([...given].map(([kind, byId]) => [kind, Layers.inOrder(byId)])) as unknown as Objects;
  const found: Record<string, Keyed<unknown>> = {};
  for (const [name, [kind, by]] of Object.entries(lookups)) {
    found[name] = yield* keying(by as KeyedBy<object, unknown>, objects[kind].values());
    yield;
  }
  const measurementsAt = yield* keying(measuredBy, measurements);
  yield;
  const lists = found as unknown as Lookups;
  return {
    complete,
    traits,
    shipped,
    objects,
    lookups: lists,
    access: AccessIndex.over(objects, lists),
    measurementsAt,
    supposed: new Map(),
  };
}

/** The parts with something laid over them. */
export function partsAfter(parts: Parts, { writes, measurements, supposed }: Over): Parts {
  const byKind = new Map<ObjectKind, ObjectChange[]>();
  for (const write of writes) {
    const list = byKind.get(write.kind);
    if (list) list.push(write);
    else byKind.set(write.kind, [write]);
  }
  const changed = { ...parts.objects } as Record<ObjectKind, Layers<object>>;
  for (const [kind, list] of byKind) changed[kind] = changed[kind].with(new Map(list.map(({ id, after }) => [id, after ?? undefined])));
  const found = { ...parts.lookups } as Record<string, Keyed<unknown>>;
  for (const [name, [kind, by]] of Object.entries(lookups)) {
    const list = byKind.get(kind);
    if (list) found[name] = keyedAfter(by as KeyedBy<object, unknown>, found[name] as Keyed<unknown>, list as Written<object>[]);
  }
  const measured = measurements.map((measurement) => ({ id: measuredBy.idOf(measurement), before: null, after: measurement }));
  const [objects, lists] = [changed as unknown as Objects, found as unknown as Lookups];
  return {
    ...parts,
    objects,
    lookups: lists,
    access: parts.access.after(objects, lists),
    measurementsAt: keyedAfter(measuredBy, parts.measurementsAt, measured),
    supposed: supposedAfter(parts.supposed, supposed),
  };
}

function supposedAfter(before: Parts['supposed'], supposed: readonly Supposition[]): Parts['supposed'] {
  if (supposed.length === 0) return before;
  const after = new Map(before);
  for (const one of supposed) {
    const place = supposedPlace(one);
    after.set(place, [...(after.get(place) ?? []), one]);
  }
  return after;
}

const settle = <T extends object>(all: T): T =>
  Object.fromEntries(Object.entries(all).map(([name, layers]) => [name, (layers as Layers<unknown>).settled()])) as T;

/** The same parts, holding nothing of those they were laid over. */
export function settledParts(parts: Parts): Parts {
  const [objects, found] = [settle(parts.objects), settle(parts.lookups)];
  return {
    ...parts,
    objects,
    lookups: found,
    access: parts.access.after(objects, found),
    measurementsAt: parts.measurementsAt.settled(),
  };
}
