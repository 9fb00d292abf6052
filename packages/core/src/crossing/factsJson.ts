import type { Region, Setting } from '@underpass/contracts';
import type { CrossingFacts } from './facts.js';

/** Facts as plain JSON, for the way to the browser and back. */
export type FactsJson = Omit<CrossingFacts, 'settings' | 'estate'> & {
  settings: Setting[];
  estate: Omit<CrossingFacts['estate'], 'regions'> & { regions: Region[] };
};

export const factsToJson = (facts: CrossingFacts): FactsJson => ({
  ...facts,
  settings: [...facts.settings.values()].flat(),
  estate: { ...facts.estate, regions: [...facts.estate.regions.values()] },
});

export function factsFromJson(json: FactsJson): CrossingFacts {
  const settings = new Map<string, Setting[]>();
  for (const entry of json.settings) settings.set(entry.key, [...(settings.get(entry.key) ?? []), entry]);
  return { ...json, settings, estate: { ...json.estate, regions: new Map(json.estate.regions.map((region) => [region.id, region])) } };
}
