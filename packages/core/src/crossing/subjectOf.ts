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

/** What the layers look at for a location: nobody in particular, at an endpoint of the sort that most there are. */
export interface UsualSubject {
  subject: SettingSubject;
  platform: Endpoint['platform'];
  /** Endpoints of that sort, and all there. */
  alike: number;
  of: number;
}

/** The same of a location as a whole; null where it is not in the estate or no endpoint stands there. Of sorts that are as many, the first by its words. */
export function subjectAt(model: EstateModel, locationId: string): UsualSubject | null {
  const location = model.locations.get(locationId);
  const endpoints = (model.endpointsAt.get(locationId) ?? []).flatMap((id) => model.endpoints.get(id) ?? []);
  const sorts = new Map<string, Endpoint[]>();
  for (const endpoint of endpoints) {
    const { deviceClass, platform, clientKind, ownership } = endpoint;
    const sort = [deviceClass, platform, clientKind, ownership].join('/');
    sorts.set(sort, [...(sorts.get(sort) ?? []), endpoint]);
  }
  const [most] = [...sorts].sort(([a, one], [b, other]) => other.length - one.length || (a < b ? -1 : 1));
  const [usual] = most?.[1] ?? [];
  if (!location || !usual) return null;
  // its own line is of one endpoint alone
  const subject = subjectOf({ ...usual, line: undefined, id: '' } as Endpoint, location, null, []);
  return { subject, platform: usual.platform, alike: most?.[1].length ?? 0, of: endpoints.length };
}
