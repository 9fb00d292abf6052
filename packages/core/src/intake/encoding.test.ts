import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { readText } from './encoding.js';

const utf16 = (text: string, big: boolean): Uint8Array => {
  const bytes = Buffer.from(text, 'utf16le');
  return big ? bytes.swap16() : bytes;
};

describe('the encoding of a text is found by its bytes', () => {
  it('reads every byte of Windows-1252 as another program does', () => {
    // printed by Python 3.11: bytes(range(128, 160)).decode('cp1252'), the five without a character left as they are
    const printed =
      '\u20ac\x81\u201a\u0192\u201e\u2026\u2020\u2021\u02c6\u2030\u0160\u2039\u0152\x8d\u017d\x8f\x90\u2018\u2019\u201c\u201d\u2022\u2013\u2014\u02dc\u2122\u0161\u203a\u0153\x9d\u017e\u0178';
    const bytes = Uint8Array.from({ length: 128 }, (_, i) => 128 + i);
    const { encoding, text } = readText(bytes);
    expect(encoding).toBe('windows-1252');
    expect(text.slice(0, 32)).toBe(printed);
    expect(text.slice(32)).toBe(Buffer.from(bytes.subarray(32)).toString('latin1'));
  });

  it('tells UTF-8 with a mark and without, and plain letters, by their being valid', () => {
    expect(readText(Buffer.from('Gerät;Büro', 'utf8'))).toEqual({ encoding: 'utf-8', text: 'Gerät;Büro' });
    expect(readText(Buffer.from('\uFEFFGerät', 'utf8')).encoding).toBe('utf-8');
    expect(readText(Buffer.from('name,place', 'ascii'))).toEqual({ encoding: 'utf-8', text: 'name,place' });
    // one byte that no UTF-8 has
    expect(readText(Uint8Array.from([0x47, 0xe4, 0x72]))).toEqual({ encoding: 'windows-1252', text: 'Gär' });
    // a character cut in two at the end is none
    expect(readText(Buffer.from('é', 'utf8').subarray(0, 1)).encoding).toBe('windows-1252');
  });

  it.each([
    ['little end first, with a mark', '\uFEFFName;Büro', false],
    ['big end first, with a mark', '\uFEFFName;Büro', true],
    ['little end first, without', 'Name;Büro\n', false],
    ['big end first, without', 'Name;Büro\n', true],
  ])('tells UTF-16, %s', (_, text, big) => {
    const read = readText(utf16(text, big));
    expect(read.encoding).toBe('utf-16');
    expect(read.text.replace(/^\uFEFF/, '')).toBe(text.replace(/^\uFEFF/, ''));
  });

  // pairs of bytes, by how many of ten have nought second and first: more than two fifths here, less than a twentieth there
  it.each([
    [5, 0, 10, 'utf-16'],
    [4, 0, 10, 'utf-8'],
    [0, 5, 10, 'utf-16'],
    [0, 4, 10, 'utf-8'],
    [9, 1, 20, 'utf-8'],
    [9, 1, 21, 'utf-16'],
    [1, 9, 20, 'utf-8'],
    [1, 9, 21, 'utf-16'],
    [1, 0, 1, 'utf-8'],
    [2, 0, 2, 'utf-16'],
  ])('with %i and %i noughts in %i pairs', (second, first, pairs, encoding) => {
    const bytes = new Uint8Array(2 * pairs).fill(0x61);
    for (let i = 0; i < second; i++) bytes[2 * i + 1] = 0;
    for (let i = 0; i < first; i++) bytes[2 * (pairs - 1 - i)] = 0;
    expect(readText(bytes).encoding).toBe(encoding);
  });

  it('by pairs where half a one is left at the end', () => {
    expect(readText(Uint8Array.from([0x61, 0, 0x62, 0, 0x63])).encoding).toBe('utf-16');
  });

  it('reads back whatever was written in UTF-8, or in UTF-16 with its mark', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 200 }), fc.boolean(), (text, big) => {
        fc.pre(!text.includes('\0') && !text.startsWith('\uFEFF'));
        expect(readText(Buffer.from(text, 'utf8')).text).toBe(text);
        expect(readText(utf16(`\uFEFF${text}`, big)).text.replace(/^\uFEFF/, '')).toBe(text);
      }),
    );
  });

  it('reads a long text in pieces without losing a letter between them', () => {
    const bytes = new Uint8Array(8192 * 2 + 5).fill(0xe9);
    expect(readText(bytes).text).toBe('é'.repeat(8192 * 2 + 5));
  });
});
