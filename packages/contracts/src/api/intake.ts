import { z } from 'zod';
import { boundedRecord } from '../bounds.js';
import { ObjectKindWord } from '../estate/change.js';
import { HostName, Key, Name } from '../estate/fields.js';
import { ClientKind, Ownership, WorkKind } from '../estate/words.js';
import { TableMap } from '../files/tableMap.js';
import { Applied, CheckLinkView } from './answers.js';

/** Cells that somebody mended: row of the list → name of the column → what it should say. */
const Mends = boundedRecord(
  z.string().regex(/^\d{1,7}$/, 'must be the number of a row'),
  boundedRecord(z.string().max(300), z.string().max(2000), 500),
  5000,
);

/** Where the name of a list that is sent stands. */
export const ListQuery = z.object({ name: z.string().trim().min(1).max(200) });
/** How a list is read, where somebody says it otherwise than it was found. */
export const LookQuery = z.object({
  kind: ObjectKindWord.optional(),
  sheet: z.string().max(200).optional(),
  headerRow: z.coerce.number().int().min(0).max(1000).optional(),
});
/** What becomes of a list: its mapping, and what was mended in it. */
export const MapName = z.string().trim().min(1, 'must not be empty').max(120);
export const ListRequest = z
  .strictObject({
    map: TableMap,
    mends: Mends.default({}),
    source: MapName.optional().describe('Name under which it is kept what the list says: that of its mapping, where that is kept'),
    over: z.boolean().default(false).describe('What the list says is taken also where another source decides'),
    remove: z.array(Key).max(5000).default([]).describe('Objects that are not in the list, and are taken away'),
  })
  .meta({ id: 'ListRequest' });
export const MapRequest = z
  .strictObject({
    name: MapName,
    map: TableMap,
    was: TableMap.nullable().optional().describe('The mapping of this name that it replaces, as it was seen; null: there was none'),
  })
  .meta({ id: 'MapRequest' });

/** A field that a row says otherwise and that stays, because another source decides. */
export const HeldRow = z.object({
  row: z.number(),
  id: z.string(),
  name: z.string(),
  field: z.string(),
  value: z.string(),
  stands: z.string(),
  source: z.string(),
  at: z.string().nullable(),
});
const Row = z.object({ row: z.number(), cells: z.array(z.string()) });
/** A list that was sent: how it is written, and what its columns are taken for. */
export const ListLook = z
  .object({
    id: z.string(),
    name: z.string(),
    at: z.string(),
    by: z.string(),
    format: z.enum(['csv', 'xlsx', 'ldif', 'json']),
    encoding: z.string().nullable(),
    delimiter: z.string().nullable(),
    headerRow: z.number().nullable(),
    rows: z.number(),
    sheets: z.object({ names: z.array(z.string()), read: z.string() }).nullable(),
    notes: z.array(z.object({ row: z.number(), text: z.string() })),
    head: z.array(z.string()),
    sample: z.array(Row),
    kind: ObjectKindWord,
    columns: z.array(
      z.object({
        name: z.string(),
        looksLike: z.string(),
        samples: z.array(z.string()),
        field: z.string().nullable(),
        sure: z.number(),
      }),
    ),
    map: TableMap,
  })
  .meta({ id: 'ListLook' });
/** What a list came to. */
export const ListOutcome = z
  .object({
    applied: z.boolean(),
    added: z.number(),
    changed: z.number(),
    unchanged: z.number(),
    rejected: z.array(
      z.object({ row: z.number(), column: z.string(), field: z.string(), value: z.string(), text: z.string(), wanted: z.string() }),
    ),
    rejectedRows: z.array(Row),
    rejectedTotal: z.number(),
    translated: z.array(z.object({ column: z.string(), field: z.string(), from: z.string(), to: z.string(), rows: z.number() })),
    made: z.array(z.object({ kind: ObjectKindWord, id: z.string(), name: z.string(), rows: z.number() })),
    missing: z.array(z.object({ id: z.string(), name: z.string().optional() })),
    missingTotal: z.number(),
    removed: z.number(),
    held: z.array(HeldRow),
    heldTotal: z.number(),
    alike: z.array(z.object({ column: z.string(), field: z.string(), values: z.array(z.string()) })),
    notes: z.array(z.string()),
    /** What was changed, field by field, of the first. */
    sample: z.array(z.object({ kind: z.string(), id: z.string(), change: z.string(), fields: z.array(z.string()) })),
  })
  .meta({ id: 'ListOutcome' });
/** A mapping that is kept by name. */
export const KeptMap = z.object({ name: z.string(), map: TableMap, by: z.string(), at: z.string() }).meta({ id: 'KeptMap' });

/** One person to check of whom nothing has to be known: what they open is a resource that is there, or an address. */
export const OnePersonRequest = z
  .strictObject({
    name: z.string().trim().max(120, 'must be at most 120 characters').default(''),
    resource: Key.optional().describe('What they open, where it is there already'),
    address: HostName.optional().describe('Else the address they open it at'),
    what: Name.default('Desktop').describe('What they call it'),
    work: WorkKind.optional().describe('What they do in it; left out: it is not known'),
    clientKind: ClientKind.optional(),
    ownership: Ownership.optional(),
    location: Key.optional().describe('Where they are, where it is there already'),
    hours: z.number().int().min(1).max(720).default(72),
  })
  .refine(({ resource, address }) => (resource === undefined) !== (address === undefined), {
    message: 'must have a resource or an address',
    path: ['address'],
  })
  .meta({ id: 'OnePersonRequest' });
