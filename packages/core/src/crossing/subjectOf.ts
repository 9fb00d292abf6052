import type { Endpoint, Location, Person } from '@underpass/contracts';
import type { EstateModel } from '../estate/index.js';
import type { SettingSubject } from '../settings/index.js';

/** The line that an endpoint is on: its own where the location's have their own, else the location's. */
export const lineOfSeat = (location: Location, endpoint: Endpoint) => (location.ownLines && endpoint.line ? endpoint.line : location);

/**
 * What the layers of settings look at for somebody at an endpoint; nobody in particular is in no group and is no guest.
 * @param groups those of the person, from the lowest rank to the highest
 */
export function subjectOf(endpoint: Endpoint, location: Location, person: Person | null, groups: readonly string[]): SettingSubject {
  const { lineKind, metered } = lineOfSeat(location, endpoint);
  return {
    deviceClass: endpoint.deviceClass,
    location: location.id,
    groups,
    person: person?.id ?? '',
    endpoint: endpoint.id,
    ownership: endpoint.ownership,
    lineKind,
    metered,
    clientKind: endpoint.clientKind,
    guest: person?.kind === 'guest',
    inside: location.inside,
  };
}

/** The same by ids; null where endpoint, location or person is not in the estate. @param person left out: nobody in particular */
export function subjectIn(model: EstateModel, endpointId: string, personId?: string): SettingSubject | null {
  const endpoint = model.endpoints.get(endpointId);
  const location = endpoint && model.locations.get(endpoint.location);
  const person = personId === undefined ? null : model.people.get(personId);
  if (!endpoint || !location || person === undefined) return null;
  return subjectOf(endpoint, location, person, person ? model.access.of(person.groups).groups : []);
}
