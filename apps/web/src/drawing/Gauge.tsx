/** Two points on a gauge: hollow before, solid after, tick wanted; better is right, whatever the unit. */
export function Gauge({
  before,
  after,
  wanted,
  better,
}: {
  before: number | null;
  after: number | null;
  wanted: number | null;
  better: 'less' | 'more';
}) {
  const width = 96;
  const values = [before, after, wanted].filter((value): value is number => value !== null);
  if (values.length === 0) return <svg width={width} height="14" aria-hidden />;
  const low = Math.min(...values);
  const high = Math.max(...values);
  const pad = (high - low) * 0.2 || Math.abs(high) * 0.2 || 1;
  const x = (value: number) => {
    const share = (value - (low - pad)) / (high - low + 2 * pad);
    return 6 + (width - 12) * (better === 'more' ? share : 1 - share);
  };
  return (
    <svg width={width} height="14" aria-hidden className="moves">
      <path d={`M2 7H${width - 2}`} stroke="var(--rule)" />
      {before !== null && after !== null && <path d={`M${x(before)} 7H${x(after)}`} stroke="var(--tile)" strokeWidth="2.4" />}
      {wanted !== null && <path d={`M${x(wanted)} 1v12`} stroke="var(--ink)" strokeWidth="2" />}
      {before !== null && <circle cx={x(before)} cy="7" r="3.6" fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.3" />}
      {after !== null && <circle cx={x(after)} cy="7" r="4" fill="var(--tile)" />}
    </svg>
  );
}
