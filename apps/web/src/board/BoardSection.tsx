import type { Bay } from '@underpass/contracts';
import { useMeasuredWidth } from '../drawing/useMeasuredWidth.js';
import { barOrder, type Counts } from '../ui/PeopleBar.js';
import { boreOutline } from '../drawing/bore.js';
import { verdictInk, verdictWords, VerdictShape } from '../ui/Verdict.js';
import { hatchMarks } from '../drawing/ground.js';

const order: Bay[] = ['Desk', 'Endpoint', 'Local network', 'Link', 'Gateway', 'Host', 'Workspace'];

/** Where on the way people are held: the bore is thin where most are. */
export function BoardSection({ bays, chosen, onChoose }: { bays: Record<Bay, Counts>; chosen: Bay | null; onChoose: (bay: Bay) => void }) {
  const [ref, width] = useMeasuredWidth<HTMLDivElement>(860);
  const held = order.map((bay) => bays[bay].blocked + bays[bay].limited + bays[bay].unknown);
  const most = Math.max(...held, 1);
  const column = width / 7;
  const half = held.map((n) => 10.8 - 6.3 * Math.sqrt(n / most) * (n > 0 ? 1 : 0));
  const worstAt = held.indexOf(Math.max(...held));
  const outline = boreOutline(half, column, 0, 43, 16);
  return (
    <div ref={ref} className="relative h-[84px]">
      <svg viewBox={`0 0 ${width} 84`} preserveAspectRatio="none" height="84" aria-hidden className="absolute inset-0 w-full moves">
        <rect x="0" y="26" width={width} height="34" fill="var(--earth)" />
        {order.map((bay, i) => (
          <path key={bay} d={`M${i * column + 0.5} 0V84`} stroke="var(--rule)" />
        ))}
        <path d={`M0 26H${width}`} stroke="var(--ink)" strokeWidth="1.5" />
        <path d={order.map((_, i) => hatchMarks((i + 1) * column - 18, 27)).join('')} stroke="var(--ink-3)" strokeWidth=".9" />
        <path d={outline} fill="var(--bore)" />
        {held[worstAt] ? (
          <>
            <clipPath id="board-worst">
              <rect x={worstAt * column} y="0" width={column} height="84" />
            </clipPath>
            <path d={outline} clipPath="url(#board-worst)" fill="var(--amber-fill)" stroke="var(--amber)" strokeWidth="2.4" />
          </>
        ) : null}
      </svg>
      <div className="absolute inset-0 grid grid-cols-7">
        {order.map((bay) => {
          const counts = bays[bay];
          const told = barOrder.filter((verdict) => verdict !== 'clear' && counts[verdict] > 0);
          return (
            <button
              key={bay}
              aria-pressed={chosen === bay}
              onClick={() => onChoose(bay)}
              aria-label={`${bay}: ${told.length ? told.map((v) => `${counts[v]} ${verdictWords[v]}`).join(', ') : 'nobody held'}`}
              className="text-left px-2 flex flex-col justify-between pb-1 relative overflow-hidden"
            >
              <span className="text-[13px] leading-[24px] font-semibold whitespace-nowrap">{bay}</span>
              {chosen === bay && <span className="absolute left-0 right-0 top-0 h-[5.5px] bg-tile" />}
              <span className="flex gap-1.5 text-[13px] leading-4 font-bold">
                {told.map((verdict) => (
                  <span key={verdict} className={`inline-flex items-center gap-[3px] ${verdictInk[verdict]}`}>
                    <VerdictShape verdict={verdict} size={11} />
                    {counts[verdict]}
                  </span>
                ))}
              </span>
            </button>
          );
        })}
      </div>
    </div>
  );
}
