import type { GapsAnswer } from '@underpass/contracts';
import { knownWays, type Known } from '@underpass/core';

export type Fact = GapsAnswer['facts'][number];

/** How facts are known, as shares of one: each fact counts once for each thing, and as often again as crossings hang on it. */
export function sharesOf(facts: readonly Fact[]): Record<Known, number> {
  const shares: Record<Known, number> = { measured: 0, reported: 0, declared: 0, assumed: 0, notKnown: 0 };
  let all = 0;
  for (const fact of facts) {
    const things = knownWays.reduce((sum, known) => sum + fact[known], 0);
    const weight = 1 + fact.decides / Math.max(1, things);
    for (const known of knownWays) shares[known] += fact[known] * weight;
    all += things * weight;
  }
  for (const known of knownWays) shares[known] /= Math.max(all, 1e-9);
  return shares;
}