/** The link to send, and the crossing that stands as soon as the check is done. */
export const OnePersonAnswer = z
  .object({
    link: CheckLinkView,
    crossing: z.string(),
    person: z.string(),
    endpoint: z.string(),
    location: z.string(),
    changeId: z.string(),
  })
  .meta({ id: 'OnePersonAnswer' });

const Field = z.object({ field: z.string(), now: z.string(), found: z.string() });
/** What field checks say of endpoints that the estate knows differently. */
export const DifferencesAnswer = z
  .array(z.object({ endpoint: z.string(), name: z.string(), location: z.string(), at: z.string(), fields: z.array(Field) }))
  .meta({ id: 'DifferencesAnswer' });
/** Fields to take over from the latest field check of their endpoints. */
export const TakeOverRequest = z
  .strictObject({
    fields: z
      .array(
        z.strictObject({
          endpoint: Key,
          field: z.string().max(40),
          now: z.string().max(20_000).describe('What stood in the estate, as it was told'),
        }),
      )
      .min(1)
      .max(1000),
  })
  .meta({ id: 'TakeOverRequest' });
/** What is best done first in an estate that has little in it; empty once there is enough. */
export const FirstStepsAnswer = z
  .array(z.object({ text: z.string(), to: z.string(), action: z.string() }))
  .meta({ id: 'FirstStepsAnswer' });

const Other = z.object({ source: z.string(), at: z.string(), by: z.string().optional(), value: z.string() });
/** Where each field of an object is from, and what other sources say of it. */
export const OriginsAnswer = z
  .array(
    z.object({
      field: z.string(),
      source: z.string(),
      at: z.string().nullable(),
      by: z.string().optional(),
      value: z.string(),
      others: z.array(Other),
    }),
  )
  .meta({ id: 'OriginsAnswer' });
/** A field that takes what another source says, as long as that source says it. */
export const TakeSaid = z
  .strictObject({
    field: z.string().min(1).max(60),
    source: z.string().min(1).max(200),
    was: z.string().max(20_000).describe('What stood there, as it was told'),
    says: z.string().max(20_000).describe('What the source says, as it was told'),
  })
  .meta({ id: 'TakeSaid' });

const Counts = {
  kind: ObjectKindWord,
  field: z.string(),
  measured: z.number(),
  reported: z.number(),
  declared: z.number(),
  assumed: z.number(),
  notKnown: z.number(),
  decides: z.number(),
};
/** What is known of the estate, and what is best learned next. */
export const GapsAnswer = z
  .object({
    at: z.string(),
    unknown: z.number(),
    atLimit: z.number(),
    facts: z.array(z.object(Counts)),
    places: z.array(z.object({ location: z.string(), name: z.string(), unknown: z.number(), facts: z.array(z.object(Counts)) })),
    next: z.array(
      z.object({
        action: z.string(),
        location: z.string().nullable(),
        crossings: z.number(),
        people: z.number(),
        minutes: z.number(),
        /** Endpoints of the field checks of it. */
        checks: z.array(z.object({ endpoint: z.string(), name: z.string(), location: z.string() })),
      }),
    ),
  })
  .meta({ id: 'GapsAnswer' });

export type OriginsAnswer = z.infer<typeof OriginsAnswer>;
export type HeldRow = z.infer<typeof HeldRow>;
export type ListLook = z.infer<typeof ListLook>;
export type ListOutcome = z.infer<typeof ListOutcome>;
export type ListRequest = z.infer<typeof ListRequest>;
export type KeptMap = z.infer<typeof KeptMap>;
export type GapsAnswer = z.infer<typeof GapsAnswer>;
export type OnePersonRequest = z.infer<typeof OnePersonRequest>;
export type OnePersonAnswer = z.infer<typeof OnePersonAnswer>;
export type DifferencesAnswer = z.infer<typeof DifferencesAnswer>;
export type FirstStepsAnswer = z.infer<typeof FirstStepsAnswer>;

/** What a gateway shows to whoever greets it. */
export const GatewaySeen = z
  .object({
    names: z.array(z.string()),
    notBefore: z.string(),
    notAfter: z.string(),
    public: z.boolean().describe('Whether somebody vouches for it whom every system knows'),
    fault: z.string().nullable().describe('Why nobody does'),
    issuer: z.string(),
    tlsHighest: z.enum(['1.2', '1.3']),
    tlsMinimum: z.enum(['1.2', '1.3']),
  })
  .meta({ id: 'GatewaySeen' });
export type GatewaySeen = z.infer<typeof GatewaySeen>;
/** Looks at a gateway; what it shows is taken over where that is asked for. */
export const LookAtGateway = z
  .strictObject({
    port: z.number().int().min(1).max(65_535).default(443),
    take: z.boolean().default(false),
    trust: z.enum(['organisation', 'none']).optional().describe('Who trusts its issuer, where not every system does'),
  })
  .meta({ id: 'LookAtGateway' });
export const GatewayLooked = z.object({ seen: GatewaySeen, applied: Applied.nullable() }).meta({ id: 'GatewayLooked' });
export type GatewayLooked = z.infer<typeof GatewayLooked>;
