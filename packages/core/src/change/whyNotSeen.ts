import type { Change, Patch } from '@underpass/contracts';
import type { EstateModel } from '../estate/index.js';
import { doing } from './change.js';
import { overlay } from './overlay.js';

/** Links of the chain from person to resource, in the order they are followed. */
export const linkSteps = [
  'person in group',
  'group holds publication',
  'publication attached to portal',
  'publication holds resource',
] as const;
/** A step of the chain from person to resource. */
export type LinkStep = (typeof linkSteps)[number];

/** One object of a chain. */
export interface ChainLink {
  kind: 'person' | 'group' | 'publication' | 'portal' | 'resource';
  id: string;
}
const at = (kind: ChainLink['kind'], id: string): ChainLink => ({ kind, id });

/** The first link that is not there, and the smallest change that makes it. */
export interface MissingLink {
  /** The first link of the chain that is missing. */
  step: LinkStep;
  /** The object the link is missing at. */
  object: string;
  remedy: string;
  /** The change that mends it. */
  change: Change;
  /** The whole chain as it would be; `null` stands where a link is missing now. */
  chain: readonly (ChainLink | null)[];
  /** Other people who would see the resource too. */
  alsoOpensTo: readonly string[];
  /** Other resources the person would see too. */
  alsoGives: readonly string[];
}

interface Candidate {
  patches: Patch[];
  steps: { step: LinkStep; object: string; text: string }[];
  chain: (ChainLink | null)[];
}

const adding = (kind: 'person' | 'group' | 'publication', id: string, field: string, entry: string): Patch => ({
  do: 'change',
  kind,
  id,
  add: { [field]: [entry] },
});

/**
 * Why a person does not see a resource: the first missing link, and the smallest change that mends it. Smallest is the fewest
 * edits, then the fewest other people let in, then the fewest other resources given away. Null where the person sees it.
 * @returns undefined where nothing can mend it: the person or the resource does not exist, or no group and no portal does
 */
export function whyNotSeen(model: EstateModel, personId: string, resourceId: string): MissingLink | null | undefined {
  const { access: index } = model;
  const person = model.people.get(personId);
  const resource = model.resources.get(resourceId);
  if (!person || !resource) return undefined;
  const reach = index.ofPerson(personId);
  if (reach.seen.some((each) => each.resource === resourceId)) return null;
  const inGroups = new Set(reach.groups);
  const byId = (a: { id: string }, b: { id: string }) => (a.id < b.id ? -1 : 1);
  const gateway = model.pools.get(resource.pool)?.gateway;
  const portals = [...model.portals.values()].sort(byId);
  const portal = portals.find((each) => each.gateway === gateway) ?? portals[0];
  const name = (kind: 'group' | 'publication', id: string) => index[kind === 'group' ? 'groups' : 'publications'].get(id)?.name ?? id;
  const candidates: Candidate[] = [];
  for (const publication of [...model.publications.values()].sort(byId)) {
    if (publication.pool !== resource.pool || (publication.kind === 'desktop') !== (resource.kind === 'desktop')) continue;
    const tail: Candidate = { patches: [], steps: [], chain: [] };
    if (publication.portals.length === 0) {
      if (!portal) continue;
      tail.patches.push(adding('publication', publication.id, 'portals', portal.id));
      tail.steps.push({
        step: 'publication attached to portal',
        object: publication.id,
        text: `attach the publication ${publication.name} to ${portal.name}`,
      });
      tail.chain.push(null, at('portal', portal.id));
    } else tail.chain.push(at('portal', publication.portals[0] as string));
    if (!publication.resources.includes(resourceId)) {
      tail.patches.push(adding('publication', publication.id, 'resources', resourceId));
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
        patches: [...head.patches, ...tail.patches],
        steps: [...head.steps, ...tail.steps],
        chain: [at('person', person.id), ...head.chain, at('publication', publication.id), ...tail.chain],
      });
    const holder = reach.groups.find((id) => index.groups.get(id)?.publications.includes(publication.id));
    if (holder !== undefined) {
      const way = reach.held.find((each) => each.publication === publication.id)?.groups ?? [holder];
      add({ patches: [], steps: [], chain: way.map((id) => at('group', id)) });
      continue;
    }
    for (const group of [...model.groups.values()].sort(byId)) {
      if (group.publications.includes(publication.id)) {
        if (inGroups.has(group.id)) continue;
        add({
          patches: [adding('person', person.id, 'groups', group.id)],
          steps: [{ step: 'person in group', object: person.id, text: `put ${person.name} into the group ${group.name}` }],
          chain: [null, at('group', group.id)],
        });
      } else if (person.groups.includes(group.id))
        add({
          patches: [adding('group', group.id, 'publications', publication.id)],
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
  return smallest(model, personId, resourceId, candidates);
}

/** The candidate of the fewest edits, people let in and resources given away. */
function smallest(model: EstateModel, person: string, resource: string, candidates: readonly Candidate[]): MissingLink | undefined {
  const fewest = Math.min(...candidates.map(({ patches }) => patches.length));
  const { access: index } = model;
  const seeing = index.peopleSeeing(resource);
  const seen = new Set(index.ofPerson(person).seen.map((each) => each.resource));
  let best: { candidate: Candidate; opens: string[]; gives: string[] } | null = null;
  for (const candidate of candidates) {
    if (candidate.patches.length > fewest) continue;
    // what else is measured or typed plays no part here, so no instant is needed
    const after = overlay(model, doing(...candidate.patches), 0).access;
    // a change of the person's own groups lets nobody else in
    const own = candidate.patches.every((patch) => patch.do === 'change' && patch.kind === 'person');
    const opens = own ? [] : [...after.peopleSeeing(resource)].filter((id) => id !== person && !seeing.has(id));
    const gives = after
      .ofPerson(person)
      .seen.map((each) => each.resource)
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
    change: doing(...candidate.patches),
    chain: candidate.chain,
    alsoOpensTo: opens,
    alsoGives: gives,
  };
}
