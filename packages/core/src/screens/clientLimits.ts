import type { ClientKind } from '@underpass/contracts';

/** What a kind of client can at most; pixels of the whole session. */
export interface ClientLimits {
  screens: number;
  pixels: number;
  /** The session takes one scale only, whatever each screen has. */
  oneScale: boolean;
  /** A purpose-built channel or raw USB for these peripherals exists. */
  carries: readonly string[];
  preSession: boolean;
}

/** What each client kind can do; common practice, no source. Shown as assumed. */
export const clientLimits: Record<ClientKind, ClientLimits> = {
  browser: { screens: 1, pixels: 3840 * 2160, oneScale: true, carries: ['headset', 'camera', 'printer'], preSession: false },
  'native client': {
    screens: 6,
    pixels: 6 * 3840 * 2160,
    oneScale: false,
    carries: ['headset', 'camera', 'card-reader', 'printer', 'scanner', 'storage'],
    preSession: true,
  },
  'thin-client firmware': {
    screens: 2,
    pixels: 2 * 3840 * 2160,
    oneScale: true,
    carries: ['headset', 'camera', 'card-reader', 'printer', 'scanner', 'storage'],
    preSession: true,
  },
};
