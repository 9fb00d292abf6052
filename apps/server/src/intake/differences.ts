import type { DifferencesAnswer } from '@underpass/contracts';
import { learnedOf, type EstateModel } from '@underpass/core';

/** Differences that are told at once. */
const mostTold = 500;

/** What the latest field check of each endpoint says otherwise than the estate; what the estate does not know is no difference. */
export function differences(model: EstateModel): DifferencesAnswer {
  const told: DifferencesAnswer = [];
  for (const endpoint of model.endpoints.values()) {
    const check = model.latestCheck(endpoint.id);
    if (!check) continue;
    const fields = learnedOf(endpoint, check.figures)
      .filter(({ was }) => was === 'otherwise')
      .map(({ field, now, found }) => ({ field, now: textOf(now), found: textOf(found) }));
    if (fields.length === 0) continue;
    told.push({ endpoint: endpoint.id, name: endpoint.name, location: endpoint.location, at: check.at, fields });
    if (told.length >= mostTold) break;
  }
  return told;
}

function textOf(value: unknown): string {
  if (Array.isArray(value))
    return value
      .map((each: unknown) => {
        const { widthPx, heightPx, codec, level } = each as Record<string, string | number | undefined>;
        return widthPx ? `${widthPx}x${heightPx}` : `${codec}@${level}`;
      })
      .join(', ');
  return String(value);
}
