import type { PortKind, Screen } from '@underpass/contracts';
import { portRateGbps } from '../ports.js';
import { usualModes } from './passing.js';
import { partsOf, passesQuartered, pathFit, type PathPart } from './path.js';

/** One way to get a picture to a screen whose mode does not pass, and the screen as it then is. */
export type ScreenMend =
  | { code: 'better parts'; parts: { part: PathPart; kind: PortKind }[]; screen: Screen }
  | { code: 'another way'; kind: PortKind; screen: Screen }
  | { code: 'slower'; refreshHz: number; screen: Screen }
  | { code: 'smaller'; screen: Screen }
  /** Its way would carry colours at a quarter of the detail; whether device and screen both can is for their makers to say. */
  | { code: 'quartered'; neededGbps: number; usableGbps: number };

/** Kinds of one plug, least first. */
const families: readonly (readonly PortKind[])[] = [['dvi'], ['hdmi-1.4', 'hdmi-2.0'], ['dp-hbr', 'dp-hbr2', 'dp-hbr3'], ['usb-c-2-lane']];
/** Ways that are offered where no part of the same plug carries it, least first. */
const ways: readonly PortKind[] = ['hdmi-2.0', 'dp-hbr2', 'dp-hbr3'];

/**
 * What gets a picture through that does not pass, each worked out: better parts of the same plugs in the place of those that limit, a way of
 * another kind, a lower rate, a smaller size at the same rate, colours at a quarter of the detail. Nothing where it passes or no part is known.
 */
export function mendsOf(screen: Screen): ScreenMend[] {
  const fit = pathFit(screen);
  if (!fit || fit.fits) return [];
  const found: ScreenMend[] = [];
  const carries = (kind: PortKind) => portRateGbps[kind] >= fit.neededGbps;
  const better = partsOf(screen)
    .filter(({ kind }) => !carries(kind))
    .map(({ part, kind }) => ({ part, kind: families.find((each) => each.includes(kind))?.find(carries) }));
  if (better.every((each): each is { part: PathPart; kind: PortKind } => each.kind !== undefined)) {
    const screenThen = { ...screen, ...Object.fromEntries(better.map(({ part, kind }) => [part, kind])) };
    found.push({ code: 'better parts', parts: better, screen: screenThen });
  }
  const own = families.findIndex((each) => each.includes(fit.limit.kind));
  const way = ways.find((kind) => carries(kind) && !families[own]?.includes(kind));
  if (way) {
    const { adapter: _, ...straight } = screen;
    found.push({ code: 'another way', kind: way, screen: { ...straight, port: way, cable: way, input: way } });
  }
  if (fit.highestHz > 0) found.push({ code: 'slower', refreshHz: fit.highestHz, screen: { ...screen, refreshHz: fit.highestHz } });
  const rate = screen.refreshHz ?? 60;
  const smaller = usualModes(screen)
    .filter(({ widthPx, heightPx }) => widthPx * heightPx < screen.widthPx * screen.heightPx)
    .map(({ widthPx, heightPx }): Screen => ({ ...screen, widthPx, heightPx, refreshHz: rate }))
    .find((each) => pathFit(each)?.fits);
  if (smaller) found.push({ code: 'smaller', screen: smaller });
  if (passesQuartered(screen)) found.push({ code: 'quartered', neededGbps: fit.neededGbps / 2, usableGbps: fit.usableGbps });
  return found;
}
