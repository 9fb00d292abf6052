/** So many entries may lie over a map before it is copied whole: looking up stays quick, and copying is rare. */
const mostOver = (size: number): number => Math.max(64, Math.min(2000, size >> 3));

const before = (a: string, b: string): number => (a < b ? -1 : 1);

/** The same entries in the order of their keys; the map itself where they are. */
function byKey<V>(entries: ReadonlyMap<string, V>): ReadonlyMap<string, V> {
  let last: string | undefined;
  for (const key of entries.keys()) {
    if (last !== undefined && key < last) return new Map([...entries].sort(([a], [b]) => before(a, b)));
    last = key;
  }
  return entries;
}

/**
 * A map that is never changed: one with changes lies over it and shares the rest, at a cost that grows with the changes alone.
 * Entries keep their order and new ones come last, or all are in the order of their keys, whenever each was made (`inOrder`).
 */
export class Layers<V> implements ReadonlyMap<string, V> {
  private list: readonly V[] | null = null;

  private constructor(
    private readonly under: ReadonlyMap<string, V> | Layers<V>,
    /** `undefined` stands for an entry that is gone. */
    private readonly over: ReadonlyMap<string, V | undefined>,
    readonly size: number,
    private readonly isInOrder: boolean,
  ) {}

  static of<V>(entries: ReadonlyMap<string, V>): Layers<V> {
    return new Layers(entries, new Map(), entries.size, false);
  }

  /** Entries that come in the order of their keys, now and with whatever is laid over them. */
  static inOrder<V>(entries: ReadonlyMap<string, V>): Layers<V> {
    return new Layers(byKey(entries), new Map(), entries.size, true);
  }

  get(key: string): V | undefined {
    if (this.over.size === 0) return this.under.get(key);
    const own = this.over.get(key);
    return own !== undefined || this.over.has(key) ? own : this.under.get(key);
  }

  has(key: string): boolean {
    return this.get(key) !== undefined;
  }

  /** The map with changes over it; `undefined` takes an entry away. */
  with(changes: ReadonlyMap<string, V | undefined>): Layers<V> {
    if (changes.size === 0) return this;
    let { size } = this;
    for (const [key, value] of changes) size += Number(value !== undefined) - Number(this.has(key));
    return new Layers<V>(this, changes, size, this.isInOrder);
  }

  /** The same entries in at most one layer over a plain map, for whoever goes on from here for long. */
  settled(): Layers<V> {
    if (!(this.under instanceof Layers)) return this;
    const layers: ReadonlyMap<string, V | undefined>[] = [];
    // oxlint-disable-next-line typescript/no-this-alias
    let at: ReadonlyMap<string, V> = this;
    while (at instanceof Layers) {
      layers.push(at.over);
      at = at.under;
    }
    const over = new Map<string, V | undefined>();
    for (const layer of layers.reverse()) for (const [key, value] of layer) over.set(key, value);
    if (over.size <= mostOver(at.size)) return new Layers(at, over, this.size, this.isInOrder);
    return new Layers(new Map(this.entries()), new Map(), this.size, this.isInOrder);
  }

  /** All entries, listed once and then remembered. */
  array(): readonly V[] {
    return (this.list ??= [...this.values()]);
  }

  *entries(): MapIterator<[string, V]> {
    if (this.over.size === 0) return yield* this.under.entries();
    const come: [string, V][] = [];
    for (const [key, value] of this.over) if (value !== undefined && !this.under.has(key)) come.push([key, value]);
    if (this.isInOrder) come.sort(([a], [b]) => before(a, b));
    let next = 0;
    for (const entry of this.under) {
      while (this.isInOrder && next < come.length && (come[next] as [string, V])[0] < entry[0]) yield come[next++] as [string, V];
      const own = this.over.get(entry[0]);
      if (own !== undefined) yield [entry[0], own];
      else if (!this.over.has(entry[0])) yield entry;
    }
    for (; next < come.length; next++) yield come[next] as [string, V];
  }
  *keys(): MapIterator<string> {
    for (const [key] of this.entries()) yield key;
  }
  *values(): MapIterator<V> {
    for (const [, value] of this.entries()) yield value;
  }
  [Symbol.iterator](): MapIterator<[string, V]> {
    return this.entries();
  }
  forEach(each: (value: V, key: string, map: ReadonlyMap<string, V>) => void): void {
    for (const [key, value] of this.entries()) each(value, key, this);
  }
}
