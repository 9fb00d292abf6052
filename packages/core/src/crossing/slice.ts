import type { Change, DeviceClass, Estate, Measurement, ObjectKind } from '@underpass/contracts';
import { made } from '../change/index.js';
import { modelOf, usersOf, type ModelOptions, type CrossingRef } from '../estate/index.js';
import { settingPlace } from '../settings/index.js';
import { FactsReader } from './factsFor.js';

/** The part of an estate that one crossing rests on, as plain data: read as an estate it gives the same crossing. */
export interface Slice {
  ref: CrossingRef;
  atMs: number;
  estate: Estate;
  measurements: Measurement[];
}

const deviceClasses: Record<DeviceClass, true> = {
  'thin-client': true,
  laptop: true,
  'desktop-computer': true,
  tablet: true,
  phone: true,
  kiosk: true,
};

/** With more crossings on the line than this a slice is not worth sending. */
const mostOnLine = 800;

/**
 * Everything a crossing rests on: its own objects, whoever shares its line, and what stands beside them by name.
 * @returns null where too many share the line
 */
export function sliceOf(reader: FactsReader, ref: CrossingRef): Slice | null {
  const { model, atMs } = reader;
  const endpoint = model.endpoints.get(ref.endpoint);
  const location = endpoint && model.locations.get(endpoint.location);
  if (!endpoint || !location) return null;
  const endpoints = location.ownLines
    ? [endpoint]
    : (model.endpointsAt.get(location.id) ?? []).flatMap((id) => model.endpoints.get(id) ?? []);
  const people = new Set([ref.person, ...endpoints.flatMap(usersOf)]);
  if (endpoints.flatMap((each) => model.crossingsOn(each)).length > mostOnLine) return null;
  const found = new Map<ObjectKind, Map<string, object>>();
  const take = (kind: ObjectKind, ids: Iterable<string>) => {
    const ofKind = found.get(kind) ?? new Map<string, object>();
    found.set(kind, ofKind);
    for (const id of ids) {
      const object = model.find(kind, id);
      if (object) ofKind.set(id, object);
    }
  };
  const settings = (layer: Parameters<typeof settingPlace>[0], target: string) =>
    take(
      'setting',
      (model.settings.get(settingPlace(layer, target)) ?? []).map(({ id }) => id),
    );
  take('organisation', model.all('organisation').keys());
  take('region', model.regions.keys());
  take('gateway', model.gateways.keys());
  take('portal', model.portals.keys());
  take('usbRule', model.all('usbRule').keys());
  found.set('requirement', new Map(model.gates.map((set) => [set.id, set])));
  take('location', [location.id]);
  take(
    'endpoint',
    endpoints.map(({ id }) => id),
  );
  take(
    'peripheral',
    endpoints.flatMap(({ id }) => (model.devicesAt.get(id) ?? []).map((device) => device.id)),
  );
  take('person', people);
  settings('organisation', '*');
  settings('location', location.id);
  for (const each of endpoints) settings('endpoint', each.id);
  // all of them: a change may make an endpoint of another class
  for (const deviceClass of Object.keys(deviceClasses)) settings('device class', deviceClass);
  const resources = new Set([ref.resource]);
  for (const id of people) {
    const reach = model.reachOf(id);
    take('group', reach.groups);
    take('publication', reach.publications);
    for (const group of reach.groups) settings('group', group);
    settings('person', id);
    for (const held of reach.held) resources.add(held.resource);
  }
  const sessions = model.sessionsOf.get(ref.person) ?? [];
  take(
    'session',
    sessions.map(({ id }) => id),
  );
  for (const { resource } of sessions) resources.add(resource);
  take('resource', resources);
  const pools = new Set([...resources].flatMap((id) => model.resources.get(id)?.pool ?? []));
  take('pool', pools);
  for (const pool of pools)
    take(
      'host',
      (model.hostsOfPool.get(pool) ?? []).map(({ id }) => id),
    );
  const measurements = (model.measurementsAt.get(location.id) ?? []).filter(
    (measurement) =>
      !location.ownLines || measurement.endpoint === undefined || measurement.endpoint === endpoint.id || measurement.figures.signon,
  );
  const estate = Object.fromEntries(model.kinds.map((kind) => [kind, [...(found.get(kind)?.values() ?? [])]])) as unknown as Estate;
  return { ref, atMs, estate, measurements };
}

/** The reader of a slice: it reads the slice's crossing as the estate's reader does. */
export const readerOfSlice = ({ estate, measurements, atMs }: Slice, options: ModelOptions): FactsReader =>
  new FactsReader(modelOf(estate, measurements, options), atMs);

/**
 * Whether a change can be tried on a slice: everything it writes, and everything that names, is in it. Otherwise the whole estate is
 * needed.
 * @param referencesOf the names of other objects in a value
 */
export function staysWithin(
  { model, atMs }: FactsReader,
  change: Change,
  referencesOf: (kind: ObjectKind, value: object) => { to: ObjectKind; id: string }[],
): boolean {
  const { writes, all, misplaced } = made(model, change, atMs);
  if (misplaced.length) return false;
  const fresh = new Set(writes.map(({ kind, id }) => `${kind}/${id}`));
  // a setting elsewhere changes nothing here
  return all.every(
    ({ kind, after }) =>
      kind === 'setting' || !after || referencesOf(kind, after).every(({ to, id }) => fresh.has(`${to}/${id}`) || model.find(to, id)),
  );
}
