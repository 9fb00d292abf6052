import { names, rowHeight, seconds, StepRow, TimelineTable, TotalRow } from './TimelineParts.js';
import type { TimelineRow } from './timelineRows.js';
import { useMeasuredWidth } from './useMeasuredWidth.js';

const right = 96;

/**
 * Steps in time as dimension lines: oblique ticks at start and end, the figure behind. Steps that decide the end are bold, time of
 * the person is dashed. Before a change: the dotted line above, and the figure struck through.
 */
export function Timeline({
  rows,
  totalS,
  beforeTotalS,
  limitS,
  label,
}: {
  rows: readonly TimelineRow[];
  totalS: number;
  beforeTotalS?: number;
  limitS?: number;
  label: string;
}) {
  const [frame, width] = useMeasuredWidth<HTMLDivElement>(860);
  const most = Math.max(totalS, beforeTotalS ?? 0, limitS ?? 0, 0.001);
  const room = Math.max(200, width - names - right);
  const x = (s: number) => names + (s / most) * room;
  const foot = rows.length * rowHeight + 12;
  return (
    <div ref={frame} role="region" aria-label="The sign-on, step by step" tabIndex={0} className="overflow-x-auto">
      <svg aria-hidden width={names + room + right} height={foot + 28} className="block">
        {limitS !== undefined && (
          <>
            <path d={`M${x(limitS)} 2V${foot + 14}`} stroke="var(--ink-2)" strokeWidth="1.2" strokeDasharray="4 3" />
            <text x={x(limitS) + 5} y="12" fontSize="12.5" fill="var(--ink-3)">
              limit {seconds(limitS)} s
            </text>
          </>
        )}
        {rows.map((step, i) => (
          <StepRow key={step.name} step={step} y={i * rowHeight + 14} x={x} room={room} />
        ))}
        <TotalRow totalS={totalS} beforeTotalS={beforeTotalS} limitS={limitS} foot={foot} x={x} />
      </svg>
      <TimelineTable rows={rows} totalS={totalS} beforeTotalS={beforeTotalS} label={label} />
    </div>
  );
}
