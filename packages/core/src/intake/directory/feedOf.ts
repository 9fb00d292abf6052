import type { Feed } from '../feed/feed.js';
import { readDirectory, usualWords, type DirectoryProblem } from './directory.js';
import { valuesOf, type DirectoryEntry } from './entry.js';
import { sameName } from './names.js';

/** Which attributes say what, where it is not the usual ones. */
export interface DirectoryMapping {
  key?: string | undefined;
  name?: string | undefined;
  /** Where a person works; else it is the unit above them. */
  place?: string | undefined;
}

/**
 * What a directory says of people and groups, under keys that stay when something is called otherwise: its own where it has one.
 * @source entryUUID: RFC 4530
 */
export function feedOfDirectory(
  entries: readonly DirectoryEntry[],
  { key, name, place }: DirectoryMapping,
): { feed: Feed; problems: DirectoryProblem[] } {
  const words = {
    key: key ? [key, ...usualWords.key] : usualWords.key,
    name: name ? [name, ...usualWords.name] : usualWords.name,
    ...(place ? { place } : {}),
  };
  const { people, groups, places, problems } = readDirectory(entries, words);
  const keys = new Map<string, string>();
  for (const entry of entries) {
    const dn = sameName(entry.dn);
    if (!keys.has(dn)) keys.set(dn, valuesOf(entry, 'entryUUID')[0] ?? dn);
  }
  const keyOf = (dn: string): string => keys.get(dn) ?? dn;
  return {
    feed: {
      people: [...people].map(([dn, person]) => ({
        ...{ key: keyOf(dn), match: person.key, name: person.name, active: true },
        place: person.place === null ? null : (places.get(person.place)?.name ?? null),
        groups: person.groups.map(keyOf),
      })),
      groups: [...groups].map(([dn, group]) => ({ key: keyOf(dn), name: group.name, memberOf: group.memberOf.map(keyOf) })),
      gone: { people: [], groups: [] },
    },
    problems,
  };
}
