import type { Endpoint, Estate, Measurement, ObjectKind, Organisation, RequirementSet } from '@underpass/contracts';
import type { Reach } from '../access/index.js';
import { atOnce } from '../indexes/index.js';
import { crossingId, placesOf, replaced, usersOf, type CrossingRef } from './crossings.js';
import { same } from './difference.js';
import { guestsKey, type Lookups, type Objects } from './lookups.js';
import type { ObjectChange, Over } from './over.js';
import { buildingParts, partsAfter, settledParts, type Completing, type ModelOptions, type Parts, type Traits } from './parts.js';

/** What a model was laid over, and what was written over it. */
export interface Laid extends Over {
  under: EstateModel;
}

const isGate = ({ breaks }: RequirementSet) => breaks !== undefined;
const noOrganisation: Organisation = { id: 'organisation', name: 'Organisation', thresholds: {} };
/** Kinds that decide which crossings there are, by these of their fields or by all. */
const crossingKinds: Partial<Record<ObjectKind, readonly string[] | 'all'>> = {
  group: 'all',
  publication: 'all',
  resource: 'all',
  person: ['groups'],
  endpoint: ['person', 'users', 'location'],
};
type Fields = Readonly<Record<string, unknown>>;
/** Whether a write decides which crossings there are: most are of what is said of somebody or of a device. */
function decidesCrossings({ kind, before, after }: ObjectChange): boolean {
  const fields = crossingKinds[kind];
  if (!fields) return false;
  return fields === 'all' || !before || !after || fields.some((field) => !same((before as Fields)[field], (after as Fields)[field]));
}

/**
 * The estate with the ways to look things up that the evaluation needs. Never changed: `after` lays what was written over it and
 * shares the rest, so that an edit costs what it touches and not what there is.
 */
export class EstateModel implements Lookups {
  readonly organisation: Organisation;
  /** The requirement sets that count: the estate's own, and those shipped that it has none for. */
  readonly requirements: readonly RequirementSet[];
  /** Those of them without which people do not get in. */
  readonly gates: readonly RequirementSet[];
  readonly hostsOfPool: Lookups['hostsOfPool'];
  readonly settings: Lookups['settings'];
  readonly devicesAt: Lookups['devicesAt'];
  readonly sessionsOf: Lookups['sessionsOf'];
  readonly endpointsAt: Lookups['endpointsAt'];
  readonly endpointsOf: Lookups['endpointsOf'];
  readonly resourcesOfPool: Lookups['resourcesOfPool'];
  readonly guests: Lookups['guests'];
  readonly members: Lookups['members'];
  readonly children: Lookups['children'];
  readonly holders: Lookups['holders'];
  readonly offering: Lookups['offering'];
  private list: readonly CrossingRef[] | null = null;
  private lists: Estate | null = null;
  /** Of what was written over the model before, what decides which crossings there are; found when first asked for. */
  private deciding: readonly ObjectChange[] | null = null;

  private constructor(
    private readonly parts: Parts,
    /** What it was made from; null where it stands by itself. */
    readonly laid: Laid | null,
  ) {
    const { objects, lookups: found } = parts;
    this.organisation = objects.organisation.get('organisation') ?? noOrganisation;
    if (laid && !laid.writes.some(({ kind }) => kind === 'requirement')) {
      this.requirements = laid.under.requirements;
      this.gates = laid.under.gates;
    } else {
      const own = objects.requirement;
      this.requirements = [...own.values(), ...parts.shipped.filter(({ id }) => !own.has(id))].sort((a, b) => (a.id < b.id ? -1 : 1));
      this.gates = this.requirements.filter(isGate);
    }
    this.hostsOfPool = found.hostsOfPool;
    this.settings = found.settings;
    this.devicesAt = found.devicesAt;
    this.sessionsOf = found.sessionsOf;
    this.endpointsAt = found.endpointsAt;
    this.endpointsOf = found.endpointsOf;
    this.resourcesOfPool = found.resourcesOfPool;
    this.guests = found.guests;
    this.members = found.members;
    this.children = found.children;
    this.holders = found.holders;
    this.offering = found.offering;
  }

  /** Builds a model in steps, so that whoever waits can be served between them. */
  static *building(
    given: ReadonlyMap<ObjectKind, ReadonlyMap<string, object>>,
    measurements: Iterable<Measurement>,
    options: ModelOptions = {},
  ): Generator<void, EstateModel> {
    return new EstateModel(yield* buildingParts(given, measurements, options), null);
  }

  /** The model with something laid over it. */
  after({ writes = [], measurements = [], supposed = [] }: Partial<Over>): EstateModel {
    const over = { writes, measurements, supposed };
    return new EstateModel(partsAfter(this.parts, over), { under: this, ...over });
  }

  /** The same estate, told as something laid over another one of which it came. */
  laidOver(under: EstateModel, over: Over): EstateModel {
    return new EstateModel(this.parts, { under, ...over });
  }

  /** The same, to go on from for long: it holds nothing of the models before it. */
  settled(): EstateModel {
    const settled = new EstateModel(settledParts(this.parts), null);
    settled.list = this.known() ?? this.listGoneOn();
    return settled;
  }

  /** The list of crossings where it was made already, by this model or by one under it that has the same. */
  private known(): readonly CrossingRef[] | null {
    if (this.list) return this.list;
    return this.hasTheSameCrossings ? (this.laid?.under.known() ?? null) : null;
  }
  /** Whether nothing that was laid over the model before decides which crossings there are. */
  get hasTheSameCrossings(): boolean {
    if (this.laid) this.deciding ??= this.laid.writes.filter(decidesCrossings);
    return this.deciding?.length === 0;
  }

