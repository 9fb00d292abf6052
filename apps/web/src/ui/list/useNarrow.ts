import { useSyncExternalStore } from 'react';

/** Below this the rows of a list are cards, and drawings run down the page. */
const query = '(max-width: 719px)';

const subscribe = (told: () => void) => {
  const media = matchMedia(query);
  media.addEventListener('change', told);
  return () => media.removeEventListener('change', told);
};

/** Whether the page is as narrow as a telephone in the hand. */
export const useNarrow = (): boolean => useSyncExternalStore(subscribe, () => matchMedia(query).matches);
