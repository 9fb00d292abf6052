import { percentile } from '@underpass/core';

export interface Point {
  atMs: number;
  bytes: number;
}

/**
 * The rate after the ramp-up, in Mbit/s; null where nothing moved. It is the median over all windows of a second that begin after
 * the first quarter of the run, so that a moment in which the page itself was held up, and the burst after it, do not count.
 */
export function rateOf(points: readonly Point[]): number | null {
  const first = points[0];
  const last = points.at(-1);
  if (!first || !last || last.bytes === first.bytes) return null;
  const lengthMs = last.atMs - first.atMs;
  const windowMs = Math.min(1000, lengthMs / 2);
  const rates: number[] = [];
  let end = 0;
  for (const start of points) {
    if (start.atMs - first.atMs < Math.min(1000, lengthMs / 4)) continue;
    while (end < points.length && (points[end] as Point).atMs - start.atMs < windowMs) end++;
    const stop = points[end];
    if (!stop) break;
    rates.push(((stop.bytes - start.bytes) * 8) / (stop.atMs - start.atMs) / 1000);
  }
  rates.sort((a, b) => a - b);
  return rates.length > 0 ? percentile(rates, 0.5) : ((last.bytes - first.bytes) * 8) / Math.max(1, lengthMs) / 1000;
}
