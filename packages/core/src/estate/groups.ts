import type { Group, Person } from '@underpass/contracts';

/** The person's groups from the lowest rank to the highest; unknown ids are left out. */
export const groupsOf = (person: Person, groups: ReadonlyMap<string, Group>): Group[] =>
  person.groups.flatMap((id) => groups.get(id) ?? []).sort((a, b) => a.rank - b.rank || (a.id < b.id ? -1 : 1));

/** Ids of the resources a person's groups give, each once, in the order of the groups. */
export function resourcesOf(person: Person, groups: ReadonlyMap<string, Group>): string[] {
  const ids = new Set<string>();
  for (const group of groupsOf(person, groups)) for (const id of group.resources) ids.add(id);
  return [...ids];
}
