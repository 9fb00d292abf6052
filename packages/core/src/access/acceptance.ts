import type { Person } from '@underpass/contracts';
import { setCover } from './cover.js';
import type { AccessIndex, Reach } from './reach.js';

/** People who see exactly the same. */
export interface EntitlementSet {
  people: string[];
  resources: string[];
}

/** Who has to try what before a change of access goes out: distinct entitlements, and the fewest testers that see everything. */
export interface AcceptancePlan {
  /** Distinct entitlement sets, the largest group of people first. */
  sets: EntitlementSet[];
  /** The smallest list of people who together see every publication that anybody sees. */
  testers: string[];
  optimal: boolean;
  /** Publications nobody sees, with the reason. */
  unseen: { publication: string; because: 'attached to no portal' | 'held by no group' | 'nobody is in its groups' }[];
}

/** What somebody sees, in one order, so that those who see the same are found. */
function sightOf({ seen, publications: held }: Reach, attached: ReadonlySet<string>) {
  const resources = seen.map(({ resource }) => resource).sort();
  const publications = held.filter((id) => attached.has(id)).sort();
  return { resources, publications, resourceKey: resources.join('\n'), publicationKey: publications.join('\n') };
}

/**
 * The distinct entitlement sets of an estate and the fewest people to test it with.
 * @param canTest people who can sign in: of those who see the same, one of them is chosen where there is one
 */
export function acceptancePlan(index: AccessIndex, canTest: (person: Person) => boolean = () => true): AcceptancePlan {
  const byResources = new Map<string, EntitlementSet>();
  const byPublications = new Map<string, { person: Person; publications: string[] }>();
  const attached = new Set([...index.publications.values()].filter(({ portals }) => portals.length > 0).map(({ id }) => id));
  const seen = new Set<string>();
  // many people are in the same groups, and reach the same
  const told = new Map<Reach, ReturnType<typeof sightOf>>();
  for (const person of index.people.values()) {
    const reach = index.of(person.groups);
    const sight = told.get(reach) ?? sightOf(reach, attached);
    told.set(reach, sight);
    const { resources, publications, resourceKey, publicationKey } = sight;
    if (resources.length === 0) continue;
    const known = byResources.get(resourceKey);
    if (known) known.people.push(person.id);
    else byResources.set(resourceKey, { people: [person.id], resources });
    for (const id of publications) seen.add(id);
    const same = byPublications.get(publicationKey);
    if (!same) byPublications.set(publicationKey, { person, publications });
    else if (!canTest(same.person) && canTest(person)) same.person = person;
  }
  const candidates = [...byPublications.values()];
  const { chosen, optimal } = setCover(candidates.map(({ publications }) => publications));
  const held = new Set([...index.groups.values()].flatMap(({ publications }) => publications));
  return {
    sets: [...byResources.values()].sort(
      (a, b) => b.people.length - a.people.length || ((a.people[0] as string) < (b.people[0] as string) ? -1 : 1),
    ),
    testers: chosen.map((i) => (candidates[i] as { person: Person }).person.id),
    optimal,
    unseen: [...index.publications.values()]
      .filter(({ id }) => !seen.has(id))
      .map(({ id }) => ({
        publication: id,
        because: !attached.has(id) ? 'attached to no portal' : !held.has(id) ? 'held by no group' : 'nobody is in its groups',
      })),
  };
}

/** What a tester should see beside what they saw. */
export interface SeenDifference {
  /** Expected and seen. */
  right: string[];
  /** Expected and not seen. */
  missing: string[];
  /** Seen and not expected. */
  extra: string[];
}
/** What somebody should have seen and did not, and what they saw besides. @example (["a","b"], ["b","c"]) is missing a, extra c */
export const seenDifference = (expected: readonly string[], saw: readonly string[]): SeenDifference => ({
  right: expected.filter((id) => saw.includes(id)),
  missing: expected.filter((id) => !saw.includes(id)),
  extra: saw.filter((id) => !expected.includes(id)),
});
