import { useMemo } from 'react';
import { useNavigate } from 'react-router';
import { useKeys } from '../shell/keys.js';

/** The keys of a crossing's screen; `stage.ts` lists them. */
export function useCrossingKeys(bay: number | null, setBay: (bay: number | null) => void, toggleTable: () => void): void {
  const navigate = useNavigate();
  const keys = useMemo(() => {
    const at = (selector: string) => document.querySelector<HTMLElement>(selector);
    const bays = [1, 2, 3, 4, 5, 6, 7].map((n) => [
      String(n),
      () => {
        setBay(n - 1);
        at(`[data-bay="${n}"]`)?.focus();
      },
    ]);
    return {
      ...(Object.fromEntries(bays) as Record<string, () => void>),
      f: () => at('[data-finding]')?.focus(),
      y: () => at('#try-a-change button')?.focus(),
      d: () => at('[data-draft]')?.click(),
      i: () => at('[data-impact]')?.click(),
      t: toggleTable,
      Escape: () => (bay === null ? void navigate(-1) : setBay(null)),
    };
  }, [bay, setBay, toggleTable, navigate]);
  useKeys(keys);
}
