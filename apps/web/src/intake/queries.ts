import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import type {
  BatchView,
  DifferencesAnswer,
  FirstStepsAnswer,
  GapsAnswer,
  KeptMap,
  LdapFeedView,
  ListLook,
  ObjectKind,
  OriginsAnswer,
  ScimFeedView,
  SourceOrder,
  WaitingDevice,
} from '@underpass/contracts';
import { call, query } from '../api/client.js';

/** How a list is read, where somebody says it otherwise than it was found. */
export interface ReadAs {
  kind?: ObjectKind | undefined;
  sheet?: string | undefined;
  headerRow?: number | undefined;
}

/** What the screens of what comes in ask for, and under which keys it is kept. */
export const intakeQueries = {
  list: (id: string | null, { kind, sheet, headerRow }: ReadAs) =>
    queryOptions({
      queryKey: ['intake', 'list', id, kind, sheet, headerRow],
      queryFn: () => call<ListLook>(`intake/lists/${id}${query({ kind, sheet, headerRow })}`),
      enabled: id !== null,
      staleTime: Infinity,
      placeholderData: keepPreviousData,
      retry: false,
    }),
  maps: () => queryOptions({ queryKey: ['intake', 'maps'], queryFn: () => call<KeptMap[]>('intake/maps') }),
  differences: () => queryOptions({ queryKey: ['intake', 'differences'], queryFn: () => call<DifferencesAnswer>('intake/differences') }),
  origins: (kind: ObjectKind, id: string) =>
    queryOptions({
      queryKey: ['intake', 'origins', kind, id],
      queryFn: () => call<OriginsAnswer>(`intake/origins/${kind}/${encodeURIComponent(id)}`),
    }),
  order: () => queryOptions({ queryKey: ['intake', 'order'], queryFn: () => call<SourceOrder>('intake/source-order') }),
  ldap: () => queryOptions({ queryKey: ['intake', 'ldap'], queryFn: () => call<LdapFeedView[]>('intake/ldap') }),
  scim: () => queryOptions({ queryKey: ['intake', 'scim'], queryFn: () => call<ScimFeedView[]>('intake/scim') }),
  batches: () => queryOptions({ queryKey: ['intake', 'batches'], queryFn: () => call<BatchView[]>('intake/batches') }),
  waiting: () =>
    queryOptions({ queryKey: ['intake', 'waiting'], queryFn: () => call<WaitingDevice[]>('intake/waiting'), refetchInterval: 15_000 }),
  firstSteps: () => queryOptions({ queryKey: ['intake', 'first steps'], queryFn: () => call<FirstStepsAnswer>('intake/first-steps') }),
  gaps: () => queryOptions({ queryKey: ['gaps'], queryFn: () => call<GapsAnswer>('gaps') }),
};
