import type { Change } from '../estate/change.js';
import type { Person } from '../estate/objects.js';

/** An object by name, as screens show it. */
export interface Named {
  id: string;
  name: string;
}
export type ChainNode = Named & { kind: 'person' | 'group' | 'publication' | 'portal' | 'resource' };

export interface AccessPersonRow extends Named {
  kind: Person['kind'];
  locationName: string;
  groups: Named[];
  now: number;
  after: number;
  /** What they see now is not what they will see after the next sign-in. */
  changes: boolean;
  hidden: number;
  desktops: string[];
}
export interface AccessPeople {
  total: number;
  /** Of those who fit the search and the group. */
  counts: Record<'hidden' | 'nothing' | 'changes' | 'must choose' | 'guests', number>;
  rows: AccessPersonRow[];
}
export interface SeenItem extends Named {
  kind: 'desktop' | 'app';
  chain: ChainNode[];
}
export interface AccessPersonView {
  person: Person;
  locationName: string;
  groups: Named[];
  now: SeenItem[];
  after: SeenItem[];
  signedInAt: string | null;
  startsAtOnce: string | null;
  mustChoose: boolean;
  desktops: string[];
  /** Every resource they do not see. */
  notSeen: (Named & { kind: 'desktop' | 'app'; hiddenIn: string | null })[];
  crossings: { id: string; resource: string; endpoint: string }[];
  sightings: {
    at: string;
    portalName: string;
    outcome: string;
    saw: string[];
    missing: string[];
    extra: string[];
    opened: string | null;
    seconds: number;
  }[];
}
export interface WhyView {
  seen: boolean;
  step: string | null;
  object: string | null;
  remedy: string | null;
  /** The change that mends it. */
  change: Change;
  /** null stands where the link is missing. */
  chain: (ChainNode | null)[];
  alsoOpensTo: Named[];
  alsoOpensCount: number;
  alsoGives: Named[];
}
export interface PublicationRow extends Named {
  kind: 'desktop' | 'apps';
  poolName: string;
  resources: Named[];
  groups: (Named & { people: number })[];
  portals: Named[];
  people: number;
  state: 'seen' | 'attached to no portal' | 'held by no group' | 'nobody is in its groups';
}
export interface ResourceReach extends Named {
  kind: 'desktop' | 'app';
  people: number;
  ways: { chain: ChainNode[]; people: number; first: Named[] }[];
}
export interface ConsequenceView {
  /** Version of the estate it was worked out on. */
  version: number;
  /** Objects it would write. */
  writes: number;
  people: number;
  rows: { person: Named; gains: string[]; loses: string[]; desktops: string[]; at: 'next sign-in' }[];
  /** Verdicts of the crossings that would be new. */
  verdicts: { clear: number; limited: number; blocked: number; unknown: number };
  /** What is short on them, told once for everybody it is alike for. */
  worst: { verdict: 'blocked' | 'limited' | 'unknown'; sentence: string; people: number; first: string }[];
}
export interface GuestRow extends Named {
  state: 'ended' | 'ending soon' | 'not accepted' | 'current' | 'not recorded';
  owner: Named | null;
  organisation: string | null;
  country: string | null;
  endsOn: string | null;
  daysLeft: number | null;
  invitation: string | null;
  reaches: string[];
  unmet: string[];
  /** A crossing of theirs, to see it on. */
  crossing: string | null;
}
export interface TesterRow {
  person: string;
  name: string;
  expected: Named[];
  /** What they saw; null until it is known. */
  saw: string[] | null;
  source: 'entered' | 'reported' | null;
  at: string | null;
  by: string | null;
  note: string | null;
  missing: Named[];
  extra: Named[];
}
export interface AcceptanceView {
  sets: { people: number; first: Named[]; resources: Named[] }[];
  testers: Named[];
  optimal: boolean;
  publications: number;
  unseen: (Named & { because: string })[];
  run: {
    id: string;
    startedAt: string;
    startedBy: string;
    testers: TesterRow[];
    signedOffAt: string | null;
    signedOffBy: string | null;
  } | null;
  /** Every run there was, the latest first. */
  runs: {
    id: string;
    startedAt: string;
    startedBy: string;
    people: number;
    looked: number;
    /** People who saw something else than they should. */
    differ: number;
    signedOffAt: string | null;
    signedOffBy: string | null;
  }[];
}
export interface LinkTestView {
  verdict: string;
  sentence: string;
  ladder: { name: string; state: string; bay: string }[];
  crossing: string | null;
  lost: { feature: string; support: 'yes' | 'partly' | 'no'; from: string | null }[];
  /** Everything that was looked at. */
  features: string[];
  browserName: string;
  source: string;
  /** The browser that a field check found on this endpoint. */
  measured: { browser: string; name: string; version: string } | null;
  /** Seconds to the first useful picture with the list and with the link. */
  beforeS: number;
  afterS: number;
  savedS: number;
}
export interface RequirementSetView {
  id: string;
  name: string;
  purpose: string;
  breaks: string | null;
  givenUp: string[];
  origin: 'shipped' | 'shipped, changed here' | 'own';
  /** Version it was last written at; 0 where it was not. */
  version: number;
  text: string;
  ready: number;
  fallback: number;
  notReady: number;
  notKnown: number;
  blockers: { condition: string; name: string; bay: string; people: number; alone: number; who: string; remedy: string; effortH: number }[];
  remedies: { works: { name: string; object: string; who: string; effortH: number }[]; people: number; effortH: number }[];
  people: { id: string; name: string; readiness: string; crossing: string; unmet: string[] }[];
}
export interface CrossingReadiness {
  sets: {
    id: string;
    name: string;
    readiness: string;
    givenUp: string[];
    conditions: { id: string; name: string; bay: string; state: string; remedy: string; who: string; costs: string | null }[];
  }[];
}
export interface SavingsView {
  people: number;
  meanS: number;
  signInsPerDay: number;
  workingDays: number;
  savings: { id: string; name: string; people: number; savedS: number; hoursAYear: number }[];
}
