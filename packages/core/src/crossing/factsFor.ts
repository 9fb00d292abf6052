import type { Change, Endpoint, Location, Measurement, Region } from '@underpass/contracts';
import { chooseEvidence, chooseSignonTimes, evidenceAt, type Evidence } from '../evidence/index.js';
import type { Reach } from '../access/index.js';
import { assumedOf } from '../assumed/index.js';
import { ByChange } from './byChange.js';
import { crossingsTouched, isTouched, overlay, touchesNothing, touchOf, untouched, type Touch } from '../change/index.js';
import type { CrossingRef, EstateModel, Supposition } from '../estate/index.js';
import { atOnce } from '../indexes/index.js';
import { rulesInOrder } from '../redirection/index.js';
import { resolveSettings, settingPlace, type SettingIndex, type SettingSubject, type SettingValues } from '../settings/index.js';
import { type CrossingFacts, type OtherDemand, type SessionElsewhere } from './facts.js';
import { alone, counted, noTally, othersOf, type LineTally } from './shared.js';
import { lineOfSeat, subjectOf } from './subjectOf.js';
import { suppose } from './suppose.js';

const none: readonly never[] = [];
const noEvidence: Evidence = { rejected: [] };
/** Changes whose readers are kept, so that a remedy for a whole location is worked out once for everybody there. */
const mostKept = 300;
/** What writes more than this is no remedy, and too much to be kept. */
const mostWrites = 20;

/** What was chosen from a list of measurements, and for what. */
interface Chosen {
  endpoint: Endpoint;
  location: Location;
  farEnd: Region | undefined;
  evidence: Evidence;
}
/** A person at an endpoint. */
interface Seat extends Pick<CrossingFacts, 'person' | 'endpoint' | 'location' | 'line' | 'subject'> {
  measured: readonly Measurement[] | undefined;
  access: Reach;
  resolved: SettingValues;
}
/** Of a seat, what its evidence depends on. */
type Measured = Pick<Seat, 'measured' | 'endpoint' | 'location'>;
/** A resource with the way it is reached. */
type End = Pick<CrossingFacts, 'resource' | 'pool' | 'gateway' | 'gatewayRegion' | 'hosts'>;
// remembered with the list, the entries or the reach they were made from: whoever has the same ones, in whatever model, has the same result
const chosen = new WeakMap<readonly Measurement[], Map<string, Chosen>>();
const timed = new WeakMap<readonly Measurement[], readonly Measurement[]>();
const settled = new WeakMap<SettingIndex, Map<string, SettingValues>>();
const sorted = new WeakMap<object, readonly { id: string }[]>();
const ordered = new WeakMap<object, CrossingFacts['rules']>();
const desktops = new WeakMap<object, WeakMap<Reach, readonly string[]>>();

function remembered<K extends object, V>(
  map: { get: (key: K) => V | undefined; set: (key: K, value: V) => unknown },
  key: K,
  make: () => V,
): V {
  let known = map.get(key);
  if (known === undefined) map.set(key, (known = make()));
  return known;
}

/** The objects of a kind in the order of their ids, so that where one is as good as another the same one is told everywhere. */
const inOrder = <T extends { id: string }>(objects: ReadonlyMap<string, T>): readonly T[] =>
  remembered(sorted, objects, () => [...objects.values()].sort((a, b) => (a.id < b.id ? -1 : 1))) as readonly T[];

/** Facts of crossings, read from the estate at an instant; and from the estate as it would be after a change. */
export class FactsReader {
  private readonly tallies = new Map<string, LineTally>();
  private readonly others = new Map<string, OtherDemand>();
  private readonly afters = new ByChange<FactsReader>(mostKept);
  private readonly estate: CrossingFacts['estate'];
  private readonly rules: CrossingFacts['rules'];
  private readonly settled: Map<string, SettingValues>;
  private readonly desktops: WeakMap<Reach, readonly string[]>;
  private readonly suppositions = new WeakMap<Evidence, Map<string, { of: readonly Supposition[]; evidence: Evidence }>>();
  private demand: Touch | null = null;
  private lastSeat: Seat | null = null;
  private readonly ends = new Map<string, End | null>();
  private lastResolved: { subject: SettingSubject; values: SettingValues } | null = null;
  private lines: { gone: (location: string) => readonly CrossingRef[]; come: (location: string) => readonly CrossingRef[] } | null = null;

