import type { PortKind, Screen } from '@underpass/contracts';
import type { ClientLimits } from '../clientLimits.js';
import { pathFit, type PathPart } from './path.js';
import { overlap, placedAt, primaryOf, reach, sidesOf, touch, type Placed } from './placed.js';

/** Something about an arrangement that does not work, or not as people expect; screens by their number from 0. */
export type DeskFault =
  | { code: 'overlap'; screens: [number, number]; byPx: number }
  | { code: 'gap'; screens: [number, number]; byPx: number }
  | { code: 'corner'; screens: [number, number] }
  | { code: 'several primaries'; screens: number[] }
  | { code: 'primary not at origin'; screens: [number]; x: number; y: number }
  | { code: 'mixed scales'; screens: number[]; scales: number[] }
  | { code: 'text of another size'; screens: [number, number]; factor: number }
  | { code: 'mirror of another shape'; screens: [number, number] }
  | {
      code: 'mode does not pass';
      screens: [number];
      part: PathPart;
      kind: PortKind;
      neededGbps: number;
      usableGbps: number;
      highestHz: number;
    }
  | { code: 'too many screens'; screens: number[]; most: number }
  | { code: 'too many pixels'; screens: number[]; pixels: number; most: number; of: 'client' | 'device' }
  | { code: 'restart first'; screens: number[] };

/** What a desk is held against. */
export interface DeskLimits {
  client: ClientLimits;
  /** One scale is set for all, so that theirs do not count. */
  oneScaleSet?: boolean;
  /** Pixels that the device drives in all. */
  devicePixels?: number | undefined;
  thin: boolean;
}

/** From this factor on text on two screens is seen to be of different size; from memory, assumed. */
export const textDiffers = 1.25;

/**
 * Checks an arrangement: gaps and overlaps, the primary at the origin, scales, the size of text, mirrors of another shape, ways that do not
 * carry a mode, and the limits of client and device. What keeps a screen dark comes first.
 */
export function checkDesk(screens: readonly Screen[], { client, oneScaleSet = false, devicePixels, thin }: DeskLimits): DeskFault[] {
  const faults: DeskFault[] = [];
  for (const [i, screen] of screens.entries()) {
    const fit = pathFit(screen);
    if (!fit || fit.fits) continue;
    const { limit, neededGbps, usableGbps, highestHz } = fit;
    faults.push({ code: 'mode does not pass', screens: [i], ...limit, neededGbps, usableGbps, highestHz });
  }
  const own = screens.flatMap(({ mirrors }, i) => (mirrors ? [] : [i]));
  if (own.length > client.screens) faults.push({ code: 'too many screens', screens: own.slice(client.screens), most: client.screens });
  const pixelsOf = (list: readonly number[]) => list.reduce((sum, i) => sum + (screens[i]?.widthPx ?? 0) * (screens[i]?.heightPx ?? 0), 0);
  if (pixelsOf(own) > client.pixels)
    faults.push({ code: 'too many pixels', screens: own, pixels: pixelsOf(own), most: client.pixels, of: 'client' });
  // a device draws what is mirrored too
  const all = screens.map((_, i) => i);
  if (devicePixels !== undefined && pixelsOf(all) > devicePixels)
    faults.push({ code: 'too many pixels', screens: all, pixels: pixelsOf(all), most: devicePixels, of: 'device' });
  faults.push(...placesOf(screens, own), ...scalesOf(screens, own, client.oneScale && !oneScaleSet, oneScaleSet));
  const home = screens[primaryOf(screens)];
  for (const [i, screen] of screens.entries())
    if (screen.mirrors && home && aspect(screen) !== aspect(home))
      faults.push({ code: 'mirror of another shape', screens: [i, primaryOf(screens)] });
  if (thin && screens.length > 1) faults.push({ code: 'restart first', screens: all.slice(1) });
  return faults;
}

/** The shape of a screen, as two numbers without a common divisor. */
function aspect(screen: Screen): string {
  const { widthPx, heightPx } = sidesOf(screen);
  const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b));
  const by = divisor(widthPx, heightPx);
  return `${widthPx / by}:${heightPx / by}`;
}

function placesOf(screens: readonly Screen[], own: readonly number[]): DeskFault[] {
  const faults: DeskFault[] = [];
  const said = screens.flatMap(({ primary }, i) => (primary ? [i] : []));
  if (said.length > 1) faults.push({ code: 'several primaries', screens: said });
  const places = placedAt(screens);
  const first = primaryOf(screens);
  const home = places[first];
  if (home && (home.x !== 0 || home.y !== 0)) faults.push({ code: 'primary not at origin', screens: [first], x: home.x, y: home.y });
  const at = (i: number) => places[i] as Placed;
  for (const [n, a] of own.entries())
    for (const b of own.slice(n + 1))
      if (overlap(at(a), at(b))) {
        const { x, y } = reach(at(a), at(b));
        faults.push({ code: 'overlap', screens: [a, b], byPx: Math.min(x, y) });
      }
  // from the primary the pointer gets to whatever touches, and on from there; each island is told by its nearest neighbour
  const reached = new Set(own.slice(0, 1));
  for (let left = own.filter((i) => !reached.has(i)); left.length > 0; left = left.filter((i) => !reached.has(i))) {
    const next = left.find((i) => [...reached].some((j) => touch(at(i), at(j)) || overlap(at(i), at(j))));
    if (next !== undefined) {
      reached.add(next);
      continue;
    }
    const pairs = left.flatMap((i) => [...reached].map((j) => ({ i, j, byPx: distance(at(i), at(j)) })));
    const nearest = pairs.reduce((best, each) => (each.byPx < best.byPx ? each : best));
    const between: [number, number] = [nearest.j, nearest.i];
    faults.push(nearest.byPx === 0 ? { code: 'corner', screens: between } : { code: 'gap', screens: between, byPx: nearest.byPx });
    reached.add(nearest.i);
  }
  return faults;
}

/** How far two lie from each other, px, in the direction in which they are further apart. */
function distance(a: Placed, b: Placed): number {
  const { x, y } = reach(a, b);
  return Math.max(0, -x, -y);
}

function scalesOf(screens: readonly Screen[], own: readonly number[], oneOnly: boolean, set: boolean): DeskFault[] {
  const scales = [...new Set(own.map((i) => screens[i]?.scale ?? 1))].sort((a, b) => a - b);
  const mixed = oneOnly && scales.length > 1;
  if (mixed) return [{ code: 'mixed scales', screens: [...own], scales }];
  // the height of a letter of one size, mm for each of its points
  const lettersMm = own.flatMap((i) => {
    const { widthMm, widthPx, scale } = screens[i] as Screen;
    return widthMm === undefined ? [] : [{ i, mm: (widthMm / widthPx) * (set ? 1 : scale) }];
  });
  const least = lettersMm.reduce((best, each) => (each.mm < best.mm ? each : best), { i: -1, mm: Infinity });
  const most = lettersMm.reduce((best, each) => (each.mm > best.mm ? each : best), { i: -1, mm: 0 });
  const factor = most.mm / least.mm;
  return lettersMm.length > 1 && factor >= textDiffers ? [{ code: 'text of another size', screens: [least.i, most.i], factor }] : [];
}
