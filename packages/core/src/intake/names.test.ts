import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { NameBook } from './names.js';
import { fieldsOfPattern, partBy, readPattern } from './pattern.js';

describe('names and patterns', () => {
  it('are found by id, by name whatever its case and accents, and only where one has it', () => {
    const book = new NameBook([
      { id: 'a', name: 'Büro Süd' },
      { id: 'b', name: 'Twin' },
      { id: 'c', name: 'twin' },
    ]);
    expect(book.find(' A ')).toEqual({ id: 'a' });
    expect(book.find('buro sud')).toEqual({ id: 'a' });
    expect(book.find('TWIN')).toEqual({ several: ['b', 'c'] });
    expect(book.find('other')).toBeNull();
  });

  it('are near by a slip or two, or as part of one another', () => {
    const book = new NameBook([
      { id: 'w', name: 'Wexcombe hall' },
      { id: 's', name: 'Sand' },
    ]);
    expect(book.near('Wexcome hall').map(({ id }) => id)).toEqual(['w']);
    expect(book.near('Wexcmbe hal').map(({ id }) => id)).toEqual(['w']);
    expect(book.near('Wxcm hal')).toEqual([]);
    expect(book.near('wexcombe').map(({ id }) => id)).toEqual(['w']);
    // of short names one slip alone
    expect(book.near('Sant').map(({ id }) => id)).toEqual(['s']);
    expect(book.near('Sett')).toEqual([]);
    expect(book.near('')).toEqual([]);
  });

  it('part what they put together', () => {
    const word = fc.string({ unit: fc.constantFrom('a', 'b', '7', ' '), minLength: 1, maxLength: 8 }).map((text) => text.trim() || 'a');
    fc.assert(
      fc.property(word, word, word, (a, b, c) => {
        expect(partBy(readPattern('{x}-{y} ({z})'), `${a}-${b} (${c})`)).toEqual({ x: a, y: b, z: c });
      }),
    );
    expect(fieldsOfPattern(readPattern('a {x}{y} b'))).toEqual(['x', 'y']);
    expect(partBy(readPattern('{x}'), 'all of it')).toEqual({ x: 'all of it' });
    expect(partBy(readPattern('no {x}'), 'yes it')).toBeNull();
    expect(partBy(readPattern('{x} end'), 'a end more')).toBeNull();
  });
});
