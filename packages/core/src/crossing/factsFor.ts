import type { Change, Endpoint, Estate, Region } from '@underpass/contracts';
import { evidenceAt, type Evidence } from '../evidence/index.js';
import type { Reach } from '../access/index.js';
import { assumedOf } from '../assumed/index.js';
import { ByChange } from './byChange.js';
import { measuredFor, remembered, timedFor, type MeasuredAt } from './chosen.js';
import { overlay } from '../change/index.js';
import type { CrossingRef, EstateModel, Supposition } from '../estate/index.js';
import { rulesInOrder } from '../redirection/index.js';
import type { SettingValues } from '../settings/index.js';
import { type CrossingFacts, type OtherDemand, type SessionElsewhere } from './facts.js';
import { alone, Asks, counted, othersOf, type LineTally } from './shared.js';
import { Resolved } from './resolved.js';
import { Tallies } from './tallies.js';
import { lineOfSeat, subjectOf } from './subjectOf.js';
import { suppose } from './suppose.js';

const none: readonly never[] = [];
/** Changes whose readers are kept, so that a remedy for a whole location is worked out once for everybody there. */
const mostKept = 300;
/** What writes more than this is no remedy, and too much to be kept. */
const mostWrites = 20;

/** A person at an endpoint. */
interface Seat extends MeasuredAt, Pick<CrossingFacts, 'person' | 'line' | 'subject'> {
  access: Reach;
  resolved: SettingValues;
}
/** A resource with the way it is reached. */
type End = Pick<CrossingFacts, 'resource' | 'pool' | 'gateway' | 'gatewayRegion' | 'hosts'>;
// remembered with what they were made from: whoever has the same, in whatever model, has the same result
const sorted = new WeakMap<object, readonly { id: string }[]>();
const ordered = new WeakMap<object, CrossingFacts['rules']>();
const desktops = new WeakMap<object, WeakMap<Reach, readonly string[]>>();

/** The objects of a kind in the order of their ids, so that where one is as good as another the same one is told everywhere. */
const inOrder = <T extends { id: string }>(objects: ReadonlyMap<string, T>): readonly T[] =>
  remembered(sorted, objects, () => [...objects.values()].sort((a, b) => (a.id < b.id ? -1 : 1))) as readonly T[];

// in loops, since they are asked for every crossing: a function that is made each time costs more than what it looks for
function heldOf({ held }: Reach, resource: string): Reach['held'][number] | undefined {
  for (const each of held) if (each.resource === resource) return each;
  return undefined;
}
function hasSession(sessions: Readonly<Estate['session']> | undefined, resource: string): boolean {
  if (sessions) for (const session of sessions) if (session.resource === resource) return true;
  return false;
}

/** Facts of crossings, read from the estate at an instant; and from the estate as it would be after a change. */
export class FactsReader {
  private readonly tallies: Tallies;
  private readonly others = new Map<string, OtherDemand>();
  private readonly afters = new ByChange<FactsReader>(mostKept);
  private readonly estate: CrossingFacts['estate'];
  private readonly rules: CrossingFacts['rules'];
  private readonly resolved: Resolved;
  private readonly desktops: WeakMap<Reach, readonly string[]>;
  private readonly suppositions = new WeakMap<Evidence, Map<string, { of: readonly Supposition[]; evidence: Evidence }>>();
  private lastSeat: Seat | null = null;
  private readonly ends = new Map<string, End | null>();
  private readonly asks = new Asks();

  /**
   * @param atMs the instant, ms since 1970
   * @param under the reader of the model that this one's lies over, whose sums are gone on from
   * @param tallies what is known of the lines' sums; summed where it is asked for without it
   */
  constructor(
    readonly model: EstateModel,
    readonly atMs: number,
    private readonly under: FactsReader | null = null,
    tallies?: Tallies,
  ) {
    this.estate = {
      gateways: inOrder(model.gateways),
      portals: inOrder(model.portals),
      regions: model.regions,
      organisation: model.organisation,
      assumed: assumedOf(model.organisation),
    };
    this.rules = remembered(ordered, model.all('usbRule') as object, () => rulesInOrder(model.all('usbRule').values()));
    this.resolved = new Resolved(model.settings);
    this.tallies = tallies ?? new Tallies(model, under?.tallies ?? null, this.count);
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
    const reader: FactsReader = new FactsReader(
      model,
      atMs,
      null,
      this.tallies.settledOn(model, (tally, ref, sign) => reader.count(tally, ref, sign)),
    );
    return reader;
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
      resolved: this.resolved.of(subject),
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
        const tally = this.tallies.at(locationId);
        // who asks the same is the same object, so that what was worked out for it is not worked out again
        const isAsUnder =
          under?.model.locations.get(locationId) === location &&
          under.estate.assumed === this.estate.assumed &&
          under.tallies.at(locationId) === tally;
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
    return (this.lastSeat = { person, endpoint, location, line, access, subject, resolved: this.resolved.of(subject), measured });
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
    const reached = heldOf(access, resource.id);
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
      timed: timedFor(seat, person),
      others,
      hasSession: hasSession(model.sessionsOf.get(person.id), resource.id),
      atMs: this.atMs,
      // named here too, so that all facts are of one shape
      like: undefined,
      hour: undefined,
    };
  }

  /** People with the same groups share what they come to, and so this list. */
  private desktopsOf(access: Reach): readonly string[] {
    return remembered(this.desktops, access, this.findDesktops);
  }

  private readonly findDesktops = ({ seen }: Reach): readonly string[] =>
    seen.flatMap(({ resource }) => {
      const found = this.model.resources.get(resource);
      return found?.kind === 'desktop' ? [found.name] : [];
    });

  private elsewhere(person: string, endpoint: string): readonly SessionElsewhere[] {
    const sessions = this.model.sessionsOf.get(person);
    return sessions ? this.besides(sessions, endpoint) : none;
  }
  private besides(sessions: Readonly<Estate['session']>, endpoint: string): readonly SessionElsewhere[] {
    return sessions
      .filter((session) => session.endpoint !== endpoint)
      .map((session) => ({ ...session, resourceName: this.model.resources.get(session.resource)?.name ?? session.resource }));
  }

  private evidenceFor(seat: MeasuredAt, farEnd: Region): Evidence {
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

  /** Sums what everybody asks of each line, standing back in between: for whoever reads all crossings and holds nobody up. */
  summing(): Generator<void, void> {
    return this.tallies.summing();
  }

  private readonly count = (tally: LineTally, ref: CrossingRef, sign: 1 | -1): LineTally => {
    const endpoint = this.endpointOf(ref);
    const seat = endpoint && this.seatOf(ref.person, endpoint);
    const end = seat && this.endOf(ref.resource);
    if (!end) return tally;
    const { resource, gateway } = end;
    const evidence = this.evidenceFor(seat, end.gatewayRegion);
    const devices = this.model.devicesAt.get(endpoint.id) ?? none;
    const ask = this.asks.of({ endpoint, evidence, gateway, resource, devices, settings: seat.resolved });
    return counted(tally, ask, sign);
  };
}
