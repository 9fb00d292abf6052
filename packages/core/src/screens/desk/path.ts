import type { PortKind, Screen } from '@underpass/contracts';
import { portFit, portRateGbps, type PortFit } from '../ports.js';

/** A part of the way that a picture takes from the device to its screen. */
export type PathPart = 'port' | 'adapter' | 'cable' | 'input';
/** Whether a mode passes a whole way, and the part that carries least. */
export interface PathFit extends PortFit {
  limit: { part: PathPart; kind: PortKind };
}

const partsOnTheWay: readonly PathPart[] = ['port', 'adapter', 'cable', 'input'];
/** The parts of a screen's way that are known, from the device on. */
export const partsOf = (screen: Screen): { part: PathPart; kind: PortKind }[] =>
  partsOnTheWay.flatMap((part) => (screen[part] === undefined ? [] : [{ part, kind: screen[part] }]));

/**
 * Whether a screen's mode passes its way in RGB with 8 bits a colour: the part that carries least decides, as an adapter takes the lower of
 * its two sides (common practice). Of equals the one nearest to the device is named.
 * @returns null where no part of the way is known
 */
export function pathFit(screen: Screen): PathFit | null {
  const [first, ...rest] = partsOf(screen);
  if (!first) return null;
  const limit = rest.reduce((least, each) => (portRateGbps[each.kind] < portRateGbps[least.kind] ? each : least), first);
  return { ...portFit(screen, limit.kind), limit };
}

/**
 * Whether it passes with colours at a quarter of the detail (4:2:0), which halves what it asks: 12 bit a pixel instead of 24. DVI carries
 * full colours only [DVI 1.0].
 */
export function passesQuartered(screen: Screen): boolean {
  const fit = pathFit(screen);
  return fit !== null && fit.neededGbps / 2 <= fit.usableGbps && !partsOf(screen).some(({ kind }) => kind === 'dvi');
}
