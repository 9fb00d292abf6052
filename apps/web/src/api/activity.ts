/** After this long without a key or a pointer, what the page fetches is its own doing and keeps no session open, ms. */
const awayAfterMs = 60_000;
let last = Date.now();
for (const event of ['keydown', 'pointerdown', 'pointermove', 'wheel'] as const)
  addEventListener(event, () => (last = Date.now()), { passive: true, capture: true });

export const isIdle = (): boolean => Date.now() - last > awayAfterMs;
