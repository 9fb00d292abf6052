/** The face has no arrow, so it is drawn. */
export const Arrow = () => (
  <svg width="14" height="8" viewBox="0 0 14 8" role="img" aria-label="to" className="mx-1 inline-block align-[0.02em]">
    <path d="M0 4h12M9 1l3.4 3L9 7" fill="none" stroke="currentColor" strokeWidth="1.4" />
  </svg>
);
