import { describe, expect, test } from '@jest/globals';
import type { Layer, Setting, SettingValue } from '@underpass/contracts';
import fc from 'fast-check';
import {
  catalogue,
  compareVersions,
  conditionHolds,
  definitionOf,
  explainSetting,
  faultOfSetting,
  faultOfValue,
  indexSettings,
  layerOrder,
  nearness,
  resolveOne,
  resolveSettings,
  settingKeys,
  settingSubjects,
  subjectOfSetting,
  type SettingKey,
} from '../index.js';
import { subject } from '../../../test/subject.js';

const at = (key: SettingKey, layer: Layer, target: string, value: SettingValue, more: Partial<Setting> = {}): Setting => ({
  id: `${layer} ${target}`,
  key,
  layer,
  target,
  value,
  locked: false,
  ...more,
});

describe('the catalogue', () => {
  test('says of every setting what it is, what it does, where its default comes from, and what it may be', () => {
    expect(settingKeys.length).toBeGreaterThanOrEqual(70);
    for (const key of settingKeys) {
      const definition = definitionOf(key);
      if (!definition) throw new Error(key);
      expect(settingSubjects).toContain(subjectOfSetting(key));
      expect(key.startsWith(`${subjectOfSetting(key)}.`)).toBe(true);
      for (const text of [definition.label, definition.does, definition.source]) expect(text.length).toBeGreaterThan(2);
      expect(['nearest', 'strictest', 'add']).toContain(definition.merge);
      expect(definition.type === 'list').toBe(definition.merge === 'add');
      if (definition.type === 'number') {
        expect(definition.unit.length).toBeGreaterThan(0);
        expect(definition.min).toBeLessThan(definition.max);
        for (const step of definition.steps ?? []) expect(faultOfValue(key, step)).toBeNull();
        for (const out of [definition.min - 0.01, definition.max + 0.01]) expect(faultOfValue(key, out)).not.toBeNull();
        for (const end of [definition.min, definition.max]) expect(faultOfValue(key, end)).toBeNull();
      }
      if (definition.type === 'choice' || definition.type === 'list') {
        expect(definition.options.length).toBeGreaterThan(1);
        expect(new Set(definition.options).size).toBe(definition.options.length);
        for (const option of definition.options) expect(option).not.toBe('');
      }
    }
    expect(definitionOf('picture.nothing')).toBeUndefined();
  });

  test('what is wrong with a value, by its type', () => {
    const of = (type: string) => settingKeys.find((key) => catalogue[key].type === type) as SettingKey;
    expect([faultOfValue(of('switch'), true), faultOfValue(of('switch'), 'yes')]).toEqual([null, 'must be true or false']);
    expect([faultOfValue('picture.codec', 'h264'), faultOfValue('picture.codec', 'mpeg'), faultOfValue('picture.codec', 2)]).toEqual([
      null,
      'must be one of bitmap, progressive, h264, hevc, av1',
      'must be one of bitmap, progressive, h264, hevc, av1',
    ]);
    expect([faultOfValue('picture.frameCap', '30'), faultOfValue('picture.frameCap', 30)]).toEqual(['must be 5 to 120 a second', null]);
    const version = of('version');
    for (const good of ['4', '4.12', '3.4_118', '1.2a']) expect(faultOfValue(version, good)).toBeNull();
    for (const wrong of ['v4', '4.', '4..1', '4.1ab', '', true])
      expect(faultOfValue(version, wrong)).toBe('must be a version such as 4.12');
    expect(faultOfValue(version, 4.1)).toBe("must stand in quotes: '4.1'");
    const list = 'redirection.devices';
    expect([faultOfValue(list, ['headset', '-camera']), faultOfValue(list, [])]).toEqual([null, null]);
    for (const wrong of [['headset', 'spoon'], 'headset', ['--camera']])
      expect(faultOfValue(list, wrong)).toMatch(/^must be a list of headset, .*each with - in front to remove it$/);
  });

  test('a file is told at the key where that is unknown, else at the value; other kinds are not looked at', () => {
    expect(faultOfSetting('person', { key: 'picture.nothing', value: 1 })).toBeNull();
    expect(faultOfSetting('setting', { key: 'picture.frameCap', value: 30 })).toBeNull();
    expect(faultOfSetting('setting', { key: 'picture.frameCap', value: 1 })).toEqual({
      field: 'value',
      problem: 'picture.frameCap: must be 5 to 120 a second',
      expected: 'a value for “Frame rate”',
    });
    expect(faultOfSetting('setting', { key: 'picture.nothing', value: 1 })).toEqual({
      field: 'key',
      problem: 'picture.nothing: no setting is called picture.nothing',
      expected: 'a key of the settings’ catalogue',
    });
  });
});

