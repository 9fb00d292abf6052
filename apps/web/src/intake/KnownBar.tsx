import { knownWays, type Known } from '@underpass/core';
import { useId } from 'react';
import { sharesOf, type Fact } from './shares.js';

export const knownWords: Record<Known, string> = {
  measured: 'measured',
  reported: 'reported',
  declared: 'declared',
  assumed: 'assumed',
  notKnown: 'not known',
};

/** What is known, as lengths: solid what a machine saw, hollow what somebody said, dashed what is taken to be so, hatched what nobody knows. */
export function KnownBar({ facts, width = 220, height = 12 }: { facts: readonly Fact[]; width?: number; height?: number }) {
  const id = useId();
  const shares = sharesOf(facts);
  let x = 0.75;
  const parts = knownWays.flatMap((known) => {
    const long = shares[known] * (width - 8);
    if (long < 0.5) return [];
    const part = { known, x, long };
    x += long + 1.5;
    return [part];
  });
  const label = knownWays
    .filter((known) => shares[known] >= 0.005)
    .map((known) => `${Math.round(100 * shares[known])} % ${knownWords[known]}`)
    .join(', ');
  return (
    <svg width={width} height={height + 1.5} role="img" aria-label={label} className="block moves max-w-full">
      <title>{label}</title>
      <defs>
        <pattern id={id} width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V4" stroke="var(--ink-3)" strokeWidth="1.6" />
        </pattern>
      </defs>
      {parts.map(({ known, x: at, long }) => (
        <rect key={known} x={at} y=".75" width={long} height={height} {...looks(known, id)} />
      ))}
    </svg>
  );
}

function looks(known: Known, id: string): React.SVGProps<SVGRectElement> {
  switch (known) {
    case 'measured':
      return { fill: 'var(--tile)' };
    case 'reported':
      return { fill: 'var(--tile-wash)', stroke: 'var(--tile)', strokeWidth: 1.2 };
    case 'declared':
      return { fill: 'none', stroke: 'var(--ink-2)', strokeWidth: 1.2 };
    case 'assumed':
      return { fill: 'none', stroke: 'var(--ink-2)', strokeWidth: 1.2, strokeDasharray: '2.5 1.9' };
    case 'notKnown':
      return { fill: `url(#${id})`, stroke: 'var(--ink-3)', strokeWidth: 1, strokeDasharray: '2.5 1.9' };
  }
}

/** What the lengths of a bar mean. */
export function KnownLegend() {
  const only = (known: Known): Fact => ({
    ...{ kind: 'location', field: '', decides: 0, measured: 0, reported: 0, declared: 0, assumed: 0, notKnown: 0 },
    [known]: 1,
  });
  return (
    <p className="flex flex-wrap gap-x-[18px] gap-y-1 text-[12.5px] text-ink-2 items-center">
      {knownWays.map((known) => (
        <span key={known} className="inline-flex items-center gap-1.5">
          <span aria-hidden>
            <KnownBar facts={[only(known)]} width={30} height={10} />
          </span>
          {knownWords[known]}
        </span>
      ))}
    </p>
  );
}
