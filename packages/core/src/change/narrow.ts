import type { Change, Layer, Patch } from '@underpass/contracts';
import { layerOrder } from '../settings/index.js';

/** Places a change may be narrowed to. */
export interface NarrowTo {
  layer: Layer;
  target: string;
}

/**
 * The settings of a change at a nearer layer than they were drafted for, such as one location instead of the whole organisation. What stands at
 * that layer or a nearer one already stays as it is; steps that are no settings have no layer, and are left out.
 * @returns the change, and how many steps were left out
 */
export function narrowed(change: Change, to: NarrowTo): { change: Change; left: number } {
  let left = 0;
  const patches = change.patches.flatMap((patch): Patch[] => {
    if (patch.do === 'setting') {
      if (layerOrder[patch.layer] < layerOrder[to.layer]) {
        const { was: _, ...step } = patch;
        return [{ ...step, layer: to.layer, target: to.target }];
      }
      const isThere = patch.layer === to.layer && patch.target === to.target;
      if (isThere || layerOrder[patch.layer] > layerOrder[to.layer]) return [patch];
    }
    left++;
    return [];
  });
  return { change: { patches, hypotheses: [] }, left: left + change.hypotheses.length };
}
