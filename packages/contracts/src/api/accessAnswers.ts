import { z } from 'zod';
import { Change } from '../estate/change.js';
import { Person } from '../estate/objects.js';
import { Verdict } from '../estate/words.js';

/** An object by name, as screens show it. */
export const Named = z.object({ id: z.string(), name: z.string() }).meta({ id: 'Named' });
export const ChainNode = Named.extend({ kind: z.enum(['person', 'group', 'publication', 'portal', 'resource']) }).meta({ id: 'ChainNode' });
const ResourceKind = z.enum(['desktop', 'app']);
const People = z.number().describe('People');

export const AccessPersonRow = Named.extend({
  kind: Person.shape.kind,
  locationName: z.string(),
  groups: z.array(Named),
  now: z.number(),
  after: z.number(),
  changes: z.boolean().describe('What they see now is not what they will see after the next sign-in'),
  hidden: z.number(),
  desktops: z.array(z.string()),
});
export const AccessPeople = z
  .object({
    total: z.number(),
    counts: z
      .record(z.enum(['hidden', 'nothing', 'changes', 'must choose', 'guests']), z.number())
      .describe('Of those who fit the search and the group'),
    rows: z.array(AccessPersonRow),
  })
  .meta({ id: 'AccessPeople' });

export const SeenItem = Named.extend({ kind: ResourceKind, chain: z.array(ChainNode) });
export const AccessPersonView = z
  .object({
    person: Person,
    locationName: z.string(),
    zone: z.string().describe('IANA zone of the location'),
    groups: z.array(Named),
    now: z.array(SeenItem),
    after: z.array(SeenItem),
    signedInAt: z.string().nullable(),
    startsAtOnce: z.string().nullable(),
    mustChoose: z.boolean(),
    desktops: z.array(z.string()),
    notSeen: z.array(Named.extend({ kind: ResourceKind, hiddenIn: z.string().nullable() })).describe('Every resource they do not see'),
    crossings: z.array(z.object({ id: z.string(), resource: z.string(), endpoint: z.string() })),
    sightings: z.array(
      z.object({
        at: z.string(),
        portalName: z.string(),
        outcome: z.string(),
        saw: z.array(z.string()),
        missing: z.array(z.string()),
        extra: z.array(z.string()),
        opened: z.string().nullable(),
        seconds: z.number(),
      }),
    ),
  })
  .meta({ id: 'AccessPersonView' });

export const WhyView = z
  .object({
    seen: z.boolean(),
    step: z.string().nullable(),
    object: z.string().nullable(),
    remedy: z.string().nullable(),
    change: Change.describe('The change that mends it'),
    chain: z.array(ChainNode.nullable()).describe('null stands where the link is missing'),
    alsoOpensTo: z.array(Named),
    alsoOpensCount: z.number(),
    alsoGives: z.array(Named),
  })
  .meta({ id: 'WhyView' });

export const PublicationRow = Named.extend({
  kind: z.enum(['desktop', 'apps']),
  poolName: z.string(),
  resources: z.array(Named),
  groups: z.array(Named.extend({ people: People })),
  portals: z.array(Named),
  people: People,
  state: z.enum(['seen', 'attached to no portal', 'held by no group', 'nobody is in its groups']),
}).meta({ id: 'PublicationRow' });

export const ResourceReach = Named.extend({
  kind: ResourceKind,
  people: People,
  ways: z.array(z.object({ chain: z.array(ChainNode), people: People, first: z.array(Named) })),
}).meta({ id: 'ResourceReach' });

const Verdicts = z.record(Verdict, z.number());
export const ConsequenceView = z
  .object({
    version: z.number().describe('Version of the estate it was worked out on'),
    writes: z.number().describe('Objects it would write'),
    people: People,
    rows: z.array(
      z.object({
        person: Named,
        gains: z.array(z.string()),
        loses: z.array(z.string()),
        desktops: z.array(z.string()),
        at: z.literal('next sign-in'),
      }),
    ),
    verdicts: Verdicts.describe('Verdicts of the crossings that would be new'),
    worst: z
      .array(z.object({ verdict: z.enum(['blocked', 'limited', 'unknown']), sentence: z.string(), people: People, first: z.string() }))
      .describe('What is short on them, told once for everybody it is alike for'),
  })
  .meta({ id: 'ConsequenceView' });

export const GuestRow = Named.extend({
  state: z.enum(['ended', 'ending soon', 'not accepted', 'current', 'not recorded']),
  owner: Named.nullable(),
  organisation: z.string().nullable(),
  country: z.string().nullable(),
  endsOn: z.string().nullable(),
  daysLeft: z.number().nullable(),
  invitation: z.string().nullable(),
  reaches: z.array(z.string()),
  unmet: z.array(z.string()),
  crossing: z.string().nullable().describe('A crossing of theirs, to see it on'),
}).meta({ id: 'GuestRow' });

