import { useEffect, useEffectEvent, useRef } from 'react';

/** After the last letter, ms. */
const restMs = 250;

/**
 * Keeps what is typed a moment after the last letter, and at once where the page or what is typed into goes before that: reloaded, closed,
 * put away on a telephone.
 */
export function useKeptSoon(keep: () => void): { soon: () => void; drop: () => void } {
  const latest = useEffectEvent(keep);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const drop = () => {
    clearTimeout(timer.current);
    timer.current = undefined;
  };
  const now = useEffectEvent(() => {
    if (timer.current === undefined) return;
    drop();
    latest();
  });
  useEffect(() => {
    const goes = () => now();
    addEventListener('pagehide', goes);
    document.addEventListener('visibilitychange', goes);
    return () => {
      removeEventListener('pagehide', goes);
      document.removeEventListener('visibilitychange', goes);
      goes();
    };
  }, []);
  const soon = () => {
    drop();
    timer.current = setTimeout(() => now(), restMs);
  };
  return { soon, drop };
}
