import type { ObjectKind } from '@underpass/contracts';

export const kindWords: Record<ObjectKind, { one: string; many: string }> = {
  organisation: { one: 'Organisation', many: 'Organisation' },
  region: { one: 'Region', many: 'Regions' },
  gateway: { one: 'Gateway', many: 'Gateways' },
  pool: { one: 'Pool', many: 'Pools' },
  host: { one: 'Host', many: 'Hosts' },
  resource: { one: 'Resource', many: 'Resources' },
  portal: { one: 'Portal', many: 'Portals' },
  publication: { one: 'Publication', many: 'Publications' },
  group: { one: 'Group', many: 'Groups' },
  location: { one: 'Location', many: 'Locations' },
  person: { one: 'Person', many: 'People' },
  endpoint: { one: 'Endpoint', many: 'Endpoints' },
  session: { one: 'Session', many: 'Sessions' },
  signedIn: { one: 'Sign-in', many: 'Sign-ins' },
  requirement: { one: 'Requirement set', many: 'Requirement sets' },
  setting: { one: 'Setting', many: 'Settings' },
};
/** In the order in which people look for things. Requirement sets have a screen of their own under Access. */
export const kindOrder: ObjectKind[] = [
  'location',
  'person',
  'endpoint',
  'resource',
  'group',
  'publication',
  'portal',
  'host',
  'pool',
  'gateway',
  'region',
  'session',
  'signedIn',
  'setting',
  'organisation',
];

/** Columns of the lists, by kind: field and heading. */
export const listColumns: Record<ObjectKind, [field: string, head: string][]> = {
  location: [
    ['kind', 'Kind'],
    ['lineKind', 'Line'],
    ['downMbps', 'Down, Mbit/s'],
    ['upMbps', 'Up, Mbit/s'],
    ['area', 'Board row'],
  ],
  person: [
    ['kind', 'Kind'],
    ['location', 'Location'],
    ['groups', 'Groups'],
  ],
  endpoint: [
    ['deviceClass', 'Device'],
    ['location', 'Location'],
    ['person', 'Person'],
    ['clientKind', 'Client'],
    ['clientVersion', 'Version'],
    ['ownership', 'Ownership'],
  ],
  resource: [
    ['kind', 'Kind'],
    ['pool', 'Pool'],
    ['work', 'Work'],
  ],
  group: [
    ['rank', 'Rank'],
    ['memberOf', 'Member of'],
    ['publications', 'Publications'],
  ],
  publication: [
    ['kind', 'Kind'],
    ['pool', 'Pool'],
    ['resources', 'Resources'],
    ['portals', 'Portals'],
  ],
  portal: [
    ['gateway', 'Gateway'],
    ['address', 'Address'],
  ],
  session: [
    ['person', 'Person'],
    ['resource', 'Resource'],
    ['host', 'Host'],
    ['endpoint', 'Endpoint'],
    ['state', 'State'],
    ['usedAt', 'Last used'],
  ],
  signedIn: [
    ['at', 'At'],
    ['portal', 'Portal'],
    ['groups', 'Groups then'],
  ],
  requirement: [['purpose', 'Purpose']],
  host: [
    ['pool', 'Pool'],
    ['region', 'Region'],
    ['power', 'Power'],
    ['places', 'Places'],
    ['used', 'Used'],
  ],
  pool: [
    ['gateway', 'Gateway'],
    ['placement', 'Placement'],
    ['spareHosts', 'Spare hosts'],
  ],
  gateway: [
    ['region', 'Region'],
    ['address', 'Address'],
  ],
  region: [
    ['latitude', 'Latitude'],
    ['longitude', 'Longitude'],
  ],
  setting: [
    ['layer', 'Layer'],
    ['target', 'For'],
    ['value', 'Value'],
    ['locked', 'Locked'],
  ],
  organisation: [['helpDesk', 'Help desk']],
};

export const nameOf = (kind: ObjectKind, object: Record<string, unknown>): string =>
  String(kind === 'setting' ? object.key : (object.name ?? object.id));
export const cellOf = (value: unknown): string =>
  value === undefined || value === null
    ? ''
    : Array.isArray(value)
      ? value.join(', ')
      : typeof value === 'boolean'
        ? value
          ? 'yes'
          : 'no'
        : typeof value === 'object'
          ? JSON.stringify(value)
          : String(value as string | number);
