import type { RoundTrips } from '@underpass/contracts';
import { interarrivalJitterMs, smoothedRoundTrip } from './jitter.js';
import { medianInterval } from './medianInterval.js';
import { percentile } from './percentile.js';

/** What a measurement file or a field check tells about a line. null where it does not tell. */
export interface LinkSummary {
  sent: number | null;
  received: number | null;
  lossPercent: number | null;
  minMs: number | null;
  medianMs: number | null;
  p95Ms: number | null;
  p99Ms: number | null;
  maxMs: number | null;
  jitterMs: number | null;
  smoothedMs: number | null;
  medianLowMs: number | null;
  medianHighMs: number | null;
  downMbps: number | null;
  upMbps: number | null;
}

/** Nothing is known of a line. */
export const nothingKnown: LinkSummary = {
  sent: null,
  received: null,
  lossPercent: null,
  minMs: null,
  medianMs: null,
  p95Ms: null,
  p99Ms: null,
  maxMs: null,
  jitterMs: null,
  smoothedMs: null,
  medianLowMs: null,
  medianHighMs: null,
  downMbps: null,
  upMbps: null,
};

/** Summary of round trips in the order they were sent. @param sent probes sent, where known (lost ones included) */
export function summariseRoundTrips(roundTripsMs: readonly number[], sent: number | null = null): LinkSummary {
  const counted = {
    ...nothingKnown,
    sent,
    received: roundTripsMs.length,
    lossPercent: sent ? (100 * (sent - roundTripsMs.length)) / sent : null,
  };
  if (roundTripsMs.length === 0) return counted;
  const sorted = [...roundTripsMs].sort((a, b) => a - b);
  const interval = medianInterval(sorted);
  return {
    ...counted,
    minMs: sorted[0] as number,
    medianMs: percentile(sorted, 0.5),
    p95Ms: percentile(sorted, 0.95),
    p99Ms: percentile(sorted, 0.99),
    maxMs: sorted.at(-1) as number,
    jitterMs: interarrivalJitterMs(roundTripsMs),
    smoothedMs: smoothedRoundTrip(roundTripsMs).smoothedMs,
    medianLowMs: interval.low,
    medianHighMs: interval.high,
  };
}

/** The round-trip part of a measurement from samples in the order sent; undefined where there is none. */
export function roundTripsOf(roundTripsMs: readonly number[], lost = 0): RoundTrips | undefined {
  const s = summariseRoundTrips(roundTripsMs);
  if (s.medianMs === null) return undefined;
  const round = (value: number | null) => Math.round((value ?? 0) * 1000) / 1000;
  return {
    samples: roundTripsMs.length,
    lost,
    minMs: round(s.minMs),
    medianMs: round(s.medianMs),
    p95Ms: round(s.p95Ms),
    p99Ms: round(s.p99Ms),
    maxMs: round(s.maxMs),
    jitterMs: round(s.jitterMs),
    medianLowMs: round(s.medianLowMs),
    medianHighMs: round(s.medianHighMs),
  };
}
