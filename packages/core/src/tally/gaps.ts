import type { ObjectKind } from '@underpass/contracts';
import { computeFigures, type CrossingFacts, type CrossingFigures, type Missing } from '../crossing/index.js';
import { factsRead, knownWays, type FactRead, type Known } from './gapFacts.js';
import { ifChecked } from './ifChecked.js';
import { isOfEach, wayOf, ways, type WayToLearn } from './settle.js';

/** How a fact is known of the things that crossings pass, and how many verdicts hang on it. */
export interface GapFact extends Record<Known, number> {
  kind: ObjectKind;
  field: string;
  /** Crossings that are Unknown because it is not known, or not closely enough. */
  decides: number;
}
/** One thing to do, and what it is done to. */
export interface GapAct {
  way: WayToLearn;
  /** A place, a pool or a gateway. */
  kind: 'location' | 'pool' | 'gateway';
  id: string;
  /** How often: once, or on each of the endpoints. */
  times: number;
  /** Local hour about which it is best done, 0 to 23, where the line is another at another hour; else null. */
  hour: number | null;
  /** Endpoints it is done on: each that has to, or for a shared line one that serves all. */
  endpoints: string[];
}
/** What somebody can do to know more, and what that settles. */
export interface GapStep {
  acts: GapAct[];
  /** The place it is about; null where it is about something that many places use. */
  location: string | null;
  /** Crossings that have nothing else missing once it is done, beyond those of the steps before. */
  crossings: number;
  people: number;
  minutes: number;
}
/** What is known of an estate, and what is best learned next. */
export interface Gaps {
  facts: GapFact[];
  /** The same by place, those with most that hangs on something first. */
  places: { location: string; unknown: number; facts: GapFact[] }[];
  /** The best first, each counted after those before it are done. */
  next: GapStep[];
  /** Crossings that are Unknown. */
  unknown: number;
  /** Those of them that lie at a limit, so that measuring again is not likely to settle them. */
  atLimit: number;
}

/** Steps that are told. */
const mostSteps = 30;
/** More things to do than this for one crossing are not looked at part by part. */
const mostActs = 8;

interface Group {
  acts: readonly string[];
  crossings: number;
  people: Set<string>;
  /** By what is done on each: the endpoints. */
  endpoints: Map<string, Set<string>>;
  /** How many of its crossings are at their worst in which hour, where that makes a difference. */
  hours: Map<number, number>;
}

/** Things known in each way, by fact; a thing that several crossings pass counts once, as badly as it is known on any. */
class Tallied {
  readonly things = factsRead.map(() => new Map<string, Known>());
  readonly decides = factsRead.map(() => 0);
  unknown = 0;

  add(at: number, thing: string, known: Known): void {
    const map = this.things[at] as Map<string, Known>;
    const before = map.get(thing);
    if (before === undefined || knownWays.indexOf(known) > knownWays.indexOf(before)) map.set(thing, known);
  }

  facts(): GapFact[] {
    return factsRead.flatMap(({ kind, field }, i): GapFact[] => {
      const things = this.things[i] as Map<string, Known>;
      if (things.size === 0) return [];
      const counts: Record<Known, number> = { measured: 0, reported: 0, declared: 0, assumed: 0, notKnown: 0 };
      for (const known of things.values()) counts[known]++;
      return [{ kind, field, ...counts, decides: this.decides[i] as number }];
    });
  }
}

/** The act that makes a fact known, as a key: its way, the kind and id of what it is done to, and whether on each endpoint. */
function actOf(fact: Missing, { location, pool, gateway }: CrossingFacts): string {
  const way = wayOf[fact];
  if (way === 'report of the hosts') return `${way}\npool\n${pool.id}\nonce`;
  if (way === 'look at the gateway') return `${way}\ngateway\n${gateway.id}\nonce`;
  return `${way}\nlocation\n${location.id}\n${isOfEach(fact, location.ownLines) ? 'each' : 'once'}`;
}
const once = /\nonce$/;
const isOfLine = (fact: Missing): boolean => wayOf[fact] === 'field check' && !isOfEach(fact, false);
const nothing: ReadonlySet<Missing> = new Set();

/** By so much a check may find another round trip than is likeliest: what is settled only without that is not promised; ours. */
const near = 0.03;

/** What a crossing comes to once its line is measured, on its own endpoint or beside it: the worse where they are not the same. */
function onceChecked(facts: CrossingFacts, figures: CrossingFigures): Pick<CrossingFigures, 'verdict' | 'missing'> {
  let found: CrossingFigures | null = null;
  for (const own of [false, true])
    for (const factor of [1 - near, 1 + near]) {
      found = computeFigures(ifChecked(facts, figures, factor, own));
      if (found.verdict === 'unknown' && found.missing.some(isOfLine)) return found;
    }
  return found as CrossingFigures;
}

