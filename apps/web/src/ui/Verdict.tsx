import { verdictWords } from './verdictWords.js';
import type { Verdict as VerdictWord } from '@underpass/contracts';

export { verdictWords };
export const verdictInk: Record<VerdictWord, string> = {
  clear: 'text-tile',
  limited: 'text-amber',
  blocked: 'text-brick',
  unknown: 'text-ink-3',
};

/** The tunnel mouth, more or less open: never colour alone. */
export function VerdictShape({
  verdict,
  size = 13,
  named = false,
  className = '',
}: {
  verdict: VerdictWord;
  size?: number;
  named?: boolean;
  className?: string;
}) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 16 16"
      className={`inline-block flex-none align-[-0.14em] ${className}`}
      {...(named ? { role: 'img', 'aria-label': verdictWords[verdict] } : { 'aria-hidden': true })}
    >
      <VerdictPath verdict={verdict} />
    </svg>
  );
}

export function VerdictPath({ verdict, ground = 'var(--paper)' }: { verdict: VerdictWord; ground?: string }) {
  switch (verdict) {
    case 'clear':
      return <path d="M2 15V8a6 6 0 0 1 12 0v7" fill="none" stroke="var(--tile)" strokeWidth="2" />;
    case 'limited':
      return (
        <path
          d="M1.6 15V8a6.4 6.4 0 0 1 12.8 0v7h-4.5V9.6a1.9 1.9 0 0 0-3.8 0V15z"
          fill="var(--amber-fill)"
          stroke="var(--amber)"
          strokeWidth="1.5"
        />
      );
    case 'blocked':
      return (
        <>
          <path d="M1 15.6V8a7 7 0 0 1 14 0v7.6z" fill="var(--brick)" />
          <path d="M5.2 6.4l5.6 5.6M10.8 6.4l-5.6 5.6" stroke={ground} strokeWidth="1.9" fill="none" />
        </>
      );
    case 'unknown':
      return (
        <>
          <path d="M2 15.4V8a6 6 0 0 1 12 0v7.4" fill="none" stroke="var(--ink-3)" strokeWidth="2" strokeDasharray="2.5 1.9" />
          <circle cx="8" cy="9.6" r="1.7" fill="var(--ink-3)" />
        </>
      );
  }
}

/** Shape and word together. */
export const Verdict = ({ verdict, className = '' }: { verdict: VerdictWord; className?: string }) => (
  <VerdictIn verdict={verdict} word={verdictWords[verdict]} className={className} />
);

/** The same with the word of another language. */
export function VerdictIn({ verdict, word, className = '' }: { verdict: VerdictWord; word: string; className?: string }) {
  return (
    <span className={`inline-flex items-baseline gap-1.5 font-bold whitespace-nowrap ${verdictInk[verdict]} ${className}`}>
      <VerdictShape verdict={verdict} className="self-center" />
      {word}
    </span>
  );
}
