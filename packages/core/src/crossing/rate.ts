import { between, exact, type Estimate } from '../units/index.js';
import { demandP95Mbps, wifiRateAt } from '../link/index.js';
import { rateAt } from '../day/index.js';
import { aged, type Taken } from '../evidence/index.js';
import type { CrossingFacts, OtherDemand } from './facts.js';
import { takenHour } from './hour.js';

/** A rate that was measured long ago may be off by so much of itself; common practice, no source. */
const oldRateOff = 0.5;

/**
 * Rate of a line one way at an hour of the day: measured, else typed; null where neither is there.
 * @param hour local time, 0 to 23
 */
export function lineRate(
  taken: Taken<number> | undefined,
  declaredMbps: number | undefined,
  { line, location, estate }: Pick<CrossingFacts, 'line' | 'location' | 'estate'>,
  hour: number,
): Estimate | null {
  const { evening } = estate.assumed.lines[line.lineKind];
  if (!taken) return declaredMbps === undefined ? null : rateAt(exact(declaredMbps, 'declared', 'typed for the line'), evening, hour, null);
  const { value, note, weight = 1 } = taken;
  let rate = exact(value, 'measured', note);
  // where something else is typed, it may have become that
  if (weight < 1)
    rate = aged(rate, weight, {
      low: Math.min(value * (1 - oldRateOff), declaredMbps ?? value),
      high: Math.max(value * (1 + oldRateOff), declaredMbps ?? value),
    });
  rate = rateAt(rate, evening, hour, takenHour(taken, evening, location, hour));
  if (declaredMbps !== undefined) rate.notUsed = { value: declaredMbps, source: 'declared', note: 'typed for the line' };
  return rate;
}

/** What of a rate carries anything: framing goes off a declared rate, a measured one has it off already. @returns Mbit/s */
export const usableMbps = (rate: Pick<Estimate, 'value' | 'source'>, framingShare: number): number =>
  rate.source === 'measured' ? rate.value : rate.value * (1 - framingShare);

/** What the others on a line ask in their busiest second of twenty, Mbit/s, at the share of active people and at the ends of its interval. */
interface OthersP95 {
  value: number;
  low: number;
  high: number;
}

/** Few lines have few numbers of people, so what their demand comes to is remembered: for each mean of 1 Mbit/s. */
const p95s = new Map<string, number>();
function p95At(count: number, activeShare: number, meanMbps: number, sdMbps: number): number {
  if (count <= 0 || meanMbps <= 0) return 0;
  if (count >= 30) return demandP95Mbps({ count, activeShare, meanMbps, sdMbps });
  // the P95 grows in proportion to mean and deviation together, so one figure serves every scaled demand
  const spread = Math.round((sdMbps / meanMbps) * 1e6) / 1e6;
  const key = `${count}|${activeShare}|${spread}`;
  let perMean = p95s.get(key);
  if (perMean === undefined) {
    if (p95s.size > 5000) p95s.clear();
    p95s.set(key, (perMean = demandP95Mbps({ count, activeShare, meanMbps: 1, sdMbps: spread })));
  }
  return perMean * meanMbps;
}

function asked(others: OtherDemand, meanMbps: number, sdMbps: number): OthersP95 {
  const { count, activeShare, activeLow, activeHigh } = others;
  const value = p95At(count, activeShare, meanMbps, sdMbps);
  if (activeLow === activeHigh) return { value, low: value, high: value };
  return { value, low: p95At(count, activeLow, meanMbps, sdMbps), high: p95At(count, activeHigh, meanMbps, sdMbps) };
}

