import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { fromBase64 } from './base64.js';

test.each([
  // the vectors of RFC 4648 section 10
  ['', ''],
  ['Zg==', 'f'],
  ['Zm8=', 'fo'],
  ['Zm9v', 'foo'],
  ['Zm9vYg==', 'foob'],
  ['Zm9vYmE=', 'fooba'],
  ['Zm9vYmFy', 'foobar'],
  // and without what fills them up
  ['Zg', 'f'],
  ['Zm9vYmE', 'fooba'],
])('“%s” is “%s”', (text, said) => expect(String.fromCharCode(...fromBase64(text)!)).toBe(said));

test.each(['Zg===', 'Z g', '=Zg', 'Zg=a', 'Zm9v!', '\nZm9v', 'Zm9v_-'])('%j is none', (text) => expect(fromBase64(text)).toBeNull());

test('comes to the bytes that Node wrote', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 64 }), (bytes) => {
      expect(fromBase64(Buffer.from(bytes).toString('base64'))).toEqual(bytes);
    }),
  );
  // every letter at every place
  const all = Uint8Array.from({ length: 768 }, (_, i) => (i * 37) % 256);
  expect(fromBase64(Buffer.from(all).toString('base64'))).toEqual(all);
});
