import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import type {
  CarriedAnswer,
  Change,
  ComparedCrossings,
  ComparedDrafts,
  DraftAtPlace,
  DraftView,
  DuctsAnswer,
  Layer,
  LintAfter,
  LintAnswer,
  NeedlessAnswer,
  Peripheral,
  PluggedAnswer,
  PlugRequest,
  RulesAnswer,
  SettingPlaces,
  SettingsOf,
  SuggestAnswer,
  ValueCosts,
} from '@underpass/contracts';
import { call, query } from '../api/client.js';

const part = encodeURIComponent;

/** What the screens of the stage ask for, and under which keys it is kept. */
export const settingsQueries = {
  of: (whose: { kind: 'endpoint' | 'person' | 'location'; id: string; person?: string | null } | null, at: string | null) =>
    queryOptions({
      queryKey: ['settings', 'of', whose, at],
      queryFn: () => call<SettingsOf>(`settings/of${query({ person: whose?.person, [whose?.kind ?? 'endpoint']: whose?.id, at })}`),
      enabled: whose !== null,
      placeholderData: keepPreviousData,
    }),
  places: (key: string) =>
    queryOptions({ queryKey: ['settings', 'places', key], queryFn: () => call<SettingPlaces>(`settings/places/${part(key)}`) }),
  costs: (endpoint: string, person: string, key: string) =>
    queryOptions({
      queryKey: ['settings', 'costs', endpoint, person, key],
      queryFn: () => call<ValueCosts>(`settings/costs${query({ endpoint, person, key })}`),
      placeholderData: keepPreviousData,
    }),
  lint: () => queryOptions({ queryKey: ['settings', 'lint'], queryFn: () => call<LintAnswer>('settings/lint') }),
  lintAfter: (change: Change) =>
    queryOptions({
      queryKey: ['settings', 'lint', 'after', change],
      queryFn: () => call<LintAfter>('settings/lint', 'POST', { change }),
    }),
  carried: () => queryOptions({ queryKey: ['settings', 'carried'], queryFn: () => call<CarriedAnswer>('settings/carried') }),
  needless: () => queryOptions({ queryKey: ['settings', 'needless'], queryFn: () => call<NeedlessAnswer>('settings/needless') }),
  suggest: (kind: string) =>
    queryOptions({
      queryKey: ['settings', 'suggest', kind],
      queryFn: () => call<SuggestAnswer>('settings/suggest', 'POST', { kind }),
      enabled: kind !== '',
      retry: false,
    }),
  compare: (a: string, b: string) =>
    queryOptions({
      queryKey: ['settings', 'compare', a, b],
      queryFn: () => call<ComparedCrossings>(`settings/compare${query({ a, b })}`),
      enabled: a !== '' && b !== '' && a !== b,
    }),
  draft: (id: string) =>
    queryOptions({ queryKey: ['drafts', id], queryFn: () => call<DraftView>(`drafts/${part(id)}`), enabled: id !== '' }),
  draftAt: (id: string, layer: Layer, target: string) =>
    queryOptions({
      queryKey: ['drafts', id, 'at', layer, target],
      queryFn: () => call<DraftAtPlace>(`drafts/${part(id)}/at${query({ layer, target })}`),
    }),
  draftBeside: (id: string, other: string) =>
    queryOptions({
      queryKey: ['drafts', id, 'beside', other],
      queryFn: () => call<ComparedDrafts>(`drafts/${part(id)}/beside/${part(other)}`),
      enabled: other !== '',
    }),
  rules: () => queryOptions({ queryKey: ['settings', 'rules'], queryFn: () => call<RulesAnswer>('redirection') }),
  ducts: (crossing: string, change: Change | null) =>
    queryOptions({
      queryKey: ['settings', 'ducts', crossing, change],
      queryFn: () =>
        change
          ? call<DuctsAnswer>(`redirection/${part(crossing)}/after`, 'POST', { change })
          : call<DuctsAnswer>(`redirection/${part(crossing)}`),
      enabled: crossing !== '',
      placeholderData: keepPreviousData,
    }),
  plug: (crossing: string, device: Peripheral | null, answers: PlugRequest['answers'], change: Change | null) =>
    queryOptions({
      queryKey: ['settings', 'plug', crossing, device, answers, change],
      queryFn: () => call<PluggedAnswer>(`redirection/${part(crossing)}/plug`, 'POST', { device, answers, ...(change ? { change } : {}) }),
      enabled: crossing !== '' && device !== null,
      placeholderData: keepPreviousData,
      retry: false,
    }),
};
