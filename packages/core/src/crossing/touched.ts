import { crossingsTouched, touchOf, type Touch } from '../change/index.js';
import type { CrossingRef, EstateModel } from '../estate/index.js';
import type { OtherDemand } from './facts.js';
import type { FactsReader } from './factsFor.js';

/** Crossings whose results may be others once something lies over an estate. */
export interface Touched {
  touch: Touch;
  /** Those there are afterwards. */
  after: readonly CrossingRef[];
  /** Those of them that were not there before. */
  come: readonly CrossingRef[];
  /** Those there were and are no more. */
  gone: readonly CrossingRef[];
}

/**
 * What has to be evaluated again after a layer was laid over an estate: what it touches itself, and everybody on a line whose others
 * ask for something else now.
 * @param after a reader that lies over `before`
 */
export function touchedBy(before: FactsReader, after: FactsReader): Touched {
  const { laid } = after.model;
  if (!laid || laid.under !== before.model) throw new Error('the reader does not lie over the one before');
  const touch = touchOf(laid, after.model, 'results');
  if (!touch.everything)
    for (const location of linesOf(touchOf(laid, after.model, 'demand'), before.model, after.model)) {
      if (touch.locations.has(location)) continue;
      const [old, fresh] = [before.othersAt(location), after.othersAt(location)];
      if ((Object.keys(old) as (keyof OtherDemand)[]).some((part) => old[part] !== fresh[part])) touch.locations.add(location);
    }
  const then = touch.everything ? after.model.crossings : [...crossingsTouched(touch, after.model)];
  if (after.model.hasTheSameCrossings) return { touch, after: then, come: [], gone: [] };
  const now = [...crossingsTouched(touch, before.model)];
  const [thenIds, nowIds] = [then, now].map((refs) => new Set(refs.map(({ id }) => id))) as [Set<string>, Set<string>];
  return { touch, after: then, come: then.filter(({ id }) => !nowIds.has(id)), gone: now.filter(({ id }) => !thenIds.has(id)) };
}

/** Locations with touched crossings, before or after. */
function linesOf(touch: Touch, before: EstateModel, after: EstateModel): Set<string> {
  const lines = new Set<string>();
  for (const model of [before, after]) for (const ref of crossingsTouched(touch, model)) lines.add(ref.location);
  return lines;
}
