import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import type { Change, CheckLinkView, CrossingGroups, CrossingPage, CrossingReadiness } from '@underpass/contracts';
import type { Slice } from '@underpass/core';
import { call, query } from '../api/client.js';
import { regional } from '../ui/figures.js';
import type { CrossingAnswer } from './crossingAnswer.js';
import type { HistoryEntry } from './historyLine.js';

const pageSize = 200;
const pathOf = (id: string): string => `crossings/${encodeURIComponent(id)}`;

const withRegion = (answer: CrossingAnswer): CrossingAnswer => ({ ...answer, view: regional(answer.view) });

/** What the screens of crossings ask for, and under which keys it is kept. */
export const crossingQueries = {
  list: (wanted: Readonly<Record<string, string | null>>) =>
    infiniteQueryOptions({
      queryKey: ['crossings', wanted],
      queryFn: ({ pageParam }) => call<CrossingPage>(`crossings${query({ ...wanted, offset: pageParam, limit: pageSize })}`),
      initialPageParam: 0,
      getNextPageParam: (last, all) => (all.length * pageSize < last.total ? all.length * pageSize : undefined),
      placeholderData: keepPreviousData,
    }),
  /** The same by finding, place or resource. */
  groups: (by: string, wanted: Readonly<Record<string, string | null>>) =>
    queryOptions({
      queryKey: ['crossings', 'groups', by, wanted],
      queryFn: () => call<CrossingGroups>(`crossings-groups${query({ ...wanted, by })}`),
      placeholderData: keepPreviousData,
    }),
  one: (id: string) =>
    queryOptions({ queryKey: ['crossing', id], queryFn: async () => withRegion(await call<CrossingAnswer>(pathOf(id))) }),
  /** What it rests on, at a version of the estate. */
  slice: (id: string, version: number) =>
    queryOptions({
      queryKey: ['crossing', id, 'slice', version],
      queryFn: () => call<{ slice: Slice | null }>(`${pathOf(id)}/slice`),
      staleTime: Infinity,
    }),
  readiness: (id: string, change: Change) =>
    queryOptions({
      queryKey: ['crossing', id, 'readiness', change],
      queryFn: () => call<CrossingReadiness>(`${pathOf(id)}/readiness`, 'POST', { change }),
      placeholderData: keepPreviousData,
    }),
  history: (id: string, version: number) =>
    queryOptions({
      queryKey: ['history', id, version],
      queryFn: () => call<HistoryEntry[]>(`${pathOf(id)}/history`),
      placeholderData: keepPreviousData,
    }),
};

const checkLinks = ['check-links'] as const;
export const checkLinkQueries = {
  all: checkLinks,
  one: (id: string | undefined) =>
    queryOptions({
      queryKey: [...checkLinks, id],
      queryFn: () => call<CheckLinkView>(`check-links/${id}`),
      enabled: id !== undefined,
      staleTime: 0,
    }),
};
