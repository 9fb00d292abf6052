import { chainOf, type Reach } from '../access/index.js';
import type { CrossingRef, EstateModel } from '../estate/index.js';
import { subjectIn } from '../crossing/index.js';
import { resolveSettings } from '../settings/index.js';

/** A resource that somebody sees, and why. */
export interface SeenResource {
  resource: string;
  /** Ids along the way: person, groups, publication, portal, resource. */
  chain: string[];
}

/** What a person sees, at the sign-in they have and at the next one. */
export interface PersonSees {
  person: string;
  /** With the groups of the last sign-in; the same as after the next where no sign-in is known. */
  now: SeenResource[];
  afterNextSignIn: SeenResource[];
  /** When the last sign-in was, or null where none is known. */
  signedInAt: string | null;
  /** Resources of the groups that are attached to no portal. */
  hidden: { resource: string; publication: string }[];
  /** The one resource that starts at once after the next sign-in, or null. */
  startsAtOnce: string | null;
  mustChoose: boolean;
  /** Desktops to choose from, where there are several. */
  desktops: string[];
}

const listed = (person: string, reach: Reach): SeenResource[] =>
  reach.seen.map((each) => ({ resource: each.resource, chain: chainOf(person, each) }));

/** A crossing of the person, to know the settings they meet: on their own endpoint before a shared one. */
function mainCrossing(model: EstateModel, person: string): CrossingRef | undefined {
  const own = model.crossingsOf(person);
  return own.find((ref) => model.endpoints.get(ref.endpoint)?.person === person) ?? own[0];
}

/** What a person sees with the groups of now and with those of the next sign-in. */
export function seesOf(model: EstateModel, personId: string): PersonSees | null {
  const person = model.people.get(personId);
  if (!person) return null;
  const after = model.access.of(person.groups);
  const signedIn = model.signedIn.get(personId);
  const now = signedIn ? model.access.of(signedIn.groups) : after;
  const ref = mainCrossing(model, personId);
  const subject = ref && subjectIn(model, ref.endpoint, ref.person);
  const startOnly = subject ? resolveSettings(model.settings, subject)['session.startOnly'] : true;
  const [only] = after.seen;
  const desktops = after.seen.map(({ resource }) => resource).filter((id) => model.resources.get(id)?.kind === 'desktop');
  return {
    person: personId,
    now: listed(personId, now),
    afterNextSignIn: listed(personId, after),
    signedInAt: signedIn?.at ?? null,
    hidden: after.held.filter(({ portal }) => portal === null).map(({ resource, publication }) => ({ resource, publication })),
    startsAtOnce: after.seen.length === 1 && only && startOnly ? only.resource : null,
    mustChoose: after.seen.length > 1,
    desktops: desktops.length > 1 ? desktops : [],
  };
}
