import type { Screen } from '@underpass/contracts';

/** Where a screen lies on the desk of a session, px; turned screens have their sides exchanged. */
export interface Placed {
  x: number;
  y: number;
  widthPx: number;
  heightPx: number;
}

/** The sides of a screen as it stands. */
export const sidesOf = ({
  widthPx,
  heightPx,
  turned,
}: Pick<Screen, 'widthPx' | 'heightPx' | 'turned'>): Pick<Placed, 'widthPx' | 'heightPx'> =>
  turned === 90 || turned === 270 ? { widthPx: heightPx, heightPx: widthPx } : { widthPx, heightPx };

/** The screen with the origin: the one that is said to be, else the one that lies there, else the first that mirrors nothing. */
export function primaryOf(screens: readonly Screen[]): number {
  const said = screens.findIndex(({ primary }) => primary);
  if (said >= 0) return said;
  const there = screens.findIndex(({ x, y, mirrors }) => x === 0 && y === 0 && !mirrors);
  return there >= 0 ? there : screens.findIndex(({ mirrors }) => !mirrors);
}

/**
 * Where each screen lies. One without a place stands to the right of all that have one, at the height of the primary; one that mirrors lies
 * upon the primary.
 */
export function placedAt(screens: readonly Screen[]): Placed[] {
  const first = primaryOf(screens);
  const places: (Placed | null)[] = screens.map((screen) =>
    screen.x === undefined || screen.y === undefined || screen.mirrors ? null : { x: screen.x, y: screen.y, ...sidesOf(screen) },
  );
  const top = places[first]?.y ?? 0;
  let right = Math.max(...places.map((place) => (place ? place.x + place.widthPx : -Infinity)));
  for (const [i, screen] of screens.entries()) {
    if (places[i] || screen.mirrors) continue;
    const place = { x: Number.isFinite(right) ? right : 0, y: top, ...sidesOf(screen) };
    places[i] = place;
    right = place.x + place.widthPx;
  }
  const home = places[first] ?? { x: 0, y: 0, widthPx: 0, heightPx: 0 };
  return places.map((place, i) => place ?? { x: home.x, y: home.y, ...sidesOf(screens[i] as Screen) });
}

/** Every screen with its place, the primary's at the origin. */
export function settledDesk(screens: readonly Screen[]): Screen[] {
  const places = placedAt(screens);
  const first = primaryOf(screens);
  const home = places[first] ?? { x: 0, y: 0 };
  return screens.map(({ primary: _, ...screen }, i) => {
    const { x, y } = places[i] as Placed;
    return { ...screen, x: x - home.x, y: y - home.y, ...(i === first ? { primary: true } : {}) };
  });
}

/** How far two reach into each other, px, in either direction; not above 0 where they do not. */
export const reach = (a: Placed, b: Placed): { x: number; y: number } => ({
  x: Math.min(a.x + a.widthPx, b.x + b.widthPx) - Math.max(a.x, b.x),
  y: Math.min(a.y + a.heightPx, b.y + b.heightPx) - Math.max(a.y, b.y),
});
/** Whether they lie upon each other. */
export const overlap = (a: Placed, b: Placed): boolean => reach(a, b).x > 0 && reach(a, b).y > 0;
/** Whether they share a part of an edge, so that the pointer gets from one to the other. */
export const touch = (a: Placed, b: Placed): boolean => {
  const { x, y } = reach(a, b);
  return (x === 0 && y > 0) || (y === 0 && x > 0);
};
