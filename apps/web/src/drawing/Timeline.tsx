import { SourcePath, type SourceWord } from '../ui/SourceMark.js';
import { useMeasuredWidth } from './useMeasuredWidth.js';

export interface TimelineRow {
  name: string;
  startS: number;
  seconds: number;
  source: SourceWord;
  byPerson: boolean;
  critical: boolean;
  /** Time of the person before it starts, s. */
  personS?: number;
  /** Seconds before the change; null where the step was not there. Absent where nothing is compared. */
  beforeS?: number | null;
}

const row = 21;
const names = 158;
const right = 96;
const seconds = (s: number) => (s >= 9.95 ? s.toFixed(0) : s.toFixed(1));
/** With the unit that has a figure to show. */
const time = (s: number) => (s > 0 && s < 0.095 ? `${Math.max(1, Math.round(s * 1000))} ms` : `${seconds(s)} s`);

/**
 * Steps in time as dimension lines: oblique ticks at start and end, the figure behind. Steps that decide the end are bold, time of
 * the person is dashed. What a step took before a change stands struck through.
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
  const foot = rows.length * row + 12;
  return (
    <div ref={frame} className="overflow-x-auto">
      <svg aria-hidden width={names + room + right} height={foot + 28} className="block">
        {limitS !== undefined && (
          <>
            <path d={`M${x(limitS)} 2V${foot + 14}`} stroke="var(--ink-2)" strokeWidth="1.2" strokeDasharray="4 3" />
            <text x={x(limitS) + 5} y="12" fontSize="12.5" fill="var(--ink-3)">
              limit {seconds(limitS)} s
            </text>
          </>
        )}
        {rows.map((step, i) => {
          const y = i * row + 14;
          const [from, to] = [x(step.startS), x(step.startS + step.seconds)];
          const changed = step.beforeS !== undefined && step.beforeS !== null && Math.abs(step.beforeS - step.seconds) >= 0.05;
          return (
            <g key={step.name} className="moves">
              <text
                x="0"
                y={y + 4}
                fontSize="13"
                fontWeight={step.critical ? 600 : 400}
                fill={step.critical ? 'var(--ink)' : 'var(--ink-2)'}
              >
                {step.name}
              </text>
              <path d={`M${names} ${y + 9}H${names + room}`} stroke="var(--rule)" strokeWidth=".7" />
              <path
                d={`M${from} ${y}H${to}`}
                stroke={step.critical ? 'var(--bore)' : 'var(--ink-3)'}
                strokeWidth={step.critical ? 3.4 : 1.3}
                strokeDasharray={step.byPerson ? '5 3' : undefined}
              />
              {step.personS ? (
                <path
                  d={`M${x(step.startS - step.personS)} ${y}H${from - 4}`}
                  stroke="var(--ink-3)"
                  strokeWidth="1.3"
                  strokeDasharray="5 3"
                />
              ) : null}
              <path d={`M${from - 3} ${y + 5}l6 -10M${to - 3} ${y + 5}l6 -10`} stroke="var(--ink-2)" strokeWidth="1.1" />
              <g color="var(--ink-2)" transform={`translate(${to + 8} ${y - 4.5}) scale(.85)`}>
                <SourcePath source={step.source} />
              </g>
              <text x={to + 20} y={y + 4} fontSize="12.5" fontWeight={step.critical ? 700 : 400}>
                {changed && (
                  <tspan textDecoration="line-through" fill="var(--ink-3)" fontWeight="400">
                    {seconds(step.beforeS as number)}
                  </tspan>
                )}
                {changed ? ' ' : ''}
                {time(step.seconds)}
                {step.byPerson ? ', person' : ''}
                {step.personS ? `, and ${time(step.personS)} of the person` : ''}
              </text>
            </g>
          );
        })}
        <g className="moves">
          <text x="0" y={foot + 8} fontSize="13" fontWeight="700">
            Until usable
          </text>
          <path d={`M${x(0)} ${foot + 4}H${x(totalS)}`} stroke="var(--ink)" strokeWidth="1.3" />
          <path d={`M${x(0) - 3.5} ${foot + 9}l7 -10M${x(totalS) - 3.5} ${foot + 9}l7 -10`} stroke="var(--ink)" strokeWidth="1.3" />
          <text
            x={x(totalS) + 10}
            y={foot + 9}
            fontSize="16"
            fontWeight="700"
            fill={limitS !== undefined && totalS > limitS ? 'var(--amber)' : 'var(--ink)'}
          >
            {totalS.toFixed(1)} s
          </text>
          {beforeTotalS !== undefined && Math.abs(beforeTotalS - totalS) > 0.05 && (
            <circle cx={x(beforeTotalS)} cy={foot + 4} r="4" fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.5" />
          )}
        </g>
      </svg>
      <table className="sr-only">
        <caption>{label}</caption>
        <thead>
          <tr>
            <th>Step</th>
            <th>Starts, s</th>
            <th>Takes, s</th>
            <th>Where from</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((step) => (
            <tr key={step.name}>
              <td>
                {step.name}
                {step.critical ? ', decides' : ''}
                {step.byPerson ? ', by the person' : ''}
              </td>
              <td>{seconds(step.startS)}</td>
              <td>{seconds(step.seconds)}</td>
              <td>{step.source}</td>
            </tr>
          ))}
          <tr>
            <td>Until usable</td>
            <td>0</td>
            <td>{totalS.toFixed(1)}</td>
            <td>computed</td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}
