import { z } from 'zod';
import { saidAs } from './shownAs.js';
import { Wifi } from './wifi.js';
import {
  BootMode,
  ClientKind,
  Codec,
  ContentClass,
  DeviceClass,
  LineKind,
  LocationKind,
  NameForm,
  Ownership,
  PeripheralKind,
  PortKind,
  Processor,
  SecurityMode,
  Weekday,
  WorkKind,
} from './words.js';

/** Readable key of an estate object: unique within its kind. */
export const Key = z
  .string()
  .regex(
    /^[A-Za-z0-9][A-Za-z0-9._-]{0,63}$/,
    'must be 1 to 64 letters, digits, dots, dashes or underscores, starting with a letter or digit',
  );
export const Name = z.string().trim().min(1, 'must not be empty').max(120, 'must be at most 120 characters');
const Rate = z.number().positive('must be above 0').max(400_000, 'must be at most 400000 Mbit/s');
export const Version = z
  .string()
  .max(40, 'must be at most 40 characters')
  .regex(/^\d+([._]\d+)*[a-z]?$/, 'must be numbers with dots or underscores, such as 4.12.1');
/** Times that something happened here: no earlier than there was anything to record, and never of a calendar nobody means. */
const earliest = '2000-01-01';
const latest = '2200-01-01';
const inCalendar = (text: string): boolean => text >= earliest && text < latest;
export const Instant = z.iso
  .datetime({ error: 'must be a UTC time such as 2026-06-12T08:00:00Z' })
  .max(40, 'must be at most 40 characters')
  .refine(inCalendar, 'must be a time from the year 2000 to 2199');
/** A name that can be looked up, or an IPv4 address [RFC 1123 2.1, RFC 1035 2.3.4]; no path, no port, no sign-in. */
export const HostName = z
  .string()
  .max(253, 'must be at most 253 characters')
  .regex(
    /^(?!-)[A-Za-z0-9-]{1,63}(?<!-)(\.(?!-)[A-Za-z0-9-]{1,63}(?<!-))*$/,
    'must be a host name such as portal.example.org, without address parts before or after it',
  );
export const Day = z.iso.date({ error: 'must be a date such as 2026-06-12' });
const Latitude = z.number().min(-90).max(90);
const Longitude = z.number().min(-180).max(180);
/** Fields that are taken to be so and that nobody knows; a verdict that hangs on one is Unknown. */
const Assumed = z
  .array(z.string().regex(/^[a-zA-Z]{1,40}$/, 'must be the name of a field'))
  .max(20)
  .optional()
  .describe('Fields that are taken to be so until somebody says it; what hangs on them is Unknown');
const Share = z.number().min(0, 'must be 0 to 1').max(1, 'must be 0 to 1');
/** A time of day, 24 hours. */
export const Clock = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'must be a time of day from 00:00 to 23:59, such as 08:30');

const zones = new Map<string, boolean>();
/** Whether the machine's table of time zones has a name [IANA time zone database]. */
export function isTimeZone(name: string): boolean {
  let known = zones.get(name);
  if (known === undefined) {
    try {
      known = new Intl.DateTimeFormat('en', { timeZone: name }).resolvedOptions().timeZone !== '';
    } catch {
      known = false;
    }
    // what people type is bounded in length, but not in number
    if (zones.size < 1000) zones.set(name, known);
  }
  return known;
}
const Zone = z.string().min(1).max(60).refine(isTimeZone, 'must be a time zone such as Europe/Oslo or UTC');

export const Line = z.strictObject({
  lineKind: LineKind.describe('Kind of line out of the location'),
  downMbps: Rate.optional().describe('Declared rate towards the location, Mbit/s'),
  upMbps: Rate.optional().describe('Declared rate from the location, Mbit/s'),
  delayMs: z.number().min(0).max(5000).optional().describe('Declared round trip to the gateway, ms'),
  metered: z.boolean().default(false).describe('Whether traffic is paid by volume'),
});

