import { z } from 'zod';
import { shownAs } from './shownAs.js';

/** How devices join a Wi-Fi network, in the words of the codes by which they do. */
export const WifiSecurity = z.enum(['WPA', 'SAE', 'WEP', 'nopass']);

/** What stands before a secret that is kept sealed. */
export const sealedMark = 'sealed:';
const bytesIn = (text: string): number => new TextEncoder().encode(text).length;

/** A Wi-Fi network as a place has it, or as a device is told it. */
export const Wifi = z.strictObject({
  name: z
    .string()
    .min(1)
    .max(32)
    .refine((name) => bytesIn(name) <= 32, 'must be at most 32 bytes')
    .optional()
    .describe('Name of the network'),
  security: WifiSecurity.optional().describe('How it is joined'),
  hidden: z.boolean().optional().describe('Whether it does not say its name'),
  key: z
    .string()
    .min(1)
    .max(400)
    .refine((key) => key.startsWith(sealedMark) || key.length <= 63, 'must be at most 63 characters')
    .register(shownAs, { as: 'secret' })
    .optional()
    .describe('Key of the network; kept sealed'),
});
export type Wifi = z.infer<typeof Wifi>;
