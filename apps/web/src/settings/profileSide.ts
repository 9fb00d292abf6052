import type { Change, SettingsOf, SettingValue } from '@underpass/contracts';
import { definitionOf, indexSettings, profileDifferences, resolveSettings, type Profile, type SettingKey } from '@underpass/core';
import { entriesAfter } from './strata.js';

/** Whose settings a side can show. */
export const sideKinds = ['endpoint', 'person', 'location'] as const;
export type SideKind = (typeof sideKinds)[number];
/** Somebody or somewhere, as it stands in the address. */
export interface Whose {
  kind: SideKind;
  id: string;
}

/** Reads a side from the address; null where it names none. @example "person/P001" */
export function whoseOf(text: string | null): Whose | null {
  const at = text?.indexOf('/') ?? -1;
  const kind = sideKinds.find((each) => each === text?.slice(0, at));
  return text && kind && text.length > at + 1 ? { kind, id: text.slice(at + 1) } : null;
}

/** What one side comes to. */
export interface SideProfile {
  name: string;
  profile: Profile;
  /** Where it is of somebody or somewhere as they are now: what can be made as the other side. */
  now: { whose: Whose; of: SettingsOf } | null;
  /** A file says what it names, and nothing of the rest. */
  partial: boolean;
}

/** What differs, and how many settings one side alone names because the other is a file that says nothing of them. */
export function differencesOf(a: SideProfile, b: SideProfile): { rows: ReturnType<typeof profileDifferences>; unnamed: number } {
  const all = profileDifferences(a.profile, b.profile);
  const rows = all.filter((row) => !(a.partial && row.a === undefined) && !(b.partial && row.b === undefined));
  return { rows, unnamed: all.length - rows.length };
}

/** The value that an entry must have so that exactly this comes out of it: a list takes away what is not wanted, whatever other layers add. */
function valueFor(key: SettingKey, wanted: SettingValue, now: SettingValue | undefined): SettingValue {
  const definition = definitionOf(key);
  if (definition?.type !== 'list' || !Array.isArray(wanted)) return wanted;
  const others = new Set([...definition.options, ...(Array.isArray(now) ? now : [])]);
  return [...wanted, ...[...others].filter((item) => !wanted.includes(item)).map((item) => `-${item}`)];
}

const alike = (a: SettingValue | undefined, b: SettingValue | undefined): boolean =>
  profileDifferences({ x: a as SettingValue }, { x: b as SettingValue }).length === 0;

/** The steps that make one side as the other, and the settings that stay all the same, since a lock or a stricter layer holds them. */
export function madeAs(first: NonNullable<SideProfile['now']>, other: SideProfile): { change: Change; stays: SettingKey[] } {
  const { whose, of } = first;
  const entries = of.entries.map(({ entry }) => entry);
  const resolved = (list: typeof entries | readonly (typeof entries)[number][]): Profile =>
    resolveSettings(indexSettings(list), of.subject) as unknown as Profile;
  const now = resolved(entries);
  const wanted = Object.entries(other.profile).filter(([key, value]) => definitionOf(key) && !alike(now[key], value)) as [
    SettingKey,
    SettingValue,
  ][];
  const change: Change = {
    patches: wanted.map(([key, value]) => ({
      ...{ do: 'setting', key, layer: whose.kind, target: whose.id },
      value: valueFor(key, value, now[key]),
    })),
    hypotheses: [],
  };
  const after = resolved(entriesAfter(entries, change));
  return { change, stays: wanted.filter(([key, value]) => !alike(after[key], value)).map(([key]) => key) };
}
