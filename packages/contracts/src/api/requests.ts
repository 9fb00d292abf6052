import { z } from 'zod';
import { Change, ObjectKindWord } from '../estate/change.js';
import { Key } from '../estate/fields.js';
import { boundedRecord } from '../bounds.js';
import { Bay, Vantage, Verdict } from '../estate/words.js';

const Page = {
  offset: z.coerce.number().int().min(0).max(10_000_000).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(100),
};
const Search = z.string().trim().max(100).optional();

/** A column to sort by; a minus before it turns the order round. */
const Sort = z
  .string()
  .max(81)
  .regex(/^-?[a-zA-Z]+(\.[a-zA-Z0-9]+){0,3}$/, 'must be a column such as name or -name')
  .optional();
/** Columns of the list of crossings. */
export const crossingColumns = [
  'verdict',
  'person',
  'endpoint',
  'location',
  'resource',
  'delayMs',
  'frameRate',
  'timeToUsableS',
  'finding',
] as const;
const CrossingFilter = {
  search: Search,
  verdict: Verdict.optional(),
  bay: Bay.optional(),
  location: Key.optional(),
  area: z.string().max(120).optional(),
  resource: Key.optional(),
  person: Key.optional(),
  kind: z.string().max(120).optional(),
};
const CrossingSort = z.enum(crossingColumns.flatMap((column) => [column, `-${column}`] as const)).optional();
export const CrossingQuery = z.object({ ...CrossingFilter, sort: CrossingSort, ...Page });
export const CrossingGroupQuery = z.object({ ...CrossingFilter, by: z.enum(['finding', 'location', 'resource']) });
/** The list as a table to take away: as it is filtered and sorted. */
export const CrossingExportRequest = z.strictObject({ ...CrossingFilter, sort: CrossingSort }).meta({ id: 'CrossingExportRequest' });
const ObjectFilter = {
  search: Search,
  ids: z
    .string()
    .max(40_000)
    .regex(/^[A-Za-z0-9._,-]+$/, 'must be ids separated by commas')
    .optional()
    .describe('Only these, by id'),
  /** Only where a field holds a value: `location:wexcombe`. */
  where: z
    .union([z.string().max(200), z.array(z.string().max(200)).max(20)])
    .optional()
    .describe('Only those with a value in a field, such as location:wexcombe'),
  sort: Sort,
};
export const ObjectQuery = z.object({ ...ObjectFilter, ...Page });
/** The whole estate as a folder, or the list of one kind as it is filtered and sorted. */
export const EstateExportRequest = z
  .strictObject({ kind: ObjectKindWord.optional(), ...ObjectFilter })
  .refine(({ kind, ...filter }) => kind !== undefined || Object.values(filter).every((each) => each === undefined), {
    path: ['kind'],
    message: 'must be named where something is filtered',
  })
  .meta({ id: 'EstateExportRequest' });
/** A list or the Board as somebody wants to see it again: its filters, order and columns stand in its address. */
export const ViewRequest = z
  .strictObject({
    name: z.string().trim().min(1).max(80),
    path: z
      .string()
      .max(120)
      .regex(/^\/(?!\/)[a-zA-Z0-9/_-]*$/, 'must be the path of a screen'),
    search: z
      .string()
      .max(2000)
      .regex(/^(\?[^\s<>"]*)?$/, 'must be what stands behind the path, from its question mark on'),
    forAll: z.boolean().default(false),
  })
  .meta({ id: 'ViewRequest' });
export const FindQuery = z.object({ q: z.string().trim().min(1).max(100) });

const notEmpty = ({ change }: { change: Change }): boolean => change.patches.length + change.hypotheses.length > 0;
const empty = { path: ['change'], message: 'must hold at least one step' };

export const ChangeRequest = z
  .strictObject({
    change: Change,
    summary: z.string().trim().min(1).max(300),
    /** Version of the estate it was worked out on: what was changed since is not overwritten unseen. */
    seen: z.number().int().min(0).max(Number.MAX_SAFE_INTEGER).optional(),
  })
  .refine(notEmpty, empty)
  .meta({ id: 'ChangeRequest' });
export const ImpactRequest = z.strictObject({ change: Change }).refine(notEmpty, empty).meta({ id: 'ImpactRequest' });
/** A change that is only tried; none shows things as they are. */
export const TryRequest = z.strictObject({ change: Change }).meta({ id: 'TryRequest' });
export const DraftRequest = z
  .strictObject({
    name: z.string().trim().min(1).max(120),
    crossing: z.string().max(200).optional(),
    change: Change,
  })
  .refine(notEmpty, empty)
  .meta({ id: 'DraftRequest' });

export const ImportRequest = z
  .strictObject({
    files: boundedRecord(z.string().regex(/^[A-Za-z0-9._-]{1,80}$/), z.string().max(60_000_000), 40),
    apply: z.boolean().default(false),
    seen: z
      .number()
      .int()
      .min(0)
      .max(Number.MAX_SAFE_INTEGER)
      .optional()
      .describe('Version of the estate it was compared with: what somebody wrote since is not written over'),
  })
  .meta({ id: 'ImportRequest' });

export const CheckLinkRequest = z
  .strictObject({
    endpoint: Key.optional(),
    person: Key.optional(),
    location: Key,
    hours: z
      .number()
      .int()
      .min(1)
      .max(24 * 30)
      .default(72),
  })
  .meta({ id: 'CheckLinkRequest' });

export const MeasurementRequest = z
  .strictObject({
    text: z.string().min(1).max(20_000_000),
    vantage: Vantage,
    location: Key,
    target: Key.optional().describe('Region that was measured to'),
    medium: z.enum(['wired', 'wifi']).optional(),
    endpoint: Key.optional(),
    person: Key.optional(),
  })
  .meta({ id: 'MeasurementRequest' });

export type CrossingQuery = z.infer<typeof CrossingQuery>;
/** Which secret of an object is to be opened. */
export const SecretRequest = z.strictObject({ field: z.string().min(1).max(80) }).meta({ id: 'SecretRequest' });
export type SecretRequest = z.infer<typeof SecretRequest>;
export type CrossingGroupQuery = z.infer<typeof CrossingGroupQuery>;
export type CrossingExportRequest = z.infer<typeof CrossingExportRequest>;
export type EstateExportRequest = z.infer<typeof EstateExportRequest>;
export type ViewRequest = z.infer<typeof ViewRequest>;
export type ObjectQuery = z.infer<typeof ObjectQuery>;
export type FindQuery = z.infer<typeof FindQuery>;
export type TryRequest = z.infer<typeof TryRequest>;
export type ChangeRequest = z.infer<typeof ChangeRequest>;
export type ImpactRequest = z.infer<typeof ImpactRequest>;
export type DraftRequest = z.infer<typeof DraftRequest>;
export type ImportRequest = z.infer<typeof ImportRequest>;
export type CheckLinkRequest = z.infer<typeof CheckLinkRequest>;
export type MeasurementRequest = z.infer<typeof MeasurementRequest>;
