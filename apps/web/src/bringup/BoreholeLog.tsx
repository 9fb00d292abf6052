import type { BringupBoot } from '@underpass/contracts';
import { useMeasuredWidth } from '../drawing/useMeasuredWidth.js';
import { strataOf, type Stratum } from './strata.js';
import { seconds, stepWords, tenths } from './words.js';

const strip = 72;
const left = 50;
const top = 40;

/** A start as a log of strata under the ground line, depth is time; beside it one that reaches its sign-in screen. */
export function BoreholeLog({ boot }: { boot: BringupBoot }) {
  const [frame, width] = useMeasuredWidth<HTMLDivElement>(620);
  const { like, broken } = boot;
  const beside = like !== null && width >= 520;
  const { strata, height } = strataOf(boot.steps, beside ? like.steps : undefined);
  const second = left + Math.max(270, Math.round((width - left) * 0.52));
  const room = (beside ? second - 14 : width) - left - strip - 10;
  return (
    <div ref={frame} className="relative min-w-0 overflow-hidden">
      <svg aria-hidden width={width} height={top + height + 12} className="block" fontSize="12.5">
        <text x={left} y="12" fontWeight="700" fill="var(--ink)">
          {boot.endpoint}
        </text>
        <text x={left} y="28" fill="var(--ink-2)">
          {broken ? 'this one' : `this one, ${seconds(boot.totalMs)}`}
        </text>
        {beside && (
          <>
            <text x={second} y="12" fontWeight="700" fill="var(--ink)">
              {like.endpoint}
            </text>
            <text x={second} y="28" fill="var(--ink-2)">
              {like.samePlace ? 'same class and place' : `same class, ${like.location}`}, starts in {seconds(like.totalMs)}
            </text>
          </>
        )}
        <path d={`M0 ${top - 4}H${width}`} stroke="var(--ink)" strokeWidth="1.8" />
        <g transform={`translate(0 ${top})`}>
          {strata.map((stratum) => (
            <g key={stratum.name}>
              <Ruler stratum={stratum} />
              {beside && <path d={`M${left + strip} ${stratum.y}H${second}`} stroke="var(--rule-2)" strokeDasharray="1.5 3" />}
              <Layer stratum={stratum} of={0} x={left} />
              {beside && <Layer stratum={stratum} of={1} x={second} />}
              <Label stratum={stratum} of={0} x={left + strip + 10} room={room} />
              {beside && <Label stratum={stratum} of={1} x={second + strip + 10} room={width - second - strip - 10} />}
            </g>
          ))}
        </g>
      </svg>
      <StepsTable boot={boot} />
    </div>
  );
}

/** When a step began, at its upper edge. */
function Ruler({ stratum: { y, steps } }: { stratum: Stratum }) {
  const at = steps[0]?.atMs ?? null;
  return at === null ? null : (
    <>
      <text x={left - 12} y={y + 9} textAnchor="end" fill="var(--ink-3)">
        {tenths(at)}
      </text>
      <path d={`M${left - 8} ${y}h8`} stroke="var(--ink-2)" />
    </>
  );
}

function Layer({ stratum: { y, height, long, steps }, of, x }: { stratum: Stratum; of: number; x: number }) {
  const status = steps[of]?.status ?? 'notReached';
  const middle = y + height / 2;
  if (status === 'notReached')
    return <rect x={x} y={y} width={strip} height={height} fill="none" stroke="var(--rule-2)" strokeDasharray="2 3" />;
  const zigzag = (dy: number) =>
    `M${x - 6} ${middle + dy}` + Array.from({ length: 7 }, () => `l${(strip + 12) / 7 / 2} -5l${(strip + 12) / 7 / 2} 5`).join('');
  return (
    <>
      <rect
        x={x}
        y={y}
        width={strip}
        height={height}
        fill={status === 'broken' ? 'var(--brick-wash)' : 'var(--tile-wash)'}
        stroke={status === 'broken' ? 'none' : 'var(--ink)'}
      />
      {status === 'broken' ? (
        <path d={`${zigzag(0)}${zigzag(5)}`} fill="none" stroke="var(--brick)" strokeWidth="1.8" />
      ) : (
        long && (
          <path
            d={`M${x - 4} ${middle + 3}l${strip + 8} -6M${x - 4} ${middle + 8}l${strip + 8} -6`}
            stroke="var(--ink)"
            strokeWidth="1"
            fill="none"
          />
        )
      )}
    </>
  );
}

/** What a step is called, and what was decided in it, as much as there is room for. */
function Label({ stratum: { name, y, height, steps }, of, x, room }: { stratum: Stratum; of: number; x: number; room: number }) {
  const step = steps[of];
  if (!step) return null;
  const word = stepWords(name);
  const isBroken = step.status === 'broken';
  const said = isBroken ? '' : step.status === 'notReached' ? (of === 0 ? '' : 'not reached') : step.detail;
  // about 6.4 px a letter
  const most = Math.max(0, Math.floor(room / 6.4) - word.length - 1);
  const more = said.length > most ? `${said.slice(0, Math.max(0, most - 1))}…` : said;
  return (
    <text
      x={x}
      y={y + Math.min(height / 2 + 4, 17)}
      fill={isBroken ? 'var(--brick)' : step.status === 'notReached' ? 'var(--ink-3)' : 'var(--ink)'}
    >
      <tspan fontWeight={isBroken ? 700 : 500}>{word}</tspan>
      <tspan dx="6" fill="var(--ink-2)">
        {most > 6 ? more : ''}
      </tspan>
    </text>
  );
}

/** The same for whoever does not see the drawing. */
function StepsTable({ boot: { steps } }: { boot: BringupBoot }) {
  return (
    <table className="sr-only">
      <caption>Steps of the start</caption>
      <thead>
        <tr>
          <th scope="col">Step</th>
          <th scope="col">Came to</th>
          <th scope="col">Lasted</th>
        </tr>
      </thead>
      <tbody>
        {steps.map(({ name, status, detail, durationMs }) => (
          <tr key={name}>
            <th scope="row">{name}</th>
            <td>{status === 'notReached' ? 'not reached' : detail}</td>
            <td>{status === 'notReached' ? '' : seconds(durationMs)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
