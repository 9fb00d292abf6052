import { z } from 'zod';
import { Change } from '../estate/change.js';
import { ConfigLayer } from '../estate/bringup.js';
import { Instant, Key } from '../estate/fields.js';
import { Wifi } from '../estate/wifi.js';
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

/** What a device told of its last start. */
export const BootReport = z
  .strictObject({
    endpoint: Key,
    brokenStep: z.string().max(60).nullable(),
    detail: z.string().max(300).describe('What its last step came to'),
    firmware: z.string().max(40).optional(),
    seconds: z.number().min(0).max(86_400),
  })
  .meta({ id: 'BootReport' });
const ReportedBoot = BootReport.omit({ endpoint: true })
  .extend({ at: z.string() })
  .nullable()
  .describe('What the device itself told of its last start');

/** What somebody needs to join the Wi-Fi of a place. */
export const JoiningCard = z
  .object({
    name: z.string(),
    security: z.string().describe('In the words of routers'),
    hidden: z.boolean(),
    key: z.string().nullable(),
    spelled: z.array(z.string()).describe('The key sign by sign, as it is read by telephone'),
    steps: z.array(z.string()),
    byHand: z.array(z.string()).describe('The same on a device that shows no list of networks'),
    payload: z.string().describe('Text of the code by which devices join'),
    code: z.string().describe('The code as a picture, SVG'),
  })
  .meta({ id: 'JoiningCard' });
export type JoiningCard = z.infer<typeof JoiningCard>;

const Way = z.enum(['all at once', 'one after the other', 'once, then from a copy at the place']);
/** How what devices of a place will install comes to them: three ways over its line, hour by hour. */
export const TransferAnswer = z
  .object({
    devices: z.number().describe('Devices that install something at their next start'),
    files: z.array(z.object({ id: z.string(), version: z.string(), sizeMB: z.number(), devices: z.number(), down: z.number() })),
    lineMbps: z.number().nullable().describe('Rate of the line towards the place less framing; null where nobody said it'),
    timeZone: z.string(),
    beginAt: z.string(),
    ways: z.array(
      z.object({
        way: Way,
        endS: z.number().nullable().describe('When the last device has it, s from the beginning; null: not within sixty days'),
        meanS: z.number().nullable(),
        workingHours: z.boolean().describe('Whether it takes more of the line in working hours than was allowed'),
        hours: z.array(z.object({ at: z.string(), usedMbps: z.number(), allowedMbps: z.number(), works: z.boolean() })),
      }),
    ),
  })
  .meta({ id: 'TransferAnswer' });
const Percent = z.coerce.number().min(0).max(100);
/** When it begins, and how much of the line it may take in working hours of the place and outside, %. */
export const TransferQuery = z.object({ begin: Instant.optional(), working: Percent.default(10), outside: Percent.default(90) });

/** Configuration files as the settings of now come to them, beside what is published. */
export const PublishPlan = z
  .object({
    version: z.number().describe('Of the estate it was worked out on'),
    broker: z.string().nullable(),
    files: z.array(
      z.object({
        id: z.string(),
        layer: ConfigLayer,
        target: z.string(),
        does: z.enum(['added', 'changed', 'removed', 'same']),
        before: z.string().nullable(),
        after: z.string().nullable(),
      }),
    ),
  })
  .meta({ id: 'PublishPlan' });
/** The gateway that devices sign in at; left out: as it is published, else the first. */
export const PublishRequest = z.strictObject({ gateway: Key.optional(), seen: z.number().int().optional() }).meta({ id: 'PublishRequest' });

const BringupDevice = z.object({
  id: z.string(),
  deviceClass: DeviceClass,
  person: z.string().nullable(),
  done: z.number().describe('Steps that are taken'),
  isNew: z.boolean().describe('It never started here'),
  broken: z.object({ step: z.string(), code: z.string(), cause: z.string(), mend: z.string() }).nullable(),
  firmware: z.object({ version: z.string(), sizeMB: z.number() }).nullable().describe('What it installs at its next start'),
  totalMs: Ms,
  notes: z.array(Note),
  reported: ReportedBoot,
});

/** The devices of a place, those that stop first. */
export const BringupPlace = z
  .object({
    id: z.string(),
    name: z.string(),
    steps: z.array(z.string()),
    network: Wifi.pick({ name: true, security: true }).nullable().describe('Its Wi-Fi, without the key'),
    undescribed: z.number().describe('Devices that never started there, of classes that nobody described'),
    addresses: z
      .object({ free: z.number().nullable(), wanted: z.number() })
      .describe('Addresses that are free at the place, and devices that never started there and will want one'),
    devices: z.array(BringupDevice),
  })
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
    reported: ReportedBoot,
    like: z
      .object({ endpoint: z.string(), location: z.string(), samePlace: z.boolean(), steps: BootSteps, totalMs: Ms })
      .nullable()
      .describe('One of the same class that reaches its sign-in screen'),
  })
  .meta({ id: 'BringupBoot' });

export type BringupPlaces = z.infer<typeof BringupPlaces>;
export type BringupPlace = z.infer<typeof BringupPlace>;
export type BringupBoot = z.infer<typeof BringupBoot>;
export type BootReport = z.infer<typeof BootReport>;
export type PublishPlan = z.infer<typeof PublishPlan>;
export type PublishRequest = z.infer<typeof PublishRequest>;
export type TransferAnswer = z.infer<typeof TransferAnswer>;
export type TransferQuery = z.infer<typeof TransferQuery>;