/** What is known of the things that crossings pass, and which measurement would settle most of those that are not. */
export class GapsTally {
  private readonly whole = new Tallied();
  private readonly places = new Map<string, Tallied>();
  private readonly groups = new Map<string, Group>();
  private atLimit = 0;

  /** @param learn what a crossing comes to once its line is measured */
  constructor(
    private readonly learn: (facts: CrossingFacts, figures: CrossingFigures) => Pick<CrossingFigures, 'verdict' | 'missing'> = onceChecked,
  ) {}

  add(facts: CrossingFacts, figures: CrossingFigures): void {
    const place = this.placeOf(facts.location.id);
    const isUnknown = figures.verdict === 'unknown';
    const missing = isUnknown ? new Set(figures.missing) : null;
    factsRead.forEach((fact, i) => this.addFact(fact, i, place, facts, figures, missing));
    if (!missing) return;
    this.whole.unknown++;
    place.unknown++;
    this.wait(facts, this.allMissing(facts, figures, missing), figures.way.rttHour);
  }

  private placeOf(location: string): Tallied {
    let place = this.places.get(location);
    if (!place) this.places.set(location, (place = new Tallied()));
    return place;
  }

  private addFact(
    fact: FactRead,
    at: number,
    place: Tallied,
    facts: CrossingFacts,
    figures: CrossingFigures,
    missing: ReadonlySet<Missing> | null,
  ): void {
    const decides = missing !== null && fact.missing.some((each) => missing.has(each));
    for (const tallied of [this.whole, place]) {
      for (const [thing, known] of fact.of(facts, figures)) tallied.add(at, thing, known);
      if (decides) (tallied.decides[at] as number) += 1;
    }
  }

  /** What is missing, and what would show to be missing once the line is known: doubts of the line cover others. */
  private allMissing(facts: CrossingFacts, figures: CrossingFigures, missing: ReadonlySet<Missing>): ReadonlySet<Missing> {
    if (![...missing].some((fact) => isOfLine(fact))) return missing;
    const after = this.learn(facts, figures);
    if (after.verdict !== 'unknown') return missing;
    // it lies at a limit: what is likeliest, measured closely, leaves it Unknown, and no check is promised to settle it
    if (after.missing.some((fact) => isOfLine(fact))) return nothing;
    return new Set([...missing, ...after.missing]);
  }

  /** A crossing waits for all that is missing: done in part it stays Unknown. */
  private wait(facts: CrossingFacts, missing: ReadonlySet<Missing>, hour: number): void {
    const wanted = new Set([...missing].map((fact) => actOf(fact, facts)));
    if (wanted.size === 0) return void this.atLimit++;
    // a check on the endpoint itself measures the line too
    for (const act of wanted) if (once.test(act) && wanted.has(act.replace(once, '\neach'))) wanted.delete(act);
    const acts = [...wanted].sort();
    const key = acts.join('\0');
    let group = this.groups.get(key);
    if (!group) this.groups.set(key, (group = { acts, crossings: 0, people: new Set(), endpoints: new Map(), hours: new Map() }));
    group.crossings++;
    if (facts.estate.assumed.lines[facts.line.lineKind].evening !== null) group.hours.set(hour, (group.hours.get(hour) ?? 0) + 1);
    group.people.add(facts.person.id);
    for (const act of acts) {
      const endpoints = group.endpoints.get(act) ?? new Set();
      group.endpoints.set(act, endpoints.add(facts.endpoint.id));
    }
  }

  result(): Gaps {
    return {
      facts: this.whole.facts(),
      places: [...this.places]
        .map(([location, tallied]) => ({ location, unknown: tallied.unknown, facts: tallied.facts() }))
        .sort((a, b) => b.unknown - a.unknown || (a.location < b.location ? -1 : 1)),
      next: this.steps(),
      unknown: this.whole.unknown,
      atLimit: this.atLimit,
    };
  }

