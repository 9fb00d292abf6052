import type { Datagrams } from '@underpass/contracts';
import { assumed, exact, between, type Estimate } from '../units/index.js';
import { demandP95Mbps, distanceKm, lineDefaults, pathMs, rfc5348Mbps, shareInterval } from '../link/index.js';
import { fewestRoundTrips } from '../evidence/index.js';
import type { SettingValues } from '../settings/index.js';
import type { CrossingFacts, OtherDemand } from './facts.js';
import type { Session } from './session.js';

/** The way between the endpoint and the gateway as far as it is known. */
export interface Way {
  rtt: Estimate;
  /** False where nothing but the kind of line is known. */
  rttKnown: boolean;
  /** Wait on the local network, within the round trip where that is measured. */
  localMs: Estimate;
  jitterMs: number | null;
  /** Loss in percent, null where it was not measured. */
  loss: Estimate | null;
  down: Estimate | null;
  up: Estimate | null;
  /** Rate towards the endpoint that one session can have; null where the line rate is not known. */
  available: Estimate | null;
  availableUp: Estimate | null;
  peopleAtOnce: number;
  lossBound: boolean;
}

function roundTrip(facts: CrossingFacts): { rtt: Estimate; known: boolean } {
  const { evidence, line, location, gatewayRegion } = facts;
  const measured = evidence.roundTrips;
  const declared = line.delayMs;
  if (measured && measured.samples >= fewestRoundTrips) {
    const { medianMs, medianLowMs, medianHighMs } = measured.value;
    const rtt = between(medianMs, medianLowMs, medianHighMs, 'measured', measured.note, measured.samples);
    if (declared !== undefined) rtt.notUsed = { value: declared, source: 'declared', note: 'typed for the line' };
    return { rtt, known: true };
  }
  if (declared !== undefined) return { rtt: exact(declared, 'declared', 'typed for the line'), known: true };
  const kind = lineDefaults[line.lineKind];
  const path = line.lineKind === 'geo-satellite' ? 0 : pathMs(distanceKm(location, gatewayRegion));
  const [low, high] = [kind.delayLowMs + path, kind.delayHighMs + path];
  return { rtt: assumed((low + high) / 2, low, high, kind.note), known: false };
}

function lineRate(taken: { value: number; note: string } | undefined, declaredMbps: number | undefined): Estimate | null {
  if (taken) {
    const rate = exact(taken.value, 'measured', taken.note);
    if (declaredMbps !== undefined) rate.notUsed = { value: declaredMbps, source: 'declared', note: 'typed for the line' };
    return rate;
  }
  return declaredMbps === undefined ? null : exact(declaredMbps, 'declared', 'typed for the line');
}

/** The others' P95 demand and the interval of a loss are the same for every crossing that shares the object, so they are remembered. */
const p95s = new Map<string, number>();
function othersP95(others: OtherDemand, capMbps: number): number {
  if (others.count >= 30 || others.meanMbps <= 0)
    return demandP95Mbps(others.meanMbps > capMbps ? { ...others, meanMbps: capMbps, sdMbps: 0 } : others);
  const meanMbps = Math.min(others.meanMbps, capMbps);
  // the P95 grows in proportion to mean and deviation together, so one figure serves every scaled demand
  const spread = others.meanMbps > capMbps ? 0 : Math.round((others.sdMbps / meanMbps) * 1e6) / 1e6;
  const key = `${others.count}|${others.activeShare}|${spread}`;
  let perMean = p95s.get(key);
  if (perMean === undefined) {
    if (p95s.size > 5000) p95s.clear();
    p95s.set(key, (perMean = demandP95Mbps({ ...others, meanMbps: 1, sdMbps: spread })));
  }
  return perMean * meanMbps;
}
const intervals = new WeakMap<Datagrams, { low: number; high: number }>();
function lossInterval(udp: Datagrams, sent: number): { low: number; high: number } {
  let known = intervals.get(udp);
  if (!known) intervals.set(udp, (known = shareInterval(sent, udp.lost ?? 0)));
  return known;
}

/** One session's part of a shared line: what the others leave in their P95 second, and never less than an equal share. */
function shareOf(rate: Estimate, facts: CrossingFacts, capMbps: number): { available: Estimate; people: number } {
  const usable = rate.value * (1 - lineDefaults[facts.line.lineKind].framingShare);
  const { others } = facts;
  const activeOthers = others.count * others.activeShare;
  const people = 1 + Math.min(others.count, Math.ceil(activeOthers + 1.645 * Math.sqrt(activeOthers * (1 - others.activeShare))));
  const left = others.count > 0 ? Math.max(usable / people, usable - othersP95(others, capMbps)) : usable;
  return { available: exact(left, rate.source, rate.note), people };
}

/** Rates that one session may have on a wired or Wi-Fi local network are far above those of the lines here, so they do not bind. */
export function wayOf(facts: CrossingFacts, s: SettingValues, session: Session): Way {
  const { evidence, endpoint } = facts;
  const { rtt, known } = roundTrip(facts);
  const measured = evidence.roundTrips;
  const wifi = endpoint.connection === 'wifi';
  const queue = measured && measured.samples >= fewestRoundTrips ? Math.max(0, measured.value.p95Ms - measured.value.medianMs) : null;
  const localMs = !wifi
    ? exact(endpoint.connection === undefined ? 1 : 0.5, 'assumed', 'wired; common practice')
    : queue !== null
      ? exact(queue, 'measured', measured?.note ?? '')
      : assumed(8, 3, 20, 'Wi-Fi; common practice, no source');
  const udp = evidence.datagrams?.value;
  let loss: Estimate | null = null;
  if (udp?.passes && udp.sent) {
    const interval = lossInterval(udp, udp.sent);
    loss = between(
      (100 * (udp.lost ?? 0)) / udp.sent,
      interval.low * 100,
      interval.high * 100,
      'measured',
      evidence.datagrams?.note ?? '',
      udp.sent,
    );
  }
  const down = lineRate(evidence.downMbps, facts.line.downMbps);
  const up = lineRate(evidence.upMbps, facts.line.upMbps);
  const cap = s['transport.capMbps'];
  let available: Estimate | null = null;
  let peopleAtOnce = 1;
  let lossBound = false;
  if (down) {
    const share = shareOf(down, facts, cap);
    available = share.available;
    peopleAtOnce = share.people;
    if (session.transport === 'tcp' && loss && loss.value > 0) {
      const bound = rfc5348Mbps(rtt.value, loss.value / 100);
      if (bound < available.value) {
        lossBound = true;
        available = exact(bound, 'computed', 'RFC 5348 at the measured loss');
      }
    }
    if (cap < available.value) available = exact(cap, 'computed', 'session cap');
  }
  const jitterMs = udp?.jitterMs ?? measured?.value.jitterMs ?? null;
  const availableUp = up
    ? exact((up.value * (1 - lineDefaults[facts.line.lineKind].framingShare)) / peopleAtOnce, up.source, up.note)
    : null;
  return { rtt, rttKnown: known, localMs, jitterMs, loss, down, up, available, availableUp, peopleAtOnce, lossBound };
}
