import type { TelephoneFacts } from '@underpass/contracts';
import { boot, securityNames, type EstateModel } from '@underpass/core';
import { notFound } from '../problems/problem.js';
import { readerOf } from './readerOf.js';

/** What is known of a device before somebody at it is asked; no key is among it. */
export function telephoneFacts(model: EstateModel, id: string): TelephoneFacts {
  const reader = readerOf(model);
  const facts = reader.read(id);
  if (!facts) throw notFound('endpoint', id);
  const { endpoint, location, fleet, scopes, servers } = facts;
  const { name: network, security } = location.wifi ?? {};
  const words: Record<string, string | undefined> = {
    place: location.name,
    network,
    security: security && securityNames[security],
    class: endpoint.deviceClass,
    processor: endpoint.processor,
    code: fleet ? String(fleet.serverOption.code) : undefined,
    type: fleet?.serverOption.type,
    vendor: fleet?.vendorClass,
    scope: scopes[0]?.id,
    server: servers[0]?.address,
  };
  return {
    endpoint: id,
    person: (endpoint.person && model.people.get(endpoint.person)?.name) || null,
    location: { id: location.id, name: location.name, home: location.kind === 'home', wifi: network !== undefined },
    platform: endpoint.platform,
    connection: endpoint.connection ?? null,
    // what nobody described is not simulated: that its class is unknown says nothing of the device
    cause: reader.isDescribed(endpoint.deviceClass) ? (boot(facts).broken?.code ?? null) : null,
    words: Object.fromEntries(Object.entries(words).flatMap(([key, value]) => (value === undefined ? [] : [[key, value]]))),
  };
}
