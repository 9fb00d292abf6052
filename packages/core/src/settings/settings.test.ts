import { describe, expect, test } from '@jest/globals';
import { readFolder, type Layer, type Setting, type SettingValue } from '@underpass/contracts';
import fc from 'fast-check';
import {
  catalogue,
  compareVersions,
  explainSetting,
  faultOfSetting,
  faultOfValue,
  indexSettings,
  layerOrder,
  resolveOne,
  resolveSettings,
  settingKeys,
  type SettingDefinition,
  type SettingKey,
  type SettingSubject,
} from './index.js';
import { subject } from '../../test/subject.js';

const targets: Record<Layer, string[]> = {
  organisation: ['*'],
  'device class': ['laptop', 'kiosk'],
  location: ['hall', 'dock'],
  group: ['staff', 'planners', 'others'],
  person: ['p1', 'p2'],
  endpoint: ['e1', 'e2'],
};

const valueOf = (key: SettingKey): fc.Arbitrary<SettingValue> => {
  const definition = catalogue[key];
  switch (definition.type) {
    case 'switch':
      return fc.boolean();
    case 'choice':
      return fc.constantFrom(...definition.options);
    case 'number':
      return fc.integer({ min: Math.ceil(definition.min), max: Math.floor(definition.max) });
    case 'text':
      return fc.constantFrom('', 'sea', 'the hall');
    case 'version':
      return fc.constantFrom('1.2', '3.9', '3.10', '3.4_118', '4.0');
    case 'list':
      return fc.uniqueArray(fc.constantFrom(...definition.options, ...definition.options.map((option) => `-${option}`)), { maxLength: 3 });
  }
};
const entries = (key: SettingKey): fc.Arbitrary<Setting[]> =>
  fc
    .array(
      fc.constantFrom(...(Object.keys(layerOrder) as Layer[])).chain((layer) =>
        fc.record({
          layer: fc.constant(layer),
          target: fc.constantFrom(...(targets[layer] as [string, ...string[]])),
          value: valueOf(key),
          locked: fc.boolean(),
          condition: fc.option(fc.constantFrom({ ownership: 'managed' as const }, { ownership: 'personal' as const }, { inside: true }), {
            nil: undefined,
          }),
        }),
      ),
      { maxLength: 8 },
    )
    .map((list) => list.map(({ condition, ...entry }, i) => ({ id: `s${i}`, key, ...entry, ...(condition ? { condition } : {}) })));
const anySet = fc.constantFrom(...settingKeys).chain((key) => entries(key).map((list) => ({ key, list })));
const resolve = (key: SettingKey, list: Setting[]) => resolveOne(indexSettings(list), key, subject);

