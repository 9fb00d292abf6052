import { readFolder } from '@underpass/contracts';
import { placeOf } from '@underpass/core';
import { setTimeout as wait } from 'node:timers/promises';
import { openAddressServer, type AddressServer } from './addresses.js';
import { start, type Started } from './device.js';

/** Devices to be switched on, and the server they fetch from. */
export interface Fleet {
  /** Where the server is. */
  base: string;
  /** Files of an estate folder, which say what stands on which desk. */
  files: ReadonlyMap<string, string>;
  /** Places by id; all where none is named. */
  places: readonly string[];
  deviceKey: string;
  /** Within which they begin to ask, ms: all are switched on at once, and no two take equally long to power up. */
  withinMs?: number;
  /** Where the stand-in portal is, which plays every portal of the estate; without it devices stop at their sign-in screen. */
  portals?: string;
  nowMs: number;
}

/** Switches on every device of a described class, all at once, with a server of addresses for each place; how each started. */
export async function switchOn({
  base,
  files,
  places,
  deviceKey,
  nowMs,
  withinMs = 0,
  portals,
}: Fleet): Promise<(Started & { id: string })[]> {
  const { estate, problems } = readFolder(files);
  if (problems[0]) throw new Error(`${problems[0].file}:${problems[0].line}: ${problems[0].problem}`);
  const response = await fetch(`${base}/api/published/key`).catch(() => null);
  if (!response?.ok) throw new Error(`${base} does not answer: start it with npm start`);
  const key = await response.text();
  const fleets = new Map(estate.deviceClass.map((each) => [each.id as string, each]));
  const locations = new Map(estate.location.map((each) => [each.id, each]));
  const wrong = places.find((id) => !locations.has(id));
  if (wrong !== undefined) throw new Error(`no location has the id “${wrong}”`);
  const devices = estate.endpoint.filter(
    ({ deviceClass, location }) => fleets.has(deviceClass) && (places.length === 0 || places.includes(location)),
  );
  const servers = new Map<string, AddressServer>();
  for (const place of new Set(devices.map(({ location }) => location)))
    servers.set(place, await openAddressServer(estate.scope.filter(({ location }) => location === place)));
  const isThere = (host: string) => estate.configServer.some(({ address, reachable }) => reachable && placeOf(address)?.host === host);
  const portal = (broker: string) => {
    const gateway = estate.gateway.find(({ address }) => address === broker);
    const at = estate.portal.find((each) => each.gateway === gateway?.id);
    return portals === undefined || !at ? undefined : `${portals}/${at.id}`;
  };
  try {
    return await Promise.all(
      devices.map(async (endpoint, i) => {
        await wait((withinMs * i) / devices.length);
        const [location, fleet, addresses] = [
          locations.get(endpoint.location),
          fleets.get(endpoint.deviceClass),
          servers.get(endpoint.location),
        ];
        if (!location || !fleet || !addresses) throw new Error(`${endpoint.id} has no place`);
        const more = { reach: (host: string) => (isThere(host) ? base : undefined), key, deviceKey, portal, nowMs, patienceMs: 4000 };
        return { id: endpoint.id, ...(await start({ endpoint, location, fleet, addressPort: addresses.port, ...more })) };
      }),
    );
  } finally {
    for (const server of servers.values()) await server.close();
  }
}
