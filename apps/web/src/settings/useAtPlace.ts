import { useQuery } from '@tanstack/react-query';
import type { DraftAtPlace, DraftView, Layer, Named } from '@underpass/contracts';
import { useState } from 'react';
import { settingsQueries } from './queries.js';

export type Where = 'as drafted' | Exclude<Layer, 'organisation'>;

/** Where a draft is to be applied, whole or at one place alone, and what it comes to there. */
export interface AtPlaceChosen {
  where: Where;
  target: Named | null;
  choose: (where: Where, target: Named | null) => void;
  /** What it comes to at that place, once it is known. */
  there: DraftAtPlace | undefined;
  error: Error | null;
}

export function useAtPlace(draft: DraftView | null): AtPlaceChosen {
  const [{ where, target }, set] = useState<{ where: Where; target: Named | null }>({ where: 'as drafted', target: null });
  const isPlace = where !== 'as drafted' && target !== null;
  const { data, error } = useQuery({
    ...settingsQueries.draftAt(draft?.id ?? '', isPlace ? where : 'location', target?.id ?? ''),
    enabled: isPlace && draft !== null,
  });
  return {
    ...{ where, target, choose: (next, at) => set({ where: next, target: at }) },
    ...{ there: isPlace ? data : undefined, error: isPlace ? error : null },
  };
}
