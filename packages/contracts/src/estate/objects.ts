import { z } from 'zod';
import { Assumed, Clock, Day, HostName, Key, Latitude, Longitude, Name, Rate, Share, Version, Zone, Instant } from './fields.js';
import { Wifi } from './wifi.js';
import { ClientKind, Codec, ContentClass, LineKind, LocationKind, NameForm, SecurityMode, Weekday, WorkKind } from './words.js';

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