describe('who an entry is for', () => {
  const ladder: [Layer, string, string][] = [
    ['organisation', '*', '*'],
    ['device class', 'laptop', 'kiosk'],
    ['location', 'hall', 'dock'],
    ['group', 'staff', 'others'],
    ['group', 'planners', 'others'],
    ['person', 'p1', 'p2'],
    ['endpoint', 'e1', 'e2'],
  ];

  test('each layer is nearer than the one before, a later group nearer than an earlier one, a person nearer than any group', () => {
    const near = ladder.map(([layer, target]) => nearness(at('picture.frameCap', layer, target, 20), subject));
    expect([...near].sort((a, b) => a - b)).toEqual(near);
    expect(new Set(near).size).toBe(near.length);
    // the layer itself, with the rank of a group between its layer and the next
    expect(near).toEqual([0, 1, 2, 3, 3 + 1 / 3, 4, 5]);
    expect(Object.values(layerOrder)).toEqual([0, 1, 2, 3, 4, 5]);
    for (const [layer, , other] of ladder.slice(1)) expect(nearness(at('picture.frameCap', layer, other, 20), subject)).toBe(-1);
  });

  test('each layer in turn decides over all before it, whichever way a setting is asked for', () => {
    ladder.forEach((_, i) => {
      const list = ladder.slice(0, i + 1).map(([layer, target], n) => at('picture.frameCap', layer, target, 20 + n));
      const index = indexSettings(list);
      expect(resolveOne(index, 'picture.frameCap', subject)).toBe(20 + i);
      expect(resolveSettings(index, subject)['picture.frameCap']).toBe(20 + i);
      expect(explainSetting(index, 'picture.frameCap', subject)).toMatchObject({ value: 20 + i, lockedBy: null, rule: 'nearest' });
    });
  });

  test('a condition holds where all it names is so', () => {
    const entry = (condition: Setting['condition']) => at('picture.frameCap', 'organisation', '*', 20, condition ? { condition } : {});
    expect(conditionHolds(entry(undefined), subject)).toBe(true);
    expect(conditionHolds(entry({ lineKind: 'fibre', metered: false }), subject)).toBe(true);
    expect(conditionHolds(entry({ lineKind: 'fibre', metered: true }), subject)).toBe(false);
    expect(conditionHolds(entry({ lineKind: 'dsl', metered: false }), subject)).toBe(false);
  });

  test('resolving all at once is resolving each; what nobody set is the default, and is nobody’s', () => {
    const list = [
      at('picture.frameCap', 'location', 'hall', 24),
      at('redirection.devices', 'person', 'p1', ['-camera', 'scanner']),
      at('security.tlsMinimum', 'organisation', '*', '1.3'),
      at('picture.codec', 'endpoint', 'e2', 'hevc'),
    ];
    const index = indexSettings(list);
    const all = resolveSettings(index, subject);
    for (const key of settingKeys) expect(all[key]).toEqual(resolveOne(index, key, subject));
    expect(all['picture.codec']).toBe('h264');
    expect(explainSetting(index, 'picture.codec', subject)).toMatchObject({ deciding: null, hidden: [], value: 'h264' });
    // an entry of a setting that this version does not know is passed over
    const unknown = indexSettings([{ ...(list[0] as Setting), key: 'picture.later' }]);
    expect(resolveSettings(unknown, subject)).toEqual(resolveSettings(indexSettings([]), subject));
    // the defaults themselves are never changed by resolving
    expect(resolveSettings(indexSettings([]), subject)['redirection.devices']).toEqual(catalogue['redirection.devices'].default);
  });
});

