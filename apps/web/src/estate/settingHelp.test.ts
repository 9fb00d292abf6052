import { expect, test } from '@jest/globals';
import { columnsOf, Setting } from '@underpass/contracts';
import { catalogue, faultOfValue } from '@underpass/core';
import { settingHelp, settingValue } from './settingHelp.js';

const value = columnsOf(Setting).find(({ name }) => name === 'value')!;

test('what a setting’s form suggests is what the catalogue takes, for every key; and nothing is suggested for what is no key', () => {
  const keys = settingHelp('key', '')!.suggestions.map((each) => each.value);
  expect(keys).toEqual(Object.keys(catalogue));
  for (const key of keys) {
    const help = settingHelp('value', key)!;
    expect([key, help.hint]).toEqual([key, expect.stringMatching(/\S/)]);
    for (const { value: text } of help.suggestions) {
      // typed as suggested, read as the form reads it, taken by the catalogue
      const given = settingValue(key, text, value.read(text)) as Parameters<typeof faultOfValue>[1];
      expect([key, text, faultOfValue(key, given)]).toEqual([key, text, null]);
    }
  }
  // several of a list, and one taken out
  expect(settingValue('redirection.devices', 'camera; -printer', value.read('camera; -printer'))).toEqual(['camera', '-printer']);
  expect(settingValue('no.such', '4', value.read('4'))).toBe(4);
  for (const none of ['', 'toString', 'picture']) expect(settingHelp('value', none)).toBeNull();
  expect(settingHelp('layer', 'picture.codec')).toBeNull();
});
