import { z } from 'zod';
import { Change } from '../estate/change.js';
import { DeviceClass } from '../estate/words.js';

const Ms = z.number().describe('ms from switching on');
const Note = z.object({ code: z.string(), text: z.string() });

/** Places whose devices are described, those first where most stop. */
export const BringupPlaces = z
  .object({
    places: z.array(
      z.object({
        id: z.string(),
        name: z.string(),
        devices: z.number(),
        ready: z.number(),
        stops: z.array(z.object({ step: z.string(), code: z.string(), devices: z.number() })).describe('What stops the others, most first'),
        downgrades: z.number(),
      }),
    ),
    others: z.number().describe('Devices of classes that nobody described'),
  })
  .meta({ id: 'BringupPlaces' });

const BringupDevice = z.object({
  id: z.string(),
  deviceClass: DeviceClass,
  person: z.string().nullable(),
  done: z.number().describe('Steps that are taken'),
  broken: z.object({ step: z.string(), code: z.string(), cause: z.string() }).nullable(),
  totalMs: Ms,
  notes: z.array(Note),
});

/** The devices of a place, those that stop first. */
export const BringupPlace = z
  .object({ id: z.string(), name: z.string(), steps: z.array(z.string()), devices: z.array(BringupDevice) })
  .meta({ id: 'BringupPlace' });

const BootSteps = z.array(
  z.object({
    name: z.string(),
    status: z.enum(['done', 'broken', 'notReached']),
    atMs: Ms.nullable(),
    durationMs: z.number(),
    detail: z.string(),
  }),
);

/** The start of a device, beside one like it that starts. */
export const BringupBoot = z
  .object({
    endpoint: z.string(),
    location: z.object({ id: z.string(), name: z.string() }),
    deviceClass: DeviceClass,
    steps: BootSteps,
    messages: z.array(z.object({ atMs: Ms, way: z.enum(['sent', 'received', 'here']), text: z.string(), place: z.string().nullable() })),
    notes: z.array(Note),
    totalMs: Ms,
    broken: z
      .object({
        step: z.string(),
        code: z.string(),
        cause: z.string(),
        mend: z.string(),
        shows: z.string().describe('What its screen shows'),
        ask: z.object({ question: z.string(), here: z.string(), there: z.string(), alike: z.string() }),
        alike: z.number().describe('Other devices of the place that stop for the same reason'),
        remedy: z
          .object({
            change: Change,
            starts: z.number().describe('Devices of the place that then reach the sign-in'),
            afterMs: Ms.nullable(),
          })
          .nullable()
          .describe('The edit that mends it, and what it comes to'),
      })
      .nullable(),
    values: z.array(z.object({ section: z.string(), key: z.string(), value: z.string(), file: z.string(), line: z.number() })),
    firmware: z.object({ does: z.enum(['nothing', 'up', 'down', 'refuse', 'not known']), version: z.string().nullable() }).nullable(),
    like: z
      .object({ endpoint: z.string(), location: z.string(), samePlace: z.boolean(), steps: BootSteps, totalMs: Ms })
      .nullable()
      .describe('One of the same class that reaches its sign-in screen'),
  })
  .meta({ id: 'BringupBoot' });

export type BringupPlaces = z.infer<typeof BringupPlaces>;
export type BringupPlace = z.infer<typeof BringupPlace>;
export type BringupBoot = z.infer<typeof BringupBoot>;
