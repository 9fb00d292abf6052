import { useEffect, useState } from 'react';
import { flushSync } from 'react-dom';

/** Whether the page is being printed: what is drawn only where it is seen is drawn as a whole then. */
export function usePrinting(): boolean {
  const [printing, setPrinting] = useState(false);
  useEffect(() => {
    const media = matchMedia('print');
    // at once: the browser prints what stands when this returns
    const begin = () => flushSync(() => setPrinting(true));
    const end = () => setPrinting(false);
    const change = () => (media.matches ? begin() : end());
    addEventListener('beforeprint', begin);
    addEventListener('afterprint', end);
    media.addEventListener('change', change);
    return () => {
      removeEventListener('beforeprint', begin);
      removeEventListener('afterprint', end);
      media.removeEventListener('change', change);
    };
  }, []);
  return printing;
}
