import { queryOptions } from '@tanstack/react-query';
import type { KeptView } from '@underpass/contracts';
import { call } from '../api/client.js';

/** Views that are kept by name. */
export const viewQueries = {
  all: () => queryOptions({ queryKey: ['views'], queryFn: () => call<KeptView[]>('views') }),
  one: (id: string) => queryOptions({ queryKey: ['views', id], queryFn: () => call<KeptView>(`views/${id}`) }),
};
