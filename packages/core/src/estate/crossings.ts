import type { Endpoint } from '@underpass/contracts';

/** One crossing by name: a person on an endpoint through to a resource. */
export interface CrossingRef {
  id: string;
  person: string;
  endpoint: string;
  location: string;
  resource: string;
}

/** The name of a crossing. @example ("ann", "e1", "mail") is "ann~e1~mail" */
export const crossingId = (person: string, endpoint: string, resource: string): string => `${person}~${endpoint}~${resource}`;

/** The people who use an endpoint: its usual person, and everybody a shared one counts for. */
export const usersOf = (endpoint: Endpoint): string[] => [...new Set([...(endpoint.person ? [endpoint.person] : []), ...endpoint.users])];

const places = new WeakMap<readonly CrossingRef[], ReadonlyMap<string, readonly CrossingRef[]>>();

/** A list of crossings by their locations, parted once. */
export function placesOf(list: readonly CrossingRef[]): ReadonlyMap<string, readonly CrossingRef[]> {
  const known = places.get(list);
  if (known) return known;
  const parted = new Map<string, CrossingRef[]>();
  for (const ref of list) {
    const here = parted.get(ref.location);
    if (here) here.push(ref);
    else parted.set(ref.location, [ref]);
  }
  places.set(list, parted);
  return parted;
}

/** A list of crossings, in the order of their endpoints, in which some endpoints have others. */
export function replaced(list: readonly CrossingRef[], now: ReadonlyMap<string, readonly CrossingRef[]>): CrossingRef[] {
  const come = [...now].sort(([a], [b]) => (a < b ? -1 : 1));
  const all: CrossingRef[] = [];
  let next = 0;
  for (const ref of list) {
    for (let one = come[next]; one && one[0] <= ref.endpoint; one = come[++next]) all.push(...one[1]);
    if (!now.has(ref.endpoint)) all.push(ref);
  }
  for (; next < come.length; next++) all.push(...(come[next]?.[1] ?? []));
  return all;
}
