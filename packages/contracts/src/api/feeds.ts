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