  /**
   * @param atMs the instant, ms since 1970
   * @param under the reader of the model that this one's lies over, whose sums are gone on from
   */
  constructor(
    readonly model: EstateModel,
    readonly atMs: number,
    private readonly under: FactsReader | null = null,
  ) {
    this.estate = {
      gateways: inOrder(model.gateways),
      portals: inOrder(model.portals),
      regions: model.regions,
      organisation: model.organisation,
      assumed: assumedOf(model.organisation),
    };
    this.rules = remembered(ordered, model.all('usbRule') as object, () => rulesInOrder(model.all('usbRule').values()));
    this.settled = remembered(settled, model.settings as SettingIndex, () => new Map<string, SettingValues>());
    this.desktops = remembered(desktops, model.resources as object, () => new WeakMap<Reach, readonly string[]>());
  }

  /** The reader of the estate as it would be after a change. */
  after(change: Change): FactsReader {
    if (change.patches.length > mostWrites) return this.over(overlay(this.model, change, this.atMs));
    const known = this.afters.get(change);
    if (known) return known;
    const after = this.over(overlay(this.model, change, this.atMs));
    if ((after.model.laid?.writes.length ?? 0) <= mostWrites) this.afters.set(change, after);
    return after;
  }

  /** The reader of a model that lies over this one's. */
  over(model: EstateModel, atMs = this.atMs): FactsReader {
    return new FactsReader(model, atMs, this);
  }

  /** The same on a model that stands by itself, with every sum that is known, for whoever goes on from here for long. */
  settledOn(model: EstateModel, atMs = this.atMs): FactsReader {
    const reader = new FactsReader(model, atMs);
    for (const location of this.known()) if (model.locations.has(location)) reader.tallies.set(location, this.tallyAt(location));
    return reader;
  }

  /** Locations whose demand was summed, here or under this reader, and is not summed wholly anew. */
  private known(): Set<string> {
    const known = new Set(this.tallies.keys());
    const touch = this.touch();
    if (this.under && !touch.everything) for (const location of this.under.known()) if (!touch.locations.has(location)) known.add(location);
    return known;
  }

  /** Facts of one crossing; null where an object it needs does not exist. */
  read(ref: CrossingRef): CrossingFacts | null {
    const endpoint = this.endpointOf(ref);
    return endpoint ? this.assemble(ref, endpoint, this.othersAt(endpoint.location)) : null;
  }

  /**
   * Facts of a crossing that was read under this reader's one: where nothing but settings and what is supposed of lines lies between the
   * two, most of them are the same.
   */
  readLike(before: CrossingFacts): CrossingFacts | null {
    const { model, under } = this;
    const { laid } = model;
    if (before.reader !== under || !laid || laid.measurements.length > 0 || laid.writes.some(({ kind }) => kind !== 'setting'))
      return this.read(before.ref);
    const { endpoint, location, subject, gatewayRegion } = before;
    const measured = model.measurementsAt.get(location.id);
    return {
      ...before,
      like: before,
      reader: this,
      settings: model.settings,
      resolved: this.resolved(subject),
      evidence: model.supposed.size > 0 ? this.evidenceFor({ endpoint, location, measured }, gatewayRegion) : before.evidence,
      others: this.othersAt(location.id),
    };
  }

