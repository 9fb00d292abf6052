import { slipsBetween } from './slips.js';

/** Something that is found by its name. */
export interface Findable {
  kind: string;
  id: string;
  name: string;
  /** What is said beside it, and looked through too. */
  detail: string;
  path: string;
}
/** The same, made ready to be looked through. */
export interface Entry {
  of: Findable;
  /** Lower case, with a space before every word. */
  text: string;
}

/** Makes something ready to be looked through. */
export const entryOf = (of: Findable): Entry => ({
  of,
  text: ` ${`${of.name} ${of.id === of.name ? '' : of.id} ${of.detail}`.toLowerCase().replace(/[-_.,/]+/g, (marks) => `${marks} `)} ${of.id.toLowerCase()}`,
});

/** Slips that are allowed for in a word by how long it is: none in short ones, which would become others. */
const slipsIn = (word: string): number => (word.length < 4 ? 0 : word.length < 8 ? 1 : 2);
/** Up to this many are looked at for their order; a search that fits more is not done yet. */
const mostRanked = 3000;
/** How well an entry fits: the whole name, its beginning, beginnings of words, parts of words; null where a word is in none. */
function rankOf({ of: { name }, text }: Entry, query: string, words: readonly string[]): number | null {
  let inner = 0;
  for (const word of words) {
    const at = text.indexOf(word);
    if (at < 0) return null;
    if (!text.includes(` ${word}`)) inner++;
  }
  const whole = name.toLowerCase();
  if (whole === query) return 0;
  if (whole.startsWith(query)) return 1;
  return inner === 0 ? 2 : 3;
}

/**
 * Finds by parts of words and with small slips of the keys.
 * @param entries in the order of their kinds, those first that are looked for most
 * @param wordsOf distinct words of all entries; asked for only where nothing fits as typed
 * @returns the best first, at most `limit`
 */
export function find(entries: readonly Entry[], typed: string, limit: number, wordsOf: () => Iterable<string>): Findable[] {
  const query = typed.trim().toLowerCase().replace(/\s+/g, ' ');
  if (query === '') return [];
  const words = query.split(' ');
  const found = ranked(entries, query, words);
  // what is called as typed is meant; slips are looked for where nothing is
  if (found.length === 0) {
    const meant = meantBy(words, wordsOf);
    for (const other of meant ?? []) found.push(...ranked(entries, other.join(' '), other).map((each) => ({ ...each, rank: 4 })));
  }
  const seen = new Set<Findable>();
  return found
    .sort((a, b) => a.rank - b.rank || a.at - b.at)
    .flatMap(({ of }) => (seen.has(of) || !seen.add(of) ? [] : [of]))
    .slice(0, limit);
}

function ranked(entries: readonly Entry[], query: string, words: readonly string[]): { of: Findable; rank: number; at: number }[] {
  const found: { of: Findable; rank: number; at: number }[] = [];
  for (let at = 0; at < entries.length && found.length < mostRanked; at++) {
    const entry = entries[at] as Entry;
    const rank = rankOf(entry, query, words);
    if (rank !== null) found.push({ of: entry.of, rank, at });
  }
  return found;
}

/** Up to so many words may be meant by one that is typed with a slip. */
const mostMeant = 4;

/** What may have been meant: for each word those that are nearest; null where one is near to nothing. */
function meantBy(words: readonly string[], wordsOf: () => Iterable<string>): string[][] | null {
  const known = [...wordsOf()];
  let meant: string[][] = [[]];
  for (const word of words) {
    const most = slipsIn(word);
    const near = known
      .map((each) => ({ each, far: each.includes(word) ? 0 : most === 0 ? Infinity : slipsBetween(word, each, most) }))
      .filter(({ far }) => far <= most)
      .sort((a, b) => a.far - b.far)
      .slice(0, mostMeant);
    if (near.length === 0) return null;
    meant = meant.flatMap((before) => near.map(({ each }) => [...before, each]));
    if (meant.length > 64) return meant.slice(0, 64);
  }
  return meant;
}

/** Words of letters in an entry, as somebody might mistype them: figures are typed right or are others. */
export const wordsIn = ({ text }: Entry): string[] => text.match(/(?<=\s)\p{L}{3,}(?=[\s,./_-]|$)/gu) ?? [];