interface Asked {
  capMbps: number;
  down: OthersP95;
  up: OthersP95;
}
// everybody on a line shares the others' demand, and mostly their cap
const askedBy = new WeakMap<OtherDemand, Asked>();
/** What the others ask each way. @param capMbps most that a session may take */
export function othersP95(others: OtherDemand, capMbps: number): Asked {
  const known = askedBy.get(others);
  if (known?.capMbps === capMbps) return known;
  const { meanMbps, sdMbps, upMeanMbps, upSdMbps } = others;
  const capped = meanMbps > capMbps;
  const made = {
    capMbps,
    down: asked(others, capped ? capMbps : meanMbps, capped ? 0 : sdMbps),
    up: asked(others, upMeanMbps, upSdMbps),
  };
  askedBy.set(others, made);
  return made;
}

/** People on the line at once in its busy hour, this one counted: 19 times of 20 no more than this. */
export const peopleAtOnce = (count: number, activeShare: number): number => {
  const active = count * activeShare;
  return 1 + Math.min(count, Math.ceil(active + 1.645 * Math.sqrt(active * (1 - activeShare))));
};

/** One session's part of a shared line, with its interval where the share of active people is assumed. */
export interface Share {
  available: Estimate;
  people: number;
  /** Part of the line that the others fill in the busy hour on average, 0 and up. */
  othersLoad: number;
}

/**
 * One session's part of a shared line: what the others leave in their busiest second of twenty, and never less than an equal share.
 * @param meanMbps what one of the others asks on average while active
 */
export function shareOf(
  rate: Estimate,
  framingShare: number,
  { count, activeShare, activeLow, activeHigh }: OtherDemand,
  meanMbps: number,
  others: OthersP95,
): Share {
  const usable = usableMbps(rate, framingShare);
  const sure = rate.low === rate.high;
  const least = sure ? usable : usable * (rate.low / rate.value);
  const most = sure ? usable : usable * (rate.high / rate.value);
  if (count <= 0) return { available: between(usable, least, most, rate.source, rate.note), people: 1, othersLoad: 0 };
  const people = peopleAtOnce(count, activeShare);
  const value = Math.max(usable / people, usable - others.value);
  return {
    available:
      sure && activeLow === activeHigh
        ? exact(value, rate.source, rate.note)
        : between(
            value,
            Math.max(least / peopleAtOnce(count, activeHigh), least - others.high),
            Math.max(most / peopleAtOnce(count, activeLow), most - others.low),
            rate.source,
            rate.note,
          ),
    people,
    othersLoad: (count * activeShare * meanMbps) / usable,
  };
}

/**
 * What Wi-Fi lets through for one device, by its signal; null where it does not bind: on a cable, and where this device itself measured
 * as much over its Wi-Fi.
 */
export function wifiShare({ endpoint, evidence, location, estate }: CrossingFacts): Estimate | null {
  if (endpoint.connection === 'wired') return null;
  const dbm = endpoint.wifiSignalDbm;
  const { wifi } = estate.assumed;
  const active = location.ownLines ? wifi.cellOwn : wifi.cellShared;
  const [worst, best] =
    dbm === undefined ? [wifiRateAt(wifi.signalLowDbm), wifiRateAt(wifi.signalHighDbm)] : [wifiRateAt(dbm), wifiRateAt(dbm)];
  const measured = evidence.downMbps?.own && evidence.downMbps.medium !== 'wired' ? evidence.downMbps.value : null;
  // what it measured itself it can do; but not more than any Wi-Fi does at that signal
  if (measured !== null)
    return dbm === undefined || endpoint.connection === undefined || measured <= best.highMbps
      ? null
      : exact(best.highMbps, 'computed', `Wi-Fi at ${dbm} dBm`);
  const low = worst.lowMbps / active;
  if (endpoint.connection === undefined) return between(Infinity, low, Infinity, 'assumed', 'wired or Wi-Fi is not known; common practice');
  return between(
    Math.max(low, Math.sqrt(low * best.highMbps)),
    low,
    best.highMbps,
    dbm === undefined ? 'assumed' : 'computed',
    dbm === undefined ? 'Wi-Fi of unknown signal; common practice' : `Wi-Fi at ${dbm} dBm, shared in its cell`,
  );
}
