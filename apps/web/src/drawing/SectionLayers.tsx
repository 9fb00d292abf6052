import type { Section } from '@underpass/core';
import { SourcePath, type SourceWord } from '../ui/SourceMark.js';
import { DimensionLine } from './DimensionLine.js';
import { hatchMarks } from './ground.js';
import { axis, gauge } from './sectionGeometry.js';
import { BayFill, breakIn } from './SectionParts.js';
import { clipText } from './text.js';

/** Where the layers of the section stand, px. */
export interface Frame {
  left: number;
  width: number;
  height: number;
  column: number;
  /** Left edge of a bay; of the seventh, the end of the last. */
  rule: (bay: number) => number;
}
interface Layer {
  section: Section;
  frame: Frame;
}

export function Patterns({ section, frame, outline }: Layer & { outline: string }) {
  return (
    <defs>
      <pattern id="hatch-short" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="5" height="5" fill="var(--amber-wash)" />
        <path d="M0 0V5" stroke="var(--amber)" strokeWidth="1.2" />
      </pattern>
      <pattern id="hatch-unknown" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0 0V7" stroke="var(--rule-2)" strokeWidth="1.2" />
      </pattern>
      <clipPath id="bore">
        <path d={outline} />
      </clipPath>
      {section.bays.map((b, i) => (
        <clipPath key={b.bay} id={`bay-${i}`}>
          <rect x={frame.rule(i)} y="80" width={frame.column} height="60" />
        </clipPath>
      ))}
    </defs>
  );
}

/** The earth below the desk, and the hairlines between bays. */
export function Ground({ section, frame: { rule, width, height } }: Layer) {
  const marks = [...section.bays.map((_, i) => rule(i + 1) - 19), rule(0) - 19, rule(7) + 16];
  return (
    <>
      <rect x="0" y="78" width={width} height="96" fill="var(--earth)" />
      {section.bays.map((b, i) => (
        <path key={b.bay} d={`M${rule(i) + 0.5} 0V${height}`} stroke="var(--rule)" />
      ))}
      <path d={`M${rule(7) + 0.5} 0V${height}`} stroke="var(--rule)" />
      <path d={`M0 78H${width}`} stroke="var(--ink)" strokeWidth="1.5" />
      <path d={marks.map((x) => hatchMarks(x, 79)).join('')} stroke="var(--ink-3)" strokeWidth=".9" fill="none" />
    </>
  );
}

/** The bore as thick as its headroom, what is needed as a dashed gauge through it, and the bore before a change as a line. */
export function Bore({
  section,
  frame: { left, column, rule },
  outline,
  earlier,
  showSteps,
}: Layer & { outline: string; earlier: string | null; showSteps: boolean }) {
  const gaugeLines = `M${left} ${axis - gauge}H${rule(7)}M${left} ${axis + gauge}H${rule(7)}`;
  return (
    <>
      <path d={gaugeLines} stroke="var(--ink-2)" strokeWidth="1" strokeDasharray="5 4" fill="none" opacity=".6" />
      {section.bays.map((b, i) => (
        <BayFill
          key={b.bay}
          state={b.state}
          outline={outline}
          x={rule(i)}
          width={column}
          clip={`url(#bay-${i})`}
          breakAt={showSteps ? breakIn(section, b.bay) : 0.5}
        />
      ))}
      <path d={gaugeLines} clipPath="url(#bore)" stroke="var(--paper)" strokeWidth="1" strokeDasharray="5 4" fill="none" />
      {earlier && (
        <>
          <path d={earlier} fill="none" stroke="var(--earth)" strokeWidth="3.4" />
          <path d={earlier} fill="none" stroke="var(--ink-2)" strokeWidth="1.3" />
        </>
      )}
      <path
        d={`M${left - 9} ${axis - gauge}v${2 * gauge}M${left - 12} ${axis - gauge}h6M${left - 12} ${axis + gauge}h6`}
        stroke="var(--ink-2)"
        fill="none"
      />
      <text x="0" y={axis + 4} fontSize="12.5" fill="var(--ink-2)">
        needed
      </text>
    </>
  );
}

/** What each bay has against what is needed, in words. */
export function Headrooms({ section, frame: { column, rule } }: Layer) {
  return (
    <>
      <text x="0" y="165" fontSize="12.5" fontWeight="700">
        Headroom
      </text>
      {section.bays.map((b, i) => {
        const ink = b.state === 'short' ? 'var(--amber)' : b.state === 'blocked' ? 'var(--brick)' : 'var(--ink)';
        return (
          <text key={b.bay} x={rule(i) + 8} y="165" fontSize="12.5" fill={b.state === 'not reached' ? 'var(--ink-3)' : ink}>
            <tspan fontWeight={b.state === 'not reached' ? 400 : 700}>{clipText(b.label, column - 14)}</tspan>
            {column > 120 && (b.label.length + b.detail.length) * 6.4 < column - 12 ? (
              <tspan fill={b.state === 'short' ? 'var(--amber)' : 'var(--ink-2)'}> {b.detail}</tspan>
            ) : null}
          </text>
        );
      })}
    </>
  );
}

const dimensions = [
  { y: 204, name: 'Delay', unit: 'ms', digits: 0, of: 'delayMs', assumed: 'delayAssumed', verdict: 'delayVerdict' },
  { y: 240, name: 'Sign-on', unit: 's', digits: 1, of: 'signonS', assumed: 'signonAssumed', verdict: 'signonVerdict' },
] as const;

/** Delay and sign-on of each bay as dimension lines; the largest part is bold. */
export function Dimensions({ section, before, frame: { left, column } }: Layer & { before: Section | null }) {
  return dimensions.map(({ of, assumed, verdict, ...line }) => {
    const most = section.bays.reduce((best, bay, i) => (bay[of] > (section.bays[best] as typeof bay)[of] ? i : best), 0);
    return (
      <DimensionLine
        key={of}
        {...line}
        left={left}
        column={column}
        parts={section.bays.map((bay, i) => ({
          value: bay.state === 'not reached' ? null : bay[of],
          before: before?.bays[i]?.[of] ?? null,
          assumed: bay[assumed],
          bold: i === most,
        }))}
        over={section[verdict] === 'limited'}
      />
    );
  });
}

/** How many facts are measured, reported, declared and assumed. */
export function SourceCounts({ section, frame: { rule } }: Layer) {
  return (['measured', 'reported', 'declared', 'assumed'] as const).map((source, i) => (
    <g key={source} transform={`translate(${rule(7) + 14} ${7 + i * 16.5})`}>
      <g color="var(--ink-2)" transform="scale(.9)">
        <SourcePath source={source} />
      </g>
      <text x="15" y="9" fontSize="12.5" fill="var(--ink-2)">
        {section.sources[source]} {source}
      </text>
    </g>
  ));
}

/** The facts of each bay that matter most. */
export function BayFacts({ section, frame: { column, rule } }: Layer) {
  return section.bays.map((b, i) => (
    <g key={b.bay}>
      {b.facts.slice(0, 3).map((fact, line) => (
        <g key={fact.text} transform={`translate(${rule(i) + 8} ${24 + line * 16.5})`}>
          <g color="var(--ink-2)" transform="translate(0 .5) scale(.85)">
            <SourcePath source={fact.source as SourceWord} />
          </g>
          <text x="14" y="8.5" fontSize="12.5">
            {clipText(fact.text, column - 26)}
          </text>
        </g>
      ))}
    </g>
  ));
}
