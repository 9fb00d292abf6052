import type { Verdict } from '@underpass/contracts';
import { noCounts, type Counts } from '../src/crossing/index.js';

/** Verdicts, the worst last. */
export const worse: Verdict[] = ['clear', 'unknown', 'limited', 'blocked'];

/** People at their worst crossing, the slow and obvious way. */
export function plainly(crossings: { person: string; verdict: Verdict }[]): Counts {
  const worst = new Map<string, Verdict>();
  for (const { person, verdict } of crossings)
    worst.set(person, worse[Math.max(worse.indexOf(verdict), worse.indexOf(worst.get(person) ?? 'clear'))]!);
  const counts = noCounts();
  for (const verdict of worst.values()) counts[verdict]++;
  return counts;
}
