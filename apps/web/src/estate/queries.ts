import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import type { AuditEntry, FoundObject, ImportJob, Named, ObjectKind, ObjectPage } from '@underpass/contracts';
import { call, query } from '../api/client.js';

const pageSize = 200;

/** What the screens of the estate ask for, and under which keys it is kept. */
export const estateQueries = {
  counts: () => queryOptions({ queryKey: ['estate', 'counts'], queryFn: () => call<{ kind: ObjectKind; count: number }[]>('estate') }),
  list: (kind: ObjectKind, wanted: Readonly<Record<string, string | null>>) =>
    infiniteQueryOptions({
      queryKey: ['estate', kind, wanted],
      queryFn: ({ pageParam }) => call<ObjectPage>(`estate/${kind}${query({ ...wanted, offset: pageParam, limit: pageSize })}`),
      initialPageParam: 0,
      getNextPageParam: (last, all) => (all.length * pageSize < last.total ? all.length * pageSize : undefined),
      placeholderData: (before, query) => (query?.queryKey[1] === kind ? before : undefined),
    }),
  one: (kind: ObjectKind, id: string) =>
    queryOptions({
      queryKey: ['estate', kind, 'one', id],
      queryFn: () =>
        call<{ object: Record<string, unknown>; version: string; history: AuditEntry[] }>(`estate/${kind}/${encodeURIComponent(id)}`),
    }),
  /** A few to choose from by name. */
  pick: (kind: ObjectKind, search: string) =>
    queryOptions({
      queryKey: ['estate', kind, 'pick', search],
      queryFn: () => call<{ rows: Named[] }>(`estate/${kind}${query({ search, limit: 8 })}`),
      placeholderData: keepPreviousData,
    }),
  /** Some by id, for their names. */
  named: (kind: ObjectKind, ids: readonly string[]) =>
    queryOptions({
      queryKey: ['estate', kind, 'named', [...ids].sort().join(' ')],
      queryFn: () => call<{ rows: Named[] }>(`estate/${kind}${query({ ids: ids.join(','), limit: 500 })}`),
      enabled: ids.length > 0,
      placeholderData: keepPreviousData,
    }),
  found: (words: string) =>
    queryOptions({
      queryKey: ['estate', 'found', words],
      queryFn: () => call<FoundObject[]>(`find${query({ q: words })}`),
      enabled: words.length > 0,
      placeholderData: keepPreviousData,
    }),
  changes: () => queryOptions({ queryKey: ['changes'], queryFn: () => call<AuditEntry[]>('changes') }),
  import: (job: string | null) =>
    queryOptions({
      queryKey: ['import', job],
      queryFn: () => call<ImportJob>(`estate/import/${job}`),
      enabled: job !== null,
      staleTime: 0,
      refetchInterval: ({ state }) => (state.data?.state === 'running' || !state.data ? 300 : false),
    }),
};
