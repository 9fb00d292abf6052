import { describe, expect, test } from '@jest/globals';
import type { SettingValue } from '@underpass/contracts';
import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import {
  checkedProfile,
  definitionOf,
  faultOfValue,
  flatProfile,
  nestedProfile,
  orderedProfile,
  profileAsIni,
  profileDifferences,
  profileFromIni,
  profileSchema,
  settingKeys,
  type Profile,
  type SettingKey,
} from './index.js';

const valueOf = (key: SettingKey): fc.Arbitrary<SettingValue> => {
  const definition = definitionOf(key);
  switch (definition?.type) {
    case 'switch':
      return fc.boolean();
    case 'choice':
      return fc.constantFrom(...definition.options);
    case 'number':
      return fc.double({ min: definition.min, max: definition.max, noNaN: true }).map((value) => value || 0);
    case 'list':
      return fc.uniqueArray(fc.constantFrom(...definition.options, ...definition.options.map((option) => `-${option}`)));
    case 'version':
      return fc.constantFrom('0', '1.2', '3.4_118');
    default:
      return fc.string({ maxLength: 40 }).filter((text) => !/[{}]/.test(text));
  }
};
const anyProfile: fc.Arbitrary<Profile> = fc
  .subarray([...settingKeys])
  .chain((keys) =>
    fc.tuple(...keys.map(valueOf)).map((values) => Object.fromEntries(keys.map((key, i) => [key, values[i] as SettingValue]))),
  );

