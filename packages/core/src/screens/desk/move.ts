import type { Screen } from '@underpass/contracts';
import { overlap, placedAt, primaryOf, reach, sidesOf, type Placed } from './placed.js';

/** Edges that are so near to each other are meant to be one, px. */
const usualReachPx = 60;

/** The screens with one of them somewhere else; all of the others keep the places they had. */
function withPlace(screens: readonly Screen[], which: number, { x, y }: { x: number; y: number }): Screen[] {
  const places = placedAt(screens);
  return screens.map((screen, i) => {
    if (screen.mirrors) return screen;
    const place = i === which ? { x, y } : (places[i] as Placed);
    return { ...screen, x: Math.round(place.x), y: Math.round(place.y) };
  });
}

/**
 * One screen is put somewhere: edges that come near to those of others are laid upon them, and what would lie upon another is pushed out
 * the short way, so that neither gap nor overlap is left by a hand that is not steady.
 */
export function putScreen(screens: readonly Screen[], which: number, to: { x: number; y: number }, reachPx = usualReachPx): Screen[] {
  const screen = screens[which];
  if (!screen || screen.mirrors) return [...screens];
  const sides = sidesOf(screen);
  const others = placedAt(screens).filter((_, i) => i !== which && !screens[i]?.mirrors);
  const near = (from: number, length: number, edges: readonly (readonly [number, number])[]): number => {
    let best = { by: reachPx + 1, to: from };
    for (const [begin, end] of edges)
      for (const at of [begin, end, begin - length, end - length]) {
        const by = Math.abs(at - from);
        if (by < best.by) best = { by, to: at };
      }
    return best.to;
  };
  let place = {
    x: near(
      to.x,
      sides.widthPx,
      others.map((each) => [each.x, each.x + each.widthPx] as const),
    ),
    y: near(
      to.y,
      sides.heightPx,
      others.map((each) => [each.y, each.y + each.heightPx] as const),
    ),
    ...sides,
  };
  // pushed out of one it may lie upon the next; as often as there are screens is enough for a row
  for (let round = 0; round < screens.length; round++) {
    const under = others.find((each) => overlap(each, place));
    if (!under) break;
    place = pushedOut(place, under);
  }
  return withPlace(screens, which, place);
}

function pushedOut(place: Placed, under: Placed): Placed {
  const by = reach(place, under);
  const middle = (from: number, length: number) => from + length / 2;
  if (by.x <= by.y) {
    const left = middle(place.x, place.widthPx) < middle(under.x, under.widthPx);
    return { ...place, x: left ? under.x - place.widthPx : under.x + under.widthPx };
  }
  const above = middle(place.y, place.heightPx) < middle(under.y, under.heightPx);
  return { ...place, y: above ? under.y - place.heightPx : under.y + under.heightPx };
}

/** The sides of a screen on which another can stand. */
export const deskSides = ['left of', 'right of', 'above', 'below'] as const;
/** One of them. */
export type DeskSide = (typeof deskSides)[number];

/** One screen stands beside another, the upper or left edges in one line. */
export function besideScreen(screens: readonly Screen[], which: number, side: DeskSide, other: number): Screen[] {
  const screen = screens[which];
  const at = placedAt(screens)[other];
  if (!screen || !at || which === other || screen.mirrors) return [...screens];
  const own = sidesOf(screen);
  const x = side === 'left of' ? at.x - own.widthPx : side === 'right of' ? at.x + at.widthPx : at.x;
  const y = side === 'above' ? at.y - own.heightPx : side === 'below' ? at.y + at.heightPx : at.y;
  return withPlace(screens, which, { x, y });
}

/** Another screen is the primary one; it mirrors nothing, and what mirrored the one before mirrors it. */
export const makePrimary = (screens: readonly Screen[], which: number): Screen[] =>
  screens.map(({ primary: _, ...screen }, i) => {
    if (i !== which) return screen;
    const { mirrors: __, ...own } = screen;
    return { ...own, primary: true };
  });

/** A screen mirrors the primary one, or stops doing so and stands to the right of all others. The primary one mirrors nothing. */
export function mirrorScreen(screens: readonly Screen[], which: number, mirrors: boolean): Screen[] {
  if (which === primaryOf(screens)) return [...screens];
  return screens.map(({ mirrors: was, x, y, ...screen }, i) => {
    const place = { ...(x === undefined ? {} : { x }), ...(y === undefined ? {} : { y }) };
    if (i !== which) return { ...screen, ...place, ...(was ? { mirrors: was } : {}) };
    return mirrors ? { ...screen, mirrors: true } : screen;
  });
}
