/**
 * Percentile by linear interpolation between order statistics, "type 7" [Hyndman & Fan 1996].
 * @param sorted samples in ascending order, at least one
 * @param share 0 to 1
 */
export function percentile(sorted: readonly number[], share: number): number {
  const position = (sorted.length - 1) * share;
  const below = Math.floor(position);
  const low = sorted[below] as number;
  const high = sorted[Math.min(below + 1, sorted.length - 1)] as number;
  return low + (high - low) * (position - below);
}
