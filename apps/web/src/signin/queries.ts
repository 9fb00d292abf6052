import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import type { DoorRules, OwnAccount, SecurityEvent, SignInOptions, UserView } from '@underpass/contracts';
import { call, query } from '../api/client.js';

const pageSize = 100;

/** What the screens of signing in ask for, and under which keys it is kept. Who is signed in: `api/session.ts`. */
export const signinQueries = {
  log: () =>
    infiniteQueryOptions({
      queryKey: ['security-log'],
      queryFn: ({ pageParam }) => call<SecurityEvent[]>(`security-log${query({ before: pageParam, limit: pageSize })}`),
      initialPageParam: '',
      getNextPageParam: (last) => (last.length < pageSize ? undefined : last.at(-1)?.at),
    }),
  users: () => queryOptions({ queryKey: ['users'], queryFn: () => call<UserView[]>('users') }),
  rules: () => queryOptions({ queryKey: ['users', 'rules'], queryFn: () => call<DoorRules>('users/rules') }),
  account: () => queryOptions({ queryKey: ['account'], queryFn: () => call<OwnAccount>('account') }),
  options: () =>
    queryOptions({ queryKey: ['sign-in options'], queryFn: () => call<SignInOptions>('session/options'), staleTime: Infinity }),
};
