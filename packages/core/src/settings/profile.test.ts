import { describe, expect, test } from '@jest/globals';
import type { SettingValue } from '@underpass/contracts';
import fc from 'fast-check';
import {
  checkedProfile,
  definitionOf,
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

  test('the schema has a place for every setting', () => {
    const { properties } = profileSchema() as { properties: Record<string, { properties: object }> };
    for (const key of settingKeys) {
      const [subject = '', name = ''] = key.split('.');
      expect(properties[subject]?.properties).toHaveProperty(name);
    }
  });
});
