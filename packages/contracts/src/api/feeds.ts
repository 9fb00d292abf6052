import { z } from 'zod';

/** What a directory is called. */
export const FeedName = z
  .string()
  .trim()
  .min(1, 'must not be empty')
  .max(60, 'must be at most 60 characters')
  .refine((name) => !name.includes(':'), 'must have no colon');

/** Where a directory that sends says where people are. */
export const PlaceFrom = z.enum(['locality', 'department', 'division', 'nothing']);
/** How what a directory that sends says becomes people here. */
export const ScimOptions = z
  .strictObject({
    placeFrom: PlaceFrom.default('locality').describe('Attribute that names the place of a person'),
    makePlaces: z.boolean().default(false).describe('Places that are not there are made'),
  })
  .meta({ id: 'ScimOptions' });
export type ScimOptions = z.infer<typeof ScimOptions>;
export const ChangedScimOptions = ScimOptions.extend({ was: ScimOptions.optional().describe('The options they were made from') }).meta({
  id: 'ChangedScimOptions',
});

export const NewScimFeed = z
  .strictObject({ name: FeedName, options: ScimOptions.default({ placeFrom: 'locality', makePlaces: false }) })
  .meta({ id: 'NewScimFeed' });

/** What a run of a directory, or a request of one, came to last. */
export const FeedLast = z.object({
  state: z.enum(['done', 'stopped', 'failed']),
  message: z.string().nullable(),
  people: z.number(),
  groups: z.number(),
  added: z.number(),
  changed: z.number(),
  left: z.number(),
  held: z.number(),
  notes: z.array(z.string()),
});
export type FeedLast = z.infer<typeof FeedLast>;

/** A directory that sends, as it is shown: never its token. */
export const ScimFeedView = z
  .object({
    id: z.string(),
    name: z.string(),
    options: ScimOptions,
    by: z.string(),
    at: z.string(),
    lastAt: z.string().nullable(),
    last: FeedLast.nullable(),
    users: z.number(),
    groups: z.number(),
    /** Where it sends to. */
    address: z.string(),
  })
  .meta({ id: 'ScimFeedView' });
export type ScimFeedView = z.infer<typeof ScimFeedView>;
/** The token is told once. */
export const ScimFeedMade = z.object({ feed: ScimFeedView, token: z.string() }).meta({ id: 'ScimFeedMade' });
export type ScimFeedMade = z.infer<typeof ScimFeedMade>;

/** A resource, a list of them and a description, as RFC 7643 and 7644 have them. */
export const ScimAnswer = z.record(z.string(), z.unknown()).meta({ id: 'ScimAnswer' });
const Attributes = z
  .string()
  .max(2000)
  .transform((text) =>
    text
      .split(',')
      .map((name) => name.trim())
      .filter(Boolean),
  )
  .optional();
/** A number a client asks for: any, brought within bounds [RFC 7644 3.4.2.4]. */
const Count = z.coerce.number().int().optional();
export const ScimQuery = z.object({
  filter: z.string().max(2000).optional(),
  startIndex: Count,
  count: Count,
  attributes: Attributes,
  excludedAttributes: Attributes,
});
export type ScimQuery = z.infer<typeof ScimQuery>;

const AttributeName = z
  .string()
  .trim()
  .max(60)
  .regex(/^([A-Za-z][A-Za-z0-9-]*)?$/, 'must be the name of an attribute');
/** A directory that is read: where it is, and how what it says becomes people here [RFC 4511, 4515, 4516]. */
export const LdapSettings = z
  .strictObject({
    address: z
      .string()
      .trim()
      .max(300)
      .regex(/^ldaps?:\/\/[^/\s]+\/?$/i, 'must be ldaps://NAME or ldap://NAME, with a port where it is another one')
      .refine(
        (text) => URL.canParse(text.replace(/^ldap/i, 'http')) && !text.includes('@'),
        'must be the name of a machine, and a port up to 65535',
      )
      .describe('ldaps:// is encrypted from the start; ldap:// turns to encryption before anything is said'),
    base: z
      .string()
      .trim()
      .min(1, 'must not be empty')
      .max(500)
      .describe('Name of the entry beneath which it is read, such as dc=saltmarsh,dc=example'),
    bindDn: z.string().trim().max(500).default('').describe('Name to sign in with; empty: without one'),
    filter: z
      .string()
      .trim()
      .max(2000)
      .default('(|(objectClass=person)(objectClass=groupOfNames)(objectClass=groupOfUniqueNames)(objectClass=organizationalUnit))')
      .describe('Which entries are read'),
    keyAttribute: AttributeName.default('').describe('What people are found by; empty: uid'),
    nameAttribute: AttributeName.default('').describe('What people are called; empty: displayName, else cn'),
    placeAttribute: AttributeName.default('').describe('Where people work; empty: the unit above them'),
    makePlaces: z.boolean().default(false).describe('Places that are not there are made'),
    certificates: z
      .string()
      .max(50_000)
      .default('')
      .describe('Certificates of those who vouch for it, in PEM; empty: those every system knows'),
    pageSize: z.number().int().min(10).max(2000).default(500),
    everyMinutes: z
      .number()
      .int()
      .min(5)
      .max(10_080)
      .nullable()
      .default(null)
      .describe('How often it is read by itself; null: when somebody says so'),
    limitPercent: z.number().int().min(0).max(100).default(10).describe('Where more people than this would leave, it stops and asks'),
  })
  .meta({ id: 'LdapSettings' });
export type LdapSettings = z.infer<typeof LdapSettings>;
const LdapSecret = z.string().max(500).optional().describe('Password to sign in with; left out: the one that is kept');

export const NewLdapFeed = z.strictObject({ name: FeedName, settings: LdapSettings, secret: LdapSecret }).meta({ id: 'NewLdapFeed' });
export const ChangedLdapFeed = z
  .strictObject({ settings: LdapSettings, secret: LdapSecret, was: LdapSettings.optional().describe('The settings they were made from') })
  .meta({ id: 'ChangedLdapFeed' });
export const LdapTry = z
  .strictObject({ settings: LdapSettings, secret: LdapSecret, feed: z.uuid().optional().describe('Directory whose kept password is used') })
  .meta({ id: 'LdapTry' });
export const LdapRun = z
  .strictObject({ allow: z.boolean().default(false).describe('Also where more people leave than the limit') })
  .meta({ id: 'LdapRun' });

/** A directory that is read, as it is shown: never its password. */
export const LdapFeedView = z
  .object({
    id: z.string(),
    name: z.string(),
    settings: LdapSettings,
    hasSecret: z.boolean(),
    by: z.string(),
    at: z.string(),
    lastAt: z.string().nullable(),
    nextAt: z.string().nullable(),
    last: FeedLast.nullable(),
  })
  .meta({ id: 'LdapFeedView' });
export type LdapFeedView = z.infer<typeof LdapFeedView>;
/** What a try found: the first few entries, as they would be taken. */
export const LdapTried = z
  .object({
    people: z.array(
      z.object({ dn: z.string(), key: z.string(), name: z.string(), place: z.string().nullable(), groups: z.array(z.string()) }),
    ),
    groups: z.array(z.object({ dn: z.string(), name: z.string(), members: z.number() })),
    notes: z.array(z.string()),
  })
  .meta({ id: 'LdapTried' });
export type LdapTried = z.infer<typeof LdapTried>;
