import { z } from 'zod';
import { Portal, Publication } from './access.js';
import { Endpoint } from './endpoint.js';
import { Gateway, Host, Line, Location, Person, Pool, Resource } from './objects.js';
import { Key } from './fields.js';
import { SettingValue } from './setting.js';
import { Bay } from './words.js';

const Scalar = z.union([z.string().max(120), z.number(), z.boolean()]);
const operators = ['is', 'isNot', 'oneOf', 'includes', 'atLeast', 'below', 'known', 'order'] as const;

/** Objects of a crossing whose fields are facts, and the facts that are worked out. */
const factRoots: Record<string, { shape: object }> = {
  person: Person,
  endpoint: Endpoint,
  location: Location,
  line: Line,
  resource: Resource,
  pool: Pool,
  host: Host,
  gateway: Gateway,
  publication: Publication,
  portal: Portal,
};
/** Every fact a test may name, but for the settings, which the catalogue alone knows. */
export const factNames = (): string[] => [
  ...Object.entries(factRoots).flatMap(([root, { shape }]) => Object.keys(shape).map((field) => `${root}.${field}`)),
  ...workedOut,
];
const workedOut = ['entitled', 'visible', 'resources', 'signInRight', 'guestEnded', 'groups'];

/** What is wrong with the name of a fact, or null. The keys of settings are known to the catalogue alone. */
function faultOfFact(fact: string): string | null {
  const [root = '', field] = fact.split('.');
  if (root === 'setting' || workedOut.includes(fact)) return null;
  const known = Object.hasOwn(factRoots, root) ? factRoots[root] : undefined;
  if (!known)
    return `“${fact}” is not a fact: start with one of ${Object.keys(factRoots).join(', ')}, setting, or use ${workedOut.join(', ')}`;
  if (!field || !Object.hasOwn(known.shape, field))
    return `${root} has no field “${field ?? ''}”: use one of ${Object.keys(known.shape).join(', ')}`;
  return null;
}

/** A test over the facts of a crossing. Written as one form: a comparison of one fact, or all, any or not of other tests. */
export interface Test {
  fact?: string | undefined;
  is?: string | number | boolean | undefined;
  isNot?: string | number | boolean | undefined;
  oneOf?: (string | number | boolean)[] | undefined;
  includes?: string | undefined;
  atLeast?: string | number | undefined;
  below?: string | number | undefined;
  known?: boolean | undefined;
  order?: string[] | undefined;
  all?: Test[] | undefined;
  any?: Test[] | undefined;
  not?: Test | undefined;
}

export const Test: z.ZodType<Test> = z
  .strictObject({
    fact: z
      .string()
      .max(120)
      .regex(/^[a-z][A-Za-z]*(\.[A-Za-z0-9-]+)*$/, 'must be a fact such as host.release')
      .optional(),
    is: Scalar.optional(),
    isNot: Scalar.optional(),
    oneOf: z.array(Scalar).min(1).max(50).optional(),
    includes: z.string().max(120).optional().describe('The fact is a list that holds this'),
    atLeast: z
      .union([z.string().max(40), z.number()])
      .optional()
      .describe('A version or a number'),
    below: z.union([z.string().max(40), z.number()]).optional(),
    known: z.boolean().optional(),
    order: z.array(z.string().max(120)).min(2).max(20).optional().describe('Names that stand in the list in this order'),
    get all() {
      return z.array(Test).min(1).max(50).optional();
    },
    get any() {
      return z.array(Test).min(1).max(50).optional();
    },
    get not() {
      return Test.optional();
    },
  })
  .superRefine((test, context) => {
    const forms = (['fact', 'all', 'any', 'not'] as const).filter((form) => test[form] !== undefined);
    const used = operators.filter((operator) => test[operator] !== undefined);
    const fault = test.fact === undefined ? null : faultOfFact(test.fact);
    if (fault) context.addIssue({ code: 'custom', path: ['fact'], message: fault });
    if (forms.length !== 1) context.addIssue({ code: 'custom', message: 'must have exactly one of fact, all, any and not' });
    else if (forms[0] === 'fact' && used.length !== 1)
      context.addIssue({ code: 'custom', message: `must compare ${test.fact} with exactly one of ${operators.join(', ')}` });
    else if (forms[0] !== 'fact' && used.length > 0)
      context.addIssue({ code: 'custom', path: [used[0] as string], message: `${used[0]} needs a fact beside it` });
  });

/** Objects a remedy is done at: the work is counted once for each. */
export const RemedyAt = z.enum(['organisation', 'location', 'person', 'endpoint', 'resource', 'pool', 'host', 'gateway', 'portal']);

/** A change that meets the condition, where one field or one setting does. */
const RemedyEdit = z
  .strictObject({
    field: z.string().max(80).optional().describe('Field of the object the remedy is done at'),
    setting: z.string().max(80).optional().describe('Setting; it is set at the layer of the object the remedy is done at'),
    value: z.union([SettingValue, z.null()]),
  })
  .refine((edit) => (edit.field === undefined) !== (edit.setting === undefined), 'must name a field or a setting, not both');

export const Condition = z.strictObject({
  id: Key,
  name: z.string().trim().min(1).max(160),
  bay: Bay,
  when: Test,
  remedy: z.string().trim().min(1).max(300),
  who: z.string().trim().min(1).max(120).describe('Who can do it'),
  at: RemedyAt,
  effortH: z.number().positive().max(2000).describe('Hours of work for one object'),
  edit: RemedyEdit.optional(),
  alternatives: z
    .array(z.strictObject({ name: z.string().trim().min(1).max(160), when: Test, costs: z.string().trim().min(1).max(300) }))
    .max(10)
    .default([])
    .describe('What will do instead, and what that costs'),
});

/** What has to hold before a feature works on a crossing. Data, so that one is added without code. */
export const RequirementSet = z
  .strictObject({
    id: Key,
    name: z.string().trim().min(1).max(120),
    purpose: z.string().trim().min(1).max(300),
    breaks: z.enum(['signed in']).optional().describe('Step that fails where it is not met; none: the feature is missing, people get in'),
    appliesTo: Test.describe('Crossings it is for'),
    givenUp: z.array(z.string().max(200)).max(20).default([]).describe('What will not work afterwards'),
    conditions: z.array(Condition).min(1).max(60),
  })
  .refine((set) => new Set(set.conditions.map(({ id }) => id)).size === set.conditions.length, {
    path: ['conditions'],
    message: 'two conditions have the same id',
  })
  .meta({ id: 'RequirementSet' });

export type RemedyAt = z.infer<typeof RemedyAt>;
export type Condition = z.infer<typeof Condition>;
export type RequirementSet = z.infer<typeof RequirementSet>;
