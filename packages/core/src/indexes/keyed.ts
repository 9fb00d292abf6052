import { Layers } from './layers.js';
import { atOnce } from './steps.js';

/** An object before and after; null where it was not there or is gone. */
export interface Written<T> {
  id: string;
  before: T | null;
  after: T | null;
}

/** Objects by something in them, such as the hosts of a pool. Each list is in the order of the ids, however it came to be. */
export type Keyed<T> = Layers<readonly T[]>;

/** How a list is kept: under which keys an object stands, and what of it stands there. */
export interface KeyedBy<O, T> {
  keys(object: O): readonly string[];
  /** The object itself, or its id alone where that is enough: then only changed keys touch the list. */
  take(object: O): T;
  idOf(entry: T): string;
}

type Named = { readonly id: string };
/** Lists that hold the objects themselves. */
export const wholeBy = <O extends Named>(keys: (object: O) => readonly string[]): KeyedBy<O, O> => ({
  keys,
  take: (object) => object,
  idOf: ({ id }) => id,
});
/** Lists that hold ids alone: an object that changes and keeps its keys touches none of them. */
export const idsBy = <O extends Named>(keys: (object: O) => readonly string[]): KeyedBy<O, string> => ({
  keys,
  take: ({ id }) => id,
  idOf: (id) => id,
});

/** Objects after which whoever makes lists of many stands back for others. */
const step = 1000;

/** The lists of some objects, each in the order of the ids. */
export function keyed<O, T>(by: KeyedBy<O, T>, objects: Iterable<O>): Keyed<T> {
  return atOnce(keying(by, objects));
}

/** The same, standing back between steps. */
export function* keying<O, T>(by: KeyedBy<O, T>, objects: Iterable<O>): Generator<void, Keyed<T>> {
  const lists = new Map<string, T[]>();
  let count = 0;
  for (const object of objects) {
    if (++count % step === 0) yield;
    const entry = by.take(object);
    for (const key of new Set(by.keys(object))) {
      const list = lists.get(key);
      if (list) list.push(entry);
      else lists.set(key, [entry]);
    }
  }
  for (const list of lists.values()) if (list.length > 1) list.sort((a, b) => (by.idOf(a) < by.idOf(b) ? -1 : 1));
  return Layers.of(lists as Map<string, readonly T[]>);
}

/** The lists after some objects were written; only the lists they stand in are made anew. */
export function keyedAfter<O, T>(by: KeyedBy<O, T>, index: Keyed<T>, written: readonly Written<O>[]): Keyed<T> {
  const dropped = new Map<string, Set<string>>();
  const added = new Map<string, Map<string, T>>();
  const at = <V>(map: Map<string, V>, key: string, make: () => V): V => {
    const known = map.get(key) ?? make();
    map.set(key, known);
    return known;
  };
  for (const { id, before, after } of written) {
    const left = new Set(before ? by.keys(before) : []);
    const joined = new Set(after ? by.keys(after) : []);
    for (const key of left) {
      // an id that stays in its list touches nothing
      if (joined.has(key) && before && after && by.take(before) === by.take(after)) joined.delete(key);
      else at(dropped, key, () => new Set<string>()).add(id);
    }
    if (after) for (const key of joined) at(added, key, () => new Map<string, T>()).set(id, by.take(after));
  }
  const lists = new Map<string, readonly T[] | undefined>();
  for (const key of new Set([...dropped.keys(), ...added.keys()])) {
    const [gone, come] = [dropped.get(key), added.get(key)];
    const kept = (index.get(key) ?? []).filter((entry) => !gone?.has(by.idOf(entry)) && !come?.has(by.idOf(entry)));
    const list = come ? [...kept, ...come.values()].sort((a, b) => (by.idOf(a) < by.idOf(b) ? -1 : 1)) : kept;
    lists.set(key, list.length ? list : undefined);
  }
  return index.with(lists);
}
