export type SourceWord = 'measured' | 'reported' | 'declared' | 'assumed' | 'computed';

const paths: Record<SourceWord, React.ReactNode> = {
  measured: <path d="M.4 1.2h9.2L5 9.2z" fill="currentColor" />,
  reported: <circle cx="5" cy="5" r="3.9" fill="currentColor" />,
  declared: <rect x="1.3" y="1.3" width="7.4" height="7.4" fill="none" stroke="currentColor" strokeWidth="1.5" />,
  assumed: <path d="M5 .6L9.4 5 5 9.4.6 5z" fill="none" stroke="currentColor" strokeWidth="1.3" strokeDasharray="1.9 1.2" />,
  computed: <path d="M.8 3.4h8.4M.8 6.8h8.4" fill="none" stroke="currentColor" strokeWidth="1.4" />,
};

export const SourcePath = ({ source }: { source: SourceWord }) => <>{paths[source]}</>;

/** Where a figure comes from: solid, a machine saw it; hollow, somebody said so. */
export function SourceMark({ source, size = 9, className = '' }: { source: SourceWord; size?: number; className?: string }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 10 10"
      role="img"
      aria-label={source}
      className={`inline-block flex-none text-ink-2 ${className}`}
    >
      <title>{source}</title>
      {paths[source]}
    </svg>
  );
}
