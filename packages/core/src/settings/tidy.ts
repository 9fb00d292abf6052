import type { Setting } from '@underpass/contracts';
import { entriesFor, explainSetting, indexSettings, resolveOne } from './resolve.js';
import { definitionOf, type SettingKey } from './catalogue/index.js';
import { conditionHolds, layerOrder, type SettingSubject } from './subject.js';

/** An entry that may go: nobody's value becomes another without it. */
export interface NeedlessEntry {
  entry: Setting;
  because: 'for nobody' | 'its condition never holds' | 'always hidden' | 'says what holds anyhow';
}

/** Somebody who stands for all who meet the same entries of a setting. */
interface Sort {
  subject: SettingSubject;
  /** Entries that are for them, with those whose condition does not hold. */
  meets: readonly Setting[];
  wanted: unknown;
}

/** After so many people whoever else waits is let through. */
const peopleAtOnce = 500;

/** Sorts of people that the entries of a setting tell apart, each once. */
function* sortsOf(subjects: readonly SettingSubject[], index: ReturnType<typeof indexSettings>, key: SettingKey): Generator<void, Sort[]> {
  const seen = new Map<string, Sort>();
  for (const [i, subject] of subjects.entries()) {
    const meets = entriesFor(index, subject);
    const text = meets.map((entry) => `${entry.id}${conditionHolds(entry, subject) ? '' : '-'}`).join('|');
    if (!seen.has(text)) seen.set(text, { subject, meets, wanted: resolveOne(index, key, subject) });
    if (i % peopleAtOnce === 0) yield;
  }
  return [...seen.values()];
}

const same = (a: unknown, b: unknown): boolean =>
  Array.isArray(a) && Array.isArray(b) ? a.map(String).sort().join() === b.map(String).sort().join() : a === b;

function why(entry: Setting, sorts: readonly Sort[], index: ReturnType<typeof indexSettings>): NeedlessEntry['because'] {
  const meant = sorts.filter(({ meets }) => meets.includes(entry));
  if (meant.length === 0) return 'for nobody';
  const held = meant.filter(({ subject }) => conditionHolds(entry, subject));
  if (held.length === 0) return 'its condition never holds';
  const decides = held.some(({ subject }) => explainSetting(index, entry.key as SettingKey, subject).deciding?.id === entry.id);
  return decides ? 'says what holds anyhow' : 'always hidden';
}

/** The needless entries of one setting. */
function* needlessOf(key: SettingKey, list: readonly Setting[], subjects: readonly SettingSubject[]): Generator<void, NeedlessEntry[]> {
  const found: NeedlessEntry[] = [];
  const all = indexSettings(list);
  const sorts = yield* sortsOf(subjects, all, key);
  let kept = list;
  // the nearest first: what is said nearer only repeats what is said farther out
  const nearFirst = [...list].sort((a, b) => layerOrder[b.layer] - layerOrder[a.layer] || (a.id < b.id ? -1 : 1));
  // what one alone could not be left out for may go once another is gone
  for (let went = true; went;) {
    went = false;
    for (const entry of nearFirst) {
      if (!kept.includes(entry)) continue;
      yield;
      const without = kept.filter((each) => each !== entry);
      const index = indexSettings(without);
      // whoever does not meet it has the same without it
      if (!sorts.every(({ subject, meets, wanted }) => !meets.includes(entry) || same(resolveOne(index, key, subject), wanted))) continue;
      kept = without;
      went = true;
      found.push({ entry, because: why(entry, sorts, all) });
    }
  }
  return found;
}

/** The same as `needlessEntries`, standing back in between for whoever else waits. */
export function* findingNeedless(entries: readonly Setting[], subjects: readonly SettingSubject[]): Generator<void, NeedlessEntry[]> {
  const byKey = new Map<string, Setting[]>();
  for (const entry of entries) {
    const list = byKey.get(entry.key);
    if (list) list.push(entry);
    else if (definitionOf(entry.key)) byKey.set(entry.key, [entry]);
  }
  const found: NeedlessEntry[] = [];
  for (const [key, list] of byKey) found.push(...(yield* needlessOf(key as SettingKey, list, subjects)));
  return found.sort((a, b) => (a.entry.id < b.entry.id ? -1 : 1));
}

/**
 * Entries that can all be left out together without anybody's value becoming another: the farthest are kept, so that what remains is said once and
 * far out. Looked for one after the other, until none of what is left can go as well.
 * @param subjects everybody at every endpoint
 */
export function needlessEntries(entries: readonly Setting[], subjects: readonly SettingSubject[]): NeedlessEntry[] {
  const work = findingNeedless(entries, subjects);
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}
