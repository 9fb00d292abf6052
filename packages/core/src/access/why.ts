import type { Pool, Portal, Resource } from '@underpass/contracts';
import { AccessIndex, type AccessEstate } from './reach.js';

/** One field of one object replaced: what a mend or a move writes. */
export interface AccessEdit {
  kind: 'person' | 'group' | 'publication';
  id: string;
  field: 'groups' | 'memberOf' | 'publications' | 'resources' | 'portals';
  value: readonly string[];
}

/** Links of the chain from person to resource, in the order they are followed. */
export const linkSteps = [
  'person in group',
  'group holds publication',
  'publication attached to portal',
  'publication holds resource',
] as const;
export type LinkStep = (typeof linkSteps)[number];

/** One object of a chain. */
export interface ChainLink {
  kind: 'person' | 'group' | 'publication' | 'portal' | 'resource';
  id: string;
}
const at = (kind: ChainLink['kind'], id: string): ChainLink => ({ kind, id });

export interface MissingLink {
  /** The first link of the chain that is missing. */
  step: LinkStep;
  /** The object the link is missing at. */
  object: string;
  remedy: string;
  edits: readonly AccessEdit[];
  /** The whole chain as it would be; `null` stands where a link is missing now. */
  chain: readonly (ChainLink | null)[];
  /** Other people who would see the resource too. */
  alsoOpensTo: readonly string[];
  /** Other resources the person would see too. */
  alsoGives: readonly string[];
}

/** The estate after edits; objects that are not edited are the same ones. */
export function withAccessEdits<E extends AccessEstate>(estate: E, edits: readonly AccessEdit[]): E {
  const change = <T extends { id: string }>(kind: AccessEdit['kind'], objects: readonly T[]): readonly T[] => {
    const own = new Map<string, Partial<Record<AccessEdit['field'], readonly string[]>>>();
    for (const edit of edits) if (edit.kind === kind) own.set(edit.id, { ...own.get(edit.id), [edit.field]: edit.value });
    if (own.size === 0) return objects;
    return objects.map((object) => {
      const fields = own.get(object.id);
      return fields ? { ...object, ...fields } : object;
    });
  };
  return {
    ...estate,
    person: change('person', estate.person),
    group: change('group', estate.group),
    publication: change('publication', estate.publication),
  };
}

export interface WhyEstate extends AccessEstate {
  readonly resource: readonly Resource[];
  readonly pool: readonly Pool[];
  readonly portal: readonly Portal[];
}

interface Candidate {
  edits: AccessEdit[];
  steps: { step: LinkStep; object: string; text: string }[];
  chain: (ChainLink | null)[];
}

const adding = (list: readonly string[], id: string): string[] => [...list, id];

/**
 * Why a person does not see a resource: the first missing link, and the smallest change that mends it. Smallest is the fewest
 * edits, then the fewest other people let in, then the fewest other resources given away. Null where the person sees it.
 * @returns undefined where nothing can mend it: the person or the resource does not exist, or no group and no portal does
 */