  /** What the other people at a location ask of its line, from the demand of everybody's crossings there. */
  othersAt(locationId: string): OtherDemand {
    let known = this.others.get(locationId);
    if (!known) {
      const location = this.model.locations.get(locationId);
      const { under } = this;
      if (!location || location.ownLines) known = alone;
      else {
        const tally = this.tallyAt(locationId);
        // who asks the same is the same object, so that what was worked out for it is not worked out again
        const isAsUnder =
          under?.model.locations.get(locationId) === location &&
          under.estate.assumed === this.estate.assumed &&
          under.tallyAt(locationId) === tally;
        known = isAsUnder && under ? under.othersAt(locationId) : othersOf(tally, location, this.estate.assumed.people);
      }
      this.others.set(locationId, known);
    }
    return known;
  }

  private endpointOf({ endpoint }: CrossingRef): Endpoint | undefined {
    // crossings of one endpoint are mostly read one after the other
    return this.lastSeat?.endpoint.id === endpoint ? this.lastSeat.endpoint : this.model.endpoints.get(endpoint);
  }

  /** A person at an endpoint: what all their crossings from there have in common. */
  private seatOf(personId: string, endpoint: Endpoint): Seat | null {
    const last = this.lastSeat;
    // crossings of one seat are mostly read one after the other
    if (last?.endpoint === endpoint && last.person.id === personId) return last;
    const { model } = this;
    const person = model.people.get(personId);
    const location = model.locations.get(endpoint.location);
    if (!person || !location) return null;
    const access = model.access.of(person.groups);
    const line = lineOfSeat(location, endpoint);
    const subject = subjectOf(endpoint, location, person, access.groups);
    const measured = model.measurementsAt.get(location.id);
    return (this.lastSeat = { person, endpoint, location, line, access, subject, resolved: this.resolved(subject), measured });
  }

  /** What a crossing leads to. */
  private endOf(resourceId: string): End | null {
    let known = this.ends.get(resourceId);
    if (known === undefined) this.ends.set(resourceId, (known = this.findEnd(resourceId)));
    return known;
  }

  private findEnd(resourceId: string): End | null {
    const { model } = this;
    const resource = model.resources.get(resourceId);
    const pool = resource && model.pools.get(resource.pool);
    const gateway = pool && model.gateways.get(pool.gateway);
    const gatewayRegion = gateway && model.regions.get(gateway.region);
    if (!resource || !pool || !gateway || !gatewayRegion) return null;
    return { resource, pool, gateway, gatewayRegion, hosts: model.hostsOfPool.get(pool.id) ?? none };
  }

  private assemble(ref: CrossingRef, endpoint: Endpoint, others: OtherDemand): CrossingFacts | null {
    const { model } = this;
    const seat = this.seatOf(ref.person, endpoint);
    const end = this.endOf(ref.resource);
    if (!seat || !end) return null;
    const { person, location, line, access, subject, resolved } = seat;
    const { resource, pool, gateway, gatewayRegion, hosts } = end;
    const reached = access.held.find((each) => each.resource === resource.id);
    return {
      ref,
      reader: this,
      person,
      endpoint,
      location,
      line,
      resource,
      resources: access.seen.length,
      desktops: this.desktopsOf(access),
      entitled: reached !== undefined,
      publication: reached && model.publications.get(reached.publication),
      portal: reached?.portal ? model.portals.get(reached.portal) : undefined,
      elsewhere: this.elsewhere(person.id, endpoint.id),
      gates: model.gates,
      devices: model.devicesAt.get(endpoint.id) ?? none,
      rules: this.rules,
      pool,
      hosts,
      gateway,
      gatewayRegion,
      estate: this.estate,
      subject,
      settings: model.settings,
      resolved,
      evidence: this.evidenceFor(seat, gatewayRegion),
      timed: this.timedOf(seat),
      others,
      hasSession: model.sessionsOf.get(person.id)?.some((session) => session.resource === resource.id) ?? false,
      atMs: this.atMs,
      // named here too, so that all facts are of one shape
      like: undefined,
      hour: undefined,
    };
  }

