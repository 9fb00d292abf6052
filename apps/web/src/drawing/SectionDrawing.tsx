import type { Section } from '@underpass/core';
import { useEffect, useRef } from 'react';
import { boreOutline } from './bore.js';
import { DimensionLine } from './DimensionLine.js';
import { hatchMarks } from './ground.js';
import { axis, gauge } from './sectionGeometry.js';
import { BayFill, breakIn, Ducts, Steps, Totals } from './SectionParts.js';
import { clipText } from './text.js';
import { SourcePath, type SourceWord } from '../ui/SourceMark.js';
import { VerdictShape } from '../ui/Verdict.js';
import { useMeasuredWidth } from './useMeasuredWidth.js';

const left = 66;
const right = 124;
const height = 258;

const halfOf = (headroom: number | null, state: Section['bays'][number]['state']): number =>
  state === 'fits' || state === 'short' ? Math.max(1.5, gauge * Math.min(1.75, headroom ?? 1)) : gauge;

/**
 * The section drawing: seven bays between hairlines, the bore underground as thick as its headroom. Hidden from screen readers,
 * which have the table beside it; the bay heads are buttons over it.
 */
export function SectionDrawing({
  section,
  before,
  bay,
  onBay,
  showSteps,
}: {
  section: Section;
  before: Section | null;
  bay: number | null;
  onBay: (bay: number | null) => void;
  showSteps: boolean;
}) {
  const [ref, measured] = useMeasuredWidth<HTMLDivElement>(1232);
  const width = Math.max(measured, left + right + 7 * 132);
  const column = (width - left - right) / 7;
  const rule = (i: number) => left + i * column;
  const heads = useRef<(HTMLButtonElement | null)[]>([]);
  const deciding = section.bays.findIndex((b) => b.state === 'blocked' || b.state === 'short' || b.state === 'not known');
  useEffect(() => {
    // on a narrow screen the frame starts at the bay that decides
    if (ref.current && measured < width && deciding > 0) ref.current.scrollLeft = Math.max(0, left + deciding * column - 40);
  }, [measured, width, deciding, column, ref]);
  const half = section.bays.map((b) => halfOf(b.headroom, b.state));
  const outline = boreOutline(half, column, left, axis);
  const earlier = before
    ? boreOutline(
        before.bays.map((b) => halfOf(b.headroom, b.state)),
        column,
        left,
        axis,
      )
    : null;
  const gaugeLines = `M${left} ${axis - gauge}H${rule(7)}M${left} ${axis + gauge}H${rule(7)}`;
  const largest = section.bays.reduce((most, b, i) => (b.delayMs > (section.bays[most]?.delayMs ?? 0) ? i : most), 0);
  const longest = section.bays.reduce((most, b, i) => (b.signonS > (section.bays[most]?.signonS ?? 0) ? i : most), 0);
  return (
    <div ref={ref} className="overflow-x-auto relative">
      <div className="relative" style={{ width, height }}>
        <svg width={width} height={height} aria-hidden="true" className="moves" fill="var(--ink)">
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
                <rect x={rule(i)} y="80" width={column} height="60" />
              </clipPath>
            ))}
          </defs>
          <rect x="0" y="78" width={width} height="96" fill="var(--earth)" />
          {section.bays.map((b, i) => (
            <path key={b.bay} d={`M${rule(i) + 0.5} 0V${height}`} stroke="var(--rule)" />
          ))}
          <path d={`M${rule(7) + 0.5} 0V${height}`} stroke="var(--rule)" />
          <path d={`M0 78H${width}`} stroke="var(--ink)" strokeWidth="1.5" />
          <path
            d={
              section.bays.map((_, i) => hatchMarks(rule(i + 1) - 19, 79)).join('') +
              hatchMarks(rule(0) - 19, 79) +
              hatchMarks(rule(7) + 16, 79)
            }
            stroke="var(--ink-3)"
            strokeWidth=".9"
            fill="none"
          />
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
          {showSteps ? <Steps section={section} rule={rule} column={column} /> : <Ducts section={section} rule={rule} column={column} />}
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
          <DimensionLine
            y={204}
            name="Delay"
            unit="ms"
            left={left}
            column={column}
            parts={section.bays.map((b, i) => ({
              value: b.state === 'not reached' ? null : b.delayMs,
              before: before?.bays[i]?.delayMs ?? null,
              assumed: b.delayAssumed,
              bold: i === largest,
            }))}
            digits={0}
            over={section.delayVerdict === 'limited'}
          />
          <DimensionLine
            y={240}
            name="Sign-on"
            unit="s"
            left={left}
            column={column}
            parts={section.bays.map((b, i) => ({
              value: b.state === 'not reached' ? null : b.signonS,
              before: before?.bays[i]?.signonS ?? null,
              assumed: b.signonAssumed,
              bold: i === longest,
            }))}
            digits={1}
            over={section.signonVerdict === 'limited'}
          />
          <Totals section={section} before={before} x={rule(7) + 14} />
          {(['measured', 'reported', 'declared', 'assumed'] as const).map((source, i) => (
            <g key={source} transform={`translate(${rule(7) + 14} ${7 + i * 16.5})`}>
              <g color="var(--ink-2)" transform="scale(.9)">
                <SourcePath source={source} />
              </g>
              <text x="15" y="9" fontSize="12.5" fill="var(--ink-2)">
                {section.sources[source]} {source}
              </text>
            </g>
          ))}
          {section.bays.map((b, i) => (
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
          ))}
        </svg>
        <div
          className="absolute top-0 flex"
          style={{ left, width: column * 7 }}
          onKeyDown={(event) => {
            const at = bay ?? 0;
            const next = event.key === 'ArrowRight' ? Math.min(6, at + 1) : event.key === 'ArrowLeft' ? Math.max(0, at - 1) : null;
            if (next === null) return;
            event.preventDefault();
            heads.current[next]?.focus();
            onBay(next);
          }}
        >
          {section.bays.map((b, i) => (
            <button
              key={b.bay}
              ref={(element) => {
                heads.current[i] = element;
              }}
              data-bay={i + 1}
              tabIndex={i === (bay ?? 0) ? 0 : -1}
              aria-expanded={bay === i}
              onClick={() => onBay(bay === i ? null : i)}
              className="text-left pl-2 pr-1.5 h-[20px] flex items-center gap-2 text-[13px] relative"
              style={{ width: column }}
            >
              {bay === i && <span className="absolute left-0 right-0 -top-[1px] h-[5.5px] bg-tile" />}
              <span className="text-ink-2">{i + 1}</span>
              <b className="flex-1 font-bold whitespace-nowrap">{b.bay}</b>
              {b.verdict && <VerdictShape verdict={b.verdict} named />}
            </button>
          ))}
        </div>
      </div>
    </div>
  );
}