export const Location = z
  .strictObject({
    id: Key,
    name: Name,
    area: Name.optional().describe('Row of the Board this location is counted in, if not its own'),
    kind: LocationKind,
    latitude: Latitude,
    longitude: Longitude,
    timeZone: Zone.default('UTC').describe('IANA zone'),
    worksFrom: Clock.optional().describe('When the working day begins there, local time; the same as its end: around the clock'),
    worksTo: Clock.optional().describe('When it ends; before its beginning: after midnight'),
    worksOn: z.array(Weekday).max(7).optional().describe('Days on which it begins'),
    ...Line.shape,
    ownLines: z.boolean().default(false).describe('True where every endpoint has a line of its own (homes, outside firms)'),
    sharedBy: z.number().int().min(1).max(100_000).optional().describe('People who share the line'),
    activeShare: Share.optional().describe('Share of them active in the busy hour'),
    inside: z.boolean().default(false).describe('On the inside network, with a direct path to the hosts'),
    addressRange: z.string().max(60).optional().describe('Address range in CIDR form'),
    wifi: Wifi.optional().describe('Its Wi-Fi network'),
    assumed: Assumed,
  })
  .meta({ id: 'Location' });

export const Region = z
  .strictObject({
    id: Key,
    name: Name,
    latitude: Latitude,
    longitude: Longitude,
    timeZone: Zone.optional().describe('IANA zone that its hosts show'),
    assumed: Assumed,
  })
  .meta({ id: 'Region' });

const ClientFloors = z
  .partialRecord(ClientKind, Version)
  .default({})
  .describe('Lowest client version accepted, by client kind; a kind that is missing has no floor');

export const Gateway = z
  .strictObject({
    id: Key,
    name: Name,
    region: Key,
    address: HostName.describe('Host name people connect to'),
    certificate: z
      .strictObject({
        names: z.array(z.string().max(253)).min(1).max(200),
        notBefore: Day,
        notAfter: Day,
        trust: z.enum(['public', 'organisation', 'none']),
      })
      .optional(),
    clientFloors: ClientFloors,
    securityModes: z.array(SecurityMode).min(1).max(10),
    tlsMinimum: z.enum(['1.2', '1.3']).default('1.2'),
    tlsHighest: z.enum(['1.2', '1.3']).optional().describe('Highest TLS version it speaks'),
    udp: z.boolean().optional(),
    codecs: z.array(Codec).max(20).default(['bitmap', 'progressive', 'h264', 'hevc', 'av1']),
    usb: z.boolean().default(true),
    secondFactor: z.boolean().default(false),
    nameForm: NameForm.optional().describe(
      'How it wants the name written: bare, with the domain before it and a backslash, or behind it and an at sign',
    ),
    defaultCredentials: z.boolean().optional().describe('Reported: the maker’s password of the gateway still works'),
    assumed: Assumed,
  })
  .meta({ id: 'Gateway' });

export const Pool = z
  .strictObject({
    id: Key,
    name: Name,
    gateway: Key,
    placement: z.enum(['fill first', 'spread']).default('spread'),
    securityModes: z.array(SecurityMode).min(1).max(10),
    clientFloors: ClientFloors,
    nameForm: NameForm.optional().describe(
      'How its hosts want the name written: bare, with the domain before it and a backslash, or behind it and an at sign',
    ),
    managedOnly: z.boolean().default(false).describe('Personal devices are refused'),
    spareHosts: z.number().int().min(0).default(0).describe('Hosts kept awake and empty'),
    signIn: z
      .array(z.enum(['own directory', 'guest directory']))
      .max(10)
      .default(['own directory'])
      .describe('Directories whose accounts its hosts sign in'),
    signInGroups: z.array(Key).max(1000).default([]).describe('Groups with the right to sign in to its hosts; empty means everybody'),
    assumed: Assumed,
  })
  .meta({ id: 'Pool' });

export const Graphics = z.strictObject({
  card: z.boolean(),
  driver: z.boolean().default(false),
  mode: z.enum(['display', 'compute']).default('display'),
  usedForSessions: z.boolean().default(false),
  encoder: z.boolean().default(false),
});

