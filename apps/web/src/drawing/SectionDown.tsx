import type { Section } from '@underpass/core';
import { VerdictShape } from '../ui/Verdict.js';
import { SourceMark, type SourceWord } from '../ui/SourceMark.js';
import { fixed } from '../ui/figures.js';

type Bay = Section['bays'][number];

/** Half the width of the bore where there is as much as is needed, px. */
const gauge = 10;
const middle = 24;
const widest = 1.75;

/** Half the width of the bore in a bay. */
export const halfDown = ({ headroom, state }: Pick<Bay, 'headroom' | 'state'>): number =>
  state === 'fits' || state === 'short' ? Math.max(1.5, gauge * Math.min(widest, headroom ?? 1)) : gauge;

/** The same section for a narrow page: the bore runs down, a bay is a row. The rows are buttons, and the table beside it is for readers of screens. */
export function SectionDown({
  section,
  before,
  bay,
  onBay,
  showSteps,
  children,
}: {
  section: Section;
  before: Section | null;
  bay: number | null;
  onBay: (bay: number | null) => void;
  showSteps: boolean;
  /** Beneath the row of the bay that is open. */
  children: React.ReactNode;
}) {
  return (
    <div className="border-t-[1.5px] border-ink bg-earth/60">
      <ol>
        {section.bays.map((each, i) => (
          <li key={each.bay} className="relative border-b border-rule pl-[56px]">
            <Piece bay={each} before={before?.bays[i]} />
            <button
              type="button"
              data-bay={i + 1}
              aria-expanded={bay === i}
              onClick={() => onBay(bay === i ? null : i)}
              className="w-full text-left py-2 pr-2 min-h-[52px] grid grid-cols-[minmax(0,1fr)_auto] gap-x-3"
            >
              <span className="flex gap-2 items-center">
                <span className="text-ink-2">{i + 1}</span>
                <b>{each.bay}</b>
                {each.verdict && <VerdictShape verdict={each.verdict} named />}
              </span>
              <span className={`text-right ${each.state === 'short' ? 'text-amber' : each.state === 'blocked' ? 'text-brick' : ''}`}>
                <b>{each.label}</b> {each.detail && <span className="text-ink-2">{each.detail}</span>}
              </span>
              <Facts bay={each} />
              {each.state !== 'not reached' && (
                <span className="text-right text-ink-3 text-[12.5px]">
                  {before && Math.round(before.bays[i]?.delayMs ?? 0) !== Math.round(each.delayMs) && (
                    <s>{Math.round(before.bays[i]?.delayMs ?? 0)}</s>
                  )}{' '}
                  {Math.round(each.delayMs)} ms
                  <br />
                  {fixed(each.signonS, 1)} s
                </span>
              )}
              {showSteps && <Steps section={section} bay={each.bay} />}
            </button>
            {bay === i && children}
          </li>
        ))}
      </ol>
      <Totals section={section} before={before} />
    </div>
  );
}

function Facts({ bay }: { bay: Bay }) {
  return (
    <span className="text-ink-2 text-[12.5px] leading-[17px] min-w-0">
      {bay.facts.slice(0, 2).map((fact) => (
        <span key={fact.text} className="flex gap-1.5 items-baseline">
          <SourceMark source={fact.source as SourceWord} />
          <span className="min-w-0 [overflow-wrap:anywhere]">{fact.text}</span>
        </span>
      ))}
    </span>
  );
}

/** Steps of "Does it open?" in this bay. */
function Steps({ section, bay }: { section: Section; bay: string }) {
  const steps = section.steps.filter((step) => step.bay === bay);
  if (steps.length === 0) return null;
  return (
    <span className="col-span-2 text-[12.5px] leading-[17px] pt-1 text-ink-2">
      {steps.map((step, i) => (
        <span
          key={step.name}
          className={step.state === 'broken' ? 'text-brick font-bold' : step.state === 'not reached' ? 'text-ink-3' : ''}
        >
          {i > 0 ? ', ' : ''}
          {step.name}
          {step.state === 'broken' ? ' breaks' : step.state === 'not known' ? ' may break' : ''}
        </span>
      ))}
    </span>
  );
}

/** A piece of the bore, as high as its row. */
function Piece({ bay, before }: { bay: Bay; before: Bay | undefined }) {
  const half = halfDown(bay);
  const at = (width: number) => ({ left: middle - width, width: 2 * width });
  const full = 'absolute inset-y-0 moves';
  return (
    <span aria-hidden className="absolute inset-y-0 left-0 w-[48px] overflow-hidden">
      {bay.state === 'short' && (
        <span
          className={full}
          style={{
            ...at(gauge),
            background: 'repeating-linear-gradient(45deg, var(--amber) 0 1.2px, transparent 1.2px 5px)',
            opacity: 0.55,
          }}
        />
      )}
      <span
        className={`${full} ${
          bay.state === 'fits'
            ? 'bg-bore'
            : bay.state === 'short'
              ? 'bg-amber-fill border-x-2 border-amber'
              : bay.state === 'blocked'
                ? 'bg-bore'
                : `border-x border-ink-3 ${bay.state === 'not known' ? 'border-dashed' : 'border-dotted'}`
        }`}
        style={{ ...at(half), ...(bay.state === 'blocked' ? { bottom: '50%' } : {}) }}
      />
      {bay.state === 'blocked' && (
        <svg className="absolute top-1/2 -mt-[9px]" style={{ left: 4 }} width="40" height="18">
          <path d="M0 5l8 5 8-6 8 6 8-5 8 5M0 12l8 5 8-6 8 6 8-5 8 5" fill="none" stroke="var(--brick)" strokeWidth="2.2" />
        </svg>
      )}
      {/* as much as is needed */}
      {(bay.state === 'fits' || bay.state === 'short') && (
        <span className="absolute inset-y-0 border-x border-dashed border-paper" style={at(gauge)} />
      )}
      {before && halfDown(before) !== half && (
        <span className="absolute inset-y-0 border-x-[1.5px] border-ink-3" style={at(halfDown(before))} />
      )}
    </span>
  );
}

function Totals({ section, before }: { section: Section; before: Section | null }) {
  if (section.bays.some(({ state }) => state === 'blocked')) return null;
  const told = [
    {
      name: 'Key press to pixel',
      verdict: section.delayVerdict,
      now: `${Math.round(section.totalDelayMs)} ms`,
      was: before && `${Math.round(before.totalDelayMs)} ms`,
      limit: `limit ${section.limitDelayMs} ms`,
    },
    {
      name: 'Until it is usable',
      verdict: section.signonVerdict,
      now: `${fixed(section.totalSignonS, 1)} s`,
      was: before && `${fixed(before.totalSignonS, 1)} s`,
      limit: `limit ${section.limitSignonS} s`,
    },
  ];
  return (
    <dl className="grid grid-cols-2 gap-3 py-2 pl-2">
      {told.map(({ name, verdict, now, was, limit }) => (
        <div key={name}>
          <dt className="text-ink-3 text-[12.5px]">{name}</dt>
          <dd className="font-bold text-[15px]">
            <VerdictShape verdict={verdict} named /> {now}
            <span className="block font-normal text-[12.5px] text-ink-3">
              {limit}
              {was && was !== now && (
                <>
                  , <s>{was}</s>
                </>
              )}
            </span>
          </dd>
        </div>
      ))}
    </dl>
  );
}
