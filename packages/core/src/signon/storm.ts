/** It may be within a third of that time, or within twice as much; common practice, no source. */
const sooner = 1 / 3;
const later = 2;

/**
 * How long one transfer takes while many begin theirs at times of their own and share the line evenly: alone ÷ (1 − load), the mean of
 * an M/G/1 queue with processor sharing [Kleinrock 1976, Queueing Systems vol. 2, §4.4]; never more than all at once would take.
 * @param aloneS the transfer by itself, s
 * @param people who begin one
 * @param windowS within so many seconds
 * @example 2 s alone, 100 people in 900 s: load 0.22, 2.57 s
 */
export function whileOthersDo(aloneS: number, people: number, windowS: number): number {
  if (people <= 1 || aloneS <= 0) return aloneS;
  const load = (people * aloneS) / windowS;
  const together = people * aloneS;
  return load >= 1 ? together : Math.min(together, aloneS / (1 - load));
}

/** Who signs on at the beginning of the day on the same line: their number with its interval, and what the line carries for all of them. */
export interface Storm {
  value: number;
  low: number;
  high: number;
  lineMbps: number;
}

/**
 * How long one transfer of so many bytes takes then, s, with its interval: between few over a long while and many in a short one. It has
 * the line to itself with those who sign on: they do not work yet.
 * @param minutes within which everybody signs on
 * @param atLeastS what it takes anyhow
 * @returns null where even many in a short time do not make it longer than that
 */
export function inStorm(
  bytes: number,
  { value, low, high, lineMbps }: Storm,
  minutes: number,
  atLeastS = 0,
): { seconds: number; low: number; high: number } | null {
  const aloneS = (bytes * 8) / 1e6 / Math.max(0.01, lineMbps);
  const most = whileOthersDo(aloneS, high, sooner * minutes * 60);
  if (most <= atLeastS) return null;
  return {
    seconds: whileOthersDo(aloneS, value, minutes * 60),
    low: whileOthersDo(aloneS, low, later * minutes * 60),
    high: most,
  };
}
