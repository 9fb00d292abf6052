import type {
  Endpoint,
  Estate,
  Gateway,
  Group,
  Host,
  Location,
  Measurement,
  OpenSession,
  Organisation,
  Person,
  Pool,
  Portal,
  Publication,
  Region,
  RequirementSet,
  Resource,
  Setting,
  SignedIn,
} from '@underpass/contracts';
import { AccessIndex, type Reach } from '../access/index.js';
import { indexSettings } from '../settings/index.js';

/** One crossing by name: a person on an endpoint through to a resource. */
export interface CrossingRef {
  id: string;
  person: string;
  endpoint: string;
  location: string;
  resource: string;
}

export const crossingId = (person: string, endpoint: string, resource: string): string => `${person}~${endpoint}~${resource}`;

/** The estate with the ways to look things up that the evaluation needs. Built once for an estate version, never changed. */
export interface EstateModel {
  estate: Estate;
  organisation: Organisation;
  regions: ReadonlyMap<string, Region>;
  gateways: ReadonlyMap<string, Gateway>;
  pools: ReadonlyMap<string, Pool>;
  hostsOfPool: ReadonlyMap<string, readonly Host[]>;
  resources: ReadonlyMap<string, Resource>;
  groups: ReadonlyMap<string, Group>;
  locations: ReadonlyMap<string, Location>;
  people: ReadonlyMap<string, Person>;
  endpoints: ReadonlyMap<string, Endpoint>;
  settings: ReadonlyMap<string, readonly Setting[]>;
  measurementsAt: ReadonlyMap<string, readonly Measurement[]>;
  portals: ReadonlyMap<string, Portal>;
  publications: ReadonlyMap<string, Publication>;
  sessionsOf: ReadonlyMap<string, readonly OpenSession[]>;
  signedIn: ReadonlyMap<string, SignedIn>;
  /** Requirement sets without which people do not get in. */
  gates: readonly RequirementSet[];
  /** Who sees what, with the chains. */
  access: AccessIndex;
  /** Per person what their groups come to. */
  accessOf: ReadonlyMap<string, Reach>;
  crossings: readonly CrossingRef[];
  crossingsOf: ReadonlyMap<string, readonly CrossingRef[]>;
}

const byId = <T extends { id: string }>(objects: readonly T[]): Map<string, T> => new Map(objects.map((object) => [object.id, object]));

function groupBy<T>(objects: readonly T[], keyOf: (object: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const object of objects) {
    const key = keyOf(object);
    const known = groups.get(key);
    if (known) known.push(object);
    else groups.set(key, [object]);
  }
  return groups;
}

/** The people who use an endpoint: its usual person, and everybody a shared one counts for. */
export const usersOf = (endpoint: Endpoint): string[] => [...new Set([...(endpoint.person ? [endpoint.person] : []), ...endpoint.users])];

const oldestFirst = (a: Measurement, b: Measurement) => (a.at < b.at ? -1 : a.at > b.at ? 1 : a.id < b.id ? -1 : 1);

export function modelOf(estate: Estate, measurements: readonly Measurement[]): EstateModel {
  const people = byId(estate.person);
  const resources = byId(estate.resource);
  const access = new AccessIndex(estate);
  const accessOf = new Map(estate.person.map((person) => [person.id, access.of(person.groups)]));
  const crossings: CrossingRef[] = [];
  for (const endpoint of estate.endpoint)
    for (const person of usersOf(endpoint))
      for (const { resource } of accessOf.get(person)?.held ?? [])
        if (resources.has(resource))
          crossings.push({
            id: crossingId(person, endpoint.id, resource),
            person,
            endpoint: endpoint.id,
            location: endpoint.location,
            resource,
          });
  return {
    estate,
    organisation: estate.organisation[0] ?? { id: 'organisation', name: 'Organisation', thresholds: {} },
    regions: byId(estate.region),
    gateways: byId(estate.gateway),
    pools: byId(estate.pool),
    hostsOfPool: groupBy(estate.host, (each) => each.pool),
    resources,
    groups: access.groups,
    locations: byId(estate.location),
    people,
    endpoints: byId(estate.endpoint),
    settings: indexSettings(estate.setting),
    measurementsAt: groupBy([...measurements].sort(oldestFirst), (measurement) => measurement.location),
    portals: byId(estate.portal),
    publications: access.publications,
    sessionsOf: groupBy(estate.session, (session) => session.person),
    signedIn: byId(estate.signedIn),
    gates: estate.requirement.filter((set) => set.breaks !== undefined),
    access,
    accessOf,
    crossings,
    crossingsOf: groupBy(crossings, (ref) => ref.person),
  };
}
