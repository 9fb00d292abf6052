import type { TransferAnswer } from '@underpass/contracts';
import { useMeasuredWidth } from '../drawing/useMeasuredWidth.js';
import { fixed } from '../ui/figures.js';
import { localHour } from '../ui/times.js';

type Way = TransferAnswer['ways'][number];
const [left, top, ground, height] = [96, 8, 88, 116];
/** A line that is so many times what goes over it stands above the strip, broken. */
const farAbove = 3;

/** Steps of a rate over hours, closed to the ground. */
const steps = (hours: Way['hours'], x: (i: number) => number, y: (mbps: number) => number, of: 'usedMbps' | 'allowedMbps'): string =>
  `M${x(0)} ${ground}${hours.map((hour, i) => `V${y(hour[of])}H${x(i + 1)}`).join('')}V${ground}Z`;

/** A transfer over the hours it takes: what it uses, what it was allowed, the line's rate, and when the place works. */
export function TransferStrip({ way, lineMbps, timeZone }: { way: Way; lineMbps: number; timeZone: string }) {
  const [frame, width] = useMeasuredWidth<HTMLDivElement>(560);
  const { hours } = way;
  const room = Math.max(200, width - left - 8);
  const x = (i: number) => left + (i / Math.max(1, hours.length)) * room;
  const most = Math.max(
    0.01,
    ...hours.flatMap(({ usedMbps, allowedMbps }) => (way.way === 'all at once' ? [usedMbps] : [usedMbps, allowedMbps])),
  );
  const broken = lineMbps > most * farAbove;
  const highest = broken ? most * 1.3 : lineMbps;
  const y = (mbps: number) => ground - (Math.min(mbps, highest) / highest) * (ground - top);
  const every = Math.max(1, Math.ceil(hours.length / 8));
  return (
    <div ref={frame} className="relative min-w-0 overflow-hidden">
      <svg aria-hidden width={width} height={height} className="block" fontSize="12.5">
        {hours.map((hour, i) =>
          hour.works ? <rect key={hour.at} x={x(i)} width={x(i + 1) - x(i)} y={top} height={ground - top} fill="var(--earth)" /> : null,
        )}
        <path d={`M${left} ${top}H${left + room}`} stroke="var(--ink)" strokeWidth="1.6" />
        {broken && <path d={`M${left - 5} ${top + 16}l5 -4l-5 -4l5 -4`} fill="none" stroke="var(--ink-2)" strokeWidth="1.1" />}
        <path d={steps(hours, x, y, 'usedMbps')} fill="var(--tile-wash)" stroke="var(--tile)" strokeWidth="1.2" />
        {way.way !== 'all at once' && (
          <path d={steps(hours, x, y, 'allowedMbps')} fill="none" stroke="var(--ink-2)" strokeWidth="1" strokeDasharray="4 3" />
        )}
        <path d={`M${left} ${ground}H${left + room}`} stroke="var(--ink)" strokeWidth="1.2" />
        <text x={left - 8} y={top + 9} textAnchor="end" fill="var(--ink-2)">
          {Math.round(lineMbps)} Mbit/s
        </text>
        {broken && (
          <text x={left - 8} y={y(most) + 4} textAnchor="end" fill="var(--ink-3)">
            {fixed(most, most < 10 ? 1 : 0)}
          </text>
        )}
        {hours.map((hour, i) =>
          i % every === 0 ? (
            <g key={hour.at}>
              <path d={`M${x(i)} ${ground}v4`} stroke="var(--ink-2)" />
              <text x={x(i)} y={ground + 17} fill="var(--ink-3)">
                {localHour(hour.at, timeZone)}
              </text>
            </g>
          ) : null,
        )}
      </svg>
    </div>
  );
}
