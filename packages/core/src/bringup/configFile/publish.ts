import type { ConfigFile, ConfigLayer, Setting, SettingValue } from '@underpass/contracts';
import { catalogue, type SettingKey } from '../../settings/index.js';
import { written } from './written.js';

/** A file as it is made of settings, before it has its sum. */
export type MadeFile = Pick<ConfigFile, 'id' | 'layer' | 'target' | 'text'>;

/** What files that are made begin with; those without it are written by hand and stay as they are. */
export const madePrefix = 'set-';
const words: Record<ConfigLayer, string> = {
  organisation: 'organisation',
  'device class': 'class',
  location: 'location',
  endpoint: 'endpoint',
};
/** Longest id of an object. */
const longestId = 64;

const idOf = (layer: ConfigLayer, target: string): string =>
  `${madePrefix}${words[layer]}${layer === 'organisation' ? '' : `-${target}`}`.slice(0, longestId);
const isFileLayer = (layer: string): layer is ConfigLayer => layer in words;

/** The text of a value. */
const textOfValue = (value: SettingValue): string =>
  Array.isArray(value) ? value.join(', ') : typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value);

/**
 * The configuration files that settings come to, one for each place a device reads from: organisation, device classes, locations and
 * endpoints. Settings of groups and people are none of a device’s, and conditional ones are decided when somebody signs in: a comment says
 * so. Locked ones are locked in the file. Made anew of the same settings they are the same, byte for byte.
 * @param broker address of the broker, for the organisation’s file
 */
export function filesOfSettings(settings: readonly Setting[], broker: string | null): MadeFile[] {
  const places = new Map<string, { layer: ConfigLayer; target: string; entries: Setting[] }>();
  const at = (layer: ConfigLayer, target: string) => {
    const key = `${layer}/${target}`;
    let place = places.get(key);
    if (!place) places.set(key, (place = { layer, target, entries: [] }));
    return place;
  };
  if (broker !== null) at('organisation', '*');
  for (const entry of settings) if (isFileLayer(entry.layer)) at(entry.layer, entry.target).entries.push(entry);
  return [...places.values()]
    .map(({ layer, target, entries }) => ({
      id: idOf(layer, target),
      layer,
      target,
      text: textOf(entries, layer === 'organisation' ? broker : null),
    }))
    .sort((a, b) => (a.id < b.id ? -1 : 1));
}

function textOf(entries: readonly Setting[], broker: string | null): string {
  const sections = new Map<string, string[]>();
  const lines = (section: string) => {
    let list = sections.get(section);
    if (!list) sections.set(section, (list = []));
    return list;
  };
  if (broker !== null) lines('broker').push(`address = ${broker}`);
  for (const { key, value, condition, locked } of [...entries].sort((a, b) =>
    a.key < b.key ? -1 : a.key > b.key ? 1 : a.id < b.id ? -1 : 1,
  )) {
    const [section = '', name = ''] = key.split('.');
    if (!(key in catalogue)) continue;
    const { label } = catalogue[key as SettingKey];
    lines(section).push(
      condition ? `; ${name}: depends on who signs in (${label})` : `${name}${locked ? '!' : ''} = ${written(textOfValue(value))}`,
    );
  }
  return [...sections]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([section, list]) => `[${section}]\n${list.join('\n')}\n`)
    .join('\n');
}
