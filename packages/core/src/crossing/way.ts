import { rfc5348Mbps } from '../link/index.js';
import { retransmissionTimeout } from '../picture/index.js';
import { aged, type Taken } from '../evidence/index.js';
import { workingDay } from '../day/index.js';
import type { Storm } from '../signon/index.js';
import { assumed, between, exact, type Estimate } from '../units/index.js';
import type { SettingValues } from '../settings/index.js';
import type { DemandOnLine } from './demandOf.js';
import type { CrossingFacts, OtherDemand } from './facts.js';
import { activityHere, busiestHours, othersIn, type HourClass } from './hour.js';
import { lossOf } from './loss.js';
import { lineRate, othersP95, shareOf, usableMbps, wifiShare, type Share } from './rate.js';
import { roundTripOf, unsteadinessOf } from './roundTrip.js';
import type { Session } from './session.js';

/** What holds the rate of a session where it is. */
export type RateBound = 'line' | 'loss' | 'session cap' | 'Wi-Fi';

/** The way between the endpoint and the gateway as far as it is known. */
export interface Way {
  /** Who signs on with this one at the beginning of the day; nobody where the line is nobody else's, or another hour is looked at. */
  storm: Storm | undefined;
  /** The local hour it is told for, 0 to 23. */
  hour: number;
  /** The local hour that the round trip is told for: the one in which those it shares a cell, beam or street with are busiest. */
  rttHour: number;
  rtt: Estimate;
  /** False where nothing but the kind of line is known. */
  rttKnown: boolean;
  /** Wait on the local network, within the round trip where that is measured. */
  localMs: Estimate;
  /** How far the worst twentieth of the round trips lies above the median, beyond the local network. */
  spreadMs: Estimate;
  jitterMs: number | null;
  /** Loss in percent; assumed where nobody counted. */
  loss: Estimate;
  /** Whether loss was counted. */
  lossKnown: boolean;
  down: Estimate | null;
  up: Estimate | null;
  /** Rate towards the endpoint that one session can have; null where the line rate is not known. */
  available: Estimate | null;
  bound: RateBound;
  availableUp: Estimate | null;
  peopleAtOnce: number;
  /** Loss holds the rate below what the line would give. */
  lossBound: boolean;
  /** Whether UDP passes is not known, so that it may be TCP. */
  mayBeTcp: boolean;
  /** Wait until TCP sends anew what nothing followed, ms: value as systems do, from the probe for lost tails to the standard's second. */
  timeoutMs: Estimate;
  /** How busy the line is on average in its busy hour, each way, 0 to 1: what everybody asks of what it carries. */
  busyShare: { down: number; up: number };
  /** Delay that its load adds then. */
  busyMs: Estimate;
}

/** A stream that sends ten times what TCP would at the same loss has to stop [RFC 8083 §4.3]. */
const breakerFactor = 10;

/** Most that loss lets through, Mbit/s: TCP by RFC 5348, and UDP ten times that, above which a sender has to stop. */
export const lossBoundMbps = (rttMs: number, lossPercent: number, transport: 'udp' | 'tcp'): number =>
  rfc5348Mbps(rttMs, lossPercent / 100) * (transport === 'tcp' ? 1 : breakerFactor);

function availableOf(
  share: Estimate,
  wifi: Estimate | null,
  capMbps: number,
  { rtt, loss, transport, mayBeTcp }: { rtt: Estimate; loss: Estimate; transport: 'udp' | 'tcp'; mayBeTcp: boolean },
): { available: Estimate; bound: RateBound } {
  let { value, low, high, source, note } = share;
  let bound: RateBound = 'line';
  const atMost = (most: Estimate, by: RateBound) => {
    if (most.value < value) [value, bound, source, note] = [most.value, by, most.source, most.note];
    low = Math.min(low, most.low);
    high = Math.min(high, most.high);
  };
  if (wifi) atMost(wifi, 'Wi-Fi');
  if (loss.high > 0)
    atMost(
      between(
        lossBoundMbps(rtt.value, loss.value, transport),
        lossBoundMbps(rtt.high, loss.high, mayBeTcp ? 'tcp' : transport),
        lossBoundMbps(rtt.low, loss.low, transport),
        'computed',
        transport === 'tcp' ? 'RFC 5348 at the loss' : 'RFC 8083 at the loss',
      ),
      'loss',
    );
  if (capMbps < high) atMost(between(capMbps, capMbps, capMbps, 'computed', 'session cap'), 'session cap');
  return { available: between(value, Math.min(low, value), Math.max(high, value), source, note), bound };
}

