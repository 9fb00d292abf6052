import { z } from 'zod';
import { Change } from '../estate/change.js';
import { Key } from '../estate/fields.js';
import { CarryAs, ConnectWhen, Peripheral, UsbRule } from '../estate/peripheral.js';
import { Setting, SettingValue } from '../estate/setting.js';
import { ClientKind, Layer, LineKind, Ownership, Verdict } from '../estate/words.js';
import { Applied } from './answers.js';

/** Who wrote an entry, and when; nobody knows of what the demo or an import brought before there was a record. */
const Written = z.object({ by: z.string(), at: z.string() }).nullable();

/** What the layers look at, with the entries that stand for somebody at an endpoint. */
export const SettingsOf = z
  .object({
    subject: z.object({
      deviceClass: z.string(),
      location: z.string(),
      groups: z.array(z.string()),
      person: z.string(),
      endpoint: z.string(),
      ownership: Ownership,
      lineKind: LineKind,
      metered: z.boolean(),
      clientKind: ClientKind,
      guest: z.boolean(),
      inside: z.boolean(),
    }),
    platform: z.enum(['thin', 'desktop', 'mobile']),
    names: z.object({ endpoint: z.string(), person: z.string().nullable(), location: z.string(), groups: z.array(z.string()) }),
    usual: z
      .object({ alike: z.number(), of: z.number() })
      .nullable()
      .describe('Of a location: how many of its endpoints are as the most are, which it is told for'),
    entries: z.array(z.object({ entry: Setting, written: Written })),
    at: z.string().describe('The instant it is told for'),
    past: z.boolean().describe('Whether that is gone by'),
  })
  .meta({ id: 'SettingsOf' });

/** Where else a setting stands, and its history. */
export const SettingPlaces = z
  .object({
    entries: z.array(z.object({ entry: Setting, where: z.string() })),
    total: z.number(),
    history: z.array(
      z.object({
        id: z.string(),
        where: z.string(),
        by: z.string(),
        at: z.string(),
        why: z.string(),
        old: Setting.nullable(),
        fresh: Setting.nullable(),
      }),
    ),
  })
  .meta({ id: 'SettingPlaces' });

/** What each value of a setting comes to on a crossing. */
export const ValueCosts = z
  .object({
    crossing: z.string().nullable(),
    resource: z.string().nullable(),
    handed: z
      .array(
        z.object({
          step: z.enum(['gateway', 'broker', 'host']),
          name: z.string(),
          gets: z.enum(['nothing', 'secret', 'ticket']),
          typed: z.boolean(),
          because: z.string().nullable(),
        }),
      )
      .describe('What reaches each step of the sign-on; a secret itself is known nowhere'),
    costs: z.array(
      z.object({
        value: SettingValue,
        isNow: z.boolean(),
        verdict: Verdict,
        downMbps: z.number(),
        upMbps: z.number(),
        delayMs: z.number(),
        framesPerS: z.number(),
        usableS: z.number(),
        decoding: z.number().nullable(),
        checks: z.number(),
      }),
    ),
  })
  .meta({ id: 'ValueCosts' });
export const CostsQuery = z.strictObject({ endpoint: Key, person: Key.optional(), key: z.string().min(1).max(80) });

const LintedRule = z.object({
  rule: z.string(),
  crossings: z.number(),
  people: z.number(),
  cause: z.string(),
  consequence: z.string(),
  remedies: z.array(z.object({ text: z.string(), change: Change.nullable(), ask: z.string().nullable(), crossings: z.number() })),
  examples: z.array(z.object({ crossing: z.string(), person: z.string(), endpoint: z.string() })),
});
/** Checks between settings that hit. */
export const LintAnswer = z.object({ rules: z.array(LintedRule), crossings: z.number() }).meta({ id: 'LintAnswer' });
export const ChangeOnly = z.strictObject({ change: Change }).meta({ id: 'ChangeOnly' });
/** Checks that hit after a change and did not before, and the other way round. */
export const LintAfter = z.object({ fresh: z.array(LintedRule), gone: z.array(LintedRule) }).meta({ id: 'LintAfter' });

