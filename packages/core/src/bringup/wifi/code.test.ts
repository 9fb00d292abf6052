import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { wifiCode, type WifiJoin } from '../index.js';

describe('the code to join a network', () => {
  const plain: WifiJoin = { name: 'Quayside', type: 'WPA', key: 'tide table', hidden: false };
  const code = (more: Partial<WifiJoin>) => {
    const result = wifiCode({ ...plain, ...more });
    return result.ok ? result.value : `${result.fault.place} ${result.fault.problem}`;
  };

  test.each<[Partial<WifiJoin>, string]>([
    [{}, 'WIFI:T:WPA;S:Quayside;P:tide table;;'],
    [{ hidden: true }, 'WIFI:T:WPA;S:Quayside;P:tide table;H:true;;'],
    [{ type: 'SAE' }, 'WIFI:T:SAE;S:Quayside;P:tide table;;'],
    [{ type: 'nopass', key: '' }, 'WIFI:T:nopass;S:Quayside;;'],
    [{ type: 'WEP', key: 'abcde' }, 'WIFI:T:WEP;S:Quayside;P:abcde;;'],
    [{ name: 'a;b,c:d"e\\f' }, 'WIFI:T:WPA;S:a\\;b\\,c\\:d\\"e\\\\f;P:tide table;;'],
    [{ key: 'k;e,y:"\\1234' }, 'WIFI:T:WPA;S:Quayside;P:k\\;e\\,y\\:\\"\\\\1234;;'],
    // limits, just within and just without
    [{ key: '1234567' }, 'the key has 7 characters'],
    [{ key: '12345678' }, 'WIFI:T:WPA;S:Quayside;P:12345678;;'],
    [{ key: 'k'.repeat(63) }, `WIFI:T:WPA;S:Quayside;P:${'k'.repeat(63)};;`],
    [{ key: 'k'.repeat(64) }, 'the key has 64 characters'],
    [{ type: 'SAE', key: '1234567' }, 'the key has 7 characters'],
    [{ name: 'n'.repeat(32) }, `WIFI:T:WPA;S:${'n'.repeat(32)};P:tide table;;`],
    [{ name: 'n'.repeat(33) }, 'the name has 33 bytes'],
    [{ name: 'ü'.repeat(16) }, `WIFI:T:WPA;S:${'ü'.repeat(16)};P:tide table;;`],
    [{ name: 'ü'.repeat(17) }, 'the name has 34 bytes'],
    [{ name: '' }, 'the name has 0 bytes'],
    [{ name: 'a\nb' }, 'the name has letters that cannot be typed'],
    [{ key: '1234567\u007f' }, 'the key has letters that cannot be typed'],
    [{ type: 'nopass' }, 'the key is given for a network that asks for none'],
    [{ type: 'WEP', key: '' }, 'the key is missing'],
  ])('%j', (more, expected) => {
    expect(code(more)).toBe(expected);
  });

  test('read again by its own rules it says what went in', () => {
    const fieldsOf = (payload: string) =>
      Object.fromEntries(
        [...payload.slice('WIFI:'.length).matchAll(/([TSPH]):((?:\\.|[^\\;])*);/g)].map(([, key, value]) => [
          key,
          value!.replace(/\\(.)/g, '$1'),
        ]),
      );
    const word = (min: number, max: number) =>
      fc.array(fc.constantFrom(...'abcXYZ019 ;,:"\\äß'), { minLength: min, maxLength: max }).map((letters) => letters.join(''));
    fc.assert(
      fc.property(word(1, 16), word(8, 63), fc.boolean(), (name, key, hidden) => {
        expect(fieldsOf(code({ name, key, hidden }))).toEqual({ T: 'WPA', S: name, P: key, ...(hidden ? { H: 'true' } : {}) });
      }),
    );
  });
});
