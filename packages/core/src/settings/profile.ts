import type { SettingValue } from '@underpass/contracts';
import { definitionOf, faultOfValue, settingKeys, settingSubjects, type SettingKey } from './catalogue/index.js';

/** Values by key, in the order of the catalogue; keys it does not know behind them, as they were read. */
export type Profile = Record<string, SettingValue>;
/** What is wrong in a profile, and where. */
export interface ProfileFault {
  key: string;
  problem: string;
}
/** A profile as it was read: what is known and right, what is kept though nobody knows it, and what is wrong. */
export interface ReadProfile {
  values: Partial<Record<SettingKey, SettingValue>>;
  unknown: Profile;
  faults: ProfileFault[];
}

/** Keys of a profile in the order of the catalogue; unknown ones behind, by name. */
export function orderedProfile(profile: Profile): Profile {
  const known = settingKeys.filter((key) => key in profile);
  const others = Object.keys(profile)
    .filter((key) => !definitionOf(key))
    .sort();
  return Object.fromEntries([...known, ...others].map((key) => [key, profile[key] as SettingValue]));
}

/** A value of a section file as its setting takes it; of an unknown key the text as it stands. */
function typed(key: string, text: string): SettingValue {
  const type = definitionOf(key)?.type;
  const bare = /^".*"$/s.test(text) ? unquoted(text) : text;
  if (type === 'switch')
    return bare === 'true' || bare === 'yes' || bare === 'on' ? true : bare === 'false' || bare === 'no' || bare === 'off' ? false : bare;
  if (type === 'number') return bare.trim() !== '' && Number.isFinite(Number(bare)) ? Number(bare) : bare;
  if (type === 'list') return bare.trim() === '' ? [] : bare.split(',').map((item) => item.trim());
  return bare;
}
function unquoted(text: string): string {
  try {
    const value: unknown = JSON.parse(text);
    return typeof value === 'string' ? value : text;
  } catch {
    return text;
  }
}
/** A text that a section file would read otherwise stands in quotes. */
const quoted = (text: string): string =>
  /^[A-Za-z0-9][A-Za-z0-9 .:_%,-]*$/.test(text) && text === text.trim() ? text : JSON.stringify(text);

/** A profile as a section file: a section for each subject, a line for each setting. */
export function profileAsIni(profile: Profile): string {
  const ordered = orderedProfile(profile);
  const lines: string[] = [];
  let section = '';
  for (const [key, value] of Object.entries(ordered)) {
    const at = key.indexOf('.');
    const [subject, name] = at < 0 ? ['', key] : [key.slice(0, at), key.slice(at + 1)];
    if (subject !== section) lines.push(...(lines.length > 0 ? [''] : []), `[${subject}]`);
    section = subject;
    lines.push(
      `${name} = ${Array.isArray(value) ? value.map(String).join(', ') : typeof value === 'string' ? quoted(value) : String(value)}`,
    );
  }
  return `${lines.join('\n')}\n`;
}

/** The lines of a section file that make no sense, with their number, and its values. */
export function profileFromIni(text: string): { profile: Profile; wrong: { line: number; text: string }[] } {
  const profile: Profile = {};
  const wrong: { line: number; text: string }[] = [];
  let section = '';
  text.split(/\r?\n/).forEach((raw, i) => {
    const line = raw.trim();
    if (line === '' || line.startsWith('#') || line.startsWith(';')) return;
    const head = /^\[([A-Za-z0-9_-]*)\]$/.exec(line);
    if (head) {
      section = head[1] ?? '';
      return;
    }
    const at = line.indexOf('=');
    if (at < 1) {
      wrong.push({ line: i + 1, text: line.slice(0, 60) });
      return;
    }
    const name = line.slice(0, at).trim();
    const key = section ? `${section}.${name}` : name;
    profile[key] = typed(key, line.slice(at + 1).trim());
  });
  return { profile, wrong };
}

