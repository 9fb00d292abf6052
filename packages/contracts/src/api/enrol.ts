import { z } from 'zod';
import { Key, Name } from '../estate/fields.js';
import { ClientKind, DeviceClass } from '../estate/words.js';

/** A word that scripts copy from the system: at most so long, and no line. */
const Word = (most: number) =>
  z
    .string()
    .max(most)
    .regex(/^[^\p{Cc}]*$/u, 'must be one line');

/**
 * What a device tells of itself: what its system shows to every program, and nothing that names files or what people do. Parts that a
 * system does not show are left out.
 */
export const DeviceReport = z
  .strictObject({
    v: z.literal(1),
    key: z
      .string()
      .regex(/^[0-9a-f]{16,64}$/, 'must be 16 to 64 hexadecimal digits')
      .describe('Tells one device from another: a sum of its own number'),
    name: Word(63).describe('Host name'),
    machine: Word(30).optional().describe('Kind of processor as the system names it'),
    cpus: z.number().int().min(1).max(4096).optional(),
    memoryKB: z.number().int().min(1).max(4_294_967_296).optional(),
    chassis: z.number().int().min(0).max(255).optional().describe('Kind of enclosure [DMTF DSP0134 7.4.1]'),
    model: Word(120).optional(),
    system: Word(120).optional().describe('Name and version of the system'),
    addresses: z.array(Word(45)).max(32).default([]),
    connection: z.enum(['wired', 'wifi']).optional().describe('How its usual way out is joined'),
    signalDbm: z.number().min(-120).max(0).optional(),
    screens: z
      .array(
        z.strictObject({
          port: Word(40),
          edid: z
            .string()
            .max(2048)
            .regex(/^([0-9a-f]{2})*$/i, 'must be hexadecimal digits'),
        }),
      )
      .max(16)
      .default([])
      .describe('What each screen says of itself [VESA E-EDID]'),
    usb: z
      .array(
        z.strictObject({
          vendor: z.string().regex(/^[0-9a-f]{4}$/i, 'must be 4 hexadecimal digits'),
          product: z.string().regex(/^[0-9a-f]{4}$/i, 'must be 4 hexadecimal digits'),
          classes: z.array(z.string().regex(/^[0-9a-f]{2}(\/[0-9a-f]{2}){0,2}$/i, 'must be codes such as 0e/01/00')).max(32),
        }),
      )
      .max(64)
      .default([]),
    graphics: z.array(Word(80)).max(8).default([]),
    time: z
      .string()
      .regex(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ$/, 'must be a UTC time')
      .optional(),
    zone: Word(60).optional(),
    class: DeviceClass.optional().describe('Given by whoever runs the script'),
    client: z.strictObject({ kind: ClientKind.optional(), version: Word(40).optional() }).optional(),
  })
  .meta({ id: 'DeviceReport' });
export type DeviceReport = z.infer<typeof DeviceReport>;

/** What became of a report, told to the device. */
export const ReportTaken = z
  .object({ state: z.enum(['updated', 'unchanged', 'waiting']), text: z.string().describe('What is told on the device') })
  .meta({ id: 'ReportTaken' });
export type ReportTaken = z.infer<typeof ReportTaken>;

export const NewBatch = z
  .strictObject({
    name: Name.describe('What the batch is called, such as “Till computers”'),
    most: z.number().int().min(1).max(50_000).default(100).describe('Devices that may report with its key'),
    hours: z.number().int().min(1).max(8760).default(168).describe('How long it is good for'),
    location: Key.optional().describe('Where its devices are, where that is one place'),
  })
  .meta({ id: 'NewBatch' });
export const BatchView = z
  .object({
    id: z.string(),
    name: z.string(),
    most: z.number(),
    used: z.number(),
    location: z.string().nullable(),
    by: z.string(),
    at: z.string(),
    expiresAt: z.string(),
    state: z.enum(['open', 'full', 'over', 'revoked']),
  })
  .meta({ id: 'BatchView' });
export type BatchView = z.infer<typeof BatchView>;
/** The key is told once: it is in the addresses of the scripts. */
export const BatchMade = z
  .object({ batch: BatchView, address: z.string(), shell: z.string(), objects: z.string() })
  .meta({ id: 'BatchMade' });
export type BatchMade = z.infer<typeof BatchMade>;

/** A device that reported and that the estate does not know. */
export const WaitingDevice = z
  .object({
    id: z.string(),
    name: z.string(),
    batch: z.string(),
    at: z.string(),
    firstAt: z.string(),
    address: z.string(),
    location: z.string().nullable().describe('The likeliest, by its address'),
    why: z.string().describe('Why it waits, and what the place is told by'),
    fields: z.array(z.object({ field: z.string(), value: z.string() })),
  })
  .meta({ id: 'WaitingDevice' });
export type WaitingDevice = z.infer<typeof WaitingDevice>;
export const TakeDevices = z
  .strictObject({
    devices: z
      .array(
        z.strictObject({
          id: z.uuid(),
          name: Name,
          location: Key,
          endpoint: Key.optional().describe('One that is there already, and is this device'),
        }),
      )
      .min(1)
      .max(500),
  })
  .meta({ id: 'TakeDevices' });
export const DropDevices = z.strictObject({ ids: z.array(z.uuid()).min(1).max(500) }).meta({ id: 'DropDevices' });
