import type { Change, Layer, Patch, Setting } from '@underpass/contracts';
import type { EstateModel } from '../estate/index.js';
import { layerOrder, settingPlace } from '../settings/index.js';

/** Places a change may be narrowed to. */
export interface NarrowTo {
  layer: Layer;
  target: string;
}

type Wanted = Pick<Setting, 'key' | 'layer' | 'target' | 'value' | 'locked'>;

/** What a step would have a setting be, and where; null where it is no such step, or takes one away. */
function wantedBy(model: EstateModel, patch: Patch): Wanted | null {
  if (patch.do === 'setting') return { ...patch, locked: false };
  if (patch.do === 'create' && patch.kind === 'setting') return patch.object as Setting;
  if (patch.do !== 'change' || patch.kind !== 'setting') return null;
  const entry = model.find('setting', patch.id) as Setting | undefined;
  return entry ? { ...entry, ...(patch.set as Partial<Setting>) } : null;
}

/** An entry at a place, whether one stands there without a condition or not. */
function stepAt(model: EstateModel, wanted: Wanted, { layer, target }: NarrowTo): Patch {
  const { key, value, locked } = wanted;
  if (!locked) return { do: 'setting', key, layer, target, value };
  const there = model.settings.get(settingPlace(layer, target))?.find((entry) => entry.key === key && !entry.condition);
  if (there) return { do: 'change', kind: 'setting', id: there.id, set: { value, locked } };
  const id = `${key}-${layer}-${target}`.replace(/[^A-Za-z0-9._-]/g, '-').slice(0, 64);
  return { do: 'create', kind: 'setting', id, object: { id, key, layer, target, value, locked } };
}

/**
 * The settings of a change at a nearer layer than they were drafted for, such as one location instead of the whole organisation. What stands at
 * that layer or a nearer one already stays as it is; steps that are no settings have no layer, and are left out, as is what takes an entry away.
 * @returns the change, and how many steps were left out
 */
export function narrowed(model: EstateModel, change: Change, to: NarrowTo): { change: Change; left: number } {
  let left = 0;
  const patches = change.patches.flatMap((patch): Patch[] => {
    const wanted = wantedBy(model, patch);
    if (wanted) {
      if (layerOrder[wanted.layer] < layerOrder[to.layer]) return [stepAt(model, wanted, to)];
      if (layerOrder[wanted.layer] > layerOrder[to.layer] || wanted.target === to.target) return [patch];
    }
    left++;
    return [];
  });
  return { change: { patches, hypotheses: [] }, left: left + change.hypotheses.length };
}
