import { slipsBetween } from '../find/index.js';
import { plainWords } from './fieldWords.js';
import type { Named } from './target.js';

/** Names of what is there, made ready to be looked up as people write them. */
export class NameBook {
  readonly #byId = new Map<string, string>();
  readonly #byName = new Map<string, string[]>();
  readonly #plain: { id: string; name: string; plain: string }[] = [];

  constructor(objects: Iterable<Named>) {
    for (const object of objects) this.add(object);
  }

  add({ id, name = id }: Named): void {
    if (this.#byId.has(id.toLowerCase())) return;
    this.#byId.set(id.toLowerCase(), id);
    const plain = plainWords(name);
    const same = this.#byName.get(plain);
    if (same) same.push(id);
    else this.#byName.set(plain, [id]);
    this.#plain.push({ id, name, plain });
  }

  get size(): number {
    return this.#plain.length;
  }

  /** The one that is meant: by its id, or by its name where only one has it. */
  find(text: string): { id: string } | { several: readonly string[] } | null {
    const id = this.#byId.get(text.trim().toLowerCase());
    if (id !== undefined) return { id };
    const named = this.#byName.get(plainWords(text)) ?? [];
    return named.length === 0 ? null : named.length === 1 ? { id: named[0] as string } : { several: named };
  }

  /** Those that may be meant, the nearest first: a slip or two, or one name within the other. */
  near(text: string, most = 3): Named[] {
    const plain = plainWords(text);
    if (plain === '') return [];
    return this.#plain
      .map((each) => ({ each, far: farness(plain, each.plain) }))
      .filter(({ far }) => far !== null)
      .sort((a, b) => (a.far as number) - (b.far as number))
      .slice(0, most)
      .map(({ each: { id, name } }) => ({ id, name }));
  }
}

/** How far one name is from another; null where nobody would mean it. */
export function farness(a: string, b: string): number | null {
  if (a === b) return 0;
  const most = Math.min(a.length, b.length) < 5 ? 1 : 2;
  const slips = slipsBetween(a, b, most);
  if (slips <= most) return slips;
  const [short, long] = a.length < b.length ? [a, b] : [b, a];
  // all words of the one are in the other
  const words = new Set(long.split(' '));
  return short.length >= 3 && short.split(' ').every((word) => words.has(word)) ? 3 : null;
}
