import { useEffect } from 'react';

/** The page's name in the browser's tab. */
export function useTitle(title: string): void {
  useEffect(() => {
    document.title = `${title} · Underpass`;
  }, [title]);
}
