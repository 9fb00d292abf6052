import type { Evidence } from '../evidence/index.js';
import type { Supposition } from '../estate/index.js';

const supposed = { at: '', by: 'supposed', note: 'supposed', samples: 1000, own: true };
type Line = Extract<Supposition, { suppose: 'line' }>;

/** Each fact of a line as it would be measured if it were so. */
const facts: {
  [K in 'roundTripMs' | 'jitterMs' | 'lossPercent' | 'udp' | 'downMbps' | 'upMbps']: (
    evidence: Evidence,
    value: NonNullable<Line[K]>,
    target: string,
  ) => Evidence;
} = {
  roundTripMs: (evidence, ms, target) => {
    const jitterMs = evidence.roundTrips?.value.jitterMs;
    return {
      ...evidence,
      roundTrips: {
        ...supposed,
        target,
        value: {
          samples: 1000,
          lost: 0,
          minMs: ms,
          medianMs: ms,
          p95Ms: ms + 2,
          medianLowMs: ms,
          medianHighMs: ms,
          ...(jitterMs === undefined ? {} : { jitterMs: Math.min(jitterMs, 2) }),
        },
      },
    };
  },
  jitterMs: (evidence, jitterMs) => {
    const { roundTrips, datagrams } = evidence;
    return {
      ...evidence,
      ...(roundTrips
        ? { roundTrips: { ...roundTrips, value: { ...roundTrips.value, jitterMs, p95Ms: roundTrips.value.medianMs + jitterMs } } }
        : {}),
      ...(datagrams ? { datagrams: { ...datagrams, value: { ...datagrams.value, jitterMs } } } : {}),
    };
  },
  // a mended way loses pings no more than datagrams; whether UDP passes stays as it is
  lossPercent: (evidence, percent) => ({
    ...evidence,
    ...(evidence.roundTrips ? { roundTrips: { ...evidence.roundTrips, value: { ...evidence.roundTrips.value, lost: 0 } } } : {}),
    datagrams: {
      ...supposed,
      value: { passes: true, ...evidence.datagrams?.value, sent: 100_000, lost: Math.round(percent * 1000) },
    },
  }),
  udp: (evidence, passes) => ({ ...evidence, datagrams: { ...supposed, value: { ...evidence.datagrams?.value, passes } } }),
  downMbps: (evidence, value) => ({ ...evidence, downMbps: { ...supposed, value } }),
  upMbps: (evidence, value) => ({ ...evidence, upMbps: { ...supposed, value } }),
};

/**
 * The evidence as it would be if what is supposed were done.
 * @param target region that the way leads to
 */
export function suppose(evidence: Evidence, suppositions: readonly Supposition[], target: string): Evidence {
  let next = evidence;
  for (const one of suppositions) {
    if (one.suppose === 'drawing') {
      const { scene: _scene, ...rest } = next;
      next = rest;
    } else
      for (const [fact, apply] of Object.entries(facts) as [keyof typeof facts, (e: Evidence, value: never, target: string) => Evidence][])
        if (one[fact] !== undefined) next = apply(next, one[fact] as never, target);
  }
  return next;
}
