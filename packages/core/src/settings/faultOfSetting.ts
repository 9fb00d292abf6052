import { catalogue, faultOfValue, type SettingKey } from './catalogue/index.js';

/** What is wrong with an entry of a settings file, for the importer; null for every other kind of object. */
export function faultOfSetting(kind: string, value: object): { field: string; problem: string; expected: string } | null {
  if (kind !== 'setting') return null;
  const { key, value: content } = value as { key: string; value: Parameters<typeof faultOfValue>[1] };
  const fault = faultOfValue(key, content);
  if (!fault) return null;
  const known = key in catalogue;
  return {
    field: known ? 'value' : 'key',
    problem: `${key}: ${fault}`,
    expected: known ? `a value for “${catalogue[key as SettingKey].label}”` : 'a key of the settings’ catalogue',
  };
}
