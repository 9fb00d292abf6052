import type { Change, Verdict } from '@underpass/contracts';
import type { CrossingRef } from '../estate/index.js';
import { noCounts, touchedBy, type Counts, type FactsReader } from '../crossing/index.js';
import { figuresOf, lossOf, standOf, type Stand } from './impact.js';

/** What a change does to every crossing, counted in crossings. */
export interface VerdictImpact {
  evaluated: number;
  /** Crossings whose verdict rises, falls, or stays; together all. */
  better: number;
  worse: number;
  unchanged: number;
  /** Of those that stay in their verdict the ones whose figures move. */
  improved: number;
  weakened: number;
  before: Counts;
  after: Counts;
  /** Of those that fall the ones that lose most, worst first. */
  worst: { crossing: string; change: string }[];
}

/** The verdicts from the worst to the best. */
const order: readonly Verdict[] = ['blocked', 'limited', 'unknown', 'clear'];
const mostTold = 10;
/** Burdens that differ by less are the same. */
const slack = 0.5;

/** Works a change out on every crossing it touches; what it does not touch stays as it is, and counts. Crossings that it makes or ends are not among them. */
export function verdictImpact(old: FactsReader, change: Change): VerdictImpact {
  const fresh = old.after(change);
  const { after: touched } = touchedBy(old, fresh);
  const ids = new Set(touched.map(({ id }) => id));
  const counts = { evaluated: 0, better: 0, worse: 0, unchanged: 0, improved: 0, weakened: 0 };
  const [before, after] = [noCounts(), noCounts()];
  const losers: { ref: CrossingRef; fall: number; by: number }[] = [];
  for (const ref of old.model.crossings) {
    const was = standOf(figuresOf(old, ref));
    const is: Stand | null = ids.has(ref.id) ? standOf(figuresOf(fresh, ref)) : was;
    if (!was || !is) continue;
    counts.evaluated++;
    before[was.verdict]++;
    after[is.verdict]++;
    const rise = order.indexOf(is.verdict) - order.indexOf(was.verdict);
    const by = is.burden - was.burden;
    if (rise > 0) counts.better++;
    else if (rise < 0) {
      counts.worse++;
      losers.push({ ref, fall: -rise, by });
    } else {
      counts.unchanged++;
      if (by < -slack) counts.improved++;
      else if (by > slack) counts.weakened++;
    }
  }
  losers.sort((a, b) => b.by - a.by || b.fall - a.fall || (a.ref.id < b.ref.id ? -1 : 1));
  const worst = losers.slice(0, mostTold).map(({ ref }) => {
    const [a, b] = [figuresOf(old, ref), figuresOf(fresh, ref)];
    return { crossing: ref.id, change: a && b ? `${a.verdict} becomes ${b.verdict}: ${lossOf(a, b)}` : '' };
  });
  return { ...counts, before, after, worst };
}
