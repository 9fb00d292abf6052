import { queryOptions } from '@tanstack/react-query';
import type { BringupBoot, BringupPlace, BringupPlaces, PublishPlan } from '@underpass/contracts';
import { call } from '../api/client.js';
import { regional } from '../ui/figures.js';

/** What the screens of the stage ask for, and under which keys it is kept. */
export const bringupQueries = {
  places: () => queryOptions({ queryKey: ['bringup', 'places'], queryFn: () => call<BringupPlaces>('bringup') }),
  plan: () => queryOptions({ queryKey: ['bringup', 'published'], queryFn: () => call<PublishPlan>('bringup/published') }),
  place: (id: string) =>
    queryOptions({ queryKey: ['bringup', 'place', id], queryFn: () => call<BringupPlace>(`bringup/places/${encodeURIComponent(id)}`) }),
  boot: (id: string) =>
    queryOptions({
      queryKey: ['bringup', 'boot', id],
      queryFn: async () => {
        const answer = await call<BringupBoot>(`bringup/endpoints/${encodeURIComponent(id)}`);
        return { ...answer, broken: answer.broken && regional(answer.broken) };
      },
    }),
};