export const CarriedAnswer = z
  .array(
    z.object({
      kind: z.enum(['staff', 'seasonal', 'guest']),
      ownership: Ownership,
      crossings: z.number(),
      cells: z.array(
        z.object({
          what: z.string(),
          way: z.enum(['in', 'out']),
          isData: z.boolean(),
          goes: z.number(),
          stays: z.number(),
          by: z.string(),
        }),
      ),
    }),
  )
  .meta({ id: 'Carried' });

export const NeedlessAnswer = z
  .object({
    entries: z.array(
      z.object({
        entry: Setting,
        where: z.string(),
        because: z.enum(['for nobody', 'its condition never holds', 'always hidden', 'says what holds anyhow']),
      }),
    ),
    of: z.number().describe('How many entries there are'),
  })
  .meta({ id: 'Needless' });

export const SuggestRequest = z.strictObject({ kind: z.string().min(1).max(120) }).meta({ id: 'SuggestRequest' });
export const SuggestAnswer = z
  .object({
    crossings: z.number(),
    suggestions: z.array(
      z.object({
        change: Change,
        text: z.string(),
        layer: Layer,
        target: z.string(),
        where: z.string(),
        helped: z.number(),
        harmed: z.number(),
      }),
    ),
  })
  .meta({ id: 'Suggestions' });

/** Two crossings, fact by fact. */
export const ComparedCrossings = z
  .object({
    a: z.object({ id: z.string(), text: z.string(), verdict: z.string() }),
    b: z.object({ id: z.string(), text: z.string(), verdict: z.string() }),
    differences: z.array(z.object({ fact: z.string(), a: z.unknown(), b: z.unknown(), explains: z.number() })),
  })
  .meta({ id: 'ComparedCrossings' });
export const CompareQuery = z.strictObject({ a: z.string().min(1).max(200), b: z.string().min(1).max(200) });
/** Somebody at an endpoint, an endpoint alone, a person alone, or a location alone. */
export const SettingsQuery = z
  .strictObject({
    endpoint: Key.optional(),
    person: Key.optional(),
    location: Key.optional(),
    at: z.iso.datetime({ error: 'must be a UTC time such as 2026-06-12T08:00:00Z' }).max(40).optional(),
  })
  .refine(({ endpoint, person, location }) => (location === undefined) !== (endpoint === undefined && person === undefined), {
    message: 'must name an endpoint, a person, or a location and nothing beside it',
    path: ['location'],
  });

export const DraftEdit = z
  .strictObject({
    name: z.string().trim().min(1).max(120).optional(),
    change: Change.optional(),
    seen: z.string().max(40).describe('When it was written last, as it was read'),
  })
  .meta({ id: 'DraftEdit' });
/** When a draft was written last, as whoever drops it saw it. */
export const DraftDropQuery = z.strictObject({ seen: z.string().max(40).optional() });
const Target = z.string().min(1).max(64);
export const DraftAtPlaceQuery = z.strictObject({ layer: Layer, target: Target });
/** What a draft would write at one place alone, and what stands there and would be replaced. */
export const DraftAtPlace = z
  .object({
    version: z.number().describe('Of the estate it is told for; to be sent when it is applied'),
    change: Change.describe('What of it goes there'),
    steps: z.number().describe('Entries that would be written'),
    left: z.number().describe('Steps that would be left out'),
    replaced: z.array(z.object({ entry: Setting, becomes: Setting, written: Written })),
    locked: z
      .array(z.object({ entry: Setting, where: z.string(), all: z.boolean().describe('For everybody there; otherwise for some, perhaps') }))
      .describe('Locked entries of farther layers, by which what is written there does nothing'),
  })
  .meta({ id: 'DraftAtPlace' });
export const DraftApply = z
  .strictObject({
    seen: z.string().max(40),
    narrow: z
      .strictObject({
        layer: Layer,
        target: Target,
        version: z.number().int().min(0).describe('Of the estate, as what stands there was read'),
      })
      .optional(),
    reason: z.string().trim().max(400).optional().describe('Why people may be shut out by it'),
  })
  .meta({ id: 'DraftApply' });
export const DraftApplied = Applied.extend({ left: z.number().describe('Steps that were left out') }).meta({ id: 'DraftApplied' });
export const ComparedDrafts = z
  .array(
    z.object({
      kind: z.string(),
      id: z.string(),
      field: z.string().nullable(),
      now: z.unknown(),
      first: z.unknown(),
      second: z.unknown(),
      alike: z.boolean(),
    }),
  )
  .meta({ id: 'ComparedDrafts' });

