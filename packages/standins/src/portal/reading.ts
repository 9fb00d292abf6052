import type { PortalEstate } from '@underpass/contracts';

type Of<K extends keyof PortalEstate> = PortalEstate[K][number];

/** One line of a person's list. */
export interface Offered {
  resource: Of<'resource'>;
  publication: Of<'publication'>;
}

/**
 * What a person finds at a portal, read straight off the estate: round and round until no group is added any more. On purpose
 * not the product's own way of working it out, so that each checks the other.
 */
export function offeredAt(estate: PortalEstate, portalId: string, personId: string): Offered[] {
  const person = estate.person.find(({ id }) => id === personId);
  if (!person) return [];
  const groups = new Set(person.groups);
  for (let grew = true; grew;) {
    grew = false;
    for (const group of estate.group)
      if (groups.has(group.id))
        for (const parent of group.memberOf)
          if (!groups.has(parent)) {
            groups.add(parent);
            grew = true;
          }
  }
  const offered: Offered[] = [];
  for (const publication of estate.publication) {
    if (!publication.portals.includes(portalId)) continue;
    if (!estate.group.some((group) => groups.has(group.id) && group.publications.includes(publication.id))) continue;
    for (const id of publication.resources) {
      const resource = estate.resource.find((each) => each.id === id);
      if (resource && !offered.some((each) => each.resource.id === id)) offered.push({ resource, publication });
    }
  }
  return offered;
}

/** Numbers of a release, compared one by one. */
function releaseIsAtLeast(release: string, wanted: readonly number[]): boolean {
  const parts = release.split(/[._]/).map((part) => parseInt(part, 10));
  for (const [i, least] of wanted.entries()) {
    const part = parts[i] ?? 0;
    if (part !== least) return part > least;
  }
  return true;
}

/** Whether the directory lets somebody sign in. To the person a refusal says nothing, as in life. */
export function directoryAccepts(estate: PortalEstate, portalId: string, personId: string, today: string): boolean {
  const person = estate.person.find(({ id }) => id === personId);
  if (!person) return false;
  if (person.kind !== 'guest') return true;
  const { guest } = person;
  if (!guest || guest.endsOn < today || guest.invitation !== 'accepted' || guest.country === undefined) return false;
  // a guest comes as far as the hosts of what the portal offers them
  return offeredAt(estate, portalId, personId).every(({ resource }) => {
    const pool = estate.pool.find(({ id }) => id === resource.pool);
    const hosts = estate.host.filter((each) => each.pool === resource.pool);
    return (
      pool !== undefined &&
      pool.signIn.includes('guest directory') &&
      (pool.signInGroups.length === 0 || pool.signInGroups.some((group) => person.groups.includes(group))) &&
      hosts.every((host) => host.release === undefined || releaseIsAtLeast(host.release, [11, 4]))
    );
  });
}

/** Whether sign-in at a portal asks for a second factor. */
export const asksSecondFactor = (estate: PortalEstate, portalId: string): boolean => {
  const portal = estate.portal.find(({ id }) => id === portalId);
  return estate.gateway.find(({ id }) => id === portal?.gateway)?.secondFactor === true;
};

/** Sessions the person has; those on the endpoint in front of them, where that is known, are not left behind. */
export const leftBehind = (estate: PortalEstate, personId: string, endpoint: string | null): Of<'session'>[] =>
  estate.session
    .filter((session) => session.person === personId && (endpoint === null || session.endpoint !== endpoint))
    .sort((a, b) => (a.usedAt < b.usedAt ? 1 : -1));

/** What is to be done with them: the entry nearest to the person, the endpoint or the kind of device; otherwise ask. */
export function leftBehindPolicy(estate: PortalEstate, personId: string, endpointId: string | null): string {
  const person = estate.person.find(({ id }) => id === personId);
  const endpoint = estate.endpoint.find(({ id }) => id === endpointId);
  const entries = estate.setting.filter(({ key, condition }) => key === 'session.leftBehind' && !condition);
  const at = (layer: string, targets: readonly (string | undefined)[]) =>
    entries.find((entry) => entry.layer === layer && targets.includes(entry.target))?.value;
  const value =
    at('endpoint', [endpointId ?? undefined]) ??
    at('person', [personId]) ??
    at('group', person?.groups ?? []) ??
    at('location', [endpoint?.location ?? person?.location]) ??
    at('device class', [endpoint?.deviceClass]) ??
    at('organisation', ['*']);
  return typeof value === 'string' ? value : 'ask';
}

/** A host for a new session: one that is on and has a free place, or one that can be woken. */
export function hostFor(estate: PortalEstate, poolId: string): { host: Of<'host'>; asleep: boolean } | null {
  const hosts = estate.host.filter((each) => each.pool === poolId && (each.used ?? 0) < each.places);
  const on = hosts.find((host) => host.power === 'on' || host.power === undefined);
  if (on) return { host: on, asleep: false };
  const asleep = hosts.find((host) => host.power === 'asleep');
  return asleep ? { host: asleep, asleep: true } : null;
}