export const TesterRow = z.object({
  person: z.string(),
  name: z.string(),
  expected: z.array(Named),
  saw: z.array(z.string()).nullable().describe('What they saw; null until it is known'),
  source: z.enum(['entered', 'reported']).nullable(),
  at: z.string().nullable(),
  by: z.string().nullable(),
  note: z.string().nullable(),
  missing: z.array(Named),
  extra: z.array(Named),
});
const SignedOff = { signedOffAt: z.string().nullable(), signedOffBy: z.string().nullable() };
const Run = { id: z.string(), startedAt: z.string(), startedBy: z.string(), ...SignedOff };
const Plan = {
  sets: z.array(z.object({ people: People, first: z.array(Named), resources: z.array(Named) })),
  testers: z.array(Named),
  optimal: z.boolean(),
  publications: z.number(),
  unseen: z.array(Named.extend({ because: z.string() })),
};
/** Who would have to look, once a change is made. */
export const AcceptancePlanView = z.object(Plan).meta({ id: 'AcceptancePlanView' });
export const AcceptanceView = z
  .object({
    ...Plan,
    run: z.object({ ...Run, testers: z.array(TesterRow) }).nullable(),
    runs: z
      .array(
        z.object({
          ...Run,
          people: People,
          looked: z.number(),
          differ: z.number().describe('People who saw something else than they should'),
        }),
      )
      .describe('Every run there was, the latest first'),
  })
  .meta({ id: 'AcceptanceView' });

export const LinkTestView = z
  .object({
    verdict: z.string(),
    sentence: z.string(),
    ladder: z.array(z.object({ name: z.string(), state: z.string(), bay: z.string() })),
    crossing: z.string().nullable(),
    lost: z.array(z.object({ feature: z.string(), support: z.enum(['yes', 'partly', 'no']), from: z.string().nullable() })),
    features: z.array(z.string()).describe('Everything that was looked at'),
    browserName: z.string(),
    source: z.string(),
    measured: z
      .object({ browser: z.string(), name: z.string(), version: z.string() })
      .nullable()
      .describe('The browser that a field check found on this endpoint'),
    beforeS: z.number().describe('Seconds to the first useful picture with the list'),
    afterS: z.number().describe('Seconds to it with the link'),
    savedS: z.number(),
  })
  .meta({ id: 'LinkTestView' });

export const RequirementSetView = z
  .object({
    id: z.string(),
    name: z.string(),
    purpose: z.string(),
    breaks: z.string().nullable(),
    givenUp: z.array(z.string()),
    origin: z.enum(['shipped', 'shipped, changed here', 'own']),
    version: z.number().describe('Version it was last written at; 0 where it was not'),
    text: z.string(),
    ready: People,
    fallback: People,
    notReady: People,
    notKnown: People,
    blockers: z.array(
      z.object({
        condition: z.string(),
        name: z.string(),
        bay: z.string(),
        people: People,
        alone: z.number().describe('People who lack nothing else'),
        who: z.string(),
        remedy: z.string(),
        effortH: z.number(),
      }),
    ),
    remedies: z.array(
      z.object({
        works: z.array(z.object({ name: z.string(), object: z.string(), who: z.string(), effortH: z.number() })),
        people: People,
        effortH: z.number(),
      }),
    ),
    people: z.array(
      z.object({ id: z.string(), name: z.string(), readiness: z.string(), crossing: z.string(), unmet: z.array(z.string()) }),
    ),
  })
  .meta({ id: 'RequirementSetView' });
/** Sets as text, tried on the estate as it is. */
export const TriedSets = z
  .object({
    problems: z.array(
      z.object({
        file: z.string(),
        line: z.number(),
        field: z.string(),
        problem: z.string(),
        expected: z.string(),
        kind: z.string().optional().describe('Kind of the object it is about'),
        id: z.string().optional(),
      }),
    ),
    sets: z.array(RequirementSetView),
  })
  .meta({ id: 'TriedSets' });

export const CrossingReadiness = z
  .object({
    sets: z.array(
      z.object({
        id: z.string(),
        name: z.string(),
        readiness: z.string(),
        givenUp: z.array(z.string()),
        conditions: z.array(
          z.object({
            id: z.string(),
            name: z.string(),
            bay: z.string(),
            state: z.string(),
            remedy: z.string(),
            who: z.string(),
            costs: z.string().nullable(),
          }),
        ),
      }),
    ),
  })
  .meta({ id: 'CrossingReadiness' });

export const SavingsView = z
  .object({
    people: People,
    meanS: z.number(),
    signInsPerDay: z.number(),
    workingDays: z.number(),
    savings: z.array(z.object({ id: z.string(), name: z.string(), people: People, savedS: z.number(), hoursAYear: z.number() })),
  })
  .meta({ id: 'SavingsView' });

export type Named = z.infer<typeof Named>;
export type ChainNode = z.infer<typeof ChainNode>;
export type AccessPersonRow = z.infer<typeof AccessPersonRow>;
export type AccessPeople = z.infer<typeof AccessPeople>;
export type SeenItem = z.infer<typeof SeenItem>;
export type AccessPersonView = z.infer<typeof AccessPersonView>;
export type WhyView = z.infer<typeof WhyView>;
export type PublicationRow = z.infer<typeof PublicationRow>;
export type ResourceReach = z.infer<typeof ResourceReach>;
export type ConsequenceView = z.infer<typeof ConsequenceView>;
export type GuestRow = z.infer<typeof GuestRow>;
export type TesterRow = z.infer<typeof TesterRow>;
export type AcceptancePlanView = z.infer<typeof AcceptancePlanView>;
export type AcceptanceView = z.infer<typeof AcceptanceView>;
export type LinkTestView = z.infer<typeof LinkTestView>;
export type RequirementSetView = z.infer<typeof RequirementSetView>;
export type TriedSets = z.infer<typeof TriedSets>;
export type CrossingReadiness = z.infer<typeof CrossingReadiness>;
export type SavingsView = z.infer<typeof SavingsView>;
