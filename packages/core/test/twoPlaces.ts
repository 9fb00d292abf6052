import { completed, emptyEstate, kindTraits, objectSchemas, type Estate, type Measurement, type ObjectKind } from '@underpass/contracts';
import { modelOf, type EstateModel } from '../src/estate/index.js';

/** Two of everything side by side, so that what is meant for one shows on the other: place a with all of its own, and place b. */
const objects: [ObjectKind, object][] = [
  ['organisation', { id: 'organisation', name: 'Harbour' }],
  ...['a', 'b'].flatMap((x): [ObjectKind, object][] => [
    ['region', { id: `region-${x}`, name: `Region ${x}`, latitude: 55, longitude: x === 'a' ? 3 : 9 }],
    ['gateway', { id: `gate-${x}`, name: `Gate ${x}`, region: `region-${x}`, address: `${x}.example`, securityModes: ['tls'] }],
    ['pool', { id: `pool-${x}`, name: `Pool ${x}`, gateway: `gate-${x}`, securityModes: ['tls'] }],
    ['host', { id: `host-${x}`, name: `Host ${x}`, pool: `pool-${x}`, region: `region-${x}`, power: 'on', places: 9, drawMs: 8 }],
    ['resource', { id: `desk-${x}`, name: `Desk ${x}`, kind: 'desktop', pool: `pool-${x}`, work: 'office', content: { text: 1 } }],
    ['resource', { id: `app-${x}`, name: `App ${x}`, kind: 'app', pool: `pool-${x}`, work: 'office', content: { text: 1 } }],
    ['portal', { id: `portal-${x}`, name: `Portal ${x}`, gateway: `gate-${x}`, address: `portal-${x}.example` }],
    [
      'publication',
      { id: `desks-${x}`, name: `Desks ${x}`, pool: `pool-${x}`, kind: 'desktop', resources: [`desk-${x}`], portals: [`portal-${x}`] },
    ],
    [
      'publication',
      { id: `apps-${x}`, name: `Apps ${x}`, pool: `pool-${x}`, kind: 'apps', resources: [`app-${x}`], portals: [`portal-${x}`] },
    ],
    ['group', { id: `staff-${x}`, name: `Staff ${x}`, rank: 1, publications: [`desks-${x}`, `apps-${x}`] }],
    [
      'location',
      {
        ...{ id: `hall-${x}`, name: `Hall ${x}`, kind: 'office', latitude: 55, longitude: 3 },
        ...{ lineKind: 'fibre', downMbps: 100, upMbps: 20, delayMs: 20, sharedBy: 1 },
      },
    ],
    ['person', { id: `ann-${x}`, name: `Ann ${x}`, kind: 'staff', location: `hall-${x}`, groups: [`staff-${x}`] }],
    [
      'endpoint',
      {
        ...{ id: `box-${x}`, name: `Box ${x}`, location: `hall-${x}`, person: `ann-${x}`, ownership: 'managed' },
        ...{ deviceClass: x === 'a' ? 'thin-client' : 'laptop', platform: 'thin', processor: 'x86-64', cores: 4 },
        ...{ clientKind: 'native client', clientVersion: '9.9', connection: 'wired' },
      },
    ],
  ]),
];

/** The model of two places, with other objects beside or instead of those, by kind and id; null takes one away. */
export function twoPlaces(
  otherwise: Partial<Record<ObjectKind, Record<string, object | null>>> = {},
  measurements: readonly Measurement[] = [],
): EstateModel {
  const estate = emptyEstate() as unknown as Record<string, unknown[]>;
  const left = Object.entries(otherwise).flatMap(([kind, of]) => Object.entries(of).map(([id, object]) => ({ kind, id, object })));
  const put = (kind: string, object: object) => estate[kind]!.push(objectSchemas[kind as ObjectKind].parse(object));
  for (const [kind, object] of objects) {
    const { id } = object as { id: string };
    const at = left.findIndex((each) => each.kind === kind && each.id === id);
    const other = at < 0 ? {} : left.splice(at, 1)[0]!.object;
    if (other) put(kind, { ...object, ...other });
  }
  for (const { kind, id, object } of left) if (object) put(kind, { id, ...object });
  return modelOf(estate as unknown as Estate, [...measurements], { complete: completed, traits: kindTraits });
}
