import {
  emptyEstate,
  kindTraits,
  objectSchemas,
  type Estate,
  type Measurement,
  type ObjectKind,
  type RoundTrips,
} from '@underpass/contracts';
import { FactsReader, type CrossingFacts } from '../src/crossing/index.js';
import type { Taken } from '../src/evidence/index.js';
import { modelOf } from '../src/estate/index.js';

/** The instant of the small estate: ten in the morning of 25 November 2026. */
export const instant = Date.parse('2026-11-25T10:00:00Z');

/** An object of each kind with nothing in it but what a plain crossing needs. */
const plain = {
  region: { id: 'near', name: 'Near', latitude: 55, longitude: 3 },
  gateway: {
    id: 'gate',
    name: 'Gate',
    region: 'near',
    address: 'gate.example',
    certificate: { names: ['gate.example'], notBefore: '2026-01-01', notAfter: '2027-12-31', trust: 'public' },
    securityModes: ['tls', 'pre-session'],
  },
  pool: { id: 'pool', name: 'Pool', gateway: 'gate', securityModes: ['tls', 'pre-session'] },
  host: { id: 'host', name: 'Host', pool: 'pool', region: 'near', power: 'on', places: 10, used: 2, drawMs: 8, encodeMs: 10 },
  resource: { id: 'desk', name: 'Desk', kind: 'desktop', pool: 'pool', work: 'office', content: { text: 1 }, profileMB: 0 },
  portal: { id: 'portal', name: 'Portal', gateway: 'gate', address: 'portal.example' },
  publication: { id: 'pub', name: 'Pub', pool: 'pool', kind: 'desktop', resources: ['desk'], portals: ['portal'] },
  group: { id: 'staff', name: 'Staff', rank: 1, publications: ['pub'] },
  location: {
    id: 'hall',
    name: 'Hall',
    kind: 'office',
    latitude: 55,
    longitude: 3,
    lineKind: 'fibre',
    downMbps: 100,
    upMbps: 20,
    delayMs: 20,
    sharedBy: 1,
  },
  person: { id: 'ann', name: 'Ann', kind: 'staff', location: 'hall', groups: ['staff'] },
  endpoint: {
    id: 'e1',
    name: 'E1',
    location: 'hall',
    person: 'ann',
    deviceClass: 'thin-client',
    ownership: 'managed',
    platform: 'thin',
    processor: 'x86-64',
    cores: 4,
    clientKind: 'native client',
    clientVersion: '9.9',
    decoders: [{ codec: 'h264', level: '5.2' }],
    screens: [{ widthPx: 1920, heightPx: 1080, refreshHz: 60 }],
    connection: 'wired',
  },
} satisfies Partial<Record<ObjectKind, object>>;

/** What a test has otherwise: fields of the plain objects (`undefined` takes one away), more objects, and measurements. */
export interface Otherwise extends Partial<Record<keyof typeof plain, object>> {
  more?: Partial<Record<ObjectKind, object[]>>;
  settings?: Record<string, unknown>;
  measured?: Measurement['figures'];
  /** When it was; an hour before the instant where nothing is said. */
  measuredAt?: string;
  method?: Measurement['method'];
}

/** What is measured where a test does not say otherwise: the gateway was reached, and of 2000 datagrams none was lost. */
export const reached: Measurement['figures'] = {
  upMbps: 19,
  datagrams: { passes: true, sent: 2000, lost: 0 },
  addedDownMs: 0,
  addedUpMs: 0,
};

/** Round trips all alike, ms, but for what is told otherwise. */
export const trips = (medianMs: number, more: Partial<RoundTrips> = {}): RoundTrips => ({
  samples: 200,
  lost: 0,
  minMs: medianMs,
  medianMs,
  p95Ms: medianMs + 1,
  medianLowMs: medianMs,
  medianHighMs: medianMs,
  ...more,
});

/** A figure as it is taken from a measurement: of this morning, on the cable of the device itself, to the region beside. */
export const taken = <T>(value: T, more: Partial<Taken<T>> = {}): Taken<T> => ({
  ...{ value, at: '2026-11-25T09:00:00Z', by: 'x', note: 'x, today', samples: 400, own: true, target: 'near', medium: 'wired' },
  ...more,
});

/** Degrees of latitude for a distance on the sphere of 6371 km. */
export const degrees = (km: number): number => km / (6371 * (Math.PI / 180));

/** The one crossing of the small estate, made as files are read. */
export function small(otherwise: Otherwise = {}): CrossingFacts {
  const { more = {}, settings = {}, measured = reached } = otherwise;
  const estate = emptyEstate() as unknown as Record<string, unknown[]>;
  const put = (kind: ObjectKind, object: object) => void estate[kind]!.push(objectSchemas[kind].parse(JSON.parse(JSON.stringify(object))));
  for (const [kind, object] of Object.entries(plain) as [keyof typeof plain, object][]) put(kind, { ...object, ...otherwise[kind] });
  for (const [kind, list] of Object.entries(more) as [ObjectKind, object[]][]) for (const object of list) put(kind, object);
  for (const [key, value] of Object.entries(settings))
    put('setting', { id: key.replaceAll('.', '-'), key, layer: 'organisation', target: '*', value, locked: false });
  const measurements: Measurement[] = measured
    ? [
        {
          id: 'm1',
          at: otherwise.measuredAt ?? '2026-11-25T09:00:00Z',
          by: 'Ann',
          method: otherwise.method ?? 'field check',
          vantage: 'desk',
          endpoint: 'e1',
          location: 'hall',
          target: 'near',
          partial: false,
          // a copy: what is read of a measurement is remembered by it
          figures: { ...measured },
        },
      ]
    : [];
  const reader = new FactsReader(modelOf(estate as unknown as Estate, measurements, { traits: kindTraits }), instant);
  const [ref] = reader.model.crossings;
  const facts = ref && reader.read(ref);
  if (!facts) throw new Error('the small estate has no crossing');
  return facts;
}
