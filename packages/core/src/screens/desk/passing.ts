import type { Screen } from '@underpass/contracts';
import type { EdidMode } from '../edid/index.js';
import { passesQuartered, pathFit, type PathFit } from './path.js';

/** A mode, and what its screen's way does with it. */
export interface ModePassing {
  mode: EdidMode;
  /** `whole`: in full colour; `quartered`: only with colours at a quarter of the detail; `no`; `not known`: no part of the way is known. */
  passes: 'whole' | 'quartered' | 'no' | 'not known';
  fit: PathFit | null;
}

/** Sizes and rates that are asked about where a screen did not say itself what it shows [VESA DMT 1.0 rev. 13, CTA-861: sizes in use]. */
const usualSizes: readonly (readonly [number, number])[] = [
  ...([
    [1280, 720],
    [1280, 1024],
    [1600, 900],
    [1680, 1050],
    [1920, 1080],
    [1920, 1200],
    [2560, 1080],
  ] as const),
  ...([
    [2560, 1440],
    [2560, 1600],
    [3440, 1440],
    [3840, 2160],
    [5120, 1440],
    [5120, 2880],
  ] as const),
];
const usualRates = [30, 60, 75, 120];

/** Modes in common use up to the size of a screen, largest first: for a screen of which nobody read what it shows. */
export function usualModes({ widthPx, heightPx }: Pick<Screen, 'widthPx' | 'heightPx'>): EdidMode[] {
  return usualSizes
    .filter(([w, h]) => w <= widthPx && h <= heightPx)
    .flatMap(([w, h]) => usualRates.map((refreshHz) => ({ widthPx: w, heightPx: h, refreshHz, interlaced: false, only420: false })))
    .sort(bySize);
}
const bySize = (a: EdidMode, b: EdidMode): number => b.widthPx * b.heightPx - a.widthPx * a.heightPx || b.refreshHz - a.refreshHz;

/** Which modes pass the way of a screen, largest first. Of interlaced ones half the lines are drawn at a time, which asks half. */
export function modesThrough(screen: Screen, modes: readonly EdidMode[]): ModePassing[] {
  return [...modes].sort(bySize).map((mode) => {
    const heightPx = mode.interlaced ? Math.ceil(mode.heightPx / 2) : mode.heightPx;
    const as = { ...screen, widthPx: mode.widthPx, heightPx, refreshHz: mode.refreshHz };
    const fit = pathFit(as);
    const quartered = passesQuartered(as);
    const passes = !fit ? 'not known' : fit.fits && !mode.only420 ? 'whole' : quartered ? 'quartered' : 'no';
    return { mode, passes, fit };
  });
}