  private steps(): GapStep[] {
    const waiting = new Map(this.groups);
    // what each group's acts would settle: looked at anew only where a group that shares an act with it has gone
    const offers = new Map<string, Offer>();
    const steps: GapStep[] = [];
    while (waiting.size > 0 && steps.length < mostSteps) {
      let best: Offer | null = null;
      for (const [key, group] of waiting) {
        let offer = offers.get(key);
        if (!offer) offers.set(key, (offer = offerOf(group.acts, waiting)));
        if (!best || isBefore(offer.step, best.step)) best = offer;
      }
      if (!best) break;
      steps.push(best.step);
      const gone = best.done.flatMap((key) => waiting.get(key)?.acts ?? []);
      for (const key of best.done) waiting.delete(key);
      const touched = new Set([...gone, ...this.withoutActs(waiting, new Set(best.acts))]);
      for (const [key, { acts }] of offers) if (!waiting.has(key) || acts.some((act) => touched.has(act))) offers.delete(key);
    }
    return steps;
  }

  /** Groups that wait for less, since what is done once for a place, a pool or a gateway is done for all. Gives the acts of those. */
  private withoutActs(waiting: Map<string, Group>, done: ReadonlySet<string>): string[] {
    const touched: string[] = [];
    for (const [key, group] of [...waiting]) {
      const acts = group.acts.filter((act) => !(once.test(act) && done.has(act)));
      if (acts.length === group.acts.length) continue;
      touched.push(...group.acts);
      waiting.delete(key);
      const rest = acts.join('\0');
      const same = waiting.get(rest);
      waiting.set(rest, same ? together(acts, [same, group]) : { ...group, acts });
    }
    return touched;
  }
}

/** What a group's acts would come to, and the groups that are done with them. */
interface Offer {
  step: GapStep;
  done: readonly string[];
  /** Its acts, and what they measure besides. */
  acts: readonly string[];
}

function offerOf(acts: readonly string[], waiting: ReadonlyMap<string, Group>): Offer {
  const done = within(acts, waiting);
  const step = stepOf(
    acts,
    done.map((key) => waiting.get(key) as Group),
  );
  return { step, done, acts: withLines(acts) };
}

const withLines = (acts: readonly string[]): string[] => [
  ...acts,
  ...acts.filter((act) => act.startsWith('field check') && !once.test(act)).map((act) => act.replace(/\neach$/, '\nonce')),
];

/** Groups that are settled by these acts: those that wait for them, or for some of them. A check on a device measures its line too. */
function within(own: readonly string[], waiting: ReadonlyMap<string, Group>): string[] {
  if (own.length > mostActs) return [own.join('\0')];
  const acts = withLines(own).sort();
  const found: string[] = [];
  for (let parts = 1; parts < 2 ** acts.length; parts++) {
    const key = acts.filter((_, i) => parts & (1 << i)).join('\0');
    if (waiting.has(key)) found.push(key);
  }
  return found;
}

function together(acts: readonly string[], groups: readonly Group[]): Group {
  const endpoints = new Map(acts.map((act) => [act, new Set(groups.flatMap((group) => [...(group.endpoints.get(act) ?? [])]))]));
  const hours = new Map<number, number>();
  for (const group of groups) for (const [hour, count] of group.hours) hours.set(hour, (hours.get(hour) ?? 0) + count);
  return {
    acts,
    hours,
    crossings: groups.reduce((sum, { crossings }) => sum + crossings, 0),
    people: new Set(groups.flatMap(({ people }) => [...people])),
    endpoints,
  };
}

function stepOf(keys: readonly string[], groups: readonly Group[]): GapStep {
  const { crossings, people, endpoints, hours } = together(keys, groups);
  const [most] = [...hours].sort((a, b) => b[1] - a[1] || a[0] - b[0]);
  const acts = keys.map((key): GapAct => {
    const [way, kind, id] = key.split('\n') as [WayToLearn, GapAct['kind'], string];
    const at = [...(endpoints.get(key) ?? [])].sort();
    const isOnce = once.test(key);
    return {
      way,
      kind,
      id,
      times: isOnce ? 1 : at.length,
      hour: way === 'field check' ? (most?.[0] ?? null) : null,
      endpoints: kind === 'location' ? (isOnce ? at.slice(0, 1) : at) : [],
    };
  });
  return {
    acts,
    location: acts.find(({ kind }) => kind === 'location')?.id ?? null,
    crossings,
    people: people.size,
    minutes: acts.reduce((sum, { way, times }) => sum + times * ways[way], 0),
  };
}

/** Most crossings a minute; of equals the one of more crossings, then by what is done. */
function isBefore(a: GapStep, b: GapStep): boolean {
  const rate = a.crossings / a.minutes - b.crossings / b.minutes;
  if (Math.abs(rate) > 1e-9) return rate > 0;
  if (a.crossings !== b.crossings) return a.crossings > b.crossings;
  const text = ({ acts }: GapStep) => acts.map(({ way, id }) => `${id}\n${way}`).join();
  return text(a) < text(b);
}
