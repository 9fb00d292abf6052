import type { Endpoint, Person } from '@underpass/contracts';
import { factsOfSet } from '../access/index.js';
import { remembered } from './chosen.js';
import type { CrossingFacts } from './facts.js';
import { handsOnPlainly } from './handed.js';

/** How a fact of two crossings has to be the same for both to come to the same: the very same, alike in what it says, or whichever. */
type Likeness = 'same' | 'alike' | 'whichever';
/** A fact that is not named here does not compile: what is new has to be thought of. */
const likeness: Record<keyof CrossingFacts, Likeness> = {
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
const compared = (Object.keys(likeness) as (keyof CrossingFacts)[]).filter((fact) => likeness[fact] === 'same');
const areAlike = (a: CrossingFacts, b: CrossingFacts): boolean =>
  a.subject.groups === b.subject.groups && compared.every((fact) => a[fact] === b[fact]);

/** So many are kept; beyond that it begins anew, so that what nobody is like holds nothing. */
const mostKept = 4000;
/** So many of one resource, device and person are kept: what tells them apart tells most of them apart. */
const mostOfOne = 8;

/** Facts by which those that are alike otherwise are told apart. */
const names = new Set(['person', 'endpoint'].flatMap((root) => ['id', 'name', 'person', 'users'].map((field) => `${root}.${field}`)));
const byName = new WeakMap<CrossingFacts['gates'], boolean>();
/** Whether one of the sets without which people do not get in asks for a name. */
const askForNames = (gates: CrossingFacts['gates']): boolean =>
  gates.length > 0 && remembered(byName, gates, () => gates.some((set) => factsOfSet(set).some((fact) => names.has(fact))));

/** Whether a name decides: where a condition asks for it, or where it is written in a form of its own and may have to be typed again. */
const namesDecide = ({ gates, gateway, pool, resolved }: CrossingFacts): boolean =>
  gateway.nameForm !== undefined || pool.nameForm !== undefined || !resolved || !handsOnPlainly(resolved) || askForNames(gates);

/** What an endpoint says beside its name and whose it is. */
const saidOfEndpoint = ({ id: _id, name: _name, person: _person, users: _users, ...rest }: Endpoint): string => JSON.stringify(rest);
/** What is said of a person beside the name. */
const saidOfPerson = ({ id: _id, name: _name, ...rest }: Person): string => JSON.stringify(rest);

/** So many texts are told apart; beyond that it begins anew. */
const mostTexts = 5000;

/** Objects by number: those that say the same have the same one. */
class Numbered<T extends object> {
  private known = new WeakMap<T, number>();
  private texts = new Map<string, number>();
  private next = 0;
  constructor(private readonly textOf: (of: T) => string) {}
  number(of: T): number {
    let number = this.known.get(of);
    if (number !== undefined) return number;
    if (this.texts.size >= mostTexts) {
      this.known = new WeakMap();
      this.texts = new Map();
    }
    const text = this.textOf(of);
    number = this.texts.get(text) ?? this.next++;
    this.texts.set(text, number);
    this.known.set(of, number);
    return number;
  }
}

/** Which endpoints and which people say the same. For long: what was compared once is not compared again. */
export class Likes {
  private readonly endpoints = new Numbered(saidOfEndpoint);
  private readonly people = new Numbered(saidOfPerson);
  /** The same for crossings whose device and person say the same, for the same resource. */
  keyOf({ endpoint, person, resource }: CrossingFacts): string {
    return `${this.endpoints.number(endpoint)}/${this.people.number(person)}/${resource.id}`;
  }
}

/**
 * What many crossings come to: of those that are alike in everything but names (the same model at the same place, with the same rights,
 * for the same resource) one is worked out and holds for all. For one evaluation of many.
 */
export class Alike<T> {
  private kept = new Map<string, { facts: CrossingFacts; made: T }[]>();
  private count = 0;

  /** @param work what is worked out of facts: it must come to the same whoever it is for, such as `summariseCrossing` does */
  constructor(
    private readonly work: (facts: CrossingFacts) => T,
    private readonly likes = new Likes(),
  ) {}

  /** What a crossing comes to. */
  of(facts: CrossingFacts): T {
    if (namesDecide(facts)) return this.work(facts);
    const key = this.likes.keyOf(facts);
    const several = this.kept.get(key) ?? [];
    const known = several.find((each) => areAlike(each.facts, facts));
    if (known) return known.made;
    const made = this.work(facts);
    if (this.count >= mostKept) {
      this.kept = new Map();
      this.count = 0;
    }
    if (several.length < mostOfOne) {
      this.count++;
      this.kept.set(key, [...several, { facts, made }]);
    }
    return made;
  }
}
