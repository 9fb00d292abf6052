import type { Layer, Setting, SettingValue } from '@underpass/contracts';
import { catalogue, settingKeys, type SettingDefinition, type SettingKey, type SettingValues } from './catalogue/index.js';
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

/** Entries of any setting that are for a subject, whether their condition holds or not; those of the farthest layer first. */
export const entriesFor = (index: SettingIndex, subject: SettingSubject): Setting[] => placesOf(index, subject).flat();

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

/** A list with more laid over it: items that are there once, and a name with a dash that takes one away. The list itself is not changed. */
function added(list: readonly string[], more: readonly string[]): string[] {
  let value = [...list];
  for (const item of more) {
    if (item.startsWith('-')) value = value.filter((known) => known !== item.slice(1));
    else if (!value.includes(item)) value.push(item);
  }
  return value;
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
  let lock: Candidate | null = null;
  for (const candidate of candidates) {
    const { entry, near } = candidate;
    if (lock && near > lock.near) {
      explain?.hidden.push({ entry, because: 'a layer above is locked' });
      continue;
    }
    if (definition.merge === 'add') {
      const before = (value as readonly string[]).join();
      value = added(value as readonly string[], entry.value as readonly string[]);
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

/**
 * Every setting at its default. Read back from text, and copied as a whole from here on: an object that grew key by key is looked up in as in a table,
 * which every figure of every crossing would pay for.
 */
const defaults = JSON.parse(JSON.stringify(Object.fromEntries(settingKeys.map((key) => [key, catalogue[key].default])))) as SettingValues;

/** The value in force of one setting. */
export const resolveOne = (index: SettingIndex, key: SettingKey, subject: SettingSubject): SettingValue =>
  resolve(catalogue[key], entriesOf(index, key, subject), subject, null);

/** An entry made ready to be laid over what farther layers said. */
interface Ready {
  entry: Setting;
  /** Place of its setting in the catalogue. */
  at: number;
  definition: SettingDefinition;
}
const placeInCatalogue = new Map<string, number>(settingKeys.map((key, i) => [key, i]));
const ready = new WeakMap<readonly Setting[], readonly Ready[]>();
/** The entries of one place in the order in which they count, made ready once for all they are for; settings that are not known are passed over. */
function readied(entries: readonly Setting[]): readonly Ready[] {
  let known = ready.get(entries);
  if (!known) {
    known = [...entries]
      .sort((a, b) => order({ entry: a, near: 0 }, { entry: b, near: 0 }))
      .flatMap((entry) => {
        const at = placeInCatalogue.get(entry.key);
        return at === undefined ? [] : [{ entry, at, definition: catalogue[entry.key as SettingKey] as SettingDefinition }];
      });
    ready.set(entries, known);
  }
  return known;
}

/** Used by one resolution after the other, since none waits for anything in between: at which layer each setting is locked, and whether any layer set it. */
const lockedAt = new Int32Array(settingKeys.length);
const isSet = new Uint8Array(settingKeys.length);

/** The values in force for a subject: the same as each resolved by itself, in one go over the layers from the farthest to the nearest. */
export function resolveSettings(index: SettingIndex, subject: SettingSubject): SettingValues {
  const values = { ...defaults } as unknown as Record<string, SettingValue>;
  lockedAt.fill(-1);
  isSet.fill(0);
  placesOf(index, subject).forEach((entries, near) => {
    for (const { entry, at, definition } of readied(entries)) {
      const lock = lockedAt[at] as number;
      // a lock stops nearer layers, not others of its own
      if ((lock >= 0 && near > lock) || (entry.condition && !conditionHolds(entry, subject))) continue;
      const { key, value } = entry;
      if (definition.merge === 'add') values[key] = added(values[key] as readonly string[], value as readonly string[]);
      else if (definition.merge === 'nearest' || isSet[at] === 0 || stricter(definition, value, values[key] as SettingValue))
        values[key] = value;
      isSet[at] = 1;
      if (entry.locked && lock < 0) lockedAt[at] = near;
    }
  });
  return values as unknown as SettingValues;
}

/** "Why this value": the deciding layer, the rule, and everything hidden. */
export function explainSetting(index: SettingIndex, key: SettingKey, subject: SettingSubject): Explanation {
  const explanation: Explanation = { key, value: '', deciding: null, rule: catalogue[key].merge, lockedBy: null, hidden: [] };
  resolve(catalogue[key], entriesOf(index, key, subject), subject, explanation);
  return explanation;
}
