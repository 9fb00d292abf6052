import type { Endpoint, Estate, Measurement, ObjectKind, Setting } from '@underpass/contracts';
import { accessBy } from '../access/index.js';
import { idsBy, wholeBy, type Keyed, type KeyedBy, type Layers } from '../indexes/index.js';
import { settingPlace } from '../settings/index.js';
import { usersOf } from './crossings.js';

/** The object of a kind, by the kind’s word. */
export type ObjectOf<K extends ObjectKind> = Estate[K][number];
/** The objects of every kind by id. */
export type Objects = { readonly [K in ObjectKind]: Layers<ObjectOf<K>> };
/** The key under which all guests stand. */
export const guestsKey = 'guests';
/** Ways to look objects up by something in them. Each is kept up to date from what was written alone. */
export const lookups = {
  hostsOfPool: ['host', wholeBy((host: ObjectOf<'host'>) => [host.pool])],
  /** Entries of settings by where they stand; see `settingPlace`. */
  settings: ['setting', wholeBy((entry: Setting) => [settingPlace(entry.layer, entry.target)])],
  /** What is plugged in, by endpoint. */
  devicesAt: ['peripheral', wholeBy((device: ObjectOf<'peripheral'>) => [device.endpoint])],
  sessionsOf: ['session', wholeBy((session: ObjectOf<'session'>) => [session.person])],
  endpointsAt: ['endpoint', idsBy((endpoint: Endpoint) => [endpoint.location])],
  endpointsOf: ['endpoint', idsBy(usersOf)],
  resourcesOfPool: ['resource', idsBy((resource: ObjectOf<'resource'>) => [resource.pool])],
  /** People from outside, under one key: few of many, and the only ones whom time alone puts out. */
  guests: ['person', idsBy(({ guest }: ObjectOf<'person'>) => (guest ? [guestsKey] : []))],
  members: ['person', accessBy.members],
  children: ['group', accessBy.children],
  holders: ['group', accessBy.holders],
  offering: ['publication', accessBy.offering],
} as const satisfies Record<string, readonly [ObjectKind, KeyedBy<never, unknown>]>;
/** What the lookups come to: objects or their ids by key. */
export type Lookups = {
  readonly [L in keyof typeof lookups]: (typeof lookups)[L][1] extends KeyedBy<infer _O, infer T> ? Keyed<T> : never;
};

/** Measurements by where they were taken. */
export const measuredBy: KeyedBy<Measurement, Measurement> = {
  keys: ({ location }) => [location],
  take: (measurement) => measurement,
  // oldest first, as the newest valid one counts
  idOf: ({ at, id }) => `${at}|${id}`,
};
