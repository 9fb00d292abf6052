import type { Section } from '@underpass/core';
import { useEffect } from 'react';
import { BayHeads } from './BayHeads.js';
import { boreOutline } from './bore.js';
import { axis, gauge } from './sectionGeometry.js';
import { BayFacts, Bore, Dimensions, Ground, Headrooms, Patterns, SourceCounts } from './SectionLayers.js';
import { Ducts, Steps, Totals } from './SectionParts.js';
import { useMeasuredWidth } from './useMeasuredWidth.js';

const left = 66;
const right = 124;
const height = 258;

const halfOf = ({ headroom, state }: Section['bays'][number]): number =>
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
  const frame = { left, width, height, column, rule };
  const deciding = section.bays.findIndex((b) => b.state === 'blocked' || b.state === 'short' || b.state === 'not known');
  useEffect(() => {
    // on a narrow screen the frame starts at the bay that decides
    if (ref.current && measured < width && deciding > 0) ref.current.scrollLeft = Math.max(0, left + deciding * column - 40);
  }, [measured, width, deciding, column, ref]);
  const outlineOf = ({ bays }: Section) => boreOutline(bays.map(halfOf), column, left, axis);
  const outline = outlineOf(section);
  return (
    <div ref={ref} className="drawn overflow-x-auto relative">
      <div className="relative" style={{ width, height }}>
        <svg width={width} height={height} aria-hidden="true" className="moves" fill="var(--ink)">
          <Patterns section={section} frame={frame} outline={outline} />
          <Ground section={section} frame={frame} />
          <Bore section={section} frame={frame} outline={outline} earlier={before ? outlineOf(before) : null} showSteps={showSteps} />
          {showSteps ? <Steps section={section} rule={rule} column={column} /> : <Ducts section={section} rule={rule} column={column} />}
          <Headrooms section={section} frame={frame} />
          <Dimensions section={section} before={before} frame={frame} />
          <Totals section={section} before={before} x={rule(7) + 14} />
          <SourceCounts section={section} frame={frame} />
          <BayFacts section={section} frame={frame} />
        </svg>
        <BayHeads section={section} left={left} column={column} bay={bay} onBay={onBay} />
      </div>
    </div>
  );
}
