import type { Change, Layer, Setting } from '@underpass/contracts';
import { emptyEstate } from '@underpass/contracts';
import {
  explainSetting,
  indexSettings,
  made,
  modelOf,
  nearness,
  conditionHolds,
  type Explanation,
  type SettingKey,
  type SettingSubject,
} from '@underpass/core';

/** The layers as they lie, the nearest on top. */
export const layersDown: readonly Layer[] = ['endpoint', 'person', 'group', 'location', 'device class', 'organisation'];
/** Layers in words. */
export const layerWords: Record<Layer, string> = {
  endpoint: 'Endpoint',
  person: 'Person',
  group: 'Group',
  location: 'Location',
  'device class': 'Device class',
  organisation: 'Organisation',
};

/** One entry in a stratum, and how it stands there. */
export interface StratumEntry {
  entry: Setting;
  state: 'in force' | 'hidden' | 'condition';
  because: string | null;
}
/** One layer for somebody, with what stands in it. */
export interface Stratum {
  layer: Layer;
  entries: StratumEntry[];
  state: 'in force' | 'hidden' | 'not set';
  locked: boolean;
}

const isSettingStep = (patch: Change['patches'][number]): boolean =>
  patch.do === 'setting' || ((patch.do === 'create' || patch.do === 'change' || patch.do === 'remove') && patch.kind === 'setting');

/** The entries as they would be after a draft. */
export function entriesAfter(entries: readonly Setting[], change: Change | null): readonly Setting[] {
  const patches = (change?.patches ?? []).filter(isSettingStep);
  if (patches.length === 0) return entries;
  const model = modelOf({ ...emptyEstate(), setting: [...entries] }, []);
  const { writes } = made(model, { patches, hypotheses: [] }, 0);
  const left = new Map(entries.map((entry) => [entry.id, entry]));
  for (const { id, after } of writes) {
    if (after) left.set(id, after as Setting);
    else left.delete(id);
  }
  return [...left.values()];
}

/** A setting for somebody, layer by layer, with why its value is what it is. */
export function strataOf(
  key: SettingKey,
  entries: readonly Setting[],
  subject: SettingSubject,
): { strata: Stratum[]; explanation: Explanation } {
  const own = entries.filter((entry) => entry.key === key && nearness(entry, subject) >= 0);
  const explanation = explainSetting(indexSettings(own), key, subject);
  const hidden = new Map(explanation.hidden.map(({ entry, because }) => [entry.id, because]));
  const strata = layersDown.map((layer): Stratum => {
    const here = own
      .filter((entry) => entry.layer === layer)
      .map((entry): StratumEntry => {
        if (!conditionHolds(entry, subject)) return { entry, state: 'condition', because: 'its condition does not hold' };
        const because = hidden.get(entry.id) ?? null;
        return { entry, state: because ? 'hidden' : 'in force', because };
      });
    const state = here.some((each) => each.state === 'in force') ? 'in force' : here.length > 0 ? 'hidden' : 'not set';
    return { layer, entries: here, state, locked: here.some(({ entry, state: each }) => entry.locked && each !== 'condition') };
  });
  return { strata, explanation };
}

/** Whom a layer stands for on the way of somebody. */
export function targetOf(layer: Layer, subject: SettingSubject): string {
  switch (layer) {
    case 'organisation':
      return '*';
    case 'device class':
      return subject.deviceClass;
    case 'location':
      return subject.location;
    case 'group':
      return subject.groups.at(-1) ?? '';
    case 'person':
      return subject.person;
    case 'endpoint':
      return subject.endpoint;
  }
}
