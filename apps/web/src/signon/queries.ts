import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import type { SavingsQuery, SavingsView, SignonRule } from '@underpass/contracts';
import { call, query } from '../api/client.js';

/** What is asked of the sign-on, and under which keys it is kept. */
export const signonQueries = {
  savings: (whom: Partial<SavingsQuery>) =>
    queryOptions({
      queryKey: ['signon', 'savings', whom],
      queryFn: () => call<SavingsView>(`signon/savings${query(whom)}`),
      placeholderData: keepPreviousData,
    }),
  rules: () =>
    queryOptions({
      queryKey: ['signon', 'rules'],
      queryFn: () => call<{ rules: SignonRule[]; shipped: boolean; version: number }>('signon/rules'),
    }),
};
