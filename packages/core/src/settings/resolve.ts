import type { Layer, Setting, SettingValue } from '@underpass/contracts';
import { catalogue, definitionOf, settingKeys, type SettingDefinition, type SettingKey, type SettingValues } from './catalogue/index.js';
import { conditionHolds, nearness, type SettingSubject } from './subject.js';
import { compareVersions } from './version.js';

/** Entries by the place they stand at: a layer and its target. */
export type SettingIndex = ReadonlyMap<string, readonly Setting[]>;

/** A layer and its target as one key. @example ("location", "hall") is "location/hall" */
export const settingPlace = (layer: Layer, target: string): string => `${layer}/${target}`;

/** Entries by the place they stand at. */
export function indexSettings(entries: Iterable<Setting>): Map<string, Setting[]> {
  const index = new Map<string, Setting[]>();
  for (const entry of entries) {
    const place = settingPlace(entry.layer, entry.target);
    const known = index.get(place);
    if (known) known.push(entry);
    else index.set(place, [entry]);
  }
  return index;
}

/** The lists of entries that are for a subject, farthest layer first. */
function placesOf(index: SettingIndex, subject: SettingSubject): (readonly Setting[])[] {
  const found: (readonly Setting[])[] = [];
  const look = (layer: Layer, target: string) => {
    const entries = index.get(settingPlace(layer, target));
    if (entries) found.push(entries);
  };
  look('organisation', '*');
  look('device class', subject.deviceClass);
  look('location', subject.location);
  for (const group of subject.groups) look('group', group);
  look('person', subject.person);
  look('endpoint', subject.endpoint);
  return found;
}

/** Entries of one setting that are for a subject. */
const entriesOf = (index: SettingIndex, key: string, subject: SettingSubject): Setting[] =>
  placesOf(index, subject).flatMap((entries) => entries.filter((entry) => entry.key === key));

/** Why an entry does not decide. */
export type HiddenBecause =
  | 'a nearer layer is set'
  | 'a layer above is locked'
  | 'a stricter value counts'
  | 'its condition does not hold'
  | 'the value is not valid';
/** Why a setting has its value: the entry that decides and those it hides. */
export interface Explanation {
  key: string;
  value: SettingValue;
  /** The entry that decides; null where it is the default. */
  deciding: Setting | null;
  rule: SettingDefinition['merge'];
  lockedBy: Setting | null;
  hidden: { entry: Setting; because: HiddenBecause }[];
}

interface Candidate {
  entry: Setting;
  near: number;
}

/** Farthest first. Order of input is irrelevant: ties go to the entry with more conditions, then by id. */
function order(a: Candidate, b: Candidate): number {
  if (a.near !== b.near) return a.near - b.near;
  const conditions = (c: Candidate) => (c.entry.condition ? Object.keys(c.entry.condition).length : 0);
  return conditions(a) - conditions(b) || (a.entry.id < b.entry.id ? 1 : a.entry.id > b.entry.id ? -1 : 0);
}

/** Whether a ceiling is lower than another; 0 is none. */
const below = (a: string, b: string): boolean => a !== '0' && (b === '0' || compareVersions(a, b) < 0);

/** How strict a value is by the setting's own order of safety. */
function stricter(definition: SettingDefinition, a: SettingValue, b: SettingValue): boolean {
  switch (definition.type) {
    case 'switch':
      return a !== b && a === (definition.safer ?? true);
    case 'choice':
      return definition.options.indexOf(a as string) > definition.options.indexOf(b as string);
    case 'version':
      return definition.ceiling ? below(a as string, b as string) : compareVersions(a as string, b as string) > 0;
    case 'number':
      return (a as number) < (b as number);
    case 'text':
    case 'list':
      return false;
  }
}

/**
 * Resolves one setting: the six layers, conditions, three merge rules and locks. Pure and deterministic. `explain` collects
 * what was hidden and why; without it nothing is collected, which is the fast way.
 */
function resolve(
  definition: SettingDefinition,
  entries: readonly Setting[],
  subject: SettingSubject,
  explain: Explanation | null,
): SettingValue {
  const candidates: Candidate[] = [];
  for (const entry of entries) {
    const near = nearness(entry, subject);
    if (near < 0) continue;
    if (conditionHolds(entry, subject)) candidates.push({ entry, near });
    else explain?.hidden.push({ entry, because: 'its condition does not hold' });
  }
  if (candidates.length > 1) candidates.sort(order);
  let value: SettingValue = definition.default as SettingValue;
  let deciding: Setting | null = null;
  if (definition.merge === 'add') value = [...(value as readonly string[])];
  let lock: Candidate | null = null;
  for (const candidate of candidates) {
    const { entry, near } = candidate;
    if (lock && near > lock.near) {
      explain?.hidden.push({ entry, because: 'a layer above is locked' });
      continue;
    }
    if (definition.merge === 'add') {
      const before = [...(value as readonly string[])].join();
      for (const item of entry.value as string[]) {
        const list = value as string[];
        if (item.startsWith('-')) value = list.filter((known) => known !== item.slice(1));
        else if (!list.includes(item)) list.push(item);
      }
      // what changes nothing decides nothing
      if ((value as readonly string[]).join() !== before) deciding = entry;
    } else if (definition.merge === 'strictest') {
      // what nobody set is no rule that could be stricter
      if (deciding === null || stricter(definition, entry.value, value)) {
        if (deciding) explain?.hidden.push({ entry: deciding, because: 'a stricter value counts' });
        value = entry.value;
        deciding = entry;
      } else explain?.hidden.push({ entry, because: 'a stricter value counts' });
    } else {
      if (deciding) explain?.hidden.push({ entry: deciding, because: 'a nearer layer is set' });
      value = entry.value;
      deciding = entry;
    }
    if (entry.locked && !lock) lock = candidate;
  }
  if (explain) Object.assign(explain, { value, deciding, lockedBy: lock?.entry ?? null });
  return value;
}

/** Made by one assignment after the other, so that every copy has the same shape. */
function copyOf(values: SettingValues): SettingValues {
  const copy: Record<string, unknown> = {};
  for (const key of settingKeys) copy[key] = values[key];
  return copy as unknown as SettingValues;
}
const defaults = copyOf(Object.fromEntries(settingKeys.map((key) => [key, catalogue[key].default])) as unknown as SettingValues);

/** The value in force of one setting. */
export const resolveOne = (index: SettingIndex, key: SettingKey, subject: SettingSubject): SettingValue =>
  resolve(catalogue[key], entriesOf(index, key, subject), subject, null);

/** The values in force for a subject. */
export function resolveSettings(index: SettingIndex, subject: SettingSubject): SettingValues {
  const values = copyOf(defaults) as unknown as Record<string, SettingValue>;
  const byKey = new Map<string, Setting[]>();
  for (const entries of placesOf(index, subject))
    for (const entry of entries) {
      const known = byKey.get(entry.key);
      if (known) known.push(entry);
      else byKey.set(entry.key, [entry]);
    }
  for (const [key, entries] of byKey) {
    const definition = definitionOf(key);
    if (definition) values[key] = resolve(definition, entries, subject, null);
  }
  return values as unknown as SettingValues;
}

/** "Why this value": the deciding layer, the rule, and everything hidden. */
export function explainSetting(index: SettingIndex, key: SettingKey, subject: SettingSubject): Explanation {
  const explanation: Explanation = { key, value: '', deciding: null, rule: catalogue[key].merge, lockedBy: null, hidden: [] };
  resolve(catalogue[key], entriesOf(index, key, subject), subject, explanation);
  return explanation;
}