  /** People with the same groups share what they come to, and so this list. */
  private desktopsOf(access: Reach): readonly string[] {
    return remembered(this.desktops, access, () =>
      access.seen.flatMap(({ resource }) => {
        const found = this.model.resources.get(resource);
        return found?.kind === 'desktop' ? [found.name] : [];
      }),
    );
  }

  private elsewhere(person: string, endpoint: string): readonly SessionElsewhere[] {
    const sessions = this.model.sessionsOf.get(person);
    if (!sessions) return none;
    return sessions
      .filter((session) => session.endpoint !== endpoint)
      .map((session) => ({ ...session, resourceName: this.model.resources.get(session.resource)?.name ?? session.resource }));
  }

  /** Subjects that no entry tells apart share their resolved settings. */
  private resolved(subject: SettingSubject): SettingValues {
    const { settings } = this.model;
    const last = this.lastResolved;
    const ownPerson = settings.has(settingPlace('person', subject.person));
    const ownEndpoint = settings.has(settingPlace('endpoint', subject.endpoint));
    const isOwn = ownPerson || ownEndpoint;
    if (last && !isOwn && alike(last.subject, subject)) return last.values;
    const own = `${ownPerson ? subject.person : ''}|${ownEndpoint ? subject.endpoint : ''}`;
    const key = `${own}|${subject.deviceClass}|${subject.location}|${subject.groups.join(',')}|${subject.ownership}|${subject.lineKind}|${subject.metered}|${subject.clientKind}|${subject.guest}|${subject.inside}`;
    let known = this.settled.get(key);
    if (!known) this.settled.set(key, (known = resolveSettings(settings, subject)));
    if (!isOwn) this.lastResolved = { subject, values: known };
    return known;
  }

  private timedOf({ measured, endpoint, person }: Seat) {
    if (!measured) return undefined;
    const found = remembered(timed, measured, () => measured.filter((measurement) => measurement.figures.signon));
    return found.length ? chooseSignonTimes(found, endpoint.id, person.id) : undefined;
  }

  private evidenceFor(seat: Measured, farEnd: Region): Evidence {
    const evidence = evidenceAt(measuredFor(seat, farEnd), this.atMs, this.estate.assumed.evidence);
    const { supposed } = this.model;
    if (supposed.size === 0) return evidence;
    const [line, own] = [supposed.get(`location/${seat.location.id}`), supposed.get(`endpoint/${seat.endpoint.id}`)];
    if (line && own) return suppose(evidence, [...line, ...own], farEnd.id);
    return line || own ? this.supposedOf(evidence, (line ?? own) as readonly Supposition[], farEnd.id) : evidence;
  }

  /** Whoever sits at one desk has the same evidence, and what is supposed of it comes to the same. */
  private supposedOf(evidence: Evidence, suppositions: readonly Supposition[], target: string): Evidence {
    let byTarget = this.suppositions.get(evidence);
    if (!byTarget) this.suppositions.set(evidence, (byTarget = new Map()));
    let known = byTarget.get(target);
    if (known?.of !== suppositions) byTarget.set(target, (known = { of: suppositions, evidence: suppose(evidence, suppositions, target) }));
    return known.evidence;
  }

  /** Crossings whose demand may be another one than under this reader. */
  private touch(): Touch {
    const { laid } = this.model;
    return (this.demand ??= laid ? touchOf(laid, this.model, 'demand') : { ...untouched(), everything: true });
  }

  private tallyAt(location: string): LineTally {
    let known = this.tallies.get(location);
    if (!known) this.tallies.set(location, (known = this.tally(location)));
    return known;
  }

  private tally(location: string): LineTally {
    const touch = this.touch();
    if (this.under && touchesNothing(touch)) return this.under.tallyAt(location);
    if (this.under && !touch.everything && !touch.locations.has(location)) return this.tallyGoneOn(location, this.under, touch);
    return atOnce(this.summed(location));
  }

