import { z } from 'zod';
import { languages, type Language } from '../texts/index.js';
import type { Estate } from '../estate/estate.js';
import { SignonRule } from '../estate/organisation.js';
import { Instant, Key } from '../estate/fields.js';
import { SignonStep } from '../estate/words.js';

const Count = z.coerce.number().int();
const Steps = z.partialRecord(SignonStep, z.number().min(0).max(3600));

const PeopleFilter = {
  search: z.string().trim().max(100).optional(),
  group: Key.optional(),
  show: z.enum(['all', 'guests', 'must choose', 'changes', 'hidden', 'nothing']).default('all'),
  sort: z
    .enum(['name', '-name', 'kind', '-kind', 'location', '-location', 'groups', '-groups', 'now', '-now', 'after', '-after'])
    .optional(),
};
export const AccessPeopleExportRequest = z.strictObject(PeopleFilter).meta({ id: 'AccessPeopleExportRequest' });
export const AccessPeopleQuery = z.object({
  ...PeopleFilter,
  offset: Count.min(0).max(10_000_000).default(0),
  limit: Count.min(1).max(500).default(100),
});
export const WhyQuery = z.object({ person: Key, resource: Key });

export const WithdrawRequest = z.strictObject({ people: z.array(Key).min(1).max(1000) }).meta({ id: 'WithdrawRequest' });

export const SeenRequest = z
  .strictObject({
    saw: z.array(Key).max(1000),
    note: z.string().trim().max(300).optional(),
    seenAt: z.iso.datetime().max(40).nullable().optional().describe('When what it takes the place of was written down; null: nothing was'),
  })
  .meta({ id: 'SeenRequest' });

export const EntryLinkRequest = z
  .strictObject({
    resource: Key,
    /** A location stands for every endpoint there whose person sees the resource. */
    targetKind: z.enum(['person', 'group', 'location', 'endpoint']),
    target: Key,
    everyEndpoint: z.boolean().default(false).describe('For a location: one link for each of its endpoints'),
    caption: z.string().trim().min(1, 'must not be empty').max(80, 'must be at most 80 characters'),
    days: z.number().int().min(1).max(1100).default(365),
  })
  .meta({ id: 'EntryLinkRequest' });
export const EntryLinkView = z
  .object({
    id: z.string(),
    url: z.string(),
    leadsTo: z.string(),
    publication: z.string(),
    resource: z.string(),
    resourceName: z.string(),
    targetKind: z.string(),
    target: z.string(),
    targetName: z.string(),
    place: z.string(),
    caption: z.string(),
    createdBy: z.string(),
    createdAt: z.string(),
    expiresAt: z.string(),
    state: z.enum(['good', 'expired', 'revoked', 'leads nowhere']),
    opened: z.number(),
    openedAt: z.string().nullable(),
  })
  .meta({ id: 'EntryLinkView' });
export const LinkTestRequest = z
  .strictObject({
    resource: Key,
    person: Key,
    endpoint: Key.optional(),
    browser: z.string().max(40),
    version: z
      .string()
      .max(40)
      .regex(/^\d+(\.\d+)*$/, 'must be a version such as 128'),
  })
  .meta({ id: 'LinkTestRequest' });
export const SheetQuery = z.object({
  lang: z
    .enum(Object.keys(languages) as [Language, ...Language[]])
    .default('en')
    .describe('Language of what stands beneath a code'),
  ids: z
    .string()
    .regex(/^[A-Za-z0-9]{1,40}(,[A-Za-z0-9]{1,40})*$/)
    .max(9000),
  distanceM: z.coerce.number().min(0.1).max(10).default(0.4),
  format: z.enum(['svg', 'pdf']).default('svg'),
});

export const AcceptanceQuery = z.object({ run: z.uuid().optional() });

export const RequirementText = z
  .strictObject({ text: z.string().min(1).max(200_000), seen: z.number().int().min(0).max(Number.MAX_SAFE_INTEGER).optional() })
  .meta({ id: 'RequirementText' });

/** The version of the estate a set was seen at by whoever takes it away. */
export const SetDropQuery = z.strictObject({ seen: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER).optional() });

/** A recorded sign-in as it is kept: steps and counts. Addresses, headers, cookies and bodies never leave the browser. */
export const RecordingRequest = z
  .strictObject({
    location: Key,
    endpoint: Key.optional(),
    person: Key.optional(),
    startedAt: z.iso.datetime({ offset: true }).max(40),
    steps: Steps.refine((steps) => Object.keys(steps).length > 0, 'must have at least one step'),
    note: z.string().max(300).optional(),
  })
  .meta({ id: 'RecordingRequest' });
export const RulesRequest = z
  .strictObject({ rules: z.array(SignonRule).max(100).nullable(), seen: z.number().int().min(0).max(Number.MAX_SAFE_INTEGER).optional() })
  .meta({ id: 'RulesRequest' });
export const SavingsQuery = z.object({
  group: Key.optional(),
  location: Key.optional(),
  endpoint: Key.optional(),
  resource: Key.optional(),
  person: Key.optional(),
});

const portalKinds = [
  'organisation',
  'person',
  'group',
  'publication',
  'portal',
  'resource',
  'pool',
  'host',
  'gateway',
  'session',
  'setting',
  'endpoint',
] as const;
/** What the stand-in portal reads of the estate; its own reading of it is on purpose a second one. */
export const PortalEstate = z.record(z.enum(portalKinds), z.array(z.looseObject({ id: z.string() }))).meta({ id: 'PortalEstate' });
export type PortalEstate = Pick<Estate, (typeof portalKinds)[number]>;
export const PortalReport = z
  .strictObject({
    person: Key,
    portal: Key,
    at: Instant,
    outcome: z.enum(['refused', 'second factor late', 'list', 'session', 'no session']),
    saw: z.array(Key).max(1000),
    opened: Key.nullable(),
    steps: Steps,
  })
  .meta({ id: 'PortalReport' });

export type AccessPeopleExportRequest = z.infer<typeof AccessPeopleExportRequest>;
export type AccessPeopleQuery = z.infer<typeof AccessPeopleQuery>;
export type WhyQuery = z.infer<typeof WhyQuery>;
export type WithdrawRequest = z.infer<typeof WithdrawRequest>;
export type SeenRequest = z.infer<typeof SeenRequest>;
export type EntryLinkRequest = z.infer<typeof EntryLinkRequest>;
export type EntryLinkView = z.infer<typeof EntryLinkView>;
export type LinkTestRequest = z.infer<typeof LinkTestRequest>;
export type SheetQuery = z.infer<typeof SheetQuery>;
export type AcceptanceQuery = z.infer<typeof AcceptanceQuery>;
export type RequirementText = z.infer<typeof RequirementText>;
export type RecordingRequest = z.infer<typeof RecordingRequest>;
export type RulesRequest = z.infer<typeof RulesRequest>;
export const SignonRulesView = z
  .object({ rules: z.array(SignonRule), shipped: z.boolean(), version: z.number() })
  .meta({ id: 'SignonRulesView' });

export type SavingsQuery = z.infer<typeof SavingsQuery>;
export type PortalReport = z.infer<typeof PortalReport>;
