import { checkParts } from '@underpass/core';
import type { Say } from '../ui/say.js';
import type { Told } from './words.js';
import { hatchMarks } from '../drawing/ground.js';
import { useMeasuredWidth } from '../drawing/useMeasuredWidth.js';
import { VerdictShape, verdictInk } from '../ui/Verdict.js';

const House = ({ x, y }: { x: number; y: number }) => (
  <g transform={`translate(${x} ${y})`} fill="none" stroke="var(--ink)" strokeWidth="2">
    <path d="M0 0v-30l28-22 28 22V0zM41 -42v-11h9v18" />
    <path d="M16 -25h24v15h-24zM11 -4h34" />
  </g>
);
const Building = ({ x, y }: { x: number; y: number }) => (
  <g transform={`translate(${x} ${y})`} fill="none" stroke="var(--ink)" strokeWidth="2">
    <path d="M0 0v-42h64V0zM32 -42v-18l17 6-17 5" />
    <path d="M10 -31h10v9H10zM27 -31h10v9H27zM44 -31h10v9H44zM26 0v-13h12V0" />
  </g>
);

/** The way from the person to the desktop, in five parts; each fills when it is measured. Wide it lies, on a phone it stands. */
export function CheckDrawing({
  told,
  at,
  home,
  place,
  say,
}: {
  told: (Told | null)[];
  at: number;
  home: boolean;
  place: string;
  say: Say;
}) {
  return (
    <>
      <Lying told={told} at={at} home={home} place={place} say={say} />
      <Standing told={told} at={at} say={say} />
    </>
  );
}

