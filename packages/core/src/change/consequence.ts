import type { ObjectKind } from '@underpass/contracts';
import type { EstateModel } from '../estate/index.js';

/** What a person sees more and less after a change; ids of publications. */
export interface PersonConsequence {
  person: string;
  gains: string[];
  loses: string[];
  /** Desktops they would have to choose from, where there are several and the change makes them other ones than now. */
  desktops: string[];
}

/** Kinds that decide what people see; what else changes makes nobody's list another one. */
const accessKinds = new Set<ObjectKind>(['group', 'publication']);

/** People whose list a change may alter: those written, and everybody where groups or publications are others. */
function concerned(before: EstateModel, after: EstateModel): Iterable<string> {
  const writes = after.laid?.under === before ? after.laid.writes : null;
  if (!writes || writes.some(({ kind }) => accessKinds.has(kind))) return after.people.keys();
  return new Set(writes.flatMap(({ kind, id }) => (kind === 'person' ? [id] : [])));
}

/** What a change comes to for everybody whose list of resources it alters. */
export function consequenceOf(before: EstateModel, after: EstateModel): PersonConsequence[] {
  const isDesktop = (id: string) => after.resources.get(id)?.kind === 'desktop';
  const result: PersonConsequence[] = [];
  for (const id of concerned(before, after)) {
    const person = after.people.get(id);
    if (!person) continue;
    const now = before.reachOf(id).seen.map(({ resource }) => resource);
    const then = after.access.of(person.groups).seen.map(({ resource }) => resource);
    const had = new Set(now);
    const has = new Set(then);
    const gains = then.filter((resource) => !had.has(resource));
    const loses = now.filter((resource) => !has.has(resource));
    if (gains.length + loses.length === 0) continue;
    const desktops = then.filter(isDesktop);
    const others = [...gains, ...loses].some(isDesktop);
    result.push({ person: id, gains, loses, desktops: desktops.length > 1 && others ? desktops : [] });
  }
  return result;
}
