import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { versionOrder } from './index.js';

describe('versions', () => {
  const order = (a: string, b: string) => {
    const result = versionOrder(a, b);
    return result.ok ? result.value : null;
  };

  test.each([
    ['3.4_118', '3.4_95', 1],
    ['3.10', '3.9', 1],
    ['3.4', '3.4a', -1],
    ['3.4a', '3.4b', -1],
    ['3.4b', '3.4.1', -1],
    ['3.4', '3.4.0', 0],
    ['3.04', '3.4', 0],
    ['3_4', '3.4', 0],
    ['3.4A', '3.4a', 0],
    ['3.4.0a', '3.4a', -1],
    [' 3.4', '3.4 ', 0],
    ['20260101000000000001', '20260101000000000002', -1],
    ['00000000000000000007', '7', 0],
    ['20260101000000000001', '7', 1],
  ])('%s against %s', (a, b, expected) => {
    expect([order(a, b), order(b, a)]).toEqual([expected, expected === 0 ? 0 : -expected]);
  });

  test.each(['', 'x', '3.', '.3', '3..4', '3.4ab', '3.a4', '3-4', '3.4 b', 'v3', '3.4a.1', '1'.repeat(300)])('%j is no version', (text) => {
    expect(versionOrder(text, '1')).toMatchObject({ ok: false, fault: { problem: 'is no version' } });
    expect(versionOrder('1', text)).toMatchObject({ ok: false });
  });

  test('stand in one row: whatever three, their order does not go in a circle', () => {
    const version = fc
      .tuple(fc.array(fc.nat(12), { minLength: 1, maxLength: 3 }), fc.constantFrom('', '', 'a', 'b'))
      .map(([fields, letter]) => `${fields.join('.')}${letter}`);
    fc.assert(
      fc.property(version, version, version, (a, b, c) => {
        expect(order(a, a)).toBe(0);
        if (order(a, b)! <= 0 && order(b, c)! <= 0) expect(order(a, c)!).toBeLessThanOrEqual(0);
      }),
    );
  });
});
