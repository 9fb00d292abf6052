import type { LineKind, Region, RoundTrips } from '@underpass/contracts';
import { assumed, between, exact, type Estimate } from '../units/index.js';
import { distanceKm, geostationaryFloorMs, lightFloorMs, lineDefaults, pathMs, wifiDefaults } from '../link/index.js';
import { delayAt } from '../day/index.js';
import { aged, fewestRoundTrips, type Taken } from '../evidence/index.js';
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
function usualOf({ line, location, gatewayRegion }: CrossingFacts): Estimate {
  const { delayLowMs, delayHighMs, note } = lineDefaults[line.lineKind];
  const path = line.lineKind === 'geo-satellite' ? 0 : pathMs(distanceKm(location, gatewayRegion));
  return assumed((delayLowMs + delayHighMs) / 2 + path, delayLowMs + path, delayHighMs + path, note);
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
  const { location, gatewayRegion } = facts;
  const least = lineKind === 'geo-satellite' ? geostationaryFloorMs : lightFloorMs(distanceKm(location, gatewayRegion));
  const then = (rtt: Estimate, taken: number | null) => delayAt(rtt, lineKind, hour, taken, least);
  if (measured) {
    const { weight = 1 } = measured;
    const there = towards(facts, measured);
    const rtt = then(weight < 1 ? aged(there, weight, usualOf(facts)) : there, takenHour(measured, lineKind, location, hour));
    if (measured.samples >= fewestRoundTrips) {
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

// what is assumed is the same for everybody, so it is made once
const { waitMs, waitLowMs, waitHighMs } = wifiDefaults;
const wifiWait = assumed(waitMs, waitLowMs, waitHighMs, 'Wi-Fi; common practice, no source');
const wiredWait = exact(0.5, 'assumed', 'wired; common practice');
const anyWait = assumed(1, 0.5, waitHighMs, 'wired or Wi-Fi is not known; common practice');
const unknownSpread = Object.fromEntries(
  Object.entries(lineDefaults).map(([kind, { spreadHighMs, words }]) => [kind, assumed(0, 0, spreadHighMs, `${words}; common practice`)]),
) as Record<LineKind, Estimate>;

/** How far a measured way varies, beyond what the local network does. */
function spreadOfLine(spreadMs: number, { note, samples, weight = 1 }: Taken<RoundTrips>, lineKind: LineKind): Estimate {
  if (samples < fewestRoundTrips)
    return between(spreadMs, 0, Math.max(spreadMs, lineDefaults[lineKind].spreadHighMs), 'measured', note, samples);
  return aged(exact(spreadMs, 'measured', note), weight, unknownSpread[lineKind]);
}

/** Wait on the local network, and how far the worst twentieth of the round trips lies above their median, ms. */
export function unsteadinessOf({ evidence, endpoint, line }: CrossingFacts): { localMs: Estimate; spreadMs: Estimate } {
  const { roundTrips } = evidence;
  const { connection } = endpoint;
  const unknown = unknownSpread[line.lineKind];
  const local = connection === 'wifi' ? wifiWait : connection === 'wired' ? wiredWait : anyWait;
  if (!roundTrips || roundTrips.samples < 2) return { localMs: local, spreadMs: unknown };
  const { value, note, samples, own, medium, weight = 1 } = roundTrips;
  const measuredMs = Math.max(0, value.p95Ms - value.medianMs);
  const elsewhere = !own && medium !== undefined && medium !== connection;
  if (connection !== 'wifi')
    // what somebody else's Wi-Fi did says nothing of a cable, but that the line did no worse
    return {
      localMs: local,
      spreadMs: elsewhere ? between(0, 0, measuredMs, 'measured', note, samples) : spreadOfLine(measuredMs, roundTrips, line.lineKind),
    };
  if (elsewhere) return { localMs: local, spreadMs: spreadOfLine(measuredMs, roundTrips, line.lineKind) };
  return {
    localMs:
      samples < fewestRoundTrips
        ? between(measuredMs, Math.min(measuredMs, waitLowMs), Math.max(measuredMs, waitHighMs), 'measured', note)
        : aged(exact(measuredMs, 'measured', note), weight, wifiWait),
    spreadMs: exact(0, 'measured', note),
  };
}
