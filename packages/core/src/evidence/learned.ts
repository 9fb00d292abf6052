import type { Endpoint, Figures, Screen } from '@underpass/contracts';
import { decodersFromAnswers } from '../screens/index.js';

/** What a field check says of an endpoint’s field. */
export interface Learned {
  field: 'platform' | 'processor' | 'deviceClass' | 'cores' | 'memoryMB' | 'connection' | 'screens' | 'decoders';
  /** What the estate has; undefined where it has nothing. */
  now: unknown;
  found: unknown;
  /** Whether the estate knew nothing, took it to be so, or has something else. */
  was: 'not known' | 'assumed' | 'otherwise';
}

/** A hand-held screen is narrower than this, CSS px; common practice, no source. */
const phoneWidthPx = 600;

const sizes = (screens: readonly Screen[] | undefined): string | undefined =>
  screens
    ?.map(({ widthPx, heightPx }) => `${widthPx}x${heightPx}`)
    .sort()
    .join(' ');

/** The processor by what a browser says of it; that it has 32 bits may be the browser alone. */
function processorOf({ architecture, bits }: NonNullable<NonNullable<Figures['browser']>['device']>): Endpoint['processor'] | undefined {
  if (architecture === 'x86') return bits === 64 ? 'x86-64' : undefined;
  if (architecture === 'arm') return bits === 32 ? 'armhf' : bits === 64 ? 'arm64' : undefined;
  return undefined;
}

/**
 * What a field check says of an endpoint and the estate does not, or says otherwise. A browser tells of memory only the class [W3C Device Memory], and
 * that only up to 8 GB: more in the estate is no contradiction. That a device is no phone does not make it a computer of a desk: a
 * thin client’s browser says the same.
 */
export function learnedOf(endpoint: Endpoint, figures: Figures): Learned[] {
  const found: Learned[] = [];
  const say = (field: Learned['field'], value: unknown, isSame: (now: unknown) => boolean = (now) => now === value) => {
    if (value === undefined) return;
    const now = endpoint[field];
    if (endpoint.assumed?.includes(field)) found.push({ field, now, found: value, was: 'assumed' });
    else if (now === undefined) found.push({ field, now, found: value, was: 'not known' });
    else if (!isSame(now)) found.push({ field, now, found: value, was: 'otherwise' });
  };
  const { browser, screens, decodes, decoders } = figures;
  const device = browser?.device;
  if (device?.mobile) {
    const [screen] = screens ?? [];
    const narrow = screen && Math.min(screen.widthPx, screen.heightPx) / screen.scale < phoneWidthPx;
    say('platform', 'mobile');
    if (screen) say('deviceClass', narrow ? 'phone' : 'tablet', (now) => now === 'phone' || now === 'tablet');
  }
  if (device) {
    say('processor', processorOf(device));
    say('cores', device.cores);
    const memoryMB = device.memoryGB === undefined ? undefined : Math.round(device.memoryGB * 1024);
    say(
      'memoryMB',
      memoryMB,
      (now) =>
        memoryMB !== undefined && (now as number) >= memoryMB * 0.75 && ((now as number) < memoryMB * 2 || (device.memoryGB ?? 0) >= 8),
    );
    say('connection', device.connection);
  }
  if (screens?.length) say('screens', screens, (now) => sizes(now as Screen[]) === sizes(screens));
  const own = decoders ?? (decodes && decodersFromAnswers(decodes));
  if (own && endpoint.decoders === undefined) say('decoders', own);
  return found;
}
