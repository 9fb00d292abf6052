export const Mark = () => (
  <svg width="28" height="19" viewBox="0 0 28 19" aria-hidden="true">
    <path d="M0 3.2h28" stroke="var(--ink)" strokeWidth="2" />
    <path d="M8 4l-4 4M13.5 4l-4 4M19 4l-4 4" stroke="var(--ink)" strokeWidth="1.4" />
    <rect x="0" y="10.6" width="28" height="6.4" fill="var(--tile)" />
  </svg>
);
