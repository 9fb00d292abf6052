import { chooseEvidence, chooseSignonTimes, type Evidence } from '../evidence/index.js';
import type { Measurement } from '@underpass/contracts';
import type { Reach } from '../access/index.js';
import type { CrossingRef, EstateModel } from '../estate/index.js';
import { resolveSettings, type SettingSubject, type SettingValues } from '../settings/index.js';
import { demandOf } from './demandOf.js';
import { settingsOf, type CrossingFacts, type OtherDemand, type SessionElsewhere } from './facts.js';

const none: readonly never[] = [];
const alone: OtherDemand = { count: 0, activeShare: 0, meanMbps: 0, sdMbps: 0 };
/** Share of the people of a location who are active in the busy hour, where it is not typed; common practice, no source. */
const assumedActiveShare = 0.6;

/**
 * Facts of crossings, made from the model. Parts that many crossings share (evidence of an endpoint, the demand of a line) are
 * made once and remembered here.
 */
export class FactsReader {
  private readonly evidence = new Map<string, Evidence>();
  private readonly others = new Map<string, OtherDemand>();
  private readonly settled = new Map<string, SettingValues>();
  private readonly targeted = new Set<string>();
  private readonly gateways;

  constructor(
    readonly model: EstateModel,
    readonly atMs: number,
  ) {
    this.gateways = {
      gateways: model.estate.gateway,
      portals: model.estate.portal,
      regions: model.regions,
      organisation: model.organisation,
    };
    for (const entry of model.estate.setting) this.targeted.add(`${entry.layer}/${entry.target}`);
  }

  /** Facts of one crossing; null where an object it needs does not exist. */
  read(ref: CrossingRef): CrossingFacts | null {
    return this.assemble(ref, this.othersAt(ref.location));
  }

  private assemble(ref: CrossingRef, others: OtherDemand): CrossingFacts | null {
    const { model } = this;
    const person = model.people.get(ref.person);
    const endpoint = model.endpoints.get(ref.endpoint);
    const location = model.locations.get(ref.location);
    const resource = model.resources.get(ref.resource);
    const pool = resource && model.pools.get(resource.pool);
    const gateway = pool && model.gateways.get(pool.gateway);
    const gatewayRegion = gateway && model.regions.get(gateway.region);
    if (!person || !endpoint || !location || !resource || !pool || !gateway || !gatewayRegion) return null;
    const access = model.accessOf.get(person.id);
    const reached = access?.held.find((each) => each.resource === resource.id);
    const line = location.ownLines && endpoint.line ? endpoint.line : location;
    const subject: SettingSubject = {
      deviceClass: endpoint.deviceClass,
      location: location.id,
      groups: access?.groups ?? [],
      person: person.id,
      endpoint: endpoint.id,
      ownership: endpoint.ownership,
      lineKind: line.lineKind,
      metered: line.metered,
      clientKind: endpoint.clientKind,
      guest: person.kind === 'guest',
      inside: location.inside,
    };
    return {
      person,
      endpoint,
      location,
      line,
      resource,
      resources: access?.seen.length ?? 0,
      desktops: this.desktopsOf(access),
      entitled: reached !== undefined,
      publication: reached && model.publications.get(reached.publication),
      portal: reached?.portal ? model.portals.get(reached.portal) : undefined,
      elsewhere: this.elsewhere(person.id, endpoint.id),
      gates: model.gates,
      pool,
      hosts: model.hostsOfPool.get(pool.id) ?? [],
      gateway,
      gatewayRegion,
      estate: this.gateways,
      subject,
      settings: model.settings,
      resolved: this.resolved(subject),
      evidence: this.evidenceFor(endpoint.id, location.id, gatewayRegion.id),
      timed: this.timedAt(location.id, endpoint.id, person.id),
      others: location.ownLines ? alone : others,
      atMs: this.atMs,
    };
  }

  private readonly desktops = new Map<Reach, readonly string[]>();

  /** People with the same groups share what they come to, and so this list. */
  private desktopsOf(access: Reach | undefined): readonly string[] {
    if (!access) return none;
    let known = this.desktops.get(access);
    if (!known) {
      known = access.seen.flatMap(({ resource }) => {
        const found = this.model.resources.get(resource);
        return found?.kind === 'desktop' ? [found.name] : [];
      });
      this.desktops.set(access, known);
    }
    return known;
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
    const own =
      (this.targeted.has(`person/${subject.person}`) ? subject.person : '') +
      '|' +
      (this.targeted.has(`endpoint/${subject.endpoint}`) ? subject.endpoint : '');
    const key = `${own}|${subject.deviceClass}|${subject.location}|${subject.groups.join(',')}|${subject.ownership}|${subject.lineKind}|${subject.metered}|${subject.clientKind}|${subject.guest}|${subject.inside}`;
    let known = this.settled.get(key);
    if (!known) this.settled.set(key, (known = resolveSettings(this.model.settings, subject)));
    return known;
  }

  private timings: Map<string, Measurement[]> | null = null;

  private timedAt(location: string, endpoint: string, person: string) {
    if (!this.timings) {
      this.timings = new Map();
      for (const [id, list] of this.model.measurementsAt) {
        const timed = list.filter((measurement) => measurement.figures.signon);
        if (timed.length) this.timings.set(id, timed);
      }
    }
    const list = this.timings.get(location);
    return list && chooseSignonTimes(list, endpoint, person);
  }

  private evidenceFor(endpointId: string, locationId: string, regionId: string): Evidence {
    const key = `${endpointId}|${locationId}|${regionId}`;
    let known = this.evidence.get(key);
    if (!known) {
      const location = this.model.locations.get(locationId);
      known = location
        ? chooseEvidence(this.model.measurementsAt.get(locationId) ?? [], location, endpointId, this.model.regions.get(regionId))
        : { rejected: [] };
      this.evidence.set(key, known);
    }
    return known;
  }

  /** What the other people at a location ask of its line, from the demand of everybody's crossings there. */
  private othersAt(locationId: string): OtherDemand {
    let known = this.others.get(locationId);
    if (!known) this.others.set(locationId, (known = this.demandAt(locationId)));
    return known;
  }

  private byLocation: Map<string, CrossingRef[]> | null = null;

  private demandAt(locationId: string): OtherDemand {
    const location = this.model.locations.get(locationId);
    if (!location || location.ownLines) return alone;
    if (!this.byLocation) {
      this.byLocation = new Map();
      for (const ref of this.model.crossings) {
        const list = this.byLocation.get(ref.location);
        if (list) list.push(ref);
        else this.byLocation.set(ref.location, [ref]);
      }
    }
    const people = new Set<string>();
    let sum = 0;
    let squares = 0;
    let n = 0;
    for (const ref of this.byLocation.get(locationId) ?? []) {
      people.add(ref.person);
      // beyond this many the mean of a location no longer moves
      if (n >= 400) continue;
      const facts = this.assemble(ref, alone);
      if (!facts) continue;
      const { meanMbps, sdMbps } = demandOf(facts, settingsOf(facts));
      sum += meanMbps;
      squares += sdMbps * sdMbps + meanMbps * meanMbps;
      n++;
    }
    if (n === 0) return alone;
    const meanMbps = sum / n;
    const count = Math.max(0, (location.sharedBy ?? people.size) - 1);
    return {
      count,
      activeShare: location.activeShare ?? assumedActiveShare,
      meanMbps,
      sdMbps: Math.sqrt(Math.max(0, squares / n - meanMbps * meanMbps)),
    };
  }
}