describe('layers', () => {
  test('of two entries at the same place the one with more conditions counts, then the one whose id comes first', () => {
    const at = (id: string, value: number, condition?: Setting['condition']): Setting => ({
      id,
      key: 'picture.frameCap',
      layer: 'location',
      target: subject.location,
      value,
      locked: false,
      ...(condition ? { condition } : {}),
    });
    for (const list of [
      [at('a', 20), at('b', 25)],
      [at('b', 25), at('a', 20)],
    ])
      expect(resolve('picture.frameCap', list)).toBe(20);
    const holds = { lineKind: subject.lineKind };
    for (const list of [
      [at('a', 20), at('b', 25, holds)],
      [at('b', 25, holds), at('a', 20)],
    ])
      expect(resolve('picture.frameCap', list)).toBe(25);
    // a condition that does not hold counts for nothing
    expect(resolve('picture.frameCap', [at('a', 20), at('b', 25, { metered: !subject.metered })])).toBe(20);
  });

  test('the order of input is irrelevant, and the explanation gives the same value', () => {
    fc.assert(
      fc.property(anySet, ({ key, list }) => {
        expect(resolve(key, [...list].reverse())).toEqual(resolve(key, list));
        expect(explainSetting(indexSettings(list), key, subject).value).toEqual(resolve(key, list));
      }),
    );
  });

  test('a lock is never overridden by a nearer layer', () => {
    const nearest = settingKeys.filter((key) => catalogue[key].merge === 'nearest');
    fc.assert(
      fc.property(
        fc.constantFrom(...nearest).chain((key) => fc.tuple(fc.constant(key), valueOf(key), entries(key))),
        ([key, value, list]) => {
          const lock: Setting = { id: 'lock', key, layer: 'organisation', target: '*', value, locked: true };
          const nearer = list.filter((entry) => entry.layer !== 'organisation');
          expect(resolve(key, [lock, ...nearer])).toEqual(value);
        },
      ),
    );
  });

  test('adding an entry to a strictest setting never makes the result less strict', () => {
    const strictest = settingKeys.filter((key) => catalogue[key].merge === 'strictest');
    const strictness = (key: SettingKey, value: SettingValue): number => {
      const definition: SettingDefinition = catalogue[key];
      if (definition.type === 'switch') return value === (definition.safer ?? true) ? 1 : 0;
      // of limits the smaller is the stricter
      if (definition.type === 'number') return -(value as number);
      if (definition.type === 'choice') return (definition.options as readonly string[]).indexOf(value as string);
      const place = ['0', '1.2', '3.4_118', '3.9', '3.10', '4.0'].indexOf(value as string);
      // of ceilings the lower one, and none is the highest
      return definition.type === 'version' && definition.ceiling ? (value === '0' ? -9 : -place) : place;
    };
    fc.assert(
      fc.property(
        fc.constantFrom(...strictest).chain((key) => fc.tuple(fc.constant(key), entries(key), entries(key))),
        ([key, list, more]) => {
          // a lock among the new ones may hide old entries; that is its purpose, so only open ones are added
          const open = more.map((entry, i) => ({ ...entry, id: `m${i}`, locked: false }));
          // the default is no layer: it counts only where no entry applies
          fc.pre(explainSetting(indexSettings(list), key, subject).deciding !== null);
          expect(strictness(key, resolve(key, [...list, ...open]))).toBeGreaterThanOrEqual(strictness(key, resolve(key, list)));
        },
      ),
    );
  });

  test('an entry for somebody else, or whose condition does not hold, is as if it had never been', () => {
    fc.assert(
      fc.property(anySet, ({ key, list }) => {
        const counts = list.filter(
          (entry) =>
            ['*', 'laptop', 'hall', 'staff', 'planners', 'p1', 'e1'].includes(entry.target) && entry.condition?.ownership !== 'personal',
        );
        expect(resolve(key, list)).toEqual(resolve(key, counts));
      }),
    );
  });

  test('the nearest layer wins, the higher group over the lower, and the explanation names what is hidden and why', () => {
    const entry = (id: string, layer: Layer, target: string, value: SettingValue, locked = false): Setting => ({
      id,
      key: 'picture.frameCap',
      layer,
      target,
      value,
      locked,
    });
    const list = [
      entry('a', 'organisation', '*', 20),
      entry('b', 'group', 'staff', 24),
      entry('c', 'group', 'planners', 60),
      entry('d', 'location', 'hall', 15),
    ];
    const why = explainSetting(indexSettings(list), 'picture.frameCap', subject);
    expect(why.value).toBe(60);
    expect(why.deciding?.id).toBe('c');
    expect(why.hidden.map(({ entry: { id }, because }) => [id, because]).sort()).toEqual(
      ['a', 'b', 'd'].map((id) => [id, 'a nearer layer is set']),
    );
    const locked = explainSetting(indexSettings([...list, entry('e', 'location', 'hall', 12, true)]), 'picture.frameCap', subject);
    expect(locked.lockedBy?.id).toBe('e');
    expect(
      locked.hidden
        .filter(({ because }) => because === 'a layer above is locked')
        .map(({ entry: { id } }) => id)
        .sort(),
    ).toEqual(['b', 'c']);
  });

  test('lists add up over the layers, and a nearer layer may remove an item by name', () => {
    const entry = (id: string, layer: Layer, target: string, value: string[]): Setting => ({
      id,
      key: 'redirection.devices',
      layer,
      target,
      value,
      locked: false,
    });
    expect(
      resolve('redirection.devices', [
        entry('a', 'organisation', '*', ['card-reader']),
        entry('b', 'person', 'p1', ['-printer', 'scanner']),
      ]),
    ).toEqual(['headset', 'camera', 'card-reader', 'scanner']);
    // the one that changed the list last decides it; what changes nothing does not
    const decides = (...entries: Setting[]) => explainSetting(indexSettings(entries), 'redirection.devices', subject).deciding?.id ?? null;
    expect(decides(entry('a', 'organisation', '*', ['card-reader']), entry('b', 'person', 'p1', ['card-reader', 'headset']))).toBe('a');
    expect(decides(entry('a', 'organisation', '*', ['headset']), entry('b', 'person', 'p1', ['-scanner']))).toBeNull();
    expect(decides(entry('a', 'organisation', '*', ['scanner']), entry('b', 'person', 'p1', ['-scanner']))).toBe('b');
  });
});

