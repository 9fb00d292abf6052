import { z } from 'zod';
import { Change, ObjectKindWord } from '../estate/change.js';
import { Bay, Verdict, Weekday } from '../estate/words.js';
import { CrossingBetween } from './answers.js';

const WorstHour = z
  .object({ hour: z.number().describe('Local time of each place, 0 to 23'), crossings: z.number() })
  .nullable()
  .describe('The hour in which most of what is not Clear is at its worst');
const Counts = z.record(Verdict, z.number()).describe('People by verdict, each at their worst');

/** Where it hurts: places × resources, and what leads. */
export const BoardAnswer = z
  .object({
    version: z.number(),
    at: z.string(),
    board: z.object({
      people: Counts,
      bays: z.record(Bay, Counts),
      resources: z.array(z.object({ id: z.string(), name: z.string() })).describe('Resources with a column of their own'),
      settling: z
        .object({
          way: z.string(),
          location: z.string(),
          crossings: z.number(),
          people: z.number(),
          times: z.number(),
          minutes: z.number(),
        })
        .nullable()
        .describe('What would tell most of what is not known, for the least effort'),
      worstHour: WorstHour,
      others: z.number().describe('Resources that are counted together'),
      rows: z.array(
        z.object({
          area: z.string(),
          place: z.object({ ownLines: z.boolean(), downMbps: z.number().nullable() }).nullable(),
          people: Counts,
          cells: z.record(z.string(), Counts),
          rest: Counts.nullable(),
          locations: z.array(z.string()),
          worstHour: WorstHour,
        }),
      ),
    }),
    leading: z.array(
      z.object({
        kind: z.string(),
        bay: Bay,
        weight: z.enum(['blocked', 'limited', 'unknown', 'risk']),
        area: z.string(),
        text: z.string(),
        people: z.number(),
        before: Counts,
        remedy: z.object({ text: z.string(), named: z.string(), change: Change, effect: z.string(), applicable: z.boolean() }).nullable(),
        after: Counts,
        example: z.string().describe('One crossing that shows it'),
      }),
    ),
  })
  .meta({ id: 'BoardAnswer' });

const QuestionKey = z.enum(['open', 'usable', 'feel', 'works']);
const Remedy = z.object({
  text: z.string(),
  change: Change,
  applicable: z.boolean(),
  effect: z.object({ becomes: Verdict, helps: z.boolean(), gain: z.number(), text: z.string() }).nullable(),
  effectText: z.string(),
  at: z
    .object({ kind: ObjectKindWord, id: z.string() })
    .optional()
    .describe('The object at which it is written down once it is known or done'),
});
const Finding = z.object({
  kind: z.string(),
  bay: Bay,
  weight: z.enum(['blocked', 'limited', 'unknown', 'risk']),
  text: z.string(),
  cost: z.number(),
  costText: z.string(),
  sure: z.enum(['sure', 'likely', 'rests on an assumption']),
  evidence: z.array(z.object({ source: z.string(), text: z.string(), notUsed: z.boolean().optional() })),
  remedies: z.array(Remedy),
  consequences: z.array(z.string()),
});
const Section = z.object({
  bays: z.array(
    z.object({
      bay: Bay,
      verdict: Verdict.nullable(),
      facts: z.array(z.object({ source: z.string(), text: z.string(), note: z.string(), notUsed: z.string().optional() })),
      state: z.enum(['fits', 'short', 'not known', 'blocked', 'not reached']),
      headroom: z.number().nullable().describe('Available ÷ needed; null also where nothing is asked of it'),
      label: z.string(),
      detail: z.string(),
      delayMs: z.number(),
      delayAssumed: z.boolean(),
      signonS: z.number(),
      signonAssumed: z.boolean(),
    }),
  ),
  ducts: z.array(z.object({ name: z.string(), bay: Bay, why: z.string() })),
  totalDelayMs: z.number(),
  limitDelayMs: z.number(),
  delayVerdict: Verdict,
  totalSignonS: z.number(),
  limitSignonS: z.number(),
  signonVerdict: Verdict,
  sources: z.record(z.enum(['measured', 'reported', 'declared', 'assumed']), z.number()),
  steps: z.array(z.object({ name: z.string(), bay: Bay, state: z.string() })),
});

