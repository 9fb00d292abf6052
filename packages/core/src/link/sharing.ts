import { binomialPmf } from './binomial.js';

/** Demand of people who share a line: n of them, each active with probability a, using mean m and deviation s while active. */
export interface Sharers {
  count: number;
  activeShare: number;
  meanMbps: number;
  sdMbps: number;
}

/** One-sided 95 % point of the normal distribution. */
const z95 = 1.6448536;

const normalP95 = ({ count, activeShare, meanMbps, sdMbps }: Sharers): number =>
  count * activeShare * meanMbps + z95 * Math.sqrt(count * (activeShare * sdMbps ** 2 + activeShare * (1 - activeShare) * meanMbps ** 2));

/** Cumulative normal distribution [Abramowitz & Stegun 1964, 26.2.17], absolute error below 7.5e-8. */
function normalCdf(z: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(z));
  const tail =
    Math.exp((-z * z) / 2) *
    0.3989422804 *
    t *
    (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return z > 0 ? 1 - tail : tail;
}

/**
 * Demand in the 95th percentile second. From 30 people by the normal approximation, below that by exact enumeration of how
 * many are active (each count with its own normal spread).
 * @returns Mbit/s
 */
export function demandP95Mbps(sharers: Sharers): number {
  const { count, activeShare, meanMbps, sdMbps } = sharers;
  if (count <= 0 || activeShare <= 0 || meanMbps <= 0) return 0;
  if (count >= 30) return normalP95(sharers);
  const chances = Array.from({ length: count + 1 }, (_, k) => binomialPmf(count, k, activeShare));
  const below = (rate: number) =>
    chances.reduce(
      (sum, chance, k) =>
        sum +
        chance * (k === 0 || sdMbps === 0 ? (rate >= k * meanMbps ? 1 : 0) : normalCdf((rate - k * meanMbps) / (sdMbps * Math.sqrt(k)))),
      0,
    );
  let [low, high] = [0, count * (meanMbps + 4 * sdMbps)];
  for (let i = 0; i < 30; i++) {
    const middle = (low + high) / 2;
    if (below(middle) >= 0.95) high = middle;
    else low = middle;
  }
  return high;
}

const held = new Map<string, number>();

/** How many people a rate holds in the 95th percentile second. Remembered: many crossings of a line ask the same. */
export function peopleHeld(rateMbps: number, sharers: Omit<Sharers, 'count'>): number {
  const key = `${rateMbps}|${sharers.activeShare}|${sharers.meanMbps}|${sharers.sdMbps}`;
  let known = held.get(key);
  if (known === undefined) {
    if (held.size > 2000) held.clear();
    held.set(key, (known = searchHeld(rateMbps, sharers)));
  }
  return known;
}

function searchHeld(rateMbps: number, sharers: Omit<Sharers, 'count'>): number {
  if (sharers.activeShare <= 0 || sharers.meanMbps <= 0) return Infinity;
  let high = 1;
  while (high < 1e6 && demandP95Mbps({ ...sharers, count: high }) <= rateMbps) high *= 2;
  let low = Math.floor(high / 2);
  while (low + 1 < high) {
    const middle = Math.floor((low + high) / 2);
    if (demandP95Mbps({ ...sharers, count: middle }) <= rateMbps) low = middle;
    else high = middle;
  }
  return low;
}
