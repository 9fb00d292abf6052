import { SourcePath } from '../ui/SourceMark.js';
import type { TimelineRow } from './timelineRows.js';
import { fixed } from '../ui/figures.js';

export const rowHeight = 21;
export const names = 158;
export const seconds = (s: number) => (s >= 9.95 ? fixed(s, 0) : fixed(s, 1));
/** With the unit that has a figure to show. */
const time = (s: number) => (s > 0 && s < 0.095 ? `${Math.max(1, Math.round(s * 1000))} ms` : `${seconds(s)} s`);

/** What a step is and was: whether its length changed, and whether its place did. */
function movesOf(step: TimelineRow) {
  const { before } = step;
  const changed = before !== undefined && (step.gone || Math.abs(before.seconds - step.seconds) >= 0.05);
  const moved = before !== undefined && (changed || Math.abs(before.startS - step.startS) >= 0.05);
  return { changed: changed ? before : undefined, moved: moved ? before : undefined };
}

/** One step: its name, its line between oblique ticks, and its figure. */
export function StepRow({ step, y, x, room }: { step: TimelineRow; y: number; x: (s: number) => number; room: number }) {
  const [from, to] = [x(step.startS), x(step.startS + step.seconds)];
  const { changed, moved } = movesOf(step);
  return (
    <g className="moves">
      <text
        x="0"
        y={y + 4}
        fontSize="13"
        fontWeight={step.critical ? 600 : 400}
        fill={step.critical ? 'var(--ink)' : 'var(--ink-2)'}
        textDecoration={step.gone ? 'line-through' : undefined}
      >
        {step.name}
      </text>
      <path d={`M${names} ${y + 9}H${names + room}`} stroke="var(--rule)" strokeWidth=".7" />
      {moved && (
        <path
          d={`M${x(moved.startS)} ${step.gone ? y : y - 5}H${x(moved.startS + moved.seconds)}`}
          stroke="var(--ink-2)"
          strokeWidth="1.4"
          strokeDasharray="1.4 2.6"
        />
      )}
      {!step.gone && (
        <path
          d={`M${from} ${y}H${to}`}
          stroke={step.critical ? 'var(--bore)' : 'var(--ink-3)'}
          strokeWidth={step.critical ? 3.4 : 1.3}
          strokeDasharray={step.byPerson ? '5 3' : undefined}
        />
      )}
      {step.personS ? (
        <path d={`M${x(step.startS - step.personS)} ${y}H${from - 4}`} stroke="var(--ink-3)" strokeWidth="1.3" strokeDasharray="5 3" />
      ) : null}
      {!step.gone && (
        <>
          <path d={`M${from - 3} ${y + 5}l6 -10M${to - 3} ${y + 5}l6 -10`} stroke="var(--ink-2)" strokeWidth="1.1" />
          <g color="var(--ink-2)" transform={`translate(${to + 8} ${y - 4.5}) scale(.85)`}>
            <SourcePath source={step.source} />
          </g>
        </>
      )}
      <text
        x={to + (step.gone ? 8 : 20)}
        y={y + 4}
        fontSize="12.5"
        fontWeight={step.critical ? 700 : 400}
        stroke={step.gone ? 'none' : 'var(--paper)'}
        strokeWidth="3"
        paintOrder="stroke"
      >
        {changed && (
          <tspan textDecoration="line-through" fill="var(--ink-3)" fontWeight="400" stroke="none">
            {time(changed.seconds)}
          </tspan>
        )}
        {!step.gone && (
          <>
            {changed ? ' ' : ''}
            {time(step.seconds)}
            {step.byPerson ? ', person' : ''}
            {step.personS ? `, and ${time(step.personS)} of the person` : ''}
          </>
        )}
      </text>
    </g>
  );
}

/** The whole: until it is usable, with the same before a change. */
export function TotalRow({
  totalS,
  beforeTotalS,
  limitS,
  foot,
  x,
}: {
  totalS: number;
  beforeTotalS: number | undefined;
  limitS: number | undefined;
  foot: number;
  x: (s: number) => number;
}) {
  const other = beforeTotalS !== undefined && Math.abs(beforeTotalS - totalS) > 0.05;
  return (
    <g className="moves">
      <text x="0" y={foot + 8} fontSize="13" fontWeight="700">
        Until usable
      </text>
      <path d={`M${x(0)} ${foot + 4}H${x(totalS)}`} stroke="var(--ink)" strokeWidth="1.3" />
      <path d={`M${x(0) - 3.5} ${foot + 9}l7 -10M${x(totalS) - 3.5} ${foot + 9}l7 -10`} stroke="var(--ink)" strokeWidth="1.3" />
      {other && <path d={`M${x(0)} ${foot - 1}H${x(beforeTotalS)}`} stroke="var(--ink-2)" strokeWidth="1.4" strokeDasharray="1.4 2.6" />}
      <text
        x={x(Math.max(totalS, other ? beforeTotalS : 0)) + 10}
        y={foot + 9}
        fontSize="16"
        fontWeight="700"
        fill={limitS !== undefined && totalS > limitS ? 'var(--amber)' : 'var(--ink)'}
      >
        {other && (
          <>
            <tspan textDecoration="line-through" fill="var(--ink-3)" fontWeight="400" fontSize="12.5">
              {fixed(beforeTotalS, 1)}
            </tspan>{' '}
          </>
        )}
        {fixed(totalS, 1)} s
      </text>
    </g>
  );
}

/** The same as a table, for those who do not see the drawing. */
export function TimelineTable({
  rows,
  totalS,
  beforeTotalS,
  label,
}: {
  rows: readonly TimelineRow[];
  totalS: number;
  beforeTotalS: number | undefined;
  label: string;
}) {
  return (
    // a table itself would keep its width
    <div className="sr-only">
      <table>
        <caption>{label}</caption>
        <thead>
          <tr>
            <th>Step</th>
            <th>Starts, s</th>
            <th>Takes, s</th>
            <th>Took before, s</th>
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
              <td>{step.gone ? 'no longer there' : seconds(step.seconds)}</td>
              <td>{step.before ? seconds(step.before.seconds) : ''}</td>
              <td>{step.source}</td>
            </tr>
          ))}
          <tr>
            <td>Until usable</td>
            <td>0</td>
            <td>{fixed(totalS, 1)}</td>
            <td>{beforeTotalS === undefined ? null : fixed(beforeTotalS, 1)}</td>
            <td>computed</td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}
