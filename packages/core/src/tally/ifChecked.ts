import type { CrossingFacts, CrossingFigures } from '../crossing/index.js';
import type { Evidence, Taken } from '../evidence/index.js';
import { localTime } from '../day/index.js';

/** What a field check takes of the line, at the least [docs/evidence.md]. */
const samples = 400;
const datagrams = 2000;
/** A line of which nothing is known is taken to carry this much, Mbit/s; ours, so that its rate is not what keeps it Unknown. */
const ampleMbps = 100;
const hourMs = 3_600_000;

/**
 * A crossing as it would be read after a field check at the hour that counts, had the check found the round trip and rates that are
 * likeliest now, and no more loss than is certain. What is of the device stays as it is.
 * @param factor what the round trip comes to of the likeliest one
 * @param own whether it is made on this endpoint, and not on another one of the place
 */
export function ifChecked(facts: CrossingFacts, { way }: CrossingFigures, factor = 1, own = false): CrossingFacts {
  const { evidence, location, atMs, endpoint } = facts;
  const hour = localTime(atMs, location.timeZone).hour;
  const at = new Date(atMs - ((hour - way.rttHour + 24) % 24) * hourMs).toISOString();
  const taken = <T>(value: T): Taken<T> => ({
    value,
    at,
    by: 'field check',
    note: 'if it were measured',
    samples,
    own,
    medium: endpoint.connection,
  });
  const ms = way.rtt.value * factor;
  // as unsteady as it was, or as lines mostly are
  const was = evidence.roundTrips?.value;
  const unsteady = was ? { p95Ms: ms + was.p95Ms - was.medianMs, jitterMs: was.jitterMs } : { p95Ms: ms * 1.1, jitterMs: ms * 0.02 };
  const lost = Math.round((way.loss.low / 100) * datagrams);
  const { oldest: _, ...rest } = evidence;
  const measured: Evidence = {
    ...rest,
    roundTrips: taken({ samples, lost: 0, minMs: ms * 0.98, medianMs: ms, ...unsteady, medianLowMs: ms * 0.99, medianHighMs: ms * 1.01 }),
    datagrams: taken({ passes: true, sent: datagrams, lost, overtaken: 0 }),
    addedDownMs: taken(evidence.addedDownMs?.value ?? 0),
    addedUpMs: taken(evidence.addedUpMs?.value ?? 0),
    downMbps: taken(way.down?.value ?? ampleMbps),
    upMbps: taken(way.up?.value ?? ampleMbps),
  };
  return { ...facts, evidence: measured };
}