function Lying({ told, at, home, place, say: { t } }: { told: (Told | null)[]; at: number; home: boolean; place: string; say: Say }) {
  const [ref, width] = useMeasuredWidth<HTMLDivElement>(1280);
  const left = Math.max(150, width / 2 - 440);
  const column = Math.max(60, Math.min(176, (width - left - 200) / 5)); // hidden on a phone, where the width is 0
  const end = left + 5 * column;
  const axis = 116;
  return (
    <div ref={ref} className="hidden min-[760px]:block relative">
      <svg width={width} height="160" aria-hidden className="block moves">
        <defs>
          <pattern id="check-short" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M0 0V5" stroke="var(--amber)" strokeWidth="1.2" />
          </pattern>
        </defs>
        <rect x="0" y="65" width={width} height="95" fill="var(--earth)" />
        <path d={`M0 65H${width}`} stroke="var(--ink)" strokeWidth="2" />
        <path
          d={[0, 1, 2, 3, 4, 5, 6].map((i) => hatchMarks(60 + (i * (width - 100)) / 6, 66)).join('')}
          stroke="var(--ink-3)"
          strokeWidth=".9"
          fill="none"
        />
        <House x={left - 104} y={64} />
        <Building x={end + 60} y={64} />
        <text x={left - 36} y="50" fontSize="15" fontWeight="700" fill="var(--ink)">
          {home ? t('you at home') : place ? t('you at', { place }) : t('you')}
        </text>
        <text x={end + 46} y="50" fontSize="15" fontWeight="700" textAnchor="end" fill="var(--ink)">
          {t('your desktop')}
        </text>
        <path d={`M${left - 76} 66V90a26 26 0 0 0 26 26H${left}`} fill="none" stroke="var(--bore)" strokeWidth="34" />
        {told.map((part, i) => (
          <Part key={i} part={part} running={i === at} x={left + i * column} width={column} axis={axis} />
        ))}
        <path
          d={`M${end} ${axis}h66a26 26 0 0 0 26 -26V66`}
          fill="none"
          stroke={told.every(Boolean) ? 'var(--bore)' : 'none'}
          strokeWidth="34"
        />
        {!told.every(Boolean) && (
          <path
            d={`M${end} ${axis - 17}h66a9 9 0 0 0 9 -9V66M${end} ${axis + 17}h66a43 43 0 0 0 43 -43V66`}
            fill="none"
            stroke="var(--ink-3)"
            strokeDasharray="4 4"
          />
        )}
      </svg>
      <div className="bg-earth pb-10">
        <ul className="grid grid-cols-5" style={{ marginLeft: left, width: column * 5 }} aria-label={t('measured')}>
          {told.map((part, i) => (
            <li key={checkParts[i]} className="pr-2 border-l border-rule pl-2 first:border-l-0 first:pl-0">
              <span className="flex justify-between gap-1 text-[14px] leading-5 text-ink-2 flex-wrap">
                {t(`part.${checkParts[i]}`)} <span className="text-[13px]">{part?.figure}</span>
              </span>
              <span className="text-[17px] leading-7 font-bold block">
                {part ? (
                  <Word part={part} />
                ) : (
                  <span className="text-ink-3 font-normal text-[14px]">{i === at ? t(`doing.${checkParts[i]}`) : '·····'}</span>
                )}
              </span>
              <span className="text-[14px] leading-5 text-ink-2 block">{part?.more}</span>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}

function Word({ part }: { part: Told }) {
  return (
    <span className={`inline-flex items-center gap-2 ${part.verdict === 'clear' ? '' : verdictInk[part.verdict]}`}>
      <VerdictShape verdict={part.verdict} size={15} />
      {part.word}
    </span>
  );
}

function Part({ part, running, x, width, axis }: { part: Told | null; running: boolean; x: number; width: number; axis: number }) {
  if (!part)
    return (
      <rect
        x={x + 0.5}
        y={axis - 17}
        width={width - 1}
        height="34"
        fill={running ? 'var(--tile-wash)' : 'none'}
        stroke="var(--ink-3)"
        strokeDasharray="4 4"
      />
    );
  if (part.verdict === 'limited')
    return (
      <g>
        <rect x={x} y={axis - 17} width={width} height="34" fill="var(--amber-wash)" />
        <rect x={x} y={axis - 17} width={width} height="34" fill="url(#check-short)" />
        <path
          d={`M${x} ${axis - 15}C${x + 12} ${axis - 8} ${x + 18} ${axis - 8} ${x + 30} ${axis - 8}H${x + width - 30}C${x + width - 18} ${axis - 8} ${x + width - 12} ${axis - 8} ${x + width} ${axis - 15}V${axis + 15}C${x + width - 12} ${axis + 8} ${x + width - 18} ${axis + 8} ${x + width - 30} ${axis + 8}H${x + 30}C${x + 18} ${axis + 8} ${x + 12} ${axis + 8} ${x} ${axis + 15}Z`}
          fill="var(--amber-fill)"
          stroke="var(--amber)"
          strokeWidth="2.6"
        />
      </g>
    );
  if (part.verdict === 'unknown')
    return (
      <rect
        x={x + 0.5}
        y={axis - 17}
        width={width - 1}
        height="34"
        fill="none"
        stroke="var(--ink-3)"
        strokeWidth="1.6"
        strokeDasharray="5 3"
      />
    );
  return <rect x={x - 0.5} y={axis - 17} width={width + 1} height="34" fill="var(--bore)" />;
}

function Standing({ told, at, say: { t } }: { told: (Told | null)[]; at: number; say: Say }) {
  return (
    <div className="min-[760px]:hidden">
      <svg width="100%" height="70" aria-hidden className="block">
        <House x={30} y={67} />
        <text x="101" y="59" fontSize="15" fontWeight="700" fill="var(--ink)">
          {t('you')}
        </text>
        <path d="M0 68H4000" stroke="var(--ink)" strokeWidth="2" />
      </svg>
      <ul className="bg-earth relative pl-[104px] pr-6" aria-label={t('measured')}>
        {told.map((part, i) => (
          <li key={checkParts[i]} className="min-h-[64px] py-3.5 border-b border-rule last:border-b-0 relative">
            <span
              aria-hidden
              className={`absolute -left-[61px] top-0 bottom-[-1px] w-[30px] ${part ? (part.verdict === 'limited' ? 'bg-amber-fill border-x-[3px] border-amber mx-[5px] !w-[20px]' : part.verdict === 'unknown' ? 'border-x-2 border-dashed border-ink-3' : 'bg-bore') : i === at ? 'bg-tile-wash border-x border-dashed border-ink-3' : 'border-x border-dashed border-ink-3'}`}
            />
            <span className="flex justify-between gap-3 items-baseline">
              <span className="text-[17px] leading-6 font-bold">
                {part ? (
                  <Word part={part} />
                ) : i === at ? (
                  t(`doing.${checkParts[i]}`)
                ) : (
                  <span className="font-normal text-ink-2">{t(`part.${checkParts[i]}`)}</span>
                )}
              </span>
              <span className="text-[15px] text-ink-2 whitespace-nowrap">{part?.figure}</span>
            </span>
            {part && <span className="block text-[14px] leading-5 text-ink-2">{part.more}</span>}
          </li>
        ))}
      </ul>
    </div>
  );
}
