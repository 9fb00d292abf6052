import { z } from 'zod';
import { Measurement } from './measurement.js';
import { Endpoint, Gateway, Group, Host, Location, Person, Pool, Region, Resource } from './objects.js';
import { Setting } from './setting.js';
import { WorkKind } from './words.js';

export const Thresholds = z.object({
  keyToPixelMs: z.number().positive(),
  framesAtLeast: z.number().positive(),
  voiceMosAtLeast: z.number().min(1).max(4.5).optional(),
  usableWithinS: z.number().positive(),
});

export const Organisation = z
  .object({
    id: z.literal('organisation'),
    name: z.string().min(1).max(120),
    helpDesk: z.string().max(120).optional().describe('Who receives field checks'),
    thresholds: z.partialRecord(WorkKind, Thresholds).default({}).describe('Replaces the shipped thresholds for a kind of work'),
  })
  .meta({ id: 'Organisation' });

/** Kinds of estate object in the order in which they may refer to each other. */
export const objectSchemas = {
  organisation: Organisation,
  region: Region,
  gateway: Gateway,
  pool: Pool,
  host: Host,
  resource: Resource,
  group: Group,
  location: Location,
  person: Person,
  endpoint: Endpoint,
  setting: Setting,
} as const;

export type ObjectKind = keyof typeof objectSchemas;
export const objectKinds = Object.keys(objectSchemas) as ObjectKind[];
export type ObjectOf<K extends ObjectKind> = z.infer<(typeof objectSchemas)[K]>;

export interface Estate {
  organisation: z.infer<typeof Organisation>[];
  region: Region[];
  gateway: Gateway[];
  pool: Pool[];
  host: Host[];
  resource: Resource[];
  group: Group[];
  location: Location[];
  person: Person[];
  endpoint: Endpoint[];
  setting: Setting[];
}
export const MeasurementFile = z.array(Measurement);

export const emptyEstate = (): Estate => ({
  organisation: [],
  region: [],
  gateway: [],
  pool: [],
  host: [],
  resource: [],
  group: [],
  location: [],
  person: [],
  endpoint: [],
  setting: [],
});

/** Fields that name another object: kind → field → kind it must exist in. */
export const references: Partial<Record<ObjectKind, Record<string, ObjectKind>>> = {
  gateway: { region: 'region' },
  pool: { gateway: 'gateway' },
  host: { pool: 'pool', region: 'region' },
  resource: { pool: 'pool', profileRegion: 'region' },
  group: { resources: 'resource' },
  person: { location: 'location', groups: 'group' },
  endpoint: { location: 'location', person: 'person', users: 'person' },
};

export type Thresholds = z.infer<typeof Thresholds>;
export type Organisation = z.infer<typeof Organisation>;
