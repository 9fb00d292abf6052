import { z } from 'zod';
import { Assumed, Day, Instant, Key, Name, Version } from './fields.js';
import { Line } from './objects.js';
import { saidAs } from './shownAs.js';
import { Wifi } from './wifi.js';
import { BootMode, ClientKind, DeviceClass, Ownership, PeripheralKind, PortKind, Processor } from './words.js';

const SizeMm = z.number().int().min(10).max(10_000);
/** A screen on a desk: what it shows, the way its picture takes to it, and where it stands among the others. */
export const Screen = z.strictObject({
  name: Name.optional().describe('What it calls itself'),
  widthPx: z.number().int().min(320, 'must be at least 320 pixels wide').max(16_384, 'must be at most 16384 pixels wide'),
  heightPx: z.number().int().min(240, 'must be at least 240 pixels high').max(16_384, 'must be at most 16384 pixels high'),
  refreshHz: z.number().min(1).max(500).optional(),
  scale: z.number().min(0.5).max(5).default(1),
  port: PortKind.optional().describe('Port of the device'),
  adapter: PortKind.optional().describe('Far side of an adapter on that port'),
  cable: PortKind.optional().describe('What its cable carries'),
  input: PortKind.optional().describe('What its own socket takes'),
  x: z.number().int().optional(),
  y: z.number().int().optional(),
  turned: z
    .number()
    .int()
    .min(0)
    .max(270)
    .multipleOf(90, 'must be 0, 90, 180 or 270')
    .optional()
    .describe('Turned clockwise by so many degrees'),
  primary: z.boolean().optional().describe('The one with the origin, where windows open'),
  mirrors: z.boolean().optional().describe('Shows what the primary one shows'),
  widthMm: SizeMm.optional(),
  heightMm: SizeMm.optional(),
});

export const Decoder = z.strictObject({
  codec: z.enum(['h264', 'hevc', 'vp9', 'av1']),
  level: z.string().regex(/^\d(\.\d)?$/, 'must be a level such as 4.1'),
  chroma444: z.boolean().default(false),
});

/** What the clock of a device does: right, wrong, how far it is off in seconds, or what it shows. */
const DeviceClock = z
  .string()
  .max(40)
  .refine(
    (text) =>
      /^(right|wrong|ok|yes|no|[+-]?\d{1,12}(\.\d+)?)$/.test(text) || Instant.safeParse(text).success || Day.safeParse(text).success,
    'must be right, wrong, the seconds it is off, or the UTC time it shows, such as 2019-01-01T00:00:00Z',
  );

export const Endpoint = z
  .strictObject({
    id: Key,
    name: Name,
    location: Key,
    person: Key.optional().describe('Usual person'),
    users: z.array(Key).max(5000).default([]).describe('People who share it'),
    deviceClass: DeviceClass,
    ownership: Ownership,
    platform: z.enum(['thin', 'desktop', 'mobile']),
    processor: Processor,
    model: Name.optional().describe('Model, as its maker calls it'),
    bootMode: BootMode.optional().describe('How it starts from a card or stick'),
    cores: z.number().int().min(1).max(256).optional(),
    memoryMB: z.number().int().min(64).max(4_194_304).optional(),
    clientKind: ClientKind,
    clientVersion: Version.optional(),
    decoders: z.array(Decoder).max(40).optional().describe('Hardware decoders; that it has none is another thing than not knowing them'),
    screens: z.array(Screen).max(16).optional(),
    mostPixels: z
      .number()
      .int()
      .min(76_800)
      .max(1_000_000_000)
      .optional()
      .describe('Pixels that its graphics drive on all screens together'),
    peripherals: z.array(PeripheralKind).max(40).default([]),
    connection: z.enum(['wired', 'wifi']).optional(),
    wifiSignalDbm: z.number().min(-110).max(0).optional(),
    wifi: Wifi.optional().describe('Wi-Fi network it is told'),
    cable: z
      .boolean()
      .register(saidAs, { yes: ['in', 'plugged', 'plugged in', 'connected'], no: ['out', 'unplugged', 'none', 'disconnected'] })
      .optional()
      .describe('Whether its network cable is plugged in'),
    firmware: Version.optional().describe('Version of its firmware'),
    defaultPassword: z.boolean().optional().describe('Reported: the password it was delivered with still works'),
    clock: DeviceClock.optional().describe('Its clock: right, wrong, the seconds it is off, or the UTC time it shows'),
    line: Line.optional().describe('Its own line, where the location has ownLines'),
    alwaysOn: z.boolean().default(false),
    reportedAt: Instant.optional().describe('When the endpoint last reported; absent means the figures were typed'),
    screensAt: Instant.optional().describe('When the screens were typed; what was measured of them before does not count any more'),
    decodersAt: Instant.optional().describe('When the decoders were typed; what was measured of them before does not count any more'),
    assumed: Assumed,
  })
  .meta({ id: 'Endpoint' });

export type Screen = z.infer<typeof Screen>;
export type Decoder = z.infer<typeof Decoder>;
export type Endpoint = z.infer<typeof Endpoint>;
