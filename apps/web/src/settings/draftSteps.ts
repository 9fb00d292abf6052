import type { Change, Layer, Patch, Setting, SettingValue } from '@underpass/contracts';

/** A place at which a setting may stand. */
export interface SettingPlace {
  key: string;
  layer: Layer;
  target: string;
}

const isAt = (patch: Patch, { key, layer, target }: SettingPlace, entry: Setting | undefined): boolean => {
  if (patch.do === 'setting') return patch.key === key && patch.layer === layer && patch.target === target;
  if (patch.do === 'create' && patch.kind === 'setting') {
    const object = patch.object as Setting;
    return object.key === key && object.layer === layer && object.target === target;
  }
  return (patch.do === 'change' || patch.do === 'remove') && patch.kind === 'setting' && patch.id === entry?.id;
};

/** An id for a new entry, from where it stands. */
const idFor = ({ key, layer, target }: SettingPlace): string =>
  `${key}-${layer.replace(' ', '-')}-${target === '*' ? 'all' : target}`.replace(/[^A-Za-z0-9._-]/g, '-').slice(0, 64);

/**
 * A change with one more step: a value at a place, locked or not; null takes the entry away. What the change said of that place before is replaced.
 * @param entry what stands there now without a condition
 */
export function withEntry(
  change: Change,
  place: SettingPlace,
  wanted: { value: SettingValue; locked: boolean } | null,
  entry: Setting | undefined,
): Change {
  const rest = change.patches.filter((patch) => !isAt(patch, place, entry));
  const done = (...more: Patch[]): Change => ({ ...change, patches: [...rest, ...more] });
  if (wanted === null) return entry ? done({ do: 'remove', kind: 'setting', id: entry.id }) : done();
  if (!entry) {
    const { key, layer, target } = place;
    return done({ do: 'create', kind: 'setting', id: idFor(place), object: { id: idFor(place), key, layer, target, ...wanted } });
  }
  const set: Record<string, unknown> = {};
  if (JSON.stringify(entry.value) !== JSON.stringify(wanted.value)) set.value = wanted.value;
  if (entry.locked !== wanted.locked) set.locked = wanted.locked;
  return Object.keys(set).length === 0 ? done() : done({ do: 'change', kind: 'setting', id: entry.id, set: set as never });
}

/** Steps of two changes, those of the second in place of those of the first at the same place. */
export const together = (first: Change, second: Change): Change => {
  const same = (patch: Patch) => JSON.stringify({ ...patch, was: undefined, value: undefined, set: undefined, object: undefined });
  const fresh = new Set(second.patches.map(same));
  return {
    patches: [...first.patches.filter((patch) => !fresh.has(same(patch))), ...second.patches],
    hypotheses: [...first.hypotheses, ...second.hypotheses],
  };
};
