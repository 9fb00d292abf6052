import { z } from 'zod';
import { Change } from '../estate/change.js';
import { Bay, DeviceClass, Verdict } from '../estate/words.js';

/** A problem as RFC 9457 tells it; `fields` names each field that is wrong and what would be right. */
export const Problem = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.number(),
    detail: z.string(),
    fields: z.array(z.object({ field: z.string(), problem: z.string() })).optional(),
    /** Under which id the server's log tells of it. */
    id: z.string().optional(),
    /** What has to be done first: give the password again, set up a second factor, or give its code. */
    needs: z.enum(['confirmation', 'second factor', 'code']).optional(),
    /** Somebody else's version of what was to be changed. */
    conflict: z
      .object({
        now: z.unknown(),
        /** What the form began with, where it is still known. */
        before: z.unknown(),
        version: z.string(),
        by: z.string(),
        at: z.string(),
      })
      .optional(),
  })
  .meta({ id: 'Problem' });

export const CrossingRow = z
  .object({
    id: z.string(),
    person: z.string(),
    personName: z.string(),
    endpoint: z.string(),
    location: z.string(),
    locationName: z.string(),
    resource: z.string(),
    resourceName: z.string(),
    verdict: Verdict,
    bay: Bay.nullable(),
    delayMs: z.number(),
    frameRate: z.number(),
    timeToUsableS: z.number(),
    kinds: z.array(z.string()),
  })
  .meta({ id: 'CrossingRow' });
export const CrossingPage = z
  .object({ total: z.number(), counts: z.record(Verdict, z.number()), rows: z.array(CrossingRow) })
  .meta({ id: 'CrossingPage' });

export const CrossingGroups = z
  .object({
    total: z.number(),
    groups: z.array(
      z.object({
        key: z.string(),
        name: z.string(),
        people: z.number(),
        notClear: z.number().describe('People who are not Clear in it'),
        crossings: z.number(),
        counts: z.record(Verdict, z.number()),
      }),
    ),
  })
  .meta({ id: 'CrossingGroups' });

export const FoundObject = z.object({ kind: z.string(), id: z.string(), name: z.string(), detail: z.string(), path: z.string() });

export const ImportResult = z.object({
  version: z.number().optional().describe('Of the estate it was compared with; to be sent when it is applied'),
  added: z.number(),
  changed: z.number(),
  unchanged: z.number(),
  measurements: z.number(),
  rejected: z.array(z.object({ file: z.string(), line: z.number(), field: z.string(), problem: z.string(), expected: z.string() })),
  rejectedTotal: z.number(),
  sample: z.array(z.object({ kind: z.string(), id: z.string(), change: z.string(), fields: z.array(z.string()) })),
});
export const ImportJob = z
  .object({
    id: z.string(),
    state: z.enum(['running', 'checked', 'applied', 'rejected', 'failed']),
    step: z.string(),
    done: z.number(),
    total: z.number(),
    result: ImportResult.optional(),
    message: z.string().optional(),
  })
  .meta({ id: 'ImportJob' });

export const CheckLinkView = z
  .object({
    id: z.string(),
    url: z.string().optional(),
    qr: z.string().optional(),
    endpoint: z.string().nullable(),
    person: z.string().nullable(),
    location: z.string(),
    createdAt: z.string(),
    createdBy: z.string(),
    expiresAt: z.string(),
    revokedAt: z.string().nullable(),
    opened: z.number(),
    state: z.enum(['not opened', 'opened', 'waiting', 'measuring', 'finished', 'stopped']),
    step: z.string(),
  })
  .meta({ id: 'CheckLinkView' });

export const AuditEntry = z
  .object({
    changeId: z.string(),
    at: z.string(),
    by: z.string(),
    summary: z.string(),
    objects: z.array(z.object({ kind: z.string(), id: z.string(), before: z.unknown(), after: z.unknown() })),
    undone: z.boolean(),
    canUndo: z.boolean(),
    /** Why it cannot be taken back any more: what was written since on the same. */
    restsOn: z.string().nullable(),
  })
  .meta({ id: 'AuditEntry' });

const NamedObject = z.object({ id: z.string(), name: z.string() });
/** What a crossing is between, by name. */
export const CrossingBetween = z
  .object({
    person: NamedObject,
    endpoint: NamedObject.extend({ deviceClass: DeviceClass }),
    location: NamedObject.extend({ ownLines: z.boolean() }),
    resource: NamedObject,
    /** The person's group that is nearest to them for settings. */
    group: z.string().nullable(),
    /** Whether they find the resource in their list. */
    visible: z.boolean(),
  })
  .meta({ id: 'CrossingBetween' });
