import { useCallback, useEffect, useLayoutEffect, useRef } from 'react';

/** After the last letter, ms. */
const restMs = 250;

/**
 * Keeps what is typed a moment after the last letter, and at once where the page or what is typed into goes before that: reloaded, closed,
 * put away on a telephone.
 */
export function useKeptSoon(keep: () => void): { soon: () => void; drop: () => void } {
  const latest = useRef(keep);
  useLayoutEffect(() => {
    latest.current = keep;
  }, [keep]);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const drop = useCallback(() => {
    clearTimeout(timer.current);
    timer.current = undefined;
  }, []);
  const now = useCallback(() => {
    if (timer.current === undefined) return;
    drop();
    latest.current();
  }, [drop]);
  useEffect(() => {
    addEventListener('pagehide', now);
    document.addEventListener('visibilitychange', now);
    return () => {
      removeEventListener('pagehide', now);
      document.removeEventListener('visibilitychange', now);
      now();
    };
  }, [now]);
  const soon = useCallback(() => {
    drop();
    timer.current = setTimeout(now, restMs);
  }, [drop, now]);
  return { soon, drop };
}
