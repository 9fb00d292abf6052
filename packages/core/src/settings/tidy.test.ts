import { describe, expect, test } from '@jest/globals';
import type { Layer, Setting, SettingValue } from '@underpass/contracts';
import fc from 'fast-check';
import { findingNeedless, indexSettings, needlessEntries, resolveOne, settingKeys, type SettingKey, type SettingSubject } from './index.js';
import { subject } from '../../test/subject.js';

const at = (id: string, layer: Layer, target: string, value: SettingValue, more: Partial<Setting> = {}): Setting => ({
  id,
  key: 'picture.frameCap',
  layer,
  target,
  value,
  locked: false,
  ...more,
});
const other: SettingSubject = { ...subject, person: 'p2', endpoint: 'e2', location: 'dock', groups: ['staff'] };
const needless = (...entries: Setting[]) => needlessEntries(entries, [subject, other]).map(({ entry, because }) => [entry.id, because]);

describe('entries that may go', () => {
  test('what is for nobody, what never holds, what is always hidden, what holds anyhow', () => {
    expect(needless(at('a', 'location', 'nowhere', 20))).toEqual([['a', 'for nobody']]);
    expect(needless(at('a', 'organisation', '*', 20, { condition: { guest: true } }))).toEqual([['a', 'its condition never holds']]);
    expect(needless(at('a', 'organisation', '*', 20, { locked: true }), at('b', 'person', 'p1', 60))).toEqual([['b', 'always hidden']]);
    expect(needless(at('a', 'organisation', '*', 20), at('b', 'location', 'hall', 20))).toEqual([['b', 'says what holds anyhow']]);
    // the default is what holds where nobody says anything
    expect(needless(at('a', 'organisation', '*', 30))).toEqual([['a', 'says what holds anyhow']]);
  });
  test('what decides for one alone stays', () => {
    expect(needless(at('a', 'organisation', '*', 20), at('b', 'location', 'hall', 25))).toEqual([]);
    // said at both places it has, it need not be said farther out
    expect(needless(at('a', 'organisation', '*', 20), at('b', 'location', 'hall', 25), at('c', 'location', 'dock', 20))).toEqual([
      ['c', 'says what holds anyhow'],
    ]);
  });
  test('lists are the same in whatever order, and another where an item is another', () => {
    const list = (id: string, layer: Layer, target: string, value: string[]) => ({
      ...at(id, layer, target, value),
      key: 'redirection.devices',
    });
    // headset and camera are there anyhow, in this order
    expect(needless(list('a', 'organisation', '*', ['-headset', 'headset']))).toEqual([['a', 'says what holds anyhow']]);
    expect(needless(list('a', 'organisation', '*', ['-headset', 'scanner']))).toEqual([]);
    expect(needless(list('a', 'organisation', '*', ['scanner']), list('b', 'person', 'p1', ['scanner']))).toEqual([['b', 'always hidden']]);
  });
  test('what is told is in the order of their ids, and of two that say the same the nearer goes, then the one whose id comes first', () => {
    expect(needless(at('z', 'location', 'nowhere', 20), at('m', 'location', 'nowhere', 25), at('a', 'group', 'nobody', 20))).toEqual([
      ['a', 'for nobody'],
      ['m', 'for nobody'],
      ['z', 'for nobody'],
    ]);
    expect(needless(at('b', 'organisation', '*', 20), at('a', 'organisation', '*', 20))).toEqual([['a', 'says what holds anyhow']]);
    expect(needless(at('a', 'organisation', '*', 20), at('b', 'organisation', '*', 20))).toEqual([['a', 'says what holds anyhow']]);
  });
  test('what decides for one of several for whom it is, is told as such', () => {
    // for the first it is hidden by the lock, for the second it repeats the default
    expect(
      needless(at('a', 'location', 'hall', 30, { locked: true, condition: { guest: false } }), at('b', 'group', 'staff', 30)).map(
        ([id]) => id,
      ),
    ).toEqual(['a', 'b']);
  });
  test('while it looks, whoever else waits is let through: with each entry, and with each five hundred people', () => {
    const steps = (people: number, entries: Setting[]) => {
      const work = findingNeedless(
        entries,
        Array.from({ length: people }, () => subject),
      );
      for (let n = 0; ; n++) if (work.next().done) return n;
    };
    const one = [at('a', 'organisation', '*', 20)];
    expect([steps(1, one), steps(500, one), steps(501, one), steps(1001, one)]).toEqual([2, 2, 3, 4]);
    // both are looked at, the farther one goes, and the other is looked at once more
    expect(steps(1, [...one, at('b', 'person', 'p1', 25)])).toBe(4);
  });
  test('an entry of a setting that is not known is let be', () =>
    expect(needless({ ...at('a', 'organisation', '*', 1), key: 'picture.later' })).toEqual([]));

  test('without all of them nobody’s value is another, and of what is left none can go', () => {
    const people = [subject, other, { ...other, ownership: 'personal' as const, guest: true }];
    const entry = fc.record({
      layer: fc.constantFrom<[Layer, string]>(
        ['organisation', '*'],
        ['location', 'hall'],
        ['location', 'dock'],
        ['group', 'staff'],
        ['person', 'p1'],
        ['endpoint', 'e2'],
      ),
      value: fc.constantFrom(20, 30, 60),
      locked: fc.boolean(),
      condition: fc.option(fc.constantFrom({ guest: true }, { ownership: 'managed' as const }), { nil: undefined }),
    });
    fc.assert(
      fc.property(fc.array(entry, { maxLength: 7 }), (list) => {
        const entries = list.map(({ layer: [layer, target], value, locked, condition }, i) =>
          at(`s${i}`, layer, target, value, { locked, ...(condition ? { condition } : {}) }),
        );
        const gone = new Set(needlessEntries(entries, people).map(({ entry: each }) => each.id));
        const kept = entries.filter(({ id }) => !gone.has(id));
        const values = (some: Setting[]) => people.map((each) => resolveOne(indexSettings(some), 'picture.frameCap', each));
        expect(values(kept)).toEqual(values(entries));
        for (const each of kept) expect(values(kept.filter((one) => one !== each))).not.toEqual(values(entries));
      }),
    );
    expect(settingKeys).toContain('picture.frameCap' satisfies SettingKey);
  });
});
