import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import type {
  AcceptancePlanView,
  AcceptanceView,
  AccessPeople,
  AccessPersonView,
  Change,
  EntryLinkView,
  GuestRow,
  LinkTestView,
  PublicationRow,
  RequirementSetView,
  ResourceReach,
  TriedSets,
  WhyView,
} from '@underpass/contracts';
import { call, query } from '../api/client.js';

const pageSize = 200;

/** What the screens of the stage ask for, and under which keys it is kept. */
export const accessQueries = {
  people: (wanted: Readonly<Record<string, string | null>>) =>
    infiniteQueryOptions({
      queryKey: ['access', 'people', wanted],
      queryFn: ({ pageParam }) => call<AccessPeople>(`access/people${query({ ...wanted, offset: pageParam, limit: pageSize })}`),
      initialPageParam: 0,
      getNextPageParam: (last, all) => (all.length * pageSize < last.total ? all.length * pageSize : undefined),
      placeholderData: keepPreviousData,
    }),
  person: (id: string) =>
    queryOptions({
      queryKey: ['access', 'person', id],
      queryFn: () => call<AccessPersonView>(`access/people/${encodeURIComponent(id)}`),
    }),
  why: (person: string, resource: string) =>
    queryOptions({
      queryKey: ['access', 'why', person, resource],
      queryFn: () => call<WhyView>(`access/why${query({ person, resource })}`),
    }),
  publications: () => queryOptions({ queryKey: ['access', 'publications'], queryFn: () => call<PublicationRow[]>('access/publications') }),
  reach: (resource: string) =>
    queryOptions({
      queryKey: ['access', 'reach', resource],
      queryFn: () => call<ResourceReach>(`access/resources/${encodeURIComponent(resource)}`),
    }),
  guests: () => queryOptions({ queryKey: ['access', 'guests'], queryFn: () => call<GuestRow[]>('access/guests') }),
  links: () => queryOptions({ queryKey: ['access', 'links'], queryFn: () => call<EntryLinkView[]>('access/links') }),
  browsers: () =>
    queryOptions({
      queryKey: ['access', 'browsers'],
      queryFn: () => call<{ id: string; name: string; current: string }[]>('access/links/browsers'),
      staleTime: Infinity,
    }),
  linkTest: (asked: { resource: string | undefined; person: string | undefined; browser: string; version: string }) =>
    queryOptions({
      queryKey: ['access', 'link test', asked],
      queryFn: () => call<LinkTestView>('access/links/test', 'POST', asked),
      retry: false,
    }),
  /** @param change what it would be after; none for as it is */
  requirements: (change: Change | null = null) =>
    queryOptions({
      queryKey: ['access', 'requirements', change],
      queryFn: () =>
        change
          ? call<RequirementSetView[]>('access/requirements/on-paper', 'POST', { change })
          : call<RequirementSetView[]>('access/requirements'),
      placeholderData: keepPreviousData,
    }),
  tried: (text: string) =>
    queryOptions({
      queryKey: ['access', 'try', text],
      queryFn: () => call<TriedSets>('access/requirements/try', 'POST', { text }),
      placeholderData: keepPreviousData,
      retry: false,
    }),
  acceptancePlan: (change: Change) =>
    queryOptions({
      queryKey: ['access', 'acceptance on paper', change],
      queryFn: () => call<AcceptancePlanView>('access/acceptance/on-paper', 'POST', { change }),
    }),
  acceptance: (run: string | null) =>
    queryOptions({
      queryKey: ['access', 'acceptance', run],
      queryFn: () => call<AcceptanceView>(`access/acceptance${query({ run })}`),
      // test people sign in at a portal, which tells when it wants to
      refetchInterval: 15_000,
    }),
};
