import { factsOfSet } from '../access/index.js';
import { remembered } from './chosen.js';
import type { CrossingFacts } from './facts.js';
import { FirstOf } from './firstOf.js';
import { handsOnPlainly } from './handed.js';
import { endpointNumber, personNumber } from './said.js';

/** How a fact of two crossings has to be the same for both to come to the same: the very same, alike in what it says, or whichever. */
type Likeness = 'same' | 'alike' | 'whichever';
/** A fact that is not named here does not compile: what is new has to be thought of. */
export const likeness: Record<keyof CrossingFacts, Likeness> = {
  ref: 'whichever',
  reader: 'same',
  person: 'alike',
  endpoint: 'alike',
  location: 'same',
  line: 'same',
  resource: 'same',
  resources: 'same',
  desktops: 'same',
  entitled: 'same',
  publication: 'same',
  portal: 'same',
  elsewhere: 'same',
  gates: 'same',
  devices: 'same',
  rules: 'same',
  pool: 'same',
  hosts: 'same',
  gateway: 'same',
  gatewayRegion: 'same',
  estate: 'same',
  // its groups are compared; all else of it is said by person, endpoint, location and line
  subject: 'whichever',
  settings: 'same',
  resolved: 'same',
  evidence: 'same',
  timed: 'same',
  others: 'same',
  hasSession: 'same',
  atMs: 'same',
  like: 'same',
  hour: 'same',
};
// written out, since it is asked of every crossing: a list of the names takes ten times as long. The test goes by the table above.
const areAlike = (a: CrossingFacts, b: CrossingFacts): boolean =>
  a.subject.groups === b.subject.groups &&
  a.resolved === b.resolved &&
  a.resource === b.resource &&
  a.evidence === b.evidence &&
  a.others === b.others &&
  a.location === b.location &&
  a.line === b.line &&
  a.devices === b.devices &&
  a.entitled === b.entitled &&
  a.publication === b.publication &&
  a.portal === b.portal &&
  a.desktops === b.desktops &&
  a.timed === b.timed &&
  a.hasSession === b.hasSession &&
  a.elsewhere === b.elsewhere &&
  a.resources === b.resources &&
  a.settings === b.settings &&
  a.gates === b.gates &&
  a.rules === b.rules &&
  a.pool === b.pool &&
  a.hosts === b.hosts &&
  a.gateway === b.gateway &&
  a.gatewayRegion === b.gatewayRegion &&
  a.estate === b.estate &&
  a.reader === b.reader &&
  a.atMs === b.atMs &&
  a.like === b.like &&
  a.hour === b.hour;

/** So many are kept of what they come to. */
const mostKept = 4000;

/** Facts by which those that are alike otherwise are told apart. */
const names = new Set(['person', 'endpoint'].flatMap((root) => ['id', 'name', 'person', 'users'].map((field) => `${root}.${field}`)));
const byName = new WeakMap<CrossingFacts['gates'], boolean>();
/** Whether one of the sets without which people do not get in asks for a name. */
const nameAmong = (gates: CrossingFacts['gates']): boolean => gates.some((set) => factsOfSet(set).some((fact) => names.has(fact)));
const askForNames = (gates: CrossingFacts['gates']): boolean => gates.length > 0 && remembered(byName, gates, nameAmong);

/** Whether a name decides: where a condition asks for it, or where it is written in a form of its own and may have to be typed again. */
const namesDecide = ({ gates, gateway, pool, resolved }: CrossingFacts): boolean =>
  gateway.nameForm !== undefined || pool.nameForm !== undefined || !resolved || !handsOnPlainly(resolved) || askForNames(gates);

/**
 * What many crossings come to: of those that are alike in everything but names (the same model at the same place, with the same rights,
 * for the same resource) one is worked out and holds for all. For one evaluation of many.
 */
export class Alike<T> {
  private readonly first: FirstOf<CrossingFacts, T>;

  /** @param work what is worked out of facts: it must come to the same whoever it is for, such as `summariseCrossing` does */
  constructor(private readonly work: (facts: CrossingFacts) => T) {
    this.first = new FirstOf(mostKept, areAlike, work);
  }

  /** What a crossing comes to. */
  of(facts: CrossingFacts): T {
    if (namesDecide(facts)) return this.work(facts);
    return this.first.of(facts, facts.resource, endpointNumber(facts.endpoint), personNumber(facts.person));
  }
}
