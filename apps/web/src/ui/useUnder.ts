import { useCallback, useSyncExternalStore } from 'react';

/** Whether the page is narrower than so many px. */
export function useUnder(px: number): boolean {
  const query = `(max-width: ${px - 0.1}px)`;
  const subscribe = useCallback(
    (told: () => void) => {
      const media = matchMedia(query);
      media.addEventListener('change', told);
      return () => media.removeEventListener('change', told);
    },
    [query],
  );
  return useSyncExternalStore(subscribe, () => matchMedia(query).matches);
}

/** Whether the page is as narrow as in the hand: lists are cards there, and what is done next is at its foot. */
export const useNarrow = (): boolean => useUnder(720);
