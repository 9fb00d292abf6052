import { binomialCdf } from './binomial.js';
import { percentile } from './percentile.js';

/** Above this many samples the resampling distribution is so narrow and smooth that its normal limit is used. */
const exactUpTo = 2000;

/** Quantile of the bootstrap distribution of the r-th order statistic (1-based): P(X(r)* ≤ x(k)) = P(Bin(n, k/n) ≥ r). */
function orderStatisticQuantile(sorted: readonly number[], r: number, share: number): number {
  const n = sorted.length;
  let [low, high] = [1, n];
  while (low < high) {
    const k = Math.floor((low + high) / 2);
    if (1 - binomialCdf(n, r - 1, k / n) >= share) high = k;
    else low = k + 1;
  }
  return sorted[low - 1] as number;
}

/**
 * Bootstrap percentile interval of the median [Efron 1979], in its exact form for order statistics, so that no random
 * numbers are needed [Maritz & Jarrett 1978]. For an even count the bounds of the two middle order statistics are averaged.
 * @param sorted samples in ascending order, at least one
 */
export function medianInterval(sorted: readonly number[], level = 0.95): { low: number; high: number } {
  const n = sorted.length;
  const tail = (1 - level) / 2;
  if (n > exactUpTo) {
    const spread = 1.959964 / (2 * Math.sqrt(n)); // sd of the median's rank is sqrt(n)/2
    return { low: percentile(sorted, 0.5 - spread), high: percentile(sorted, 0.5 + spread) };
  }
  const ranks = n % 2 ? [(n + 1) / 2] : [n / 2, n / 2 + 1];
  const bound = (share: number) => ranks.reduce((sum, r) => sum + orderStatisticQuantile(sorted, r, share), 0) / ranks.length;
  return { low: bound(tail), high: bound(1 - tail) };
}
