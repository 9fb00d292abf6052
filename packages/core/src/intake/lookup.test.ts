import { expect, test } from '@jest/globals';
import { estate, targetOf } from '../../test/deviceList.js';
import { keyOfText, Lookup } from './lookup.js';
import { isWorkbook } from './sheet.js';
import type { IntakeTarget } from './target.js';

const target = targetOf();
const place = { kind: 'office', latitude: '1', longitude: '2', lineKind: 'fibre' };

test.each([
  ['INV 1', 'INV-1'],
  ['-INV/7-', 'INV-7'],
  ['..a', 'a'],
  ['a.', 'a.'],
  ['Größe', 'Gr-e'],
  ['x'.repeat(64), 'x'.repeat(64)],
  // longer than a key may be: one is made of it as of a name
  ['X'.repeat(65), target.keyOf('X'.repeat(65))],
  // nothing of it is left: it stays as it is, and is told as no key
  ['№', target.keyOf('№') || '№'],
  ['—', '—'],
])('%s as a key is %s', (text, key) => {
  expect(keyOfText(text, target)).toBe(key);
});

test('a place that is there is meant by its id or its name, and another is told with the nearest', () => {
  const lookup = new Lookup({}, target);
  expect(lookup.idOf('location', 'yard')).toEqual({ id: 'yard' });
  expect(lookup.idOf('location', 'north YARD')).toEqual({ id: 'yard' });
  expect(lookup.idOf('location', 'Wexcomb hall')).toEqual({
    text: 'no location is called “Wexcomb hall”',
    wanted: 'Wexcombe hall (hall)?',
  });
  expect(lookup.idOf('location', 'zzzzzz')).toEqual({
    text: 'no location is called “zzzzzz”',
    wanted: 'the name or id of a location that is there',
  });
});

test.each([
  [60, 'x'.repeat(60)],
  [61, `${'x'.repeat(60)}…`],
])('a name of %i letters is told as it is, or cut', (length, told) => {
  expect(new Lookup({}, target).idOf('location', 'x'.repeat(length))).toMatchObject({ text: `no location is called “${told}”` });
});

test('where nothing is there to look names up in, they are taken as they are', () => {
  const alone: IntakeTarget = { ...target, alone: true };
  expect(new Lookup({}, alone).idOf('location', 'South quay')).toEqual({ id: 'South-quay' });
  // where places are made, they are made all the same
  expect(new Lookup({ location: place }, alone).idOf('location', 'South quay')).toEqual({ id: 'south-quay' });
});

test('a place is made once for every row that names it, or it is told why it cannot be', () => {
  const lookup = new Lookup({ location: place, person: {} }, target);
  expect(lookup.idOf('location', 'South quay')).toEqual({ id: 'south-quay' });
  expect(lookup.idOf('location', 'south QUAY')).toEqual({ id: 'south-quay' });
  expect(lookup.made).toMatchObject([{ kind: 'location', name: 'South quay', rows: 2 }]);
  expect(lookup.idOf('location', '!!!')).toEqual({
    text: '“!!!” has no letters to make a key of',
    wanted: 'a name with letters or digits',
  });
  const person = lookup.idOf('person', 'Ada');
  expect(person).toMatchObject({ text: expect.stringMatching(/^person “Ada” cannot be made: kind must be one of/) });
  expect('wanted' in person && person.wanted).toMatch(/^one of staff/);
  const silent: IntakeTarget = { ...target, build: () => ({ faults: [] }) };
  expect(new Lookup({ location: place }, silent).idOf('location', 'Mill')).toMatchObject({ wanted: 'what it needs' });
  expect(estate.location).toHaveLength(2);
});

// an archive begins with PK 3 4 [APPNOTE.TXT of the ZIP format, 4.3.7]
test.each([
  [[0x50, 0x4b, 3, 4], true],
  [[0x50, 0x4b, 3, 5], false],
  [[0x50, 0x4b, 4, 4], false],
  [[0x50, 0x4c, 3, 4], false],
  [[0x51, 0x4b, 3, 4], false],
  [[0x50, 0x4b, 3], false],
  [[], false],
])('bytes %j begin a workbook: %s', (bytes, is) => {
  expect(isWorkbook(Uint8Array.from(bytes))).toBe(is);
});
