import type { LineKind, Region, RoundTrips } from '@underpass/contracts';
import { assumed, between, exact, type Estimate } from '../units/index.js';
import type { Assumed } from '../assumed/index.js';
import { distanceKm, geostationaryFloorMs, lightFloorMs, pathMs } from '../link/index.js';
import { delayAt } from '../day/index.js';
import { aged, type Taken } from '../evidence/index.js';
import type { CrossingFacts } from './facts.js';
import { takenHour } from './hour.js';

/** What of a measurement that went elsewhere, or was taken on another medium, still says something of this way. */
function towards(facts: CrossingFacts, { value, target, note, samples }: Taken<RoundTrips>): Estimate {
  const { location, gatewayRegion, estate } = facts;
  const { medianMs, medianLowMs, medianHighMs } = value;
  if (target === gatewayRegion.id) return between(medianMs, medianLowMs, medianHighMs, 'measured', note, samples);
  const here = pathMs(distanceKm(location, gatewayRegion));
  const region = target === undefined ? undefined : estate.regions.get(target);
  // where to is not told: it may have been here, or next door
  if (!region) return between(medianMs, medianLowMs, medianHighMs + here - 1, 'measured', note, samples);
  return moved(facts, between(medianMs, medianLowMs, medianHighMs, 'measured', note, samples), region, here);
}

/** From one far end to another: by what the distances differ, give or take a third, and never faster than light. */
function moved({ location, gatewayRegion }: CrossingFacts, there: Estimate, region: Region, here: number): Estimate {
  const more = here - pathMs(distanceKm(location, region));
  const floor = lightFloorMs(distanceKm(location, gatewayRegion));
  const at = (ms: number, share: number) => Math.max(floor, ms + more * share);
  return between(
    at(there.value, 1),
    at(there.low, more > 0 ? 2 / 3 : 4 / 3),
    at(there.high, more > 0 ? 4 / 3 : 2 / 3),
    'computed',
    `measured to ${region.name}, and the distances; ${there.note}`,
    there.samples,
  );
}

/** By the kind of line and the distance alone. */
function usualOf({ line, location, gatewayRegion, estate }: CrossingFacts): Estimate {
  const { delayLowMs, delayHighMs, words } = estate.assumed.lines[line.lineKind];
  const path = line.lineKind === 'geo-satellite' ? 0 : pathMs(distanceKm(location, gatewayRegion));
  return assumed(
    (delayLowMs + delayHighMs) / 2 + path,
    delayLowMs + path,
    delayHighMs + path,
    `${words} and the distance; common practice`,
  );
}

/** What somebody typed stands, and at another hour than theirs it may be longer. */
function typed(ms: number, then: (rtt: Estimate, taken: null) => Estimate): Estimate {
  const rtt = exact(ms, 'declared', 'typed for the line');
  return { ...rtt, high: then(rtt, null).high };
}

/** Round trip to the gateway at an hour of the day: measured, else typed, else by the kind of line. `known` is false where it rests on an assumption. */
export function roundTripOf(facts: CrossingFacts, hour: number): { rtt: Estimate; known: boolean } {
  const measured = facts.evidence.roundTrips;
  const { delayMs: declared, lineKind } = facts.line;
  const { location, gatewayRegion, estate } = facts;
  const { lines, evidence } = estate.assumed;
  const { evening } = lines[lineKind];
  const least = lineKind === 'geo-satellite' ? geostationaryFloorMs : lightFloorMs(distanceKm(location, gatewayRegion));
  const then = (rtt: Estimate, taken: number | null) => delayAt(rtt, evening, hour, taken, least);
  if (measured) {
    const { weight = 1 } = measured;
    const there = towards(facts, measured);
    const rtt = then(weight < 1 ? aged(there, weight, usualOf(facts)) : there, takenHour(measured, evening, location, hour));
    if (measured.samples >= evidence.fewestRoundTrips) {
      if (declared !== undefined) rtt.notUsed = { value: declared, source: 'declared', note: 'typed for the line' };
      return { rtt, known: true };
    }
    // a few say that it may be like this, not that it is not as usual
    const usual = usualOf(facts);
    const other = declared ?? usual.value;
    const low = Math.min(measured.value.minMs, other, usual.low);
    const high = Math.max(measured.value.p95Ms, rtt.high, other, usual.high);
    return {
      rtt: between(rtt.value, low, high, 'measured', `${measured.note}; only ${measured.samples} round trips`, measured.samples),
      known: false,
    };
  }
  if (declared !== undefined && !(lineKind === 'geo-satellite' && declared < geostationaryFloorMs))
    return { rtt: typed(declared, then), known: true };
  // what is usual of a kind of line has its evenings in it
  return { rtt: usualOf(facts), known: false };
}

