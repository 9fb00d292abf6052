import { z } from 'zod';
import { Firmware } from '../estate/bringup.js';

/** The largest firmware file that is taken, bytes. */
export const mostFirmwareBytes = 8_000_000_000;
/** The most that one piece of it holds, bytes. */
export const firmwarePieceBytes = 2 * 1024 * 1024;

const Devices = z.object({
  up: z.number(),
  down: z.number().describe('Devices that are put back to it from something newer'),
  nothing: z.number().describe('Devices that have it'),
  notKnown: z.number().describe('Devices of which nobody knows what they have'),
  passed: z.number().describe('Devices of its processor that are offered something higher'),
  refuse: z.number().describe('Devices of another processor for which nothing is put up: they stop at their start'),
});

const Stored = z
  .object({ here: z.number(), total: z.number(), whole: z.boolean(), at: z.string() })
  .describe('How many of its bytes are here, and whether they are all and have the sum');

/** Firmware that is put up, and what devices do with it at their next start. */
export const FirmwareList = z
  .object({
    files: z.array(
      Firmware.pick({ id: true, deviceClass: true, version: true, processor: true, sizeMB: true }).extend({
        sha256: z.string().nullable(),
        reason: z.string().nullable(),
        devices: Devices,
        stored: Stored.nullable(),
      }),
    ),
  })
  .meta({ id: 'FirmwareList' });

/** A file that is about to be put up. */
export const FirmwareAsked = Firmware.pick({ id: true, deviceClass: true, version: true, processor: true });
/** What devices would do with it, and the first of those that would be put back. */
export const FirmwareWho = z.object({ devices: Devices, back: z.array(z.string()) }).meta({ id: 'FirmwareWho' });

/** Where a piece of a file begins, and how long the file is. */
export const PieceQuery = z.object({
  at: z.coerce.number().int().min(0).max(mostFirmwareBytes),
  of: z.coerce.number().int().min(1).max(mostFirmwareBytes),
});
/** What of a file is here after a piece of it came. */
export const PieceTaken = z
  .object({
    here: z.number(),
    total: z.number(),
    sha256: z.string().nullable().describe('Sum of the file once it is whole'),
  })
  .meta({ id: 'PieceTaken' });

export type FirmwareList = z.infer<typeof FirmwareList>;
export type FirmwareAsked = z.infer<typeof FirmwareAsked>;
export type FirmwareWho = z.infer<typeof FirmwareWho>;
export type PieceQuery = z.infer<typeof PieceQuery>;
export type PieceTaken = z.infer<typeof PieceTaken>;