const PlugStepName = z.enum(['seen', 'power', 'client', 'rule', 'when', 'setting', 'taken', 'gateway', 'driver', 'way']);
const CarriedAs = z.enum([...CarryAs.options, 'session input', 'not allowed', 'split']);
/** What happens when a device is plugged in on a crossing. */
export const PluggedAnswer = z
  .object({
    name: z.string(),
    decision: CarriedAs,
    rule: z.object({ id: z.string(), name: z.string() }).nullable(),
    when: ConnectWhen.nullable(),
    why: z.string(),
    steps: z.array(
      z.object({
        name: PlugStepName,
        state: z.enum(['passes', 'waits', 'stops', 'not known', 'not reached']),
        text: z.string(),
        question: z.string().optional(),
      }),
    ),
    works: z.boolean().nullable(),
    sees: z.string(),
    nearly: z.array(z.object({ rule: z.string(), field: z.string() })),
    costs: z.object({ mbps: z.number().nullable(), addedMs: z.number().nullable(), exchanges: z.number(), bearsMs: z.number().nullable() }),
    cause: z.string().nullable().describe('Why it does not appear, as far as is known'),
    ask: z.object({ step: PlugStepName, question: z.string() }).nullable().describe('What to ask next'),
  })
  .meta({ id: 'Plugged' });
export const PlugRequest = z
  .strictObject({
    device: Peripheral,
    answers: z.partialRecord(PlugStepName, z.boolean()).default({}),
    change: Change.optional().describe('As it would be after this'),
  })
  .meta({ id: 'PlugRequest' });

/** What goes through on a crossing, seen end-on. */
export const DuctsAnswer = z
  .object({
    crossing: z.string(),
    between: z.object({ person: z.string(), endpoint: z.string(), location: z.string(), resource: z.string() }),
    ducts: z.array(
      z.object({
        name: z.string(),
        direction: z.enum(['to the session', 'back to the desk']),
        carriedAs: z.enum([...CarriedAs.options, 'session']),
        mbps: z.number(),
        exchanges: z.number(),
        addedMs: z.number().nullable(),
        claimedTwice: z.boolean(),
        rule: z.string().nullable(),
        why: z.string(),
      }),
    ),
    devices: z.array(Peripheral),
    groups: z.array(z.string()),
  })
  .meta({ id: 'Ducts' });

/** The rules in their order, with what each decides in the estate. */
export const RulesAnswer = z
  .object({
    rules: z.array(
      z.object({
        rule: UsbRule,
        devices: z.number().describe('Devices of the estate it decides'),
        shadowedBy: z.string().nullable().describe('An earlier rule that fits all this one does'),
      }),
    ),
    unnamed: z.array(z.object({ device: Peripheral, endpoint: z.string() })).describe('Devices no rule names'),
    devices: z.number(),
  })
  .meta({ id: 'Rules' });

export type SettingsOf = z.infer<typeof SettingsOf>;
export type SettingPlaces = z.infer<typeof SettingPlaces>;
export type ValueCosts = z.infer<typeof ValueCosts>;
export type LintAnswer = z.infer<typeof LintAnswer>;
export type LintAfter = z.infer<typeof LintAfter>;
export type CarriedAnswer = z.infer<typeof CarriedAnswer>;
export type NeedlessAnswer = z.infer<typeof NeedlessAnswer>;
export type SuggestAnswer = z.infer<typeof SuggestAnswer>;
export type ComparedCrossings = z.infer<typeof ComparedCrossings>;
export type DraftEdit = z.infer<typeof DraftEdit>;
export type DraftApply = z.infer<typeof DraftApply>;
export type DraftAtPlace = z.infer<typeof DraftAtPlace>;
export type DraftApplied = z.infer<typeof DraftApplied>;
export type ComparedDrafts = z.infer<typeof ComparedDrafts>;
export type PluggedAnswer = z.infer<typeof PluggedAnswer>;
export type PlugRequest = z.infer<typeof PlugRequest>;
export type DuctsAnswer = z.infer<typeof DuctsAnswer>;
export type RulesAnswer = z.infer<typeof RulesAnswer>;