export const Host = z
  .strictObject({
    id: Key,
    name: Name,
    pool: Key,
    region: Key,
    power: z.enum(['on', 'asleep', 'off']).optional(),
    places: z.number().int().min(1).max(1000),
    used: z.number().int().min(0).max(1000).optional().describe('Sessions now'),
    graphics: Graphics.optional(),
    encoderMacroblocksPerS: z.number().positive().optional().describe('What the encoder can do, macroblocks a second'),
    encoderLoad: Share.optional().describe('Share of the encoder in use'),
    drawMs: z.number().positive().max(2000).optional().describe('Median time to draw a frame, ms'),
    encodeMs: z.number().positive().max(500).optional().describe('Median time to encode a frame, ms'),
    release: Version.optional().describe('Release of the host’s system'),
    installed: z.array(z.string().min(1).max(120)).max(1000).optional().describe('Programs in the order they were installed in'),
    reportedAt: Instant.optional().describe('When the host last reported; absent means the figures were typed'),
    assumed: Assumed,
  })
  .meta({ id: 'Host' });

export const Resource = z
  .strictObject({
    id: Key,
    name: Name,
    kind: z.enum(['desktop', 'app']),
    pool: Key,
    work: WorkKind,
    content: z
      .partialRecord(ContentClass, Share)
      .refine((mix) => Math.abs(Object.values(mix).reduce((sum, share) => sum + (share ?? 0), 0) - 1) < 0.011, 'shares must add up to 1')
      .describe('What it mostly shows: share of the time by content class'),
    graphics: z.boolean().default(false).describe('Draws 3D and wants a graphics card in the host'),
    calls: z.boolean().default(false).describe('People hold calls in it'),
    camera: z.boolean().default(false).describe('People send their camera picture'),
    profileMB: z.number().min(0).max(1_000_000).optional().describe('Size of the profile fetched at sign-in'),
    profileRegion: Key.optional().describe('Region the profile is kept in, if not the host’s'),
    deliveredMB: z.number().min(0).max(1_000_000).default(0).describe('Applications delivered at sign-in'),
    onlyApp: Name.optional().describe('The one application people use in this desktop, if it is only one'),
    assumed: Assumed,
  })
  .meta({ id: 'Resource' });

export const Group = z
  .strictObject({
    id: Key,
    name: Name,
    rank: z.number().int().min(0).describe('Order where a person is in several: the highest is nearest'),
    memberOf: z.array(Key).max(1000).default([]).describe('Groups this one is a member of'),
    publications: z.array(Key).max(5000).default([]).describe('Publications its members may use'),
  })
  .meta({ id: 'Group' });

/** What a person from outside signs in as: their own organisation's account, so that no password is kept here. */
export const Guest = z.strictObject({
  owner: Key.describe('Person here who answers for the guest'),
  organisation: Name.describe('Where the guest’s account is'),
  country: z
    .string()
    .regex(/^[A-Z]{2}$/, 'must be two capital letters of ISO 3166-1')
    .optional(),
  endsOn: Day.describe('Last day of access'),
  invitation: z.enum(['not sent', 'sent', 'accepted']),
});

export const Person = z
  .strictObject({
    id: Key,
    name: Name,
    kind: z.enum(['staff', 'seasonal', 'guest']),
    location: Key,
    groups: z.array(Key).max(1000).default([]),
    guest: Guest.optional(),
  })
  .meta({ id: 'Person' });

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

export type Line = z.infer<typeof Line>;
export type Location = z.infer<typeof Location>;
export type Region = z.infer<typeof Region>;
export type Gateway = z.infer<typeof Gateway>;
export type Pool = z.infer<typeof Pool>;
export type Graphics = z.infer<typeof Graphics>;
export type Host = z.infer<typeof Host>;
export type Resource = z.infer<typeof Resource>;
export type Group = z.infer<typeof Group>;
export type Guest = z.infer<typeof Guest>;
export type Person = z.infer<typeof Person>;
export type Screen = z.infer<typeof Screen>;
export type Decoder = z.infer<typeof Decoder>;
export type Endpoint = z.infer<typeof Endpoint>;