/** A change kept on paper, as it stands on the estate of now. */
export const DraftView = z
  .object({
    id: z.string(),
    name: z.string(),
    crossing: z.string().nullable(),
    change: Change,
    createdBy: z.string(),
    createdAt: z.string(),
    updatedAt: z.string().describe('When it was written last: named when it is written again, applied or dropped'),
    /** What stands otherwise now than when it was kept. */
    conflicts: z.array(z.object({ kind: z.string(), id: z.string(), field: z.string().nullable(), text: z.string() })),
    /** Whether everything it would write stands so already. */
    done: z.boolean(),
  })
  .meta({ id: 'DraftView' });

/** A change that was made: by its id it can be taken back. */
export const Applied = z
  .object({
    changeId: z.string(),
    version: z.number().describe('The version of the estate that has it'),
    behind: z.literal(true).optional().describe('It is kept; what is shown follows as soon as the database can be read again'),
  })
  .meta({ id: 'Applied' });
/** Whose verdict became another, as it is told when results stand; null where everything was evaluated for the first time. */
export const Moved = z
  .object({ people: z.number(), better: z.number(), worse: z.number(), come: z.number(), gone: z.number() })
  .meta({ id: 'Moved' });
/** An object that was written, with its own version for the next edit. */
export const WrittenObject = Applied.extend({ version: z.string() }).meta({ id: 'WrittenObject' });
export const KindCount = z.object({ kind: z.string(), count: z.number() }).meta({ id: 'KindCount' });
const AnyObject = z.looseObject({ id: z.string() });
export const ObjectPage = z
  .object({
    total: z.number(),
    rows: z.array(AnyObject),
    names: z.record(z.string(), z.record(z.string(), z.string())).describe('Names of the objects that the rows name, by kind and id'),
  })
  .meta({ id: 'ObjectPage' });
export const KeptView = z
  .object({
    id: z.string(),
    name: z.string(),
    path: z.string(),
    search: z.string(),
    forAll: z.boolean(),
    by: z.string(),
    own: z.boolean().describe('Whether it is the reader’s own'),
  })
  .meta({ id: 'KeptView' });
export const ObjectAnswer = z.object({ object: AnyObject, version: z.string(), history: z.array(AuditEntry) }).meta({ id: 'ObjectAnswer' });
export const Made = z.object({ id: z.string() }).meta({ id: 'Made' });
export const MeasurementKept = z
  .object({ id: z.string(), kind: z.string(), summary: z.record(z.string(), z.number().nullable()) })
  .meta({ id: 'MeasurementKept' });
export const KnownBrowser = z.object({ id: z.string(), name: z.string(), current: z.string() }).meta({ id: 'KnownBrowser' });
export const JsonSchemas = z.record(z.string(), z.unknown()).meta({ id: 'JsonSchemas' });
export const PersonKept = z
  .record(z.string(), z.unknown())
  .describe('Everything that is kept about one person, by where')
  .meta({ id: 'PersonKept' });
export const LeadsTo = z.object({ leadsTo: z.string() }).optional().describe('Where to go on, if anywhere');
export const EntryTarget = z.object({ targetKind: z.string(), target: z.string() }).meta({ id: 'EntryTarget' });
export const KeptSets = z.object({ ids: z.array(z.string()) }).meta({ id: 'KeptSets' });
export const Lives = z.object({ state: z.literal('lives') }).meta({ id: 'Lives' });
export const Ready = z.object({ state: z.enum(['ready', 'not ready']), parts: z.record(z.string(), z.boolean()) }).meta({ id: 'Ready' });

export type Applied = z.infer<typeof Applied>;
export type Moved = z.infer<typeof Moved>;
/** A secret of an object, opened. */
export const ShownSecret = z.strictObject({ value: z.string() }).meta({ id: 'ShownSecret' });
export type ShownSecret = z.infer<typeof ShownSecret>;
export type WrittenObject = z.infer<typeof WrittenObject>;
export type Problem = z.infer<typeof Problem>;
export type KeptView = z.infer<typeof KeptView>;
export type ObjectPage = z.infer<typeof ObjectPage>;
export type CrossingGroups = z.infer<typeof CrossingGroups>;
export type CrossingRow = z.infer<typeof CrossingRow>;
export type CrossingPage = z.infer<typeof CrossingPage>;
export type FoundObject = z.infer<typeof FoundObject>;
export type ImportResult = z.infer<typeof ImportResult>;
export type ImportJob = z.infer<typeof ImportJob>;
export type CheckLinkView = z.infer<typeof CheckLinkView>;
export type AuditEntry = z.infer<typeof AuditEntry>;
export type CrossingBetween = z.infer<typeof CrossingBetween>;
export type DraftView = z.infer<typeof DraftView>;
