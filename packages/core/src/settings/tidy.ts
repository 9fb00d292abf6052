import type { Setting } from '@underpass/contracts';
import { explainSetting, indexSettings, resolveOne } from './resolve.js';
import { definitionOf, type SettingKey } from './catalogue/index.js';
import { conditionHolds, nearness, type SettingSubject } from './subject.js';

/** An entry that may go: nobody's value becomes another without it. */
export interface NeedlessEntry {
  entry: Setting;
  because: 'for nobody' | 'its condition never holds' | 'always hidden' | 'says what holds anyhow';
}

/** Subjects that an entry can tell apart, each once: what they look like to all entries of a key. */
function distinct(subjects: readonly SettingSubject[], entries: readonly Setting[]): SettingSubject[] {
  const seen = new Map<string, SettingSubject>();
  for (const subject of subjects) {
    const key = entries.map((entry) => (conditionHolds(entry, subject) ? nearness(entry, subject) : -1)).join('|');
    if (!seen.has(key)) seen.set(key, subject);
  }
  return [...seen.values()];
}

const same = (a: unknown, b: unknown): boolean =>
  Array.isArray(a) && Array.isArray(b) ? [...a].sort().join() === [...b].sort().join() : a === b;

function why(entry: Setting, subjects: readonly SettingSubject[], index: ReturnType<typeof indexSettings>): NeedlessEntry['because'] {
  const meant = subjects.filter((subject) => nearness(entry, subject) >= 0);
  if (meant.length === 0) return 'for nobody';
  const held = meant.filter((subject) => conditionHolds(entry, subject));
  if (held.length === 0) return 'its condition never holds';
  const decides = held.some((subject) => explainSetting(index, entry.key as SettingKey, subject).deciding?.id === entry.id);
  return decides ? 'says what holds anyhow' : 'always hidden';
}

/**
 * Entries that can all be left out together without anybody's value becoming another: the farthest are kept, so that what remains is said once and
 * far out. Looked for one after the other, so that none of what is left can go as well.
 * @param subjects everybody at every endpoint
 */
export function needlessEntries(entries: readonly Setting[], subjects: readonly SettingSubject[]): NeedlessEntry[] {
  const byKey = new Map<string, Setting[]>();
  for (const entry of entries) if (definitionOf(entry.key)) byKey.set(entry.key, [...(byKey.get(entry.key) ?? []), entry]);
  const found: NeedlessEntry[] = [];
  for (const [key, list] of byKey) {
    const people = distinct(subjects, list);
    const all = indexSettings(list);
    const wanted = people.map((subject) => resolveOne(all, key as SettingKey, subject));
    let kept = list;
    // the nearest first: what is said nearer only repeats what is said farther out
    const nearFirst = [...list].sort((a, b) => rank(b) - rank(a) || (a.id < b.id ? -1 : 1));
    // what one alone could not be left out for may go once another is gone
    for (let went = true; went;) {
      went = false;
      for (const entry of nearFirst) {
        if (!kept.includes(entry)) continue;
        const without = kept.filter((each) => each !== entry);
        const index = indexSettings(without);
        if (!people.every((subject, i) => same(resolveOne(index, key as SettingKey, subject), wanted[i]))) continue;
        kept = without;
        went = true;
        found.push({ entry, because: why(entry, people, all) });
      }
    }
  }
  return found.sort((a, b) => (a.entry.id < b.entry.id ? -1 : 1));
}

const layers: readonly Setting['layer'][] = ['organisation', 'device class', 'location', 'group', 'person', 'endpoint'];
const rank = ({ layer }: Setting): number => layers.indexOf(layer);
