import type { Summary } from '../src/crossing/index.js';
import type { CrossingRef } from '../src/estate/index.js';
import type { Counted } from '../src/tally/countedCrossing.js';

interface Tally {
  move(before: Counted | null, now: Counted | null): void;
}
interface Setting {
  /** Counts a crossing as it comes out now; null takes it out. */
  set(ref: CrossingRef, area: string, summary: Summary | null): void;
}
export type Counting<T extends Tally> = T & Setting;

/** A tally with what it counted kept beside it, as whoever counts with it does. */
export function counting<T extends Tally>(tally: T): Counting<T> {
  const kept = new Map<string, Counted>();
  return Object.assign(tally, {
    set(ref: CrossingRef, area: string, summary: Summary | null) {
      const now = summary && { ref, area, summary };
      tally.move(kept.get(ref.id) ?? null, now);
      if (now) kept.set(ref.id, now);
      else kept.delete(ref.id);
    },
  });
}
