import type { Screen } from '@underpass/contracts';
import { settledDesk } from './placed.js';

/** Most screens that a device is told of. */
export const mostScreens = 16;
/** Keys of the section “screens” of a configuration file that tell of an arrangement, besides the settings. */
export const deskKeys: readonly string[] = ['layout', ...Array.from({ length: mostScreens }, (_, i) => `screen${i + 1}`)];

const signed = (n: number): string => (n < 0 ? `${n}` : `+${n}`);

/**
 * An arrangement as it stands in a configuration file: keys of the section “screens” with their values. The primary one is at the origin.
 * @example a screen of 1920 × 1080 alone gives layout = extend, screen1 = 1920x1080 +0+0 primary
 */
export function deskLines(screens: readonly Screen[]): { key: string; value: string }[] {
  const settled = settledDesk(screens);
  const own = settled.filter(({ mirrors }) => !mirrors).length;
  const layout = settled.length > 1 && own === 1 ? 'mirror' : 'extend';
  return [
    { key: 'layout', value: layout },
    ...settled.slice(0, mostScreens).map((screen, i) => ({ key: `screen${i + 1}`, value: lineOf(screen) })),
  ];
}

function lineOf({ widthPx, heightPx, refreshHz, x = 0, y = 0, scale, turned, primary, mirrors }: Screen): string {
  return [
    `${widthPx}x${heightPx}${refreshHz === undefined ? '' : `@${refreshHz}`}`,
    mirrors ? 'mirrors' : signed(x) + signed(y),
    ...(scale === 1 ? [] : [`scale ${scale}`]),
    ...(turned ? [`turned ${turned}`] : []),
    ...(primary ? ['primary'] : []),
  ].join(' ');
}
