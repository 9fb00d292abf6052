import type {
  Endpoint,
  Estate,
  Gateway,
  Group,
  Host,
  Location,
  Measurement,
  Organisation,
  Person,
  Pool,
  Region,
  Resource,
  Setting,
} from '@underpass/contracts';
import { indexSettings } from '../settings/index.js';
import { groupsOf, resourcesOf } from './groups.js';

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
  /** Per person: group ids from the lowest rank to the highest, and the resources they give. */
  accessOf: ReadonlyMap<string, { groups: readonly string[]; resources: readonly string[] }>;
  crossings: readonly CrossingRef[];
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
  const groups = byId(estate.group);
  const people = byId(estate.person);
  const resources = byId(estate.resource);
  const accessOf = new Map(
    estate.person.map((person) => [
      person.id,
      {
        groups: groupsOf(person, groups).map((group) => group.id),
        resources: resourcesOf(person, groups).filter((id) => resources.has(id)),
      },
    ]),
  );
  const crossings: CrossingRef[] = [];
  for (const endpoint of estate.endpoint)
    for (const person of usersOf(endpoint))
      for (const resource of accessOf.get(person)?.resources ?? [])
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
    hostsOfPool: groupBy(estate.host, (host) => host.pool),
    resources,
    groups,
    locations: byId(estate.location),
    people,
    endpoints: byId(estate.endpoint),
    settings: indexSettings(estate.setting),
    measurementsAt: groupBy([...measurements].sort(oldestFirst), (measurement) => measurement.location),
    accessOf,
    crossings,
  };
}
