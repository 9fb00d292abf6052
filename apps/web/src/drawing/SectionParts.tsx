import type { Section } from '@underpass/core';
import { VerdictPath } from '../ui/Verdict.js';
import { axis, gauge } from './sectionGeometry.js';
import { fixed } from '../ui/figures.js';

/** The break lies before the step that breaks. */
export function breakIn(section: Section, bay: string): number {
  const steps = section.steps.filter((step) => step.bay === bay);
  const broken = steps.findIndex((step) => step.state === 'broken');
  return broken < 0 ? 0.5 : (broken + 0.5) / (steps.length + 1);
}

export function BayFill({
  state,
  outline,
  x,
  width,
  clip,
  breakAt,
}: {
  state: Section['bays'][number]['state'];
  outline: string;
  x: number;
  width: number;
  clip: string;
  /** Where the bore ends in this bay, as a part of its width. */
  breakAt: number;
}) {
  switch (state) {
    case 'fits':
      return <path d={outline} clipPath={clip} fill="var(--bore)" />;
    case 'short':
      return (
        <>
          <rect x={x} y={axis - gauge} width={width} height={2 * gauge} fill="url(#hatch-short)" />
          <path d={outline} clipPath={clip} fill="var(--amber-fill)" stroke="var(--amber)" strokeWidth="2.4" />
        </>
      );
    case 'not known':
      return <path d={outline} clipPath={clip} fill="url(#hatch-unknown)" stroke="var(--ink-3)" strokeWidth="1.4" strokeDasharray="4 3" />;
    case 'blocked': {
      const middle = x + width * breakAt;
      return (
        <>
          <rect x={x} y={axis - gauge} width={Math.max(0, middle - x - 4)} height={2 * gauge} fill="var(--bore)" />
          <path
            d={`M${middle - 4} ${axis - 20}l4 10-6 8 6 8-4 12M${middle + 3} ${axis - 20}l4 10-6 8 6 8-4 12`}
            fill="none"
            stroke="var(--brick)"
            strokeWidth="2.2"
          />
          <rect
            x={middle + 8}
            y={axis - gauge}
            width={Math.max(0, x + width - middle - 8)}
            height={2 * gauge}
            fill="none"
            stroke="var(--ink-3)"
            strokeDasharray="1.5 3.5"
          />
        </>
      );
    }
    case 'not reached':
      return (
        <path
          d={`M${x} ${axis - gauge}h${width}M${x} ${axis + gauge}h${width}`}
          fill="none"
          stroke="var(--ink-3)"
          strokeDasharray="1.5 3.5"
        />
      );
  }
}

export function Ducts({ section, rule, column }: { section: Section; rule: (i: number) => number; column: number }) {
  const names = section.bays.map((b) => b.bay);
  const shown = section.ducts.slice(0, 2);
  const rest = section.ducts.length - shown.length;
  return (
    <>
      {shown.map((duct, i) => {
        const at = names.indexOf(duct.bay);
        const end = rule(at) + column * 0.4;
        const y = 140 + i * 9;
        return (
          <g key={duct.name}>
            <path d={`M${rule(0) + 8} ${y}H${end - 6}`} stroke="var(--bore)" strokeWidth="3" />
            <path
              d={`M${end - 4} ${y - 6}l3 4-4 4 4 4M${end + 2} ${y - 6}l3 4-4 4 4 4`}
              stroke="var(--brick)"
              strokeWidth="1.8"
              fill="none"
            />
            <text x={end + 12} y={y + 4} fontSize="12.5" fontWeight="700" fill="var(--brick)">
              {duct.name} does not pass{i === shown.length - 1 && rest > 0 ? ` and ${rest} more` : ''}
            </text>
          </g>
        );
      })}
    </>
  );
}

/** Steps of "Does it open?": discs on the axis in order, each in its bay, the broken one named. */
export function Steps({ section, rule, column }: { section: Section; rule: (i: number) => number; column: number }) {
  const names = section.bays.map((b) => b.bay);
  const seen = new Map<string, number>();
  return (
    <>
      {section.steps.map((step) => {
        const at = names.indexOf(step.bay);
        const n = seen.get(step.bay) ?? 0;
        seen.set(step.bay, n + 1);
        const count = section.steps.filter((other) => other.bay === step.bay).length;
        const x = rule(at) + (column * (n + 1)) / (count + 1);
        const passed = step.state === 'passed' || step.state === 'assumed' || step.state === 'not known';
        return (
          <g key={step.name}>
            <circle
              cx={x}
              cy={axis}
              r="4.2"
              fill={passed ? 'var(--paper)' : step.state === 'broken' ? 'var(--brick)' : 'var(--earth)'}
              stroke={passed ? 'var(--ink)' : step.state === 'broken' ? 'var(--brick)' : 'var(--ink-3)'}
              strokeWidth="1.4"
              strokeDasharray={step.state === 'assumed' || step.state === 'not known' ? '2 1.4' : undefined}
            />
            {step.state === 'not known' && (
              <text x={x} y={axis + 4} textAnchor="middle" fontSize="10" fontWeight="700" fill="var(--ink)">
                ?
              </text>
            )}
            {step.state === 'broken' && (
              <text x={x} y={axis + 34} textAnchor="middle" fontSize="12.5" fontWeight="700" fill="var(--brick)">
                {step.name}
              </text>
            )}
          </g>
        );
      })}
    </>
  );
}

export function Totals({ section, before, x }: { section: Section; before: Section | null; x: number }) {
  const blocked = section.bays.some((b) => b.state === 'blocked');
  const row = (y: number, verdict: Section['delayVerdict'], value: string, earlier: string | null, limit: string) => (
    <g>
      <g transform={`translate(${x} ${y - 14}) scale(.75)`}>
        <VerdictPath verdict={verdict} />
      </g>
      <text x={x + 18} y={y - 2} fontSize="16" fontWeight="700" fill={verdict === 'limited' ? 'var(--amber)' : 'var(--ink)'}>
        {value}
      </text>
      <text x={x + 18} y={y + 13} fontSize="12.5" fill="var(--ink-3)">
        {limit}
        {earlier && earlier !== value ? (
          <>
            , <tspan textDecoration="line-through">{earlier.split(' ')[0]}</tspan>
          </>
        ) : null}
      </text>
    </g>
  );
  const delay = (s: Section) => `${Math.round(s.totalDelayMs)} ms`;
  const signon = (s: Section) => `${fixed(s.totalSignonS, 1)} s`;
  if (blocked)
    return (
      <text x={x} y="206" fontSize="12.5" fill="var(--ink-3)">
        not reached
      </text>
    );
  return (
    <>
      {row(200, section.delayVerdict, delay(section), before ? delay(before) : null, `limit ${section.limitDelayMs}`)}
      {row(237, section.signonVerdict, signon(section), before ? signon(before) : null, `limit ${section.limitSignonS}`)}
    </>
  );
}
