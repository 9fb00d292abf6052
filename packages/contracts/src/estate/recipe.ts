import { z } from 'zod';
import { Key, Name, Version } from './fields.js';

// what stands in a recipe comes to stand in a script: nothing that a shell, or a pattern of a search, would read otherwise
const part = (words: string) =>
  z
    .string()
    .max(120)
    .regex(/^[A-Za-z0-9][A-Za-z0-9.+_@:-]{0,119}$/, `must be the name of ${words}`);
const Package = part('a package');
const Service = part('a service');
const GroupName = part('a group');
const FilePath = z
  .string()
  .max(300)
  .regex(/^\/[A-Za-z0-9._@+/-]+$/, 'must be a whole path such as /etc/desk/desk.ini')
  .refine((path) => !path.split('/').includes('..'), 'must not lead upwards');
const Section = z.string().regex(/^[A-Za-z0-9][A-Za-z0-9 ._-]{0,59}$/, 'must be letters, digits, spaces, dots or dashes');
const KeyName = z.string().regex(/^[A-Za-z0-9][A-Za-z0-9._-]{0,59}$/, 'must be letters, digits, dots or dashes');

/** What a step looks at. */
export const RecipeCheck = z.enum(['package', 'service', 'section', 'key', 'port', 'group', 'certificate']);

/** Fields that each check needs. */
const needed: Record<z.infer<typeof RecipeCheck>, readonly string[]> = {
  package: ['package'],
  service: ['service'],
  section: ['file', 'section'],
  key: ['file', 'section', 'key', 'value'],
  port: ['port'],
  group: ['group'],
  certificate: ['file'],
};
const ofChecks = ['package', 'service', 'file', 'section', 'key', 'value', 'port', 'protocol', 'group', 'days'] as const;
const allowed: Partial<Record<z.infer<typeof RecipeCheck>, readonly string[]>> = { port: ['protocol'], certificate: ['days'] };

/** One step of a preparation: what has to be so, on which releases, and what to do where it is not. */
export const RecipeStep = z
  .strictObject({
    id: Key,
    name: Name,
    check: RecipeCheck.describe('What it looks at'),
    package: Package.optional().describe('Package that is to be installed'),
    service: Service.optional().describe('Service that is to be enabled and running'),
    file: FilePath.optional(),
    section: Section.optional().describe('Section of the file that is to be switched on'),
    key: KeyName.optional(),
    value: z
      .string()
      .max(200)
      .regex(/^[^\r\n]*$/, 'must be one line')
      .optional(),
    port: z.number().int().min(1).max(65_535).optional().describe('Port that is to be listened on'),
    protocol: z.enum(['tcp', 'udp']).optional(),
    group: GroupName.optional().describe('Group that is to be there'),
    days: z.number().int().min(0).max(4000).optional().describe('Days that the certificate is to be valid for still'),
    from: Version.optional().describe('First release on which it is a step'),
    below: Version.optional().describe('Release from which on it is none any more'),
    todo: z.string().max(300).optional().describe('What to do, in words of your own'),
  })
  .superRefine((step, context) => {
    const given = step as Record<string, unknown>;
    for (const field of needed[step.check])
      if (given[field] === undefined)
        context.addIssue({ code: 'custom', path: [field], message: `must be given where the check is “${step.check}”` });
    const may = [...needed[step.check], ...(allowed[step.check] ?? [])];
    for (const field of ofChecks)
      if (given[field] !== undefined && !may.includes(field))
        context.addIssue({ code: 'custom', path: [field], message: `must be left out where the check is “${step.check}”` });
  });

/** How a host is prepared to be connected to: for which releases and parts, and step by step. */
export const Recipe = z
  .strictObject({
    id: Key,
    name: Name,
    about: z.string().max(500).optional(),
    from: Version.optional().describe('First release of the system that it is for'),
    below: Version.optional().describe('Release that it is not for any more'),
    needs: z.array(Package).max(50).default([]).describe('Packages without which it is none for a host'),
    steps: z.array(RecipeStep).min(1, 'must have at least one step').max(200),
  })
  .superRefine(({ steps }, context) => {
    const seen = new Set<string>();
    for (const [i, { id }] of steps.entries()) {
      if (seen.has(id)) context.addIssue({ code: 'custom', path: ['steps', i, 'id'], message: `must be another: “${id}” stands twice` });
      seen.add(id);
    }
  })
  .meta({ id: 'Recipe' });

const Answer = z.boolean().nullable().describe('null where the host could not tell');
/** What a host told of itself, as the script prints it. */
export const HostReport = z
  .strictObject({
    underpass: z.literal(1),
    at: z.string().max(40),
    release: z.string().max(40).nullable(),
    packages: z.record(z.string().max(120), z.string().max(120).nullable()).describe('Version of each; null where it is not installed'),
    services: z.record(z.string().max(120), z.strictObject({ enabled: Answer, running: Answer })),
    sections: z
      .array(
        z.strictObject({
          file: z.string().max(300),
          section: z.string().max(60),
          state: z.enum(['on', 'off', 'missing', 'no file', 'not readable']),
          keys: z.record(z.string().max(60), z.string().max(400).nullable()),
        }),
      )
      .max(400),
    ports: z.record(z.string().max(20), Answer),
    groups: z.record(z.string().max(120), Answer),
    certificates: z.array(z.strictObject({ file: z.string().max(300), notAfter: z.string().max(40).nullable() })).max(200),
  })
  .meta({ id: 'HostReport' });

export type Recipe = z.infer<typeof Recipe>;
export type RecipeStep = z.infer<typeof RecipeStep>;
export type HostReport = z.infer<typeof HostReport>;
