import { z } from 'zod';
import { OpenSession, Portal, Publication, SignedIn } from './access.js';
import { Measurement } from './measurement.js';
import { Endpoint, Gateway, Group, Host, Location, Person, Pool, Region, Resource } from './objects.js';
import { RequirementSet } from './requirement.js';
import { Setting } from './setting.js';
import { SignonStep, WorkKind } from './words.js';

export const Thresholds = z.strictObject({
  keyToPixelMs: z.number().positive(),
  framesAtLeast: z.number().positive(),
  voiceMosAtLeast: z.number().min(1).max(4.5).optional(),
  usableWithinS: z.number().positive(),
});

/** Which requests of a recorded sign-in belong to which step; a * stands for any text. The first rule that fits counts. */
export const SignonRule = z
  .strictObject({
    step: SignonStep,
    method: z.enum(['GET', 'POST']).optional(),
    host: z.string().min(1).max(200).optional(),
    path: z.string().min(1).max(200).optional(),
  })
  .refine((rule) => rule.host !== undefined || rule.path !== undefined, 'must have a host or a path');

export const Organisation = z
  .strictObject({
    id: z.literal('organisation'),
    name: z.string().min(1).max(120),
    helpDesk: z.string().max(120).optional().describe('Who receives field checks'),
    thresholds: z.partialRecord(WorkKind, Thresholds).default({}).describe('Replaces the shipped thresholds for a kind of work'),
    signonRules: z.array(SignonRule).max(100).optional().describe('Replaces the shipped rules that read a recorded sign-in'),
    signInsPerDay: z.number().positive().max(50).optional().describe('Sign-ins of a person on a working day'),
    workingDays: z.number().int().min(1).max(366).optional().describe('Working days of a year'),
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
  portal: Portal,
  publication: Publication,
  group: Group,
  location: Location,
  person: Person,
  endpoint: Endpoint,
  session: OpenSession,
  signedIn: SignedIn,
  requirement: RequirementSet,
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
  portal: Portal[];
  publication: Publication[];
  group: Group[];
  location: Location[];
  person: Person[];
  endpoint: Endpoint[];
  session: OpenSession[];
  signedIn: SignedIn[];
  requirement: RequirementSet[];
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
  portal: [],
  publication: [],
  group: [],
  location: [],
  person: [],
  endpoint: [],
  session: [],
  signedIn: [],
  requirement: [],
  setting: [],
});

/** Fields that name another object: kind → field → kind it must exist in. Dots go into nested objects. */
export const references: Partial<Record<ObjectKind, Record<string, ObjectKind>>> = {
  gateway: { region: 'region' },
  pool: { gateway: 'gateway' },
  host: { pool: 'pool', region: 'region' },
  resource: { pool: 'pool', profileRegion: 'region' },
  portal: { gateway: 'gateway' },
  publication: { pool: 'pool', resources: 'resource', portals: 'portal' },
  group: { memberOf: 'group', publications: 'publication' },
  person: { location: 'location', groups: 'group', 'guest.owner': 'person' },
  endpoint: { location: 'location', person: 'person', users: 'person' },
  session: { person: 'person', resource: 'resource' },
  signedIn: { id: 'person' },
};

export type Thresholds = z.infer<typeof Thresholds>;
export type Organisation = z.infer<typeof Organisation>;
export type SignonRule = z.infer<typeof SignonRule>;
