import { z } from 'zod';
import { Key, Name, Version } from './fields.js';
import { shownAs } from './shownAs.js';
import { BootMode, DeviceClass, Processor } from './words.js';

/** An IPv4 address in dotted form, no leading noughts. */
const Ipv4 = z
  .string()
  .regex(/^(25[0-5]|2[0-4]\d|1?\d?\d)(\.(25[0-5]|2[0-4]\d|1?\d?\d)){3}$/, 'must be an IPv4 address such as 192.0.2.10');
const OptionCode = z.number().int().min(1).max(254);
const OptionType = z.enum(['text', 'address']);
const Sha256 = z.string().regex(/^[0-9a-fA-F]{64}$/, 'must be a SHA-256 sum of 64 hexadecimal digits');

/** What devices of a class say of themselves when they ask for an address, and where they look for the server of their configuration. */
export const FleetClass = z
  .strictObject({
    id: DeviceClass.describe('Class of device it is'),
    vendorClass: z.string().min(1).max(200).describe('What it says it is (option 60)'),
    serverOption: z
      .strictObject({ code: OptionCode, type: OptionType.describe('How the device reads it') })
      .describe('Number of the option in which it looks for its configuration server'),
  })
  .meta({ id: 'FleetClass' });

/** Addresses of a location and what a DHCP server gives with them. */
export const Scope = z
  .strictObject({
    id: Key,
    location: Key,
    server: Ipv4.describe('Server that gives the addresses'),
    addressRange: z.string().min(1).max(60).describe('Addresses it gives, such as 192.0.2.50-192.0.2.90 or in CIDR form'),
    free: z.number().int().min(0).max(16_777_216).optional().describe('Addresses that are free now'),
    leaseS: z.number().int().min(1).max(4_294_967_295).optional().describe('How long an address is lent, s'),
    vendorClass: z
      .string()
      .min(1)
      .max(200)
      .optional()
      .describe('Gives its options to devices that say this of themselves, and to no others'),
    options: z
      .array(
        z.strictObject({
          code: OptionCode,
          type: OptionType,
          value: z.string().max(255).describe('Text, or addresses separated by commas'),
        }),
      )
      .max(60)
      .default([]),
  })
  .superRefine(({ options }, context) => {
    for (const [i, { type, value }] of options.entries())
      if (type === 'address' && !value.split(',').every((part) => Ipv4.safeParse(part.trim()).success))
        context.addIssue({ code: 'custom', path: ['options', i, 'value'], message: 'must be IPv4 addresses separated by commas' });
  })
  .meta({ id: 'Scope' });

/** Where devices fetch their configuration. */
export const ConfigServer = z
  .strictObject({
    id: Key,
    address: z
      .string()
      .max(300)
      .regex(
        /^(https?:\/\/)?[A-Za-z0-9.-]+(:\d{1,5})?(\/[\x21-\x7e]*)?$/,
        'must be a host name or address, with http:// or a port where it has one',
      )
      .describe('Name or address that devices are told'),
    reachable: z.boolean().default(true).describe('Whether it answers'),
  })
  .meta({ id: 'ConfigServer' });

/** Places a configuration file is for, in the order in which they are merged. */
export const ConfigLayer = z.enum(['organisation', 'device class', 'location', 'endpoint']);

/** A configuration file as it is published. */
export const ConfigFile = z
  .strictObject({
    id: Key,
    layer: ConfigLayer,
    target: z.string().min(1).max(64).default('*').describe('The device class, location or endpoint it is for; * for the organisation'),
    text: z.string().max(100_000).register(shownAs, { as: 'lines' }),
    sha256: Sha256.optional().describe('Sum that the signed list has of it; without one that of its text'),
  })
  .superRefine(({ layer, target }, context) => {
    const wrong = (message: string) => context.addIssue({ code: 'custom', path: ['target'], message });
    if (layer === 'organisation' && target !== '*') wrong('must be * for the organisation');
    if (layer === 'device class' && !DeviceClass.options.includes(target as DeviceClass))
      wrong(`must be one of ${DeviceClass.options.join(', ')}`);
  })
  .meta({ id: 'ConfigFile' });

/** A file of firmware that devices of a class are offered. */
export const Firmware = z
  .strictObject({
    id: Key,
    deviceClass: DeviceClass,
    version: Version,
    processor: Processor,
    sizeMB: z.number().positive().max(100_000),
    sha256: Sha256.optional().describe('Sum of the file'),
    reason: z.string().max(300).optional().describe('Why it is put up although devices have something newer'),
  })
  .meta({ id: 'Firmware' });

/** An image that is written to a card or a stick, from which a device starts for the first time. */
export const CardImage = z
  .strictObject({
    id: Key,
    deviceClass: DeviceClass,
    version: Version,
    processor: Processor,
    models: z.array(Name).max(100).default([]).describe('Models that it starts on; none says any'),
    bootMode: BootMode,
    sizeMB: z.number().positive().max(4_000_000).describe('Size once it is unpacked, as it stands on the card, MB'),
    sha256: Sha256.optional().describe('Sum of the unpacked image'),
    password: z
      .enum(['delivered', 'asked', 'none'])
      .optional()
      .describe('How one gets in at first: by the password that everybody knows, by one that is asked for, or not at all'),
  })
  .meta({ id: 'CardImage' });

const Money = z.number().min(0).max(1_000_000);
/** A kind of device that could be bought, and what it costs over its life; money in the currency that you reckon in. */
export const DeviceOption = z
  .strictObject({
    id: Key,
    name: Name,
    purchase: Money.describe('Price of one'),
    accessories: Money.default(0).describe('What has to be bought with it'),
    licencePerYear: Money.default(0).describe('Licences of its image and of what manages it, a year'),
    supportMinutesPerYear: z.number().min(0).max(100_000).default(0).describe('Minutes of support a year'),
    watts: z.number().min(0).max(5000).default(0).describe('What it takes while it is on, W'),
    lifeYears: z.number().min(0.5).max(30).describe('Years until it is bought anew'),
    lostPercentPerYear: z.number().min(0).max(100).default(0).describe('Of a hundred so many are lost or do not come back, a year'),
  })
  .meta({ id: 'DeviceOption' });

export type FleetClass = z.infer<typeof FleetClass>;
export type Scope = z.infer<typeof Scope>;
export type ConfigServer = z.infer<typeof ConfigServer>;
export type ConfigFile = z.infer<typeof ConfigFile>;
export type ConfigLayer = z.infer<typeof ConfigLayer>;
export type Firmware = z.infer<typeof Firmware>;
export type CardImage = z.infer<typeof CardImage>;
export type DeviceOption = z.infer<typeof DeviceOption>;