/**
 * Delay that the load of the line adds in its busy hour: what it adds while it is full, in proportion to how busy it is on average, each
 * way for itself; the worse one counts. Our rule; common practice, no source.
 */
function busyOf({ evidence, estate }: CrossingFacts, busyShare: { down: number; up: number }): Estimate {
  const { addedDownMs, addedUpMs } = evidence;
  const { addedUnderLoadHighMs } = estate.assumed;
  if (!addedDownMs && !addedUpMs) {
    const most = Math.max(busyShare.down, busyShare.up) * addedUnderLoadHighMs;
    return assumed(0, 0, most, 'delay under load is not measured; common practice');
  }
  const down = (addedDownMs?.value ?? 0) * busyShare.down;
  const up = (addedUpMs?.value ?? 0) * busyShare.up;
  const value = Math.max(down, up);
  const missing = (addedDownMs ? 0 : busyShare.down) + (addedUpMs ? 0 : busyShare.up);
  const taken = (addedDownMs ?? addedUpMs) as Taken<number>;
  const busy = between(value, value, Math.max(value, missing * addedUnderLoadHighMs), 'measured', taken.note);
  const weight = Math.min(addedDownMs?.weight ?? 1, addedUpMs?.weight ?? 1);
  return aged(busy, weight, { low: 0, high: Math.max(busyShare.down, busyShare.up) * addedUnderLoadHighMs });
}

/** UDP waits for no time-out. */
const noTimeout = exact(0, 'computed', 'UDP');
function timeoutOf(rttMs: number, variationMs: number): Estimate {
  const { usualMs, probeMs, standardMs } = retransmissionTimeout(rttMs, variationMs);
  return between(usualMs, Math.min(usualMs, probeMs), standardMs, 'assumed', 'RFC 6298, RFC 8985');
}

/** What all crossings from one desk to one gateway have in common. */
interface Common {
  storm: Storm | undefined;
  hour: number;
  rttHour: number;
  rtt: Estimate;
  known: boolean;
  localMs: Estimate;
  spreadMs: Estimate;
  loss: Estimate;
  down: Estimate | null;
  up: Estimate | null;
  jitterMs: number | null;
  shareDown: Share | null;
  shareUp: Share | null;
  wifi: Estimate | null;
}
type Shared = Pick<CrossingFacts, 'evidence' | 'line' | 'endpoint' | 'location' | 'gatewayRegion' | 'others' | 'estate'> & {
  hour?: number | undefined;
};
interface Kept {
  of: Shared;
  capMbps: number;
  common: Common;
}
/** By whoever else is on the line: made anew with what is tried. Where nobody is, the latest alone is kept: homes are many. */
const kept = new WeakMap<OtherDemand, Kept>();
let latest: Kept | undefined;

/** One session's part of the line in an hour of the day, one way. */
interface InHour {
  hour: number;
  rate: Estimate;
  share: Share;
}

/** The hours that are looked at: the one that is asked for, else those of the working day that may be the worst. */
function hoursOf({ location, line, hour, estate }: CrossingFacts): readonly HourClass[] {
  const { assumed } = estate;
  if (hour === undefined) return busiestHours(location, line.lineKind, assumed);
  return [{ hour, activity: activityHere(location, hour, assumed) }];
}

/** Of several hours the one in which a session gets least. */
function leastOf(hours: readonly HourClass[], inHour: (one: HourClass) => InHour | null): InHour | null {
  let least: InHour | null = null;
  for (const one of hours) {
    const found = inHour(one);
    if (found && (!least || found.share.available.value < least.share.available.value)) least = found;
  }
  return least;
}

const isFor = ({ of, capMbps }: Kept, facts: CrossingFacts, cap: number): boolean =>
  of.evidence === facts.evidence &&
  of.endpoint === facts.endpoint &&
  of.location === facts.location &&
  of.line === facts.line &&
  of.gatewayRegion === facts.gatewayRegion &&
  of.others === facts.others &&
  of.hour === facts.hour &&
  of.estate.regions === facts.estate.regions &&
  of.estate.assumed === facts.estate.assumed &&
  capMbps === cap;

function stormOf({ others, location, hour, estate }: CrossingFacts, lineMbps: number): Storm | undefined {
  const { count, activeShare, activeLow, activeHigh } = others;
  if (count === 0 || (hour !== undefined && hour !== workingDay(location, estate.assumed.day).hours[0])) return undefined;
  return { value: 1 + count * activeShare, low: 1 + count * activeLow, high: 1 + count * activeHigh, lineMbps };
}

