import type { Endpoint, SettingValue } from '@underpass/contracts';
import { clientSettings } from './client.js';
import { settingSubjects, type SettingDefinition, type SettingSubjectName } from './definition.js';
import { mediaSettings } from './media.js';
import { pictureSettings } from './picture.js';
import { redirectionSettings } from './redirection.js';
import { screensSettings } from './screens.js';
import { securitySettings } from './security.js';
import { sessionSettings } from './session.js';
import { signonSettings } from './signon.js';
import { soundSettings } from './sound.js';
import { transportSettings } from './transport.js';

export { settingSubjects, type MergeRule, type SettingDefinition, type SettingSubjectName } from './definition.js';
export { scaleOf } from './screens.js';
export { nameWords } from './signon.js';

/** The settings the computations use. A new one is one entry in the file of its subject and its use. */
export const catalogue = {
  ...pictureSettings,
  ...screensSettings,
  ...soundSettings,
  ...mediaSettings,
  ...redirectionSettings,
  ...securitySettings,
  ...signonSettings,
  ...sessionSettings,
  ...transportSettings,
  ...clientSettings,
} satisfies Record<string, SettingDefinition>;

/** The key of a setting, as it stands in files. */
export type SettingKey = keyof typeof catalogue;
/** The keys of all settings. */
export const settingKeys = Object.keys(catalogue) as SettingKey[];

type ValueOf<D> = D extends { type: 'switch' }
  ? boolean
  : D extends { type: 'number' }
    ? number
    : D extends { type: 'choice'; options: readonly (infer O)[] }
      ? O
      : D extends { type: 'version' | 'text' }
        ? string
        : readonly string[];
/** The values in force for one crossing, typed by the catalogue. */
export type SettingValues = { -readonly [K in SettingKey]: ValueOf<(typeof catalogue)[K]> };

const definitions: Readonly<Record<string, SettingDefinition>> = catalogue;
/** What a setting is; undefined for a key that is none. */
export const definitionOf = (key: string): SettingDefinition | undefined =>
  Object.hasOwn(definitions, key) ? definitions[key] : undefined;

/** What a setting is about: the word before the dot of its key. */
export const subjectOfSetting = (key: string): SettingSubjectName | undefined =>
  settingSubjects.find((subject) => key.startsWith(`${subject}.`));

/** What decides whether a device follows a setting. */
export type Follower = Pick<Endpoint, 'clientKind' | 'platform'>;
/** Clients and platforms that do not follow a setting; of most there are none, and they are asked for with every crossing. */
const ignorers: Readonly<Record<string, { by: readonly string[]; on: readonly string[] }>> = Object.assign(
  Object.create(null) as object,
  Object.fromEntries(
    Object.entries(definitions).flatMap(([key, { ignoredBy = [], ignoredOn = [] }]) =>
      ignoredBy.length + ignoredOn.length > 0 ? [[key, { by: ignoredBy, on: ignoredOn }]] : [],
    ),
  ),
);
/** Whether a device follows a setting: by the kind of its client, and by what it is. */
export function obeys(key: string, { clientKind, platform }: Follower): boolean {
  const ignoring = ignorers[key];
  return ignoring === undefined || (!ignoring.by.includes(clientKind) && !ignoring.on.includes(platform));
}
/** Settings that some device does not follow. */
export const ignorableKeys: readonly SettingKey[] = settingKeys.filter((key) => {
  const definition: SettingDefinition = catalogue[key];
  return definition.ignoredBy !== undefined || definition.ignoredOn !== undefined;
});
/** The value that a device goes by: its default where it does not follow the setting. */
export const followed = <K extends SettingKey>(values: SettingValues, key: K, device: Follower): SettingValues[K] =>
  obeys(key, device) ? values[key] : (catalogue[key].default as SettingValues[K]);

const versionForm = /^\d+([._]\d+)*[a-z]?$/;
const mostText = 120;

/** What is wrong with a pattern: a word in braces that is none, or a brace that is left open. */
function faultOfPattern(text: string, words: readonly string[]): string | null {
  for (const [, word] of text.matchAll(/\{([^{}]*)\}/g))
    if (!words.includes(word as string))
      return words.length === 0
        ? 'takes no word in braces'
        : `knows no {${word}}; it may be ${words.map((each) => `{${each}}`).join(', ')}`;
  return /[{}]/.test(text.replace(/\{[^{}]*\}/g, '')) ? 'has a brace without its other one' : null;
}

/** What is wrong with a value for a setting, or null. */
export function faultOfValue(key: string, value: SettingValue): string | null {
  const definition = definitionOf(key);
  if (!definition) return `no setting is called ${key}`;
  switch (definition.type) {
    case 'switch':
      return typeof value === 'boolean' ? null : 'must be true or false';
    case 'choice':
      // a file’s bare 1.2 is a number, which is another thing than the word
      if (typeof value === 'number' && definition.options.includes(String(value))) return `must stand in quotes: '${value}'`;
      return typeof value === 'string' && definition.options.includes(value) ? null : `must be one of ${definition.options.join(', ')}`;
    case 'number':
      return typeof value === 'number' && value >= definition.min && value <= definition.max
        ? null
        : `must be ${definition.min} to ${definition.max} ${definition.unit}`;
    case 'text':
      if (typeof value !== 'string' || value.length > mostText) return `must be a text of at most ${mostText} characters`;
      return faultOfPattern(value, definition.words);
    case 'version':
      if (typeof value === 'number') return `must stand in quotes: '${value}'`;
      return typeof value === 'string' && versionForm.test(value) ? null : 'must be a version such as 4.12';
    case 'list':
      return Array.isArray(value) && value.every((item) => definition.options.includes(item.replace(/^-/, '')))
        ? null
        : `must be a list of ${definition.options.join(', ')}, each with - in front to remove it`;
  }
}