  /** The list of the model under this one with what is other of the people and endpoints that were written; null where more decides. */
  private listGoneOn(): readonly CrossingRef[] | null {
    const under = this.laid?.under;
    const list = under?.known();
    if (!under || !list || !this.deciding?.every(({ kind }) => kind === 'person' || kind === 'endpoint')) return null;
    const endpoints = new Set<string>();
    for (const { kind, id } of this.deciding) {
      if (kind === 'endpoint') endpoints.add(id);
      else for (const model of [under, this]) for (const at of model.endpointsOf.get(id) ?? []) endpoints.add(at);
    }
    const now = new Map<string, CrossingRef[]>();
    for (const id of endpoints) {
      const endpoint = this.endpoints.get(id);
      now.set(id, endpoint ? this.crossingsOn(endpoint) : []);
    }
    return replaced(list, now);
  }

  get kinds(): readonly ObjectKind[] {
    return Object.keys(this.parts.objects) as ObjectKind[];
  }
  /** The objects of every kind as lists, each made when first asked for. */
  get estate(): Estate {
    if (!this.lists) {
      const { objects } = this.parts;
      const lists = {};
      for (const kind of this.kinds) Object.defineProperty(lists, kind, { get: () => objects[kind].array(), enumerable: true });
      this.lists = lists as Estate;
    }
    return this.lists;
  }
  get traits(): Traits | undefined {
    return this.parts.traits;
  }
  get complete(): Completing {
    return this.parts.complete;
  }
  all<K extends ObjectKind>(kind: K): Objects[K] {
    return this.parts.objects[kind];
  }
  find(kind: ObjectKind, id: string): object | undefined {
    return this.parts.objects[kind].get(id);
  }

  get regions() {
    return this.parts.objects.region;
  }
  get gateways() {
    return this.parts.objects.gateway;
  }
  get pools() {
    return this.parts.objects.pool;
  }
  get hosts() {
    return this.parts.objects.host;
  }
  get resources() {
    return this.parts.objects.resource;
  }
  get portals() {
    return this.parts.objects.portal;
  }
  get publications() {
    return this.parts.objects.publication;
  }
  get groups() {
    return this.parts.objects.group;
  }
  get locations() {
    return this.parts.objects.location;
  }
  get people() {
    return this.parts.objects.person;
  }
  get endpoints() {
    return this.parts.objects.endpoint;
  }
  get signedIn() {
    return this.parts.objects.signedIn;
  }
  /** Measurements by location, oldest first. */
  get measurementsAt() {
    return this.parts.measurementsAt;
  }
  /** The latest field check made on an endpoint, whole and from its desk. */
  latestCheck(endpoint: string): Measurement | undefined {
    const location = this.endpoints.get(endpoint)?.location;
    return this.measurementsAt
      .get(location ?? '')
      ?.findLast((each) => each.endpoint === endpoint && each.method === 'field check' && each.vantage === 'desk' && !each.partial);
  }
  /** Who sees what, with the chains. */
  get access() {
    return this.parts.access;
  }
  /** What is supposed of a location's line or of an endpoint, by `kind/id`. */
  get supposed() {
    return this.parts.supposed;
  }

  /** People from outside, by id. */
  guestIds(): readonly string[] {
    return this.guests.get(guestsKey) ?? [];
  }
  /** What a person's groups come to. */
  reachOf(person: string): Reach {
    return this.access.ofPerson(person);
  }

  /** Every crossing of an endpoint: its people × the resources their groups hold. */
  crossingsOn(endpoint: Endpoint): CrossingRef[] {
    return usersOf(endpoint).flatMap((person) => this.crossingsBetween(person, endpoint));
  }

  private crossingsBetween(person: string, { id, location }: Endpoint): CrossingRef[] {
    return this.reachOf(person).held.flatMap(({ resource }) =>
      this.resources.has(resource) ? [{ id: crossingId(person, id, resource), person, endpoint: id, location, resource }] : [],
    );
  }

  crossingsOf(person: string): CrossingRef[] {
    return (this.endpointsOf.get(person) ?? []).flatMap((id) => {
      const endpoint = this.endpoints.get(id);
      return endpoint ? this.crossingsBetween(person, endpoint) : [];
    });
  }

  crossingsAt(location: string): readonly CrossingRef[] {
    const listed = this.known();
    if (listed) return placesOf(listed).get(location) ?? [];
    return (this.endpointsAt.get(location) ?? []).flatMap((id) => {
      const endpoint = this.endpoints.get(id);
      return endpoint ? this.crossingsOn(endpoint) : [];
    });
  }

  /** Lists all crossings, standing back between endpoints, so that asking for them takes no time. */
  *listing(): Generator<void, readonly CrossingRef[]> {
    this.list ??= this.known();
    // the model beneath remembers what is the same for all that are laid over it
    if (!this.list && this.hasTheSameCrossings && this.laid) this.list = yield* this.laid.under.listing();
    if (this.list) return this.list;
    const list: CrossingRef[] = [];
    for (const endpoint of this.endpoints.values()) {
      list.push(...this.crossingsOn(endpoint));
      yield;
    }
    return (this.list = list);
  }

  /** All crossings; listed when first asked for. */
  get crossings(): readonly CrossingRef[] {
    return this.list ?? atOnce(this.listing());
  }
}

/** The model of an estate, built from its objects. */
export function modelOf(estate: Estate, measurements: Iterable<Measurement>, options: ModelOptions = {}): EstateModel {
  const kinds = Object.keys(estate) as ObjectKind[];
  const objects = new Map(kinds.map((kind) => [kind, new Map((estate[kind] as { id: string }[]).map((object) => [object.id, object]))]));
  return atOnce(EstateModel.building(objects, measurements, options));
}