/** Crossings of one desk are mostly evaluated one after the other, so what they share is remembered. */
function commonOf(facts: CrossingFacts, capMbps: number): Common {
  const { evidence, line, endpoint, location, gatewayRegion, others, estate } = facts;
  if (latest && isFor(latest, facts, capMbps)) return latest.common;
  const before = others.count > 0 ? kept.get(others) : undefined;
  if (before && isFor(before, facts, capMbps)) return (latest = before).common;
  const { localMs, spreadMs } = unsteadinessOf(facts);
  const hours = hoursOf(facts);
  const { framingShare } = estate.assumed.lines[line.lineKind];
  const down = leastOf(hours, ({ hour, activity }) => {
    const rate = lineRate(evidence.downMbps, line.downMbps, facts, hour);
    const active = othersIn(others, activity);
    const meanMbps = Math.min(active.meanMbps, capMbps);
    return rate && { hour, rate, share: shareOf(rate, framingShare, active, meanMbps, othersP95(active, capMbps).down) };
  });
  const up = leastOf(hours, ({ hour, activity }) => {
    const rate = lineRate(evidence.upMbps, line.upMbps, facts, hour);
    const active = othersIn(others, activity);
    return rate && { hour, rate, share: shareOf(rate, framingShare, active, active.upMeanMbps, othersP95(active, capMbps).up) };
  });
  // the last of them is the one in which the neighbourhood is busiest
  const { hour: rttHour } = hours.at(-1) as HourClass;
  const { rtt, known } = roundTripOf(facts, rttHour);
  const common: Common = {
    storm: down ? stormOf(facts, usableMbps(down.rate, framingShare)) : undefined,
    rttHour,
    rtt,
    known,
    localMs,
    spreadMs,
    loss: lossOf(facts),
    down: down && down.rate,
    up: up && up.rate,
    jitterMs: evidence.datagrams?.value.jitterMs ?? evidence.roundTrips?.value.jitterMs ?? null,
    hour: (down ?? (hours[0] as HourClass)).hour,
    shareDown: down && down.share,
    shareUp: up && up.share,
    wifi: wifiShare(facts),
  };
  latest = { of: { evidence, line, endpoint, location, gatewayRegion, others, estate, hour: facts.hour }, capMbps, common };
  if (others.count > 0) kept.set(others, latest);
  return common;
}

/** The way as evidence, line and the others on it make it. @param demand what this session puts on the line */
export function wayOf(facts: CrossingFacts, s: SettingValues, session: Session, demand: DemandOnLine): Way {
  const { framingShare } = facts.estate.assumed.lines[facts.line.lineKind];
  const cap = s['transport.capMbps'];
  const { storm, hour, rttHour, rtt, known, localMs, spreadMs, loss, down, up, jitterMs, shareDown, shareUp, wifi } = commonOf(facts, cap);
  const { transport, mayBeTcp } = session;
  let available: Estimate | null = null;
  let bound: RateBound = 'line';
  const busyShare = { down: 0, up: 0 };
  if (down && shareDown) {
    busyShare.down = Math.min(1, shareDown.othersLoad + demand.meanMbps / usableMbps(down, framingShare));
    // what is played beside the session is on the same line
    const beside = demand.besideP95Mbps;
    const { value, low, high, source, note } = shareDown.available;
    const less = (mbps: number) => Math.max(0.01, mbps - beside);
    const left = beside > 0 ? between(less(value), less(low), less(high), source, note) : shareDown.available;
    ({ available, bound } = availableOf(left, wifi, cap, { rtt, loss, transport, mayBeTcp }));
  }
  if (up && shareUp) busyShare.up = Math.min(1, shareUp.othersLoad + demand.upMbps / usableMbps(up, framingShare));
  return {
    storm,
    hour,
    rttHour,
    rtt,
    rttKnown: known,
    localMs,
    spreadMs,
    jitterMs,
    loss,
    lossKnown: loss.source === 'measured',
    down,
    up,
    available,
    bound,
    availableUp: shareUp?.available ?? null,
    peopleAtOnce: shareDown?.people ?? 1,
    lossBound: bound === 'loss',
    mayBeTcp,
    timeoutMs: transport === 'tcp' || mayBeTcp ? timeoutOf(rtt.value, jitterMs ?? 2) : noTimeout,
    busyShare,
    busyMs: busyOf(facts, busyShare),
  };
}
