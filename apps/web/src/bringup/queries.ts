import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import type {
  BringupBoot,
  BringupPlace,
  BringupPlaces,
  CardPlan,
  DeskAnswer,
  DeskSessions,
  DeviceOptions,
  FirmwareAsked,
  FirmwareList,
  FirmwareWho,
  ImageList,
  PublishPlan,
  RecipeList,
  Screen,
  TelephoneFacts,
  TransferAnswer,
} from '@underpass/contracts';
import { call, query } from '../api/client.js';
import { regional } from '../ui/figures.js';

/** What the screens of the stage ask for, and under which keys it is kept. */
export const bringupQueries = {
  places: () => queryOptions({ queryKey: ['bringup', 'places'], queryFn: () => call<BringupPlaces>('bringup') }),
  plan: () => queryOptions({ queryKey: ['bringup', 'published'], queryFn: () => call<PublishPlan>('bringup/published') }),
  firmware: () => queryOptions({ queryKey: ['bringup', 'firmware'], queryFn: () => call<FirmwareList>('bringup/firmware') }),
  who: (asked: FirmwareAsked) =>
    queryOptions({
      queryKey: ['bringup', 'firmware', 'who', asked],
      queryFn: () => call<FirmwareWho>(`bringup/firmware/who${query(asked)}`),
      placeholderData: keepPreviousData,
    }),
  place: (id: string) =>
    queryOptions({ queryKey: ['bringup', 'place', id], queryFn: () => call<BringupPlace>(`bringup/places/${encodeURIComponent(id)}`) }),
  transfer: (id: string, asked: { begin: string; working: string; outside: string }) =>
    queryOptions({
      queryKey: ['bringup', 'transfer', id, asked],
      queryFn: () =>
        call<TransferAnswer>(`bringup/places/${encodeURIComponent(id)}/transfer${query({ ...asked, begin: asked.begin || null })}`),
      placeholderData: keepPreviousData,
    }),
  images: () => queryOptions({ queryKey: ['bringup', 'images'], queryFn: () => call<ImageList>('bringup/images') }),
  card: (id: string) =>
    queryOptions({ queryKey: ['bringup', 'card', id], queryFn: () => call<CardPlan>(`bringup/endpoints/${encodeURIComponent(id)}/card`) }),
  recipes: () => queryOptions({ queryKey: ['bringup', 'recipes'], queryFn: () => call<RecipeList>('bringup/recipes') }),
  telephone: (id: string) =>
    queryOptions({
      queryKey: ['bringup', 'telephone', id],
      queryFn: () => call<TelephoneFacts>(`bringup/endpoints/${encodeURIComponent(id)}/telephone`),
    }),
  options: () => queryOptions({ queryKey: ['bringup', 'options'], queryFn: () => call<DeviceOptions>('bringup/options') }),
  desk: (id: string) =>
    queryOptions({
      queryKey: ['bringup', 'desk', id],
      queryFn: () => call<DeskAnswer>(`bringup/endpoints/${encodeURIComponent(id)}/desk`),
    }),
  deskSessions: (id: string, screens: readonly Screen[]) =>
    queryOptions({
      queryKey: ['bringup', 'desk', id, 'sessions', screens],
      queryFn: () => call<DeskSessions>(`bringup/endpoints/${encodeURIComponent(id)}/desk/sessions`, 'POST', { screens }),
    }),
  boot: (id: string) =>
    queryOptions({
      queryKey: ['bringup', 'boot', id],
      queryFn: async () => {
        const answer = await call<BringupBoot>(`bringup/endpoints/${encodeURIComponent(id)}`);
        return { ...answer, broken: answer.broken && regional(answer.broken) };
      },
    }),
};
