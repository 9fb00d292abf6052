import type { DifferencesAnswer } from '@underpass/contracts';
import { learnedOf, type EstateModel } from '@underpass/core';

/** Differences that are told at once. */
const mostTold = 500;

/**
 * What the latest field check of each endpoint says otherwise than the estate; what the estate does not know is no difference. It stands
 * back after every place, so that whoever waits is served.
 */
export function* differences(model: EstateModel): Generator<void, DifferencesAnswer> {
  const told: DifferencesAnswer = [];
  for (const [location, measurements] of model.measurementsAt) {
    const checked = new Set(measurements.flatMap(({ endpoint, method }) => (endpoint && method === 'field check' ? [endpoint] : [])));
    for (const id of checked) {
      const endpoint = model.endpoints.get(id);
      const check = endpoint?.location === location ? model.latestCheck(id) : undefined;
      if (!endpoint || !check) continue;
      const fields = learnedOf(endpoint, check.figures)
        .filter(({ was }) => was === 'otherwise')
        .map(({ field, now, found }) => ({ field, now: textOf(now), found: textOf(found) }));
      if (fields.length) told.push({ endpoint: id, name: endpoint.name, location, at: check.at, fields });
      if (told.length >= mostTold) return told;
      yield;
    }
  }
  return told;
}

/** A value as it is told, and held against what was told. */
export function textOf(value: unknown): string {
  if (Array.isArray(value))
    return value
      .map((each: unknown) => {
        const { widthPx, heightPx, codec, level } = each as Record<string, string | number | undefined>;
        return widthPx ? `${widthPx}x${heightPx}` : `${codec}@${level}`;
      })
      .join(', ');
  return String(value);
}
