import { clock, type Day } from '@underpass/core';
import { SourcePath } from '../ui/SourceMark.js';
import { VerdictPath } from '../ui/Verdict.js';
import { steps, stretches, topOf } from './tideGeometry.js';
import { useMeasuredWidth } from './useMeasuredWidth.js';

const left = 84;
const top = 22;
const ground = 112;
const height = 166;

/**
 * A line over a day: what it carries as a step, the others' demand as earth from below, one's own on top of it, the verdict of each hour
 * beneath, and where it was measured.
 */
export function TideStrip({ day }: { day: Day }) {
  const [frame, width] = useMeasuredWidth<HTMLDivElement>(860);
  const { hours, askedMbps, measured, worst } = day;
  const room = Math.max(360, width - left - 12);
  const x = (hour: number) => left + (hour / 24) * room;
  const { mbps, broken } = topOf(day);
  const y = (rate: number) => ground - (Math.min(rate, mbps) / mbps) * (ground - top);
  const others = hours.map(({ othersMbps }) => othersMbps);
  const lines = hours.map(({ lineMbps }) => lineMbps ?? 0);
  const widest = Math.max(...lines);
  // far above what is asked: only by how much it changes
  const above = (rate: number) => top - 4 + (1 - rate / widest) * 36;
  const known = hours.every(({ lineMbps }) => lineMbps !== null);
  return (
    <div ref={frame} role="region" aria-label="The hours of the day" tabIndex={0} className="overflow-x-auto">
      <svg aria-hidden width={left + room + 12} height={height} className="block" fontSize="12.5">
        <defs>
          <pattern id="hatch-others" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M0 0V6" stroke="var(--ink-3)" strokeWidth="1" />
          </pattern>
        </defs>
        {stretches(hours).map(([from, to]) => (
          <rect key={from} x={x(from)} width={x(to) - x(from)} y={top - 6} height={ground - top + 6} fill="var(--earth)" />
        ))}
        <path
          d={steps(
            others.map((rate) => rate + askedMbps),
            x,
            y,
            ground,
          )}
          fill="var(--tile-wash)"
          stroke="var(--tile)"
          strokeWidth="1.2"
        />
        <path d={steps(others, x, y, ground)} fill="var(--paper)" />
        <path d={steps(others, x, y, ground)} fill="url(#hatch-others)" stroke="var(--ink-3)" strokeWidth="1" />
        {known && <path d={steps(lines, x, broken ? above : y)} fill="none" stroke="var(--ink)" strokeWidth="2.4" />}
        {known && broken && <path d={`M${left - 6} ${top + 12}l5 -4l-5 -4l5 -4`} fill="none" stroke="var(--ink-2)" strokeWidth="1.1" />}
        <path d={`M${left} ${ground}H${x(24)}`} stroke="var(--ink)" strokeWidth="1.2" />
        <text x="0" y={top + 6} fill="var(--ink-2)">
          {known ? `${rate(lines[worst] ?? 0)} Mbit/s` : 'not known'}
        </text>
        <text x={left - 8} y={ground} textAnchor="end" fill="var(--ink-3)">
          0
        </text>
        {(room < 480 ? [0, 6, 12, 18, 24] : [0, 3, 6, 9, 12, 15, 18, 21, 24]).map((hour) => (
          <g key={hour}>
            <path d={`M${x(hour)} ${ground}v4`} stroke="var(--ink-2)" />
            <text x={x(hour)} y={ground + 16} textAnchor={hour === 24 ? 'end' : hour === 0 ? 'start' : 'middle'} fill="var(--ink-3)">
              {clock(hour)}
            </text>
          </g>
        ))}
        {hours.map(({ hour, works, verdict }) => (
          <g key={hour} transform={`translate(${x(hour + 0.5) - 6.5} ${ground + 24}) scale(.82)`} opacity={works ? 1 : 0.45}>
            <VerdictPath verdict={verdict} />
          </g>
        ))}
        <path d={`M${x(worst) + 1} ${ground + 44}v4H${x(worst + 1) - 1}v-4`} fill="none" stroke="var(--ink)" strokeWidth="1.6" />
        <text x="0" y={ground + 36} fill="var(--ink-2)">
          each hour
        </text>
        {measured !== null && (
          <g color="var(--ink)">
            <path d={`M${x(measured)} ${top - 4}V${ground}`} stroke="var(--ink-2)" strokeDasharray="2 3" />
            <g transform={`translate(${x(measured) - 5} ${top - 16}) scale(.9)`}>
              <SourcePath source="measured" />
            </g>
          </g>
        )}
      </svg>
    </div>
  );
}

const rate = (mbps: number) => (mbps >= 10 ? Math.round(mbps) : Math.round(mbps * 10) / 10);
