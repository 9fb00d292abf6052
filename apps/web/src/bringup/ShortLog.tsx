import { stepCount } from './words.js';

const cell = 7.5;

/** The steps of a start in one row: taken, where it broke, and what was not reached. */
export function ShortLog({ done, broken }: { done: number; broken: boolean }) {
  return (
    <svg aria-hidden width={stepCount * cell + 2} height="16" className="block shrink-0">
      {Array.from({ length: stepCount }, (_, i) => {
        const x = 1 + i * cell;
        if (i < done)
          return <rect key={i} x={x} y="3" width={cell} height="10" fill="var(--tile-wash)" stroke="var(--ink)" strokeWidth="1" />;
        if (broken && i === done)
          return (
            <path key={i} d={`M${x + 1} 1l3 4l-3 4l3 4M${x + 4} 1l3 4l-3 4l3 4`} fill="none" stroke="var(--brick)" strokeWidth="1.3" />
          );
        return (
          <rect key={i} x={x} y="3.5" width={cell} height="9" fill="none" stroke="var(--rule-2)" strokeWidth="1" strokeDasharray="1.5 2" />
        );
      })}
    </svg>
  );
}
