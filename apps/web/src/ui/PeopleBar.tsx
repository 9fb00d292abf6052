import type { Verdict } from '@underpass/contracts';
import { useId } from 'react';
import { verdictWords, VerdictShape, verdictInk } from './Verdict.js';

export type Counts = Record<Verdict, number>;
export const barOrder: readonly Verdict[] = ['blocked', 'limited', 'unknown', 'clear'];

/** People as lengths: solid blocked, slotted limited, hatched unknown, hollow clear. */
export function PeopleBar({
  counts,
  perPerson,
  height = 14,
  most = 92,
}: {
  counts: Counts;
  perPerson: number;
  height?: number;
  most?: number;
}) {
  const id = useId();
  let x = 0.75;
  const parts = barOrder.flatMap((verdict) => {
    const n = counts[verdict];
    if (n === 0) return [];
    const width = Math.min(most, Math.max(verdict === 'unknown' ? 6 : 4, n * perPerson));
    const part = { verdict, x, width };
    x += width + 1.5;
    return [part];
  });
  return (
    <svg width={x + 1} height={height + 1.5} aria-hidden className="block moves">
      <defs>
        <pattern id={id} width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V4" stroke="var(--ink-3)" strokeWidth="1.6" />
        </pattern>
      </defs>
      {parts.map(({ verdict, x: at, width }) => (
        <g key={verdict} transform={`translate(${at} .75)`}>
          {verdict === 'blocked' && <rect width={width} height={height} fill="var(--brick)" />}
          {verdict === 'limited' && (
            <>
              <rect width={width} height={height} fill="var(--amber-fill)" stroke="var(--amber)" strokeWidth="1.2" />
              <rect x="0" y={height / 2 - 1} width={width} height="2" fill="var(--paper)" stroke="var(--amber)" strokeWidth=".8" />
            </>
          )}
          {verdict === 'unknown' && (
            <rect width={width} height={height} fill={`url(#${id})`} stroke="var(--ink-3)" strokeWidth="1" strokeDasharray="2.5 1.9" />
          )}
          {verdict === 'clear' && <rect width={width} height={height} fill="var(--tile-wash)" stroke="var(--tile)" strokeWidth="1.2" />}
        </g>
      ))}
    </svg>
  );
}

/** The same counts as figures, with shape and accessible words. */
export function CountRow({ counts, all = false }: { counts: Counts; /** Where there is room for four figures. */ all?: boolean }) {
  // beside three others the hollow part of the bar says it, and there is no room for a fourth figure
  const crowded = !all && barOrder.filter((verdict) => counts[verdict] > 0).length > 3;
  return (
    <span className="flex gap-x-1.5 flex-wrap text-[13px] leading-4">
      {barOrder
        .filter((verdict) => counts[verdict] > 0)
        .map((verdict) => (
          <span
            key={verdict}
            className={`${crowded && verdict === 'clear' ? 'sr-only' : 'inline-flex'} items-center gap-[3px] ${verdict === 'clear' ? 'text-ink-3' : `font-bold ${verdictInk[verdict]}`}`}
          >
            {verdict !== 'clear' && <VerdictShape verdict={verdict} size={11} />}
            {counts[verdict]}
            <span className="sr-only"> {verdictWords[verdict]}</span>
          </span>
        ))}
    </span>
  );
}