/** Everything the screen of a crossing shows. */
export const CrossingViewAnswer = z
  .object({
    verdict: Verdict,
    sentence: z.string(),
    questions: z.array(
      z.object({ question: z.string(), key: QuestionKey, verdict: Verdict, bay: Bay, answer: z.string(), more: z.string() }),
    ),
    sections: z.record(QuestionKey, Section),
    findings: z.array(Finding),
    together: z.array(Remedy.extend({ parts: z.array(z.string()) })).describe('Several remedies at once, where no single one is enough'),
    chance: z.object({
      clear: z.number().describe('How likely it is Clear, 0 to 1'),
      settles: z.object({ fact: z.string(), chance: z.number() }).nullable().describe('The fact that is not known and would tell most'),
    }),
    day: z
      .object({
        zone: z.string(),
        hours: z.array(
          z.object({
            hour: z.number(),
            works: z.boolean(),
            verdict: Verdict,
            delayMs: z.number(),
            frames: z.number(),
            usableS: z.number(),
            lineMbps: z.number().nullable(),
            othersMbps: z.number(),
            shareMbps: z.number().nullable(),
          }),
        ),
        days: z.array(Weekday),
        assumed: z.boolean().describe('Nobody typed when the place works'),
        worst: z.number().describe('The local hour that the verdict is told for'),
        measured: z.number().nullable().describe('The local hour in which the line was measured'),
        measuredAge: z.object({ days: z.number(), weight: z.number() }).nullable().describe('Days since then, and what it still weighs'),
        askedMbps: z.number(),
        sameAllDay: z.boolean(),
      })
      .describe('The crossing over the hours of a working day'),
    compare: z.array(
      z.object({
        name: z.string(),
        value: z.number().nullable(),
        low: z.number().nullable(),
        high: z.number().nullable(),
        unit: z.string(),
        digits: z.number(),
        wanted: z.number().nullable(),
        better: z.enum(['less', 'more']),
        verdict: Verdict,
      }),
    ),
    settings: z.record(z.string(), z.unknown()).describe('Settings in force, by key'),
    delayParts: z.array(z.object({ name: z.string(), bay: Bay, ms: z.number(), source: z.string() })),
    steps: z.array(
      z.object({
        name: z.string(),
        bay: Bay,
        startS: z.number(),
        seconds: z.number(),
        source: z.string(),
        byPerson: z.boolean(),
        critical: z.boolean(),
      }),
    ),
    shortcuts: z.array(z.object({ id: z.string(), name: z.string(), savedS: z.number(), totalS: z.number(), inUse: z.boolean() })),
    leftBehind: z.object({
      policy: z.string(),
      sessions: z.array(z.looseObject({ id: z.string(), resourceName: z.string() })),
      outcomes: z.array(
        z.object({
          choice: z.string(),
          takesUp: z.array(z.string()),
          startsNew: z.boolean(),
          does: z.string(),
          warning: z.string().nullable(),
        }),
      ),
    }),
    ladder: z.array(z.object({ name: z.string(), state: z.string(), bay: Bay })),
    desk: z.array(z.object({ name: z.string(), works: z.boolean().nullable(), carriedAs: z.string(), why: z.string() })),
    missing: z.array(z.string()),
  })
  .meta({ id: 'CrossingView' });

export const CrossingAnswer = z
  .object({
    id: z.string(),
    version: z.number(),
    at: z.string(),
    between: CrossingBetween,
    view: CrossingViewAnswer,
    why: z.record(z.string(), z.object({ value: z.unknown(), from: z.string() })).describe('Where each setting in force comes from'),
  })
  .meta({ id: 'CrossingAnswer' });
export const TryAnswer = z.object({ version: z.number(), view: CrossingViewAnswer.nullable() }).meta({ id: 'TryAnswer' });

export const SliceAnswer = z
  .object({
    version: z.number(),
    slice: z
      .object({
        ref: z.object({ id: z.string(), person: z.string(), endpoint: z.string(), location: z.string(), resource: z.string() }),
        atMs: z.number(),
        estate: z.record(z.string(), z.array(z.looseObject({}))).describe('Objects by kind'),
        measurements: z.array(z.looseObject({ id: z.string() })),
      })
      .nullable()
      .describe('null where too many share the line'),
  })
  .meta({ id: 'SliceAnswer' });

export const HistoryAnswer = z
  .array(z.object({ at: z.string(), verdict: Verdict, delayMs: z.number(), frameRate: z.number(), cause: z.string() }))
  .meta({ id: 'HistoryAnswer' });

export const ImpactAnswer = z
  .object({
    version: z.number().describe('Of the estate it was worked out on'),
    before: Counts,
    after: Counts,
    crossings: z.number().describe('Crossings that were looked at'),
    changedVerdict: z.number(),
    better: z.number(),
    worse: z.number(),
    come: z.number(),
    gone: z.number(),
    moves: z.array(z.object({ from: Verdict, to: Verdict, people: z.number() })),
    losers: z.array(
      z.object({ crossing: z.string(), person: z.string(), place: z.string(), from: Verdict, to: Verdict, text: z.string() }),
    ),
    winners: z.array(
      z.object({ crossing: z.string(), person: z.string(), place: z.string(), from: Verdict, to: Verdict, text: z.string() }),
    ),
    newlyBlocked: z.number().describe('Crossings that open now and would not any more'),
    improved: z.number(),
    weakened: z.number(),
    lines: z.array(
      z.object({ location: z.string(), name: z.string(), before: z.number(), after: z.number(), rateMbps: z.number().nullable() }),
    ),
    beside: z
      .object({ devicesStop: z.number(), devicesStart: z.number(), softer: z.number(), sharper: z.number(), secondsMean: z.number() })
      .nullable()
      .describe('What moves beside the verdict; null where the estate is too large to look at both sides of each'),
  })
  .meta({ id: 'Impact' });