/** A profile nested by subject, as documents hold it. */
export function nestedProfile(profile: Profile): Record<string, unknown> {
  const nested: Record<string, unknown> = {};
  for (const [key, value] of Object.entries(orderedProfile(profile))) {
    const at = key.indexOf('.');
    const subject = at < 0 ? '' : key.slice(0, at);
    if (!subject) nested[key] = value;
    else {
      const inner = (Object.hasOwn(nested, subject) ? nested[subject] : {}) as Record<string, unknown>;
      Object.defineProperty(inner, key.slice(at + 1), { value, enumerable: true, configurable: true, writable: true });
      Object.defineProperty(nested, subject, { value: inner, enumerable: true, configurable: true, writable: true });
    }
  }
  return nested;
}

/** The values of a nested or flat document; anything deeper is no profile. */
export function flatProfile(content: unknown): { profile: Profile; faults: ProfileFault[] } {
  const profile: Profile = {};
  const faults: ProfileFault[] = [];
  const isValue = (value: unknown): value is SettingValue =>
    ['string', 'number', 'boolean'].includes(typeof value) || (Array.isArray(value) && value.every((item) => typeof item === 'string'));
  if (content === null || typeof content !== 'object' || Array.isArray(content))
    return { profile, faults: [{ key: '', problem: 'is not an object of settings' }] };
  for (const [key, value] of Object.entries(content)) {
    if (isValue(value)) profile[key] = value;
    else if (value !== null && typeof value === 'object' && !Array.isArray(value))
      for (const [name, inner] of Object.entries(value as object)) {
        if (isValue(inner)) profile[`${key}.${name}`] = inner;
        else faults.push({ key: `${key}.${name}`, problem: 'is no value of a setting' });
      }
    else faults.push({ key, problem: 'is no value of a setting' });
  }
  return { profile, faults };
}

/** Parts a profile into what is known and right, what nobody knows, and what is wrong. */
export function checkedProfile(profile: Profile): ReadProfile {
  const read: ReadProfile = { values: {}, unknown: {}, faults: [] };
  for (const [key, value] of Object.entries(profile)) {
    if (!definitionOf(key)) read.unknown[key] = value;
    else {
      const fault = faultOfValue(key, value);
      if (fault) read.faults.push({ key, problem: fault });
      else read.values[key as SettingKey] = value;
    }
  }
  return read;
}

/** A JSON Schema of profiles [JSON Schema 2020-12]. */
export function profileSchema(): object {
  const propertyOf = (key: SettingKey): object => {
    const definition = definitionOf(key);
    const words = { title: definition?.label, description: definition?.does };
    switch (definition?.type) {
      case 'switch':
        return { ...words, type: 'boolean' };
      case 'choice':
        return { ...words, enum: definition.options };
      case 'number':
        return { ...words, type: 'number', minimum: definition.min, maximum: definition.max };
      case 'list':
        return { ...words, type: 'array', items: { type: 'string', pattern: `^-?(${definition.options.join('|')})$` } };
      default:
        return { ...words, type: 'string', maxLength: 120 };
    }
  };
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Profile of settings',
    description: 'The settings in force for somebody at an endpoint. Other keys are kept.',
    type: 'object',
    properties: Object.fromEntries(
      settingSubjects.map((subject) => [
        subject,
        {
          type: 'object',
          properties: Object.fromEntries(
            settingKeys.filter((key) => key.startsWith(`${subject}.`)).map((key) => [key.slice(subject.length + 1), propertyOf(key)]),
          ),
        },
      ]),
    ),
  };
}

/** One setting that two profiles have otherwise; undefined where one has none. */
export interface ProfileDifference {
  key: string;
  a: SettingValue | undefined;
  b: SettingValue | undefined;
}
/** Two profiles, setting by setting: only what differs. */
export function profileDifferences(a: Profile, b: Profile): ProfileDifference[] {
  const keys = Object.keys(orderedProfile({ ...a, ...b }));
  const text = (value: SettingValue | undefined) => (Array.isArray(value) ? [...value].sort().join() : value);
  return keys.filter((key) => text(a[key]) !== text(b[key])).map((key) => ({ key, a: a[key], b: b[key] }));
}
