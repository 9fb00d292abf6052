import { queryOptions, useQuery } from '@tanstack/react-query';
import type { Session } from '@underpass/contracts';
import { ApiError, call } from './client.js';

/** Who is signed in; null where nobody is. */
export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async () => {
    try {
      return await call<Session>('session');
    } catch (error) {
      if (error instanceof ApiError && error.status === 401) return null;
      throw error;
    }
  },
  staleTime: Infinity,
});
export const useSession = () => useQuery(sessionQuery);

export const useCanEdit = (): boolean => {
  const { data } = useSession();
  return data?.role === 'engineer' || data?.role === 'admin';
};