describe('why a value is in force', () => {
  const why = (key: SettingKey, ...list: Setting[]) => {
    const { value, deciding, lockedBy, hidden } = explainSetting(indexSettings(list), key, subject);
    return {
      value,
      by: deciding?.id ?? null,
      lockedBy: lockedBy?.id ?? null,
      hidden: hidden.map(({ entry, because }) => [entry.id, because]),
    };
  };
  const [strict, loose] = ['1.3', '1.2'];
  const tls = (layer: Layer, target: string, value: string, more: Partial<Setting> = {}) =>
    at('security.tlsMinimum', layer, target, value, more);

  test('of strictest settings the safest value counts, from wherever it comes; what it beats is told', () => {
    expect(why('security.tlsMinimum', tls('organisation', '*', strict), tls('person', 'p1', loose))).toEqual({
      value: strict,
      by: 'organisation *',
      lockedBy: null,
      hidden: [['person p1', 'a stricter value counts']],
    });
    expect(why('security.tlsMinimum', tls('organisation', '*', loose), tls('person', 'p1', strict))).toEqual({
      value: strict,
      by: 'person p1',
      lockedBy: null,
      hidden: [['organisation *', 'a stricter value counts']],
    });
    // of two equally strict ones the farther one stands
    expect(why('security.tlsMinimum', tls('organisation', '*', strict), tls('person', 'p1', strict)).by).toBe('organisation *');
    // the default is no layer: one looser than it counts where nothing else is said
    expect(why('security.certificateTrust', at('security.certificateTrust', 'organisation', '*', 'warn'))).toMatchObject({
      value: 'warn',
      by: 'organisation *',
    });
    expect(definitionOf('security.certificateTrust')?.default).toBe('reject');
  });

  test('a lock holds against every nearer layer and not against its own or a farther one', () => {
    const cap = (layer: Layer, target: string, value: number, more: Partial<Setting> = {}) =>
      at('picture.frameCap', layer, target, value, more);
    expect(
      why('picture.frameCap', cap('organisation', '*', 10), cap('location', 'hall', 20, { locked: true }), cap('endpoint', 'e1', 60)),
    ).toEqual({
      value: 20,
      by: 'location hall',
      lockedBy: 'location hall',
      hidden: [
        ['organisation *', 'a nearer layer is set'],
        ['endpoint e1', 'a layer above is locked'],
      ],
    });
    // two of one layer: the lock of the first does not shut out the second
    expect(
      why('picture.frameCap', cap('location', 'hall', 20, { id: 'b', locked: true }), cap('location', 'hall', 25, { id: 'a' })),
    ).toMatchObject({ value: 25, by: 'a', lockedBy: 'b' });
    // of two locks the farther one is told
    expect(
      why('picture.frameCap', cap('organisation', '*', 10, { locked: true }), cap('location', 'hall', 20, { locked: true })),
    ).toMatchObject({ value: 10, lockedBy: 'organisation *' });
  });

  test('what is left out by its condition is told; what is for somebody else is not', () => {
    expect(
      why(
        'picture.frameCap',
        at('picture.frameCap', 'person', 'p1', 20, { condition: { metered: true } }),
        at('picture.frameCap', 'person', 'p2', 40),
      ),
    ).toEqual({ value: 30, by: null, lockedBy: null, hidden: [['person p1', 'its condition does not hold']] });
  });

  test('of two at one place with as many conditions the id that comes first counts; more conditions count more', () => {
    const cap = (id: string, value: number, condition?: Setting['condition']) =>
      at('picture.frameCap', 'person', 'p1', value, { id, ...(condition ? { condition } : {}) });
    const one = { metered: false };
    const two = { metered: false, inside: true };
    for (const list of [
      [cap('a', 20, two), cap('b', 25, one)],
      [cap('b', 25, one), cap('a', 20, two)],
    ])
      expect(why('picture.frameCap', ...list).value).toBe(20);
    expect(why('picture.frameCap', cap('z', 20, two), cap('b', 25, one)).value).toBe(20);
  });

  test('lists: an item comes in once, and goes by its name with a dash', () => {
    const devices = (layer: Layer, target: string, value: string[]) => at('redirection.devices', layer, target, value);
    const { value, by } = why(
      'redirection.devices',
      devices('organisation', '*', ['headset', 'scanner']),
      devices('person', 'p1', ['scanner', '-headset', 'headset']),
    );
    expect(by).toBe('person p1');
    expect((value as string[]).filter((item) => item === 'scanner')).toHaveLength(1);
    expect((value as string[]).at(-1)).toBe('headset');
  });
});

describe('versions', () => {
  test('missing fields are zero, letters count by the alphabet whatever their case, any separator does', () => {
    expect(compareVersions('1', '1.0.0')).toBe(0);
    expect(compareVersions('1.2B', '1.2a')).toBeGreaterThan(0);
    expect(compareVersions('1.2a', '1.2A')).toBe(0);
    expect(compareVersions('3_4', '3.4')).toBe(0);
    expect(compareVersions('2', '10')).toBeLessThan(0);
    // a letter is less than the next whole field
    expect(compareVersions('1.2z', '1.2.1')).toBeLessThan(0);
  });

  test('as sorting by whole numbers gives it', () => {
    const version = fc.array(fc.nat({ max: 300 }), { minLength: 1, maxLength: 4 });
    fc.assert(
      fc.property(version, version, (a, b) => {
        const oracle = [0, 1, 2, 3].map((i) => (a[i] ?? 0) - (b[i] ?? 0)).find((d) => d !== 0) ?? 0;
        expect(Math.sign(compareVersions(a.join('.'), b.join('_')))).toBe(Math.sign(oracle));
      }),
    );
  });
});
