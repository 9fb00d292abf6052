import type { Measurement, SignonStep } from '@underpass/contracts';
import type { Taken } from './evidence.js';

/** Seconds of each step that was timed. */
export type SignonTimes = Partial<Record<SignonStep, number>>;

/** Steps that are of the gateway and the hosts: whoever signs in at the same place meets them. */
const shared: ReadonlySet<SignonStep> = new Set([
  'sign-in form',
  'list of resources',
  'broker',
  'power on',
  'wake',
  'session create',
  'pre-session sign-in',
  'shell',
]);

/**
 * The timed steps that count for one person on one endpoint. A sign-in recorded on the endpoint comes first, then one of the
 * person, then one recorded by somebody else at the same place, of which only what everybody meets counts; among equals the
 * newest.
 * @param measurements those of the location that have timed steps, oldest first
 */
export function chooseSignonTimes(
  measurements: readonly Measurement[],
  endpointId: string,
  personId: string,
): Taken<SignonTimes> | undefined {
  const value: SignonTimes = {};
  const ranks = new Map<SignonStep, number>();
  let newest: Measurement | undefined;
  for (const measurement of measurements) {
    const rank =
      measurement.endpoint === endpointId
        ? 3
        : measurement.person === personId && measurement.endpoint === undefined
          ? 2
          : measurement.method === 'recorded sign-in'
            ? 1
            : 0;
    if (rank === 0) continue;
    for (const [step, seconds] of Object.entries(measurement.figures.signon ?? {}) as [SignonStep, number][]) {
      if ((rank === 1 && !shared.has(step)) || rank < (ranks.get(step) ?? 0)) continue;
      ranks.set(step, rank);
      value[step] = seconds;
      newest = measurement;
    }
  }
  return (
    newest && {
      value,
      at: newest.at,
      by: newest.by,
      note: `${newest.by}, ${newest.at.slice(0, 16).replace('T', ' ')}`,
      samples: 1,
    }
  );
}
