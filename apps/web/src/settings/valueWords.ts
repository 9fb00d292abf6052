import type { SettingValue } from '@underpass/contracts';
import { definitionOf, settingKeys, settingSubjects, subjectOfSetting, type SettingKey, type SettingSubjectName } from '@underpass/core';

/** Subjects in words, as they head the catalogue. */
export const subjectWords: Record<SettingSubjectName, string> = {
  picture: 'Picture',
  screens: 'Screens',
  sound: 'Sound',
  media: 'Calls, video, camera',
  redirection: 'Desk devices',
  security: 'Who gets in, what leaves',
  signon: 'Handed on at sign-on',
  session: 'Session',
  transport: 'Way and transport',
  client: 'Device and client',
};

/** Rules by which layers come to one value, in words. */
export const ruleWords = {
  nearest: 'the nearest layer wins, unless one above is locked',
  strictest: 'the safest value of all layers wins',
  add: 'lists of all layers add up',
} as const;

/** A value in words, with its unit. */
export function valueText(key: string, value: SettingValue | undefined): string {
  if (value === undefined) return 'not set';
  const definition = definitionOf(key);
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  if (Array.isArray(value)) return value.length === 0 ? 'nothing' : value.map((item) => item.replace(/^-/, '−')).join(', ');
  if (value === '') return 'empty';
  return definition?.type === 'number' ? `${value} ${definition.unit}` : String(value);
}

/** Settings that fit what is typed: by name, by key, by what they do, or by what people complain of. */
export function settingsFor(text: string): { key: SettingKey; symptom: string | null }[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return settingKeys.flatMap((key): { key: SettingKey; symptom: string | null }[] => {
    const definition = definitionOf(key);
    if (!definition) return [];
    const all = (where: string) => words.every((word) => where.toLowerCase().includes(word));
    if (words.length === 0 || all(`${definition.label} ${key} ${definition.does}`)) return [{ key, symptom: null }];
    const symptom = definition.symptoms?.find(all);
    return symptom === undefined ? [] : [{ key, symptom }];
  });
}

/** The same by subject, in the order of the catalogue. */
export function bySubject<T extends { key: SettingKey }>(found: readonly T[]): { subject: SettingSubjectName; settings: T[] }[] {
  return settingSubjects.flatMap((subject) => {
    const settings = found.filter(({ key }) => subjectOfSetting(key) === subject);
    return settings.length > 0 ? [{ subject, settings }] : [];
  });
}
