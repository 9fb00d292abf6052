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

describe('the strictest of two entries, type by type', () => {
  const two = (key: SettingKey, far: SettingValue, near: SettingValue): Setting[] => [
    { id: 'far', key, layer: 'organisation', target: '*', value: far, locked: false },
    { id: 'near', key, layer: 'person', target: subject.person, value: near, locked: false },
  ];
  /** Which of two decides, whichever of them is nearer; both in one go and by itself. */
  const decides = (key: SettingKey, stricter: SettingValue, freer: SettingValue) => {
    for (const [list, id] of [
      [two(key, stricter, freer), 'far'],
      [two(key, freer, stricter), 'near'],
    ] as const) {
      const index = indexSettings(list);
      expect(explainSetting(index, key, subject)).toMatchObject({ value: stricter, deciding: { id } });
      expect(explainSetting(index, key, subject).hidden).toEqual([
        { entry: list.find((each) => each.id !== id), because: 'a stricter value counts' },
      ]);
      expect(resolveSettings(index, subject)[key]).toEqual(stricter);
    }
    // of two that are alike the one farther out has said it
    expect(explainSetting(indexSettings(two(key, freer, freer)), key, subject).deciding?.id).toBe('far');
  };
  const strictest = settingKeys.filter((key) => catalogue[key].merge === 'strictest');
  const of = (type: SettingDefinition['type']) => strictest.filter((key) => catalogue[key].type === type);

  test.each(of('switch'))('%s: the safer side', (key) => {
    const definition = catalogue[key] as SettingDefinition & { type: 'switch' };
    decides(key, definition.safer ?? true, !(definition.safer ?? true));
  });
  test.each(of('choice'))('%s: the later word', (key) => {
    const { options } = catalogue[key] as SettingDefinition & { type: 'choice' };
    options.slice(1).forEach((option, i) => decides(key, option, options[i] as string));
  });
  test.each(of('version'))('%s: the lower ceiling, none being the highest, or the higher floor', (key) => {
    if ((catalogue[key] as SettingDefinition & { type: 'version' }).ceiling) {
      decides(key, '3.9', '3.10');
      decides(key, '4', '0');
    } else decides(key, '3.10', '3.9');
  });
  test.each(of('number'))('%s: the lower limit', (key) => {
    const { min, max } = catalogue[key] as SettingDefinition & { type: 'number' };
    decides(key, min, max);
  });
  test('of the versions one is a floor and one a ceiling', () => {
    expect(
      of('version')
        .map((key) => (catalogue[key] as SettingDefinition & { type: 'version' }).ceiling ?? false)
        .sort(),
    ).toEqual([false, true]);
  });
  test('there is one of each of these types, and of no other', () => {
    for (const type of ['switch', 'choice', 'version', 'number'] as const) expect([type, of(type).length > 0]).toEqual([type, true]);
    expect(strictest.filter((key) => ['text', 'list'].includes(catalogue[key].type))).toEqual([]);
  });
});

test('entries of somebody else’s layers, at a place that has the same name, are theirs alone', () => {
  const entry = (layer: Layer, target: string): Setting => ({ id: 'x', key: 'picture.frameCap', layer, target, value: 20, locked: false });
  for (const layer of Object.keys(layerOrder) as Layer[])
    for (const target of ['laptop', 'hall', 'staff', 'p1', 'e1', '*']) {
      const own = { organisation: '*', 'device class': 'laptop', location: 'hall', group: 'staff', person: 'p1', endpoint: 'e1' }[layer];
      expect([layer, target, resolve('picture.frameCap', [entry(layer, target)])]).toEqual([layer, target, own === target ? 20 : 30]);
    }
});

test('versions compare field by field, never as text', () => {
  expect(compareVersions('3.10', '3.9')).toBe(1);
  expect(compareVersions('3.9', '3.10')).toBe(-1);
  expect(compareVersions('3.4_118', '3.4_95')).toBe(1);
  expect(compareVersions('4.01', '4.1')).toBe(0);
  expect(compareVersions('1.2a', '1.2')).toBe(1);
  expect(compareVersions('1.2', '1.2a')).toBe(-1);
  expect(compareVersions('1.2B', '1.2a')).toBe(1);
  // a letter never counts as much as a number
  expect(compareVersions('1.2z', '1.2.1')).toBe(-1);
  // a word counts by its first letter, as one field
  expect(compareVersions('1 beta', '1 b')).toBe(0);
  expect(compareVersions('', '0')).toBe(0);
  expect(compareVersions('1.0.0', '1')).toBe(0);
  // more digits than a number holds exactly (2^53 has sixteen): the last one counts
  expect(compareVersions('1.90071992547409931', '1.90071992547409930')).toBe(1);
  expect(compareVersions('1.9007199254740993', '1.9007199254740992')).toBe(1);
  // zeros in front count for nothing, however many; those inside do
  expect(compareVersions('1.00000000000000000000002', '1.2')).toBe(0);
  expect(compareVersions('10000000000000000001', '10000000000000000000')).toBe(1);
  expect(compareVersions('100', '1')).toBe(1);
});

test('versions are compared the same however many were seen before', () => {
  for (let i = 0; i < 6000; i++) expect(compareVersions(`7.${i}`, `7.${i + 1}`)).toBe(-1);
  expect(compareVersions('3.10', '3.9')).toBe(1);
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
