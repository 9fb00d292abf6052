import type { Moved, Verdict } from '@underpass/contracts';
import type { CrossingRef, Summary } from '@underpass/core';

/** Verdicts from the worst on. */
export const verdictRanks: Record<Verdict, number> = { blocked: 0, limited: 1, unknown: 2, clear: 3 };
export const nobodyMoved: Moved = { people: 0, better: 0, worse: 0, come: 0, gone: 0 };

/**
 * Whose verdict becomes another.
 * @param found what crossings come to now
 * @param before what one came to before; undefined where there was none
 * @param gone crossings that are no more
 */
export function movedBy(
  found: readonly (readonly [CrossingRef, Summary])[],
  before: (id: string) => Summary | undefined,
  gone: readonly CrossingRef[],
): Moved {
  const people = new Set(gone.map(({ person }) => person));
  const moved = { better: 0, worse: 0, come: 0, gone: gone.length };
  for (const [{ id, person }, { verdict }] of found) {
    const was = before(id)?.verdict;
    if (was === verdict) continue;
    if (was === undefined) moved.come++;
    else if (verdictRanks[verdict] > verdictRanks[was]) moved.better++;
    else moved.worse++;
    people.add(person);
  }
  return { people: people.size, ...moved };
}