export function whyNotSeen(index: AccessIndex, estate: WhyEstate, personId: string, resourceId: string): MissingLink | null | undefined {
  const person = index.people.get(personId);
  const resource = estate.resource.find(({ id }) => id === resourceId);
  if (!person || !resource) return undefined;
  const reach = index.ofPerson(personId);
  if (reach.seen.some((each) => each.resource === resourceId)) return null;
  const inGroups = new Set(reach.groups);
  const gateway = estate.pool.find(({ id }) => id === resource.pool)?.gateway;
  const portal = estate.portal.find((each) => each.gateway === gateway) ?? estate.portal[0];
  const name = (kind: 'group' | 'publication', id: string) => index[kind === 'group' ? 'groups' : 'publications'].get(id)?.name ?? id;
  const candidates: Candidate[] = [];
  for (const publication of estate.publication) {
    if (publication.pool !== resource.pool || (publication.kind === 'desktop') !== (resource.kind === 'desktop')) continue;
    const tail: Candidate = { edits: [], steps: [], chain: [] };
    if (publication.portals.length === 0) {
      if (!portal) continue;
      tail.edits.push({ kind: 'publication', id: publication.id, field: 'portals', value: [portal.id] });
      tail.steps.push({
        step: 'publication attached to portal',
        object: publication.id,
        text: `attach the publication ${publication.name} to ${portal.name}`,
      });
      tail.chain.push(null, at('portal', portal.id));
    } else tail.chain.push(at('portal', publication.portals[0] as string));
    if (!publication.resources.includes(resourceId)) {
      tail.edits.push({ kind: 'publication', id: publication.id, field: 'resources', value: adding(publication.resources, resourceId) });
      tail.steps.push({
        step: 'publication holds resource',
        object: publication.id,
        text: `put ${resource.name} into the publication ${publication.name}`,
      });
      tail.chain.push(null);
    }
    tail.chain.push(at('resource', resourceId));
    const add = (head: Candidate) =>
      candidates.push({
        edits: [...head.edits, ...tail.edits],
        steps: [...head.steps, ...tail.steps],
        chain: [at('person', person.id), ...head.chain, at('publication', publication.id), ...tail.chain],
      });
    const holder = reach.groups.find((id) => index.groups.get(id)?.publications.includes(publication.id));
    if (holder !== undefined) {
      const way = reach.held.find((each) => each.publication === publication.id)?.groups ?? [holder];
      add({ edits: [], steps: [], chain: way.map((id) => at('group', id)) });
      continue;
    }
    for (const group of estate.group) {
      if (group.publications.includes(publication.id)) {
        if (inGroups.has(group.id)) continue;
        add({
          edits: [{ kind: 'person', id: person.id, field: 'groups', value: adding(person.groups, group.id) }],
          steps: [{ step: 'person in group', object: person.id, text: `put ${person.name} into the group ${group.name}` }],
          chain: [null, at('group', group.id)],
        });
      } else if (person.groups.includes(group.id))
        add({
          edits: [{ kind: 'group', id: group.id, field: 'publications', value: adding(group.publications, publication.id) }],
          steps: [
            {
              step: 'group holds publication',
              object: group.id,
              text: `let the group ${name('group', group.id)} hold the publication ${publication.name}`,
            },
          ],
          chain: [at('group', group.id), null],
        });
    }
  }
  return smallest(index, estate, personId, resourceId, candidates);
}

/** The candidate of the fewest edits, people let in and resources given away. */
function smallest(
  index: AccessIndex,
  estate: WhyEstate,
  person: string,
  resource: string,
  candidates: readonly Candidate[],
): MissingLink | undefined {
  const fewest = Math.min(...candidates.map(({ edits }) => edits.length));
  const seeing = index.peopleSeeing(resource);
  const seen = new Set(index.ofPerson(person).seen.map((each) => each.resource));
  let best: { candidate: Candidate; opens: string[]; gives: string[] } | null = null;
  for (const candidate of candidates) {
    if (candidate.edits.length > fewest) continue;
    // a change of the person's own groups lets nobody else in, and the index of now can tell what it comes to
    const own = candidate.edits.every((edit) => edit.kind === 'person') ? candidate.edits[0] : undefined;
    const after = own ? index : new AccessIndex(withAccessEdits<AccessEstate>(estate, candidate.edits));
    const opens = own ? [] : [...after.peopleSeeing(resource)].filter((id) => id !== person && !seeing.has(id));
    const gives = (own ? index.of(own.value) : after.ofPerson(person)).seen
      .map((each) => each.resource)
      .filter((id) => id !== resource && !seen.has(id));
    const order = best && (opens.length - best.opens.length || gives.length - best.gives.length);
    if (order === null || order < 0) best = { candidate, opens, gives };
  }
  if (!best) return undefined;
  const { candidate, opens, gives } = best;
  const first = candidate.steps[0];
  if (!first) return undefined;
  const text = candidate.steps.map((step) => step.text).join(', and ');
  return {
    step: first.step,
    object: first.object,
    remedy: text.charAt(0).toUpperCase() + text.slice(1),
    edits: candidate.edits,
    chain: candidate.chain,
    alsoOpensTo: opens,
    alsoGives: gives,
  };
}
