import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { latinText, utf8Bytes, utf8Text } from './text.js';

// Node's own encoder and decoder [WHATWG Encoding]
const encoded = (text: string) => new TextEncoder().encode(text);
const decoded = (bytes: Uint8Array): string | null => {
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    return null;
  }
};

test.each([
  '',
  'plain',
  'Möl',
  '€',
  '\u{1f6a2}',
  'a\u0000b',
  '\u007f\u0080',
  '\ufeffa',
  '50 % %41',
  '\ud83d',
  'a\ud83db',
  '\udea2x',
  '\udea2\ud83d',
  '\ud83d\ud83d\udea2',
])('%j becomes the bytes that another program makes of it', (text) => expect(utf8Bytes(text)).toEqual(encoded(text)));
test('and so does any text; bytes that are none are told as none', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary' }), (text) => {
      expect(utf8Bytes(text)).toEqual(encoded(text));
      expect(utf8Text(encoded(text))).toBe(decoded(encoded(text)));
    }),
  );
  fc.assert(fc.property(fc.uint8Array({ maxLength: 6 }), (bytes) => expect(utf8Text(bytes)).toBe(decoded(bytes))));
  for (const bytes of [
    [0x7f],
    [0x80],
    [0xc3],
    [0xc3, 0xb6],
    [0xc0, 0x80],
    [0xed, 0xa0, 0x80],
    [0xf4, 0x90, 0x80, 0x80],
    [0x41, 0xff],
    [0x09, 0x0a],
  ])
    expect([bytes, utf8Text(Uint8Array.from(bytes))]).toEqual([bytes, decoded(Uint8Array.from(bytes))]);
});
test('a letter a byte, and none refused', () => {
  const all = Uint8Array.from({ length: 256 }, (_, i) => i);
  expect(latinText(all)).toBe(Buffer.from(all).toString('latin1'));
});
