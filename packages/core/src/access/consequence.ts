import type { AccessIndex } from './reach.js';
import type { AccessEdit } from './why.js';

/** People taken out of one group and put into another, at the same moment. */
export interface Move {
  people: readonly string[];
  leave: string | null;
  join: string | null;
}

/** The edits of a move; people whom it does not change have none. */
export function editsOfMove(index: AccessIndex, { people, leave, join }: Move): AccessEdit[] {
  return people.flatMap((id) => {
    const person = index.people.get(id);
    if (!person) return [];
    const rest = person.groups.filter((group) => group !== leave);
    const groups = join !== null && !rest.includes(join) ? [...rest, join] : rest;
    const changed = groups.length !== person.groups.length || groups.some((group, i) => group !== person.groups[i]);
    return changed ? [{ kind: 'person', id, field: 'groups', value: groups }] : [];
  });
}

export interface PersonConsequence {
  person: string;
  gains: string[];
  loses: string[];
  /** Desktops they would have to choose from, where there are several and the change makes them other ones than now. */
  desktops: string[];
}

/** What an access change comes to for everybody whose list changes. `desktop` tells whether a resource is a desktop. */
export function consequenceOf(before: AccessIndex, after: AccessIndex, desktop: (resource: string) => boolean): PersonConsequence[] {
  const result: PersonConsequence[] = [];
  for (const person of after.estate.person) {
    const now = before.ofPerson(person.id).seen.map(({ resource }) => resource);
    const then = after.of(person.groups).seen.map(({ resource }) => resource);
    const had = new Set(now);
    const has = new Set(then);
    const gains = then.filter((id) => !had.has(id));
    const loses = now.filter((id) => !has.has(id));
    if (gains.length + loses.length === 0) continue;
    const desktops = then.filter(desktop);
    const others = [...gains, ...loses].some(desktop);
    result.push({ person: person.id, gains, loses, desktops: desktops.length > 1 && others ? desktops : [] });
  }
  return result;
}
