import { z } from 'zod';
import { Key, Name } from './fields.js';
import { asWritten } from './shownAs.js';
import { Ownership } from './words.js';

const written = (schema: z.ZodString): z.ZodString => schema.register(asWritten, { words: true });
const Hex4 = written(
  z
    .string()
    .max(4)
    .toLowerCase()
    .regex(/^[0-9a-f]{4}$/, 'must be four hexadecimal digits, such as 1d6b'),
);
/** Class, subclass and protocol of a device or an interface, as far as they are told [USB-IF defined class codes]. */
const ClassCode = written(
  z
    .string()
    .max(8)
    .toLowerCase()
    .regex(/^[0-9a-f]{2}(\/[0-9a-f]{2}){0,2}$/, 'must be two hexadecimal digits each for class, subclass and protocol, such as 08/06/50'),
);
const Triple = written(
  z
    .string()
    .max(8)
    .toLowerCase()
    .regex(/^[0-9a-f]{2}\/[0-9a-f]{2}\/[0-9a-f]{2}$/, 'must be class/subclass/protocol, such as 01/02/00'),
);
const Revision = written(
  z
    .string()
    .max(5)
    .toLowerCase()
    .regex(/^[0-9a-f]{1,2}\.?[0-9a-f]{2}$/, 'must be a revision such as 01.00'),
);
const Serial = written(z.string().min(1).max(126));

export const UsbSpeed = z.enum(['low', 'full', 'high', 'super']);
export const RuleAction = z.enum(['allow', 'deny']);
export const CarryAs = z.enum(['channel', 'raw USB', 'local only']);
export const ConnectWhen = z.enum(['when plugged in', 'at start', 'by hand']);

/** A device that is plugged in at an endpoint, in full. */
export const Peripheral = z
  .strictObject({
    id: Key,
    name: Name.optional(),
    endpoint: Key.describe('Endpoint it is plugged in at'),
    vid: Hex4.describe('Vendor, four hexadecimal digits'),
    pid: Hex4.describe('Product, four hexadecimal digits'),
    revision: Revision.optional().describe('Revision of the device, such as 01.00'),
    class: ClassCode.default('00').describe('Class of the device; 00: look at the interfaces'),
    interfaces: z.array(Triple).max(32).default([]).describe('Class/subclass/protocol of each interface'),
    serial: Serial.optional(),
    speed: UsbSpeed.optional().describe('How fast it talks'),
    isochronousMbps: z.number().min(0).max(10_000).optional().describe('What it asks for in even time, Mbit/s'),
    maxPowerMa: z.number().min(0).max(5000).optional().describe('Most power it takes of its port, mA'),
    exchanges: z.number().int().min(0).max(100_000).optional().describe('Questions and answers of one job of it, such as one page scanned'),
  })
  .meta({ id: 'Peripheral' });

/** What a device, or its person, must be like for a rule to be for it; every field given must hold. */
export const UsbMatch = z.strictObject({
  vid: Hex4.optional(),
  pid: Hex4.optional(),
  revision: Revision.optional(),
  class: ClassCode.optional().describe('Class of the device or of any of its interfaces, as far as it is told'),
  serial: Serial.optional(),
  hidBoot: z.boolean().optional().describe('A keyboard or pointer that works before a system is there'),
  ownership: Ownership.optional(),
  group: Key.optional().describe('A group its person is in'),
});

/** A rule of what becomes of a device: the first that fits decides. */
export const UsbRule = z
  .strictObject({
    id: Key,
    name: Name.optional(),
    rank: z.number().int().min(0).max(1_000_000).describe('The lowest is looked at first'),
    action: RuleAction,
    match: UsbMatch.default({}),
    interfaces: z.array(ClassCode).max(32).optional().describe('Only these of its interfaces are carried'),
    carryAs: CarryAs.optional().describe('How it is carried; else as is best for what it is'),
    when: ConnectWhen.optional().describe('When it goes over; else as the settings say'),
  })
  .meta({ id: 'UsbRule' });

export type UsbSpeed = z.infer<typeof UsbSpeed>;
export type CarryAs = z.infer<typeof CarryAs>;
export type ConnectWhen = z.infer<typeof ConnectWhen>;
export type Peripheral = z.infer<typeof Peripheral>;
export type UsbMatch = z.infer<typeof UsbMatch>;
export type UsbRule = z.infer<typeof UsbRule>;