test('every default is a valid value, and a wrong one is told', () => {
  for (const key of settingKeys) expect(faultOfValue(key, catalogue[key].default as SettingValue)).toBeNull();
  expect(faultOfValue('picture.frameCap', 500)).toContain('5 to 120');
  expect(faultOfValue('picture.nothing', 1)).toContain('no setting');
  // YAML reads a bare 1.2 as a number [YAML 1.2.2, 10.3.2]: the mend is said, not only that it is wrong
  const told = (value: string) =>
    readFolder(
      new Map([
        [
          'settings.yaml',
          `- id: T1\n  key: security.tlsMinimum\n  layer: organisation\n  target: '*'\n  value: ${value}\n  locked: false\n`,
        ],
      ]),
      {},
      undefined,
      faultOfSetting,
    ).problems.map(({ line, field, problem }) => [line, field, problem]);
  expect(told('1.2')).toEqual([[5, 'value', "security.tlsMinimum: must stand in quotes: '1.2'"]]);
  expect(told("'1.2'")).toEqual([]);
  expect(told('1.4')).toEqual([[5, 'value', 'security.tlsMinimum: must be one of 1.2, 1.3']]);
});

test('versions compare field by field, never as text', () => {
  expect(compareVersions('3.10', '3.9')).toBeGreaterThan(0);
  expect(compareVersions('3.4_118', '3.4_95')).toBeGreaterThan(0);
  expect(compareVersions('4.01', '4.1')).toBe(0);
  expect(compareVersions('1.2a', '1.2')).toBeGreaterThan(0);
});

test('all settings in one go come to what each comes to by itself, whatever stands where, in whatever order', () => {
  const others: SettingSubject[] = [
    subject,
    { ...subject, groups: ['staff'], ownership: 'personal', inside: false },
    { ...subject, location: 'dock', endpoint: 'e2', person: 'p2' },
  ];
  fc.assert(
    fc.property(fc.array(anySet, { maxLength: 6 }), fc.constantFrom(...others), (sets, who) => {
      const list = sets.flatMap(({ list: some }, i) => some.map((entry) => ({ ...entry, id: `${entry.id}-${i}` })));
      const index = indexSettings(list);
      const all = resolveSettings(index, who);
      for (const key of settingKeys) {
        expect([key, all[key]]).toEqual([key, resolveOne(index, key, who)]);
        expect(explainSetting(index, key, who).value).toEqual(all[key]);
      }
      expect(resolveSettings(indexSettings([...list].reverse()), who)).toEqual(all);
    }),
  );
});
