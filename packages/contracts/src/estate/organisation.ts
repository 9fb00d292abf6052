import { z } from 'zod';
import { AssumedValues } from './assumed.js';
import { Clock, Key } from './fields.js';
import { SignonStep, Weekday, WorkKind } from './words.js';

export const Thresholds = z.strictObject({
  keyToPixelMs: z.number().positive(),
  framesAtLeast: z.number().positive(),
  voiceMosAtLeast: z.number().min(1).max(4.5).optional(),
  usableWithinS: z.number().positive(),
  lossAtMostPercent: z
    .number()
    .min(0)
    .max(100)
    .optional()
    .describe('Above this loss a session breaks off again and again, whatever it shows'),
});

/** Which requests of a recorded sign-in belong to which step; a * stands for any text. The first rule that fits counts. */
export const SignonRule = z
  .strictObject({
    step: SignonStep,
    method: z.enum(['GET', 'POST']).optional(),
    host: z.string().min(1).max(200).optional(),
    path: z.string().min(1).max(200).optional(),
  })
  .refine((rule) => rule.host !== undefined || rule.path !== undefined, 'must have a host or a path');

export const Organisation = z
  .strictObject({
    id: z.literal('organisation'),
    name: z.string().min(1).max(120),
    helpDesk: z.string().max(120).optional().describe('Who receives field checks'),
    thresholds: z.partialRecord(WorkKind, Thresholds).default({}).describe('Replaces the shipped thresholds for a kind of work'),
    assumed: AssumedValues.optional().describe('Figures that are assumed otherwise than is shipped'),
    worksFrom: Clock.optional().describe('When the working day begins where a location does not say, local time'),
    worksTo: Clock.optional().describe('When it ends'),
    worksOn: z.array(Weekday).max(7).optional().describe('Days on which it begins'),
    signonRules: z.array(SignonRule).max(100).optional().describe('Replaces the shipped rules that read a recorded sign-in'),
    checkRegion: Key.optional().describe('Region where Underpass stands: what field checks measure to'),
    signInsPerDay: z.number().positive().max(50).optional().describe('Sign-ins of a person on a working day'),
    workingDays: z.number().int().min(1).max(366).optional().describe('Working days of a year'),
  })
  .meta({ id: 'Organisation' });

export type Thresholds = z.infer<typeof Thresholds>;
export type Organisation = z.infer<typeof Organisation>;
export type SignonRule = z.infer<typeof SignonRule>;