/** What is assumed of a way is the same for everybody in an estate, so it is made once. */
interface Unmeasured {
  wifi: Estimate;
  wired: Estimate;
  any: Estimate;
  spread: Record<LineKind, Estimate>;
}
const unmeasured = new WeakMap<Assumed, Unmeasured>();
function unmeasuredBy(by: Assumed): Unmeasured {
  let known = unmeasured.get(by);
  if (!known) {
    const { waitMs, waitLowMs, waitHighMs } = by.wifi;
    known = {
      wifi: assumed(waitMs, waitLowMs, waitHighMs, 'Wi-Fi; common practice, no source'),
      wired: exact(0.5, 'assumed', 'wired; common practice'),
      any: assumed(1, 0.5, waitHighMs, 'wired or Wi-Fi is not known; common practice'),
      spread: Object.fromEntries(
        Object.entries(by.lines).map(([kind, { spreadHighMs, words }]) => [kind, assumed(0, 0, spreadHighMs, `${words}; common practice`)]),
      ) as Record<LineKind, Estimate>,
    };
    unmeasured.set(by, known);
  }
  return known;
}

/** How far a measured way varies, beyond what the local network does. */
function spreadOfLine(spreadMs: number, { note, samples, weight = 1 }: Taken<RoundTrips>, unknown: Estimate, fewest: number): Estimate {
  if (samples < fewest) return between(spreadMs, 0, Math.max(spreadMs, unknown.high), 'measured', note, samples);
  return aged(exact(spreadMs, 'measured', note), weight, unknown);
}

/** Wait on the local network, and how far the worst twentieth of the round trips lies above their median, ms. */
export function unsteadinessOf({ evidence, endpoint, line, estate }: CrossingFacts): { localMs: Estimate; spreadMs: Estimate } {
  const { roundTrips } = evidence;
  const { connection } = endpoint;
  const usual = unmeasuredBy(estate.assumed);
  const { fewestRoundTrips } = estate.assumed.evidence;
  const unknown = usual.spread[line.lineKind];
  const local = connection === 'wifi' ? usual.wifi : connection === 'wired' ? usual.wired : usual.any;
  if (!roundTrips || roundTrips.samples < 2) return { localMs: local, spreadMs: unknown };
  const { value, note, samples, own, medium, weight = 1 } = roundTrips;
  const measuredMs = Math.max(0, value.p95Ms - value.medianMs);
  const elsewhere = !own && medium !== undefined && medium !== connection;
  if (connection !== 'wifi')
    // what somebody else's Wi-Fi did says nothing of a cable, but that the line did no worse
    return {
      localMs: local,
      spreadMs: elsewhere
        ? between(0, 0, measuredMs, 'measured', note, samples)
        : spreadOfLine(measuredMs, roundTrips, unknown, fewestRoundTrips),
    };
  if (elsewhere) return { localMs: local, spreadMs: spreadOfLine(measuredMs, roundTrips, unknown, fewestRoundTrips) };
  return {
    localMs:
      samples < fewestRoundTrips
        ? between(measuredMs, Math.min(measuredMs, usual.wifi.low), Math.max(measuredMs, usual.wifi.high), 'measured', note)
        : aged(exact(measuredMs, 'measured', note), weight, usual.wifi),
    spreadMs: exact(0, 'measured', note),
  };
}