describe('profiles in and out', () => {
  test('as a section file, and nested as documents are: read again they are the same', () => {
    fc.assert(
      fc.property(anyProfile, (profile) => {
        const { profile: again, wrong } = profileFromIni(profileAsIni(profile));
        expect(wrong).toEqual([]);
        expect(again).toEqual(orderedProfile(profile));
        expect(flatProfile(JSON.parse(JSON.stringify(nestedProfile(profile)))).profile).toEqual(orderedProfile(profile));
        expect(checkedProfile(again).faults).toEqual([]);
      }),
    );
  });

  test('keys that nobody knows are kept behind the others, and told', () => {
    const profile = { 'picture.later': 'x', 'picture.frameCap': 30, odd: 'y' };
    expect(Object.keys(orderedProfile(profile))).toEqual(['picture.frameCap', 'odd', 'picture.later']);
    const { profile: again } = profileFromIni(profileAsIni(profile));
    expect(again).toEqual(profile);
    expect(checkedProfile(again)).toEqual({ values: { 'picture.frameCap': 30 }, unknown: { 'picture.later': 'x', odd: 'y' }, faults: [] });
  });

  test('what is wrong is told by its key or its line, and the rest is read', () => {
    expect(checkedProfile({ 'picture.frameCap': 1, 'picture.codec': 'h264' })).toMatchObject({
      values: { 'picture.codec': 'h264' },
      faults: [{ key: 'picture.frameCap' }],
    });
    expect(profileFromIni('[picture]\nframeCap 30\n; a remark\ncodec = hevc\n')).toEqual({
      profile: { 'picture.codec': 'hevc' },
      wrong: [{ line: 2, text: 'frameCap 30' }],
    });
    expect(flatProfile({ picture: { frameCap: { deep: 1 } }, list: [1] }).faults.map(({ key }) => key)).toEqual([
      'picture.frameCap',
      'list',
    ]);
    for (const content of [null, 3, [], 'x']) expect(flatProfile(content).faults).toHaveLength(1);
  });

  test('names that objects have of themselves are keys like any other', () => {
    const content: unknown = JSON.parse('{"__proto__": {"x": 1}, "constructor": {"y": 2}}');
    const { profile } = flatProfile(content);
    expect(Object.keys(profile).sort()).toEqual(['__proto__.x', 'constructor.y']);
    expect(JSON.stringify(nestedProfile(profile))).toContain('"y":2');
    expect(({} as { x?: number }).x).toBeUndefined();
  });

  test('two profiles: only what differs, the order of lists set aside', () => {
    expect(
      profileDifferences(
        { 'picture.frameCap': 30, 'redirection.devices': ['a', 'b'] },
        { 'picture.frameCap': 60, 'redirection.devices': ['b', 'a'] },
      ),
    ).toEqual([{ key: 'picture.frameCap', a: 30, b: 60 }]);
    expect(profileDifferences({}, { odd: 1 })).toEqual([{ key: 'odd', a: undefined, b: 1 }]);
  });

  test('a section file says where it is in it: heads, remarks, empty lines, quotes, words for yes and no', () => {
    const lines = [
      '  # a remark',
      'loose = "a word"',
      '',
      '[picture]',
      'wallpaper = yes',
      'transparency = on',
      'animation = true',
      'dragContents = no',
      'fontSmoothing = off',
      'refineStill = false',
      'hardwareEncode = perhaps',
      'frameCap =  30 ',
      'heightCap = much',
      'qualityFloor =',
      'codec = "hevc"',
      '[redirection]',
      'devices = headset ,camera,  -printer',
      '[none] of this',
      '= 3',
    ];
    expect(profileFromIni(lines.join('\r\n'))).toEqual({
      profile: {
        loose: 'a word',
        'picture.wallpaper': true,
        'picture.transparency': true,
        'picture.animation': true,
        'picture.dragContents': false,
        'picture.fontSmoothing': false,
        'picture.refineStill': false,
        'picture.hardwareEncode': 'perhaps',
        'picture.frameCap': 30,
        'picture.heightCap': 'much',
        'picture.qualityFloor': '',
        'picture.codec': 'hevc',
        'redirection.devices': ['headset', 'camera', '-printer'],
      },
      wrong: [
        { line: 18, text: '[none] of this' },
        { line: 19, text: '= 3' },
      ],
    });
    expect(profileFromIni('[redirection]\ndevices =\n').profile).toEqual({ 'redirection.devices': [] });
    // a long line is told by its first sixty characters
    expect(profileFromIni('x'.repeat(61)).wrong).toEqual([{ line: 1, text: 'x'.repeat(60) }]);
    // what only looks like a quoted text stays as it stands
    expect(profileFromIni('a = "b" and "c"\nd = "e\n').profile).toEqual({ a: '"b" and "c"', d: '"e' });
    // quotes may hold what is no text
    expect(profileFromIni('a = x"b"\nb = "b"x\n').profile).toEqual({ a: 'x"b"', b: '"b"x' });
  });

  test('a section file as it is written: one head for each subject, an empty line between, quotes where a text would be read otherwise', () => {
    expect(
      profileAsIni({
        'redirection.devices': ['headset', '-printer'],
        'picture.frameCap': 30,
        'picture.wallpaper': false,
        loose: 'plain: 50%, a_b-c.',
        odd: ' begins with a space',
        other: 'ends with one ',
        quoted: 'a "word"',
        sign: '#1',
        inner: 'one ✓ two',
        one: 'x',
      }),
    ).toBe(
      [
        '[picture]',
        'frameCap = 30',
        'wallpaper = false',
        '',
        '[redirection]',
        'devices = headset, -printer',
        '',
        '[]',
        'inner = "one ✓ two"',
        'loose = plain: 50%, a_b-c.',
        'odd = " begins with a space"',
        'one = x',
        'other = "ends with one "',
        'quoted = "a \\"word\\""',
        'sign = "#1"',
        '',
      ].join('\n'),
    );
    expect(profileAsIni({ loose: 1 })).toBe('loose = 1\n');
    // a key that begins with its dot has no subject
    expect(profileAsIni({ '.x': 1 })).toContain('x = 1');
  });

  test('a document that is none, or holds what is no value, says which', () => {
    for (const content of [null, 3, [], 'x'])
      expect(flatProfile(content)).toEqual({ profile: {}, faults: [{ key: '', problem: 'is not an object of settings' }] });
    expect(flatProfile({ a: 1, b: null, c: [1], d: { e: null, f: [1], g: ['x'], h: { i: 1 } }, j: true })).toEqual({
      profile: { a: 1, 'd.g': ['x'], j: true },
      faults: [
        { key: 'b', problem: 'is no value of a setting' },
        { key: 'c', problem: 'is no value of a setting' },
        { key: 'd.e', problem: 'is no value of a setting' },
        { key: 'd.f', problem: 'is no value of a setting' },
        { key: 'd.h', problem: 'is no value of a setting' },
      ],
    });
  });

  test('the schema has a place for every setting, and no other', () => {
    const { properties, ...head } = profileSchema() as { properties: Record<string, { type: string; properties: Record<string, object> }> };
    expect(head).toEqual({
      $schema: 'https://json-schema.org/draft/2020-12/schema',
      title: 'Profile of settings',
      description: 'The settings in force for somebody at an endpoint. Other keys are kept.',
      type: 'object',
    });
    for (const [subject, { type, properties: inner }] of Object.entries(properties)) {
      expect(type).toBe('object');
      for (const name of Object.keys(inner)) expect(settingKeys).toContain(`${subject}.${name}`);
    }
    expect(Object.values(properties).flatMap(({ properties: inner }) => Object.keys(inner))).toHaveLength(settingKeys.length);
  });

  test('a validator of JSON Schema takes by it what the catalogue takes, and refuses what it refuses [ajv]', () => {
    const takes = new Ajv2020({ strict: false }).compile(profileSchema());
    const wrong: fc.Arbitrary<SettingValue> = fc.oneof(
      fc.constantFrom<SettingValue>('no such word', -1e9, 1e9, true, ['no such word'], '-', 'x'.repeat(121)),
      fc.constantFrom(...settingKeys).chain(valueOf),
    );
    fc.assert(
      fc.property(
        fc.constantFrom(...settingKeys).chain((key) => fc.tuple(fc.constant(key), fc.oneof(valueOf(key), wrong))),
        ([key, value]) => {
          const type = definitionOf(key)?.type;
          // a version, and the words in braces of a text, are checked beyond the schema
          fc.pre(type !== 'version' && !(typeof value === 'string' && /[{}\n\r]/.test(value)));
          expect([key, value, takes(nestedProfile({ [key]: value }))]).toEqual([key, value, faultOfValue(key, value) === null]);
        },
      ),
      { numRuns: 400 },
    );
    const { properties } = profileSchema() as {
      properties: Record<string, { properties: Record<string, { title: string; description: string }> }>;
    };
    for (const key of settingKeys) {
      const [subject = '', name = ''] = key.split('.');
      expect(properties[subject]?.properties[name]).toMatchObject({
        title: definitionOf(key)?.label,
        description: definitionOf(key)?.does,
      });
    }
  });
});
