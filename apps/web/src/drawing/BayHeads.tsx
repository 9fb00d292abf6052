import type { Section } from '@underpass/core';
import { useRef } from 'react';
import { VerdictShape } from '../ui/Verdict.js';

/** The heads of the bays: buttons over the drawing, one of them reached by Tab, the others by arrows. */
export function BayHeads({
  section,
  left,
  column,
  bay,
  onBay,
}: {
  section: Section;
  left: number;
  column: number;
  bay: number | null;
  onBay: (bay: number | null) => void;
}) {
  const heads = useRef<(HTMLButtonElement | null)[]>([]);
  return (
    <div
      className="absolute top-0 flex"
      style={{ left, width: column * 7 }}
      onKeyDown={(event) => {
        const at = bay ?? 0;
        const next = event.key === 'ArrowRight' ? Math.min(6, at + 1) : event.key === 'ArrowLeft' ? Math.max(0, at - 1) : null;
        if (next === null) return;
        event.preventDefault();
        heads.current[next]?.focus();
        onBay(next);
      }}
    >
      {section.bays.map((b, i) => (
        <button
          key={b.bay}
          ref={(element) => {
            heads.current[i] = element;
          }}
          data-bay={i + 1}
          tabIndex={i === (bay ?? 0) ? 0 : -1}
          aria-expanded={bay === i}
          onClick={() => onBay(bay === i ? null : i)}
          className="text-left pl-2 pr-1.5 h-[20px] flex items-center gap-2 text-[13px] relative"
          style={{ width: column }}
        >
          {bay === i && <span className="absolute left-0 right-0 -top-[1px] h-[5.5px] bg-tile" />}
          <span className="text-ink-2">{i + 1}</span>
          <b className="flex-1 font-bold whitespace-nowrap">{b.bay}</b>
          {b.verdict && <VerdictShape verdict={b.verdict} named />}
        </button>
      ))}
    </div>
  );
}