  /** The sum counted anew, standing back in between. */
  private *summed(location: string): Generator<void, LineTally> {
    const people = new Set<string>();
    let tally = noTally;
    for (const [i, ref] of this.model.crossingsAt(location).entries()) {
      if (i % 32 === 0) yield;
      tally = this.count(tally, ref, 1);
      people.add(ref.person);
    }
    return { ...tally, people: people.size };
  }

  /** Sums what everybody asks of each line, standing back in between: for whoever reads all crossings and holds nobody up. */
  *summing(): Generator<void, void> {
    for (const location of this.model.locations.keys()) {
      if (!this.tallies.has(location) && !this.under) this.tallies.set(location, yield* this.summed(location));
    }
  }

  /** The sum under this one, less what the touched crossings asked, plus what they ask now. */
  private tallyGoneOn(location: string, under: FactsReader, touch: Touch): LineTally {
    this.lines ??= { gone: touchedAt(touch, under.model), come: touchedAt(touch, this.model) };
    const [gone, come] = [this.lines.gone(location), this.lines.come(location)];
    let tally = under.tallyAt(location);
    if (gone.length + come.length === 0) return tally;
    for (const ref of gone) tally = under.count(tally, ref, -1);
    for (const ref of come) tally = this.count(tally, ref, 1);
    const isThere = ({ model }: FactsReader, person: string) => model.crossingsOf(person).some((ref) => ref.location === location);
    let count = tally.people;
    for (const person of new Set([...gone, ...come].map((ref) => ref.person)))
      count += Number(isThere(this, person)) - Number(isThere(under, person));
    return { ...tally, people: count };
  }

  private count(tally: LineTally, ref: CrossingRef, sign: 1 | -1): LineTally {
    const endpoint = this.endpointOf(ref);
    const seat = endpoint && this.seatOf(ref.person, endpoint);
    const end = seat && this.endOf(ref.resource);
    if (!end) return tally;
    const evidence = this.evidenceFor(seat, end.gatewayRegion);
    return counted(
      tally,
      { endpoint, evidence, gateway: end.gateway, resource: end.resource, devices: this.model.devicesAt.get(endpoint.id) ?? none },
      seat.resolved,
      sign,
    );
  }
}

/** What was measured for a seat, chosen once for each list of measurements. */
function measuredFor({ measured, endpoint, location }: Measured, farEnd: Region): Evidence {
  if (!measured) return noEvidence;
  const byEndpoint = remembered(chosen, measured, () => new Map<string, Chosen>());
  const key = `${endpoint.id}|${farEnd.id}`;
  const known = byEndpoint.get(key);
  if (
    known?.location === location &&
    known.farEnd === farEnd &&
    known.endpoint.screensAt === endpoint.screensAt &&
    known.endpoint.decodersAt === endpoint.decodersAt
  )
    return known.evidence;
  const evidence = chooseEvidence(measured, location, endpoint, farEnd);
  byEndpoint.set(key, { endpoint, location, farEnd, evidence });
  return evidence;
}

/** Whether nothing but a setting of a person's or an endpoint's own could tell two subjects apart. */
const alike = (a: SettingSubject, b: SettingSubject): boolean =>
  a.groups === b.groups &&
  a.location === b.location &&
  a.deviceClass === b.deviceClass &&
  a.clientKind === b.clientKind &&
  a.ownership === b.ownership &&
  a.lineKind === b.lineKind &&
  a.metered === b.metered &&
  a.guest === b.guest &&
  a.inside === b.inside;

/** The touched crossings of each location: looked up once and parted, or, where resources are touched, looked through place by place. */
function touchedAt(touch: Touch, model: EstateModel): (location: string) => readonly CrossingRef[] {
  if (touch.resources.size > 0) return (location) => model.crossingsAt(location).filter((ref) => isTouched(touch, ref));
  const lines = new Map<string, CrossingRef[]>();
  for (const ref of crossingsTouched(touch, model)) {
    const list = lines.get(ref.location);
    if (list) list.push(ref);
    else lines.set(ref.location, [ref]);
  }
  return (location) => lines.get(location) ?? none;
}
