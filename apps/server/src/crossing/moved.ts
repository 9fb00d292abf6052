import type { Moved, Verdict } from '@underpass/contracts';
import type { CrossingRef } from '@underpass/core';
import type { Found } from './found.js';

/** Verdicts from the worst on. */
export const verdictRanks: Record<Verdict, number> = { blocked: 0, limited: 1, unknown: 2, clear: 3 };
export const nobodyMoved: Moved = { people: 0, better: 0, worse: 0, come: 0, gone: 0 };

/**
 * Whose verdict becomes another.
 * @param found what crossings come to now
 * @param gone crossings that are no more
 */
export function movedBy(found: readonly Found[], gone: readonly CrossingRef[]): Moved {
  const people = new Set(gone.map(({ person }) => person));
  const moved = { better: 0, worse: 0, come: 0, gone: gone.length };
  for (const { ref, summary, before } of found) {
    const { verdict } = summary;
    const was = before?.summary.verdict;
    if (was === verdict) continue;
    if (was === undefined) moved.come++;
    else if (verdictRanks[verdict] > verdictRanks[was]) moved.better++;
    else moved.worse++;
    people.add(ref.person);
  }
  return { people: people.size, ...moved };
}
