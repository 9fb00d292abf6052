/** Interarrival jitter in ms: J += (|D| − J)/16 for each sample [RFC 3550 §6.4.1, A.8]; here D is the change of the round trip. */
export function interarrivalJitterMs(roundTripsMs: readonly number[]): number {
  let jitter = 0;
  for (let i = 1; i < roundTripsMs.length; i++)
    jitter += (Math.abs((roundTripsMs[i] as number) - (roundTripsMs[i - 1] as number)) - jitter) / 16;
  return jitter;
}

/** Smoothed round trip and its variation, alpha 1/8 and beta 1/4 [RFC 6298 §2]. */
export function smoothedRoundTrip(roundTripsMs: readonly number[]): { smoothedMs: number; variationMs: number } {
  let smoothedMs = roundTripsMs[0] ?? 0;
  let variationMs = smoothedMs / 2;
  for (const sample of roundTripsMs.slice(1)) {
    variationMs = 0.75 * variationMs + 0.25 * Math.abs(smoothedMs - sample);
    smoothedMs = 0.875 * smoothedMs + 0.125 * sample;
  }
  return { smoothedMs, variationMs };
}
