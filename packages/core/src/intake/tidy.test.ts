import { expect, test } from '@jest/globals';
import { tidyCell, wordFor } from './tidy.js';
import type { IntakeField } from './target.js';

const style = { comma: 'unclear', days: 'unclear' } as const;
const field = (name: string, type: IntakeField['type'], more: Partial<IntakeField> = {}): IntakeField => ({
  ...{ name, type, options: [], description: '', required: false, expected: 'what is wanted' },
  ...more,
});
const read = (cell: string, of: IntakeField) => {
  const tidied = tidyCell(cell, of, of.name, style);
  return 'text' in tidied ? tidied.text : `? ${tidied.problem}`;
};

test.each([
  ['1920x1080', '1920x1080'],
  ['1920x1080@59.94 left', '1920x1080@59.94 left'],
  ['2x 1920x1080', '1920x1080; 1920x1080'],
  ['2 x 1920 × 1080 @ 60 Hz', '1920x1080@60; 1920x1080@60'],
  ['1920x1080, 1280x1024', '1920x1080; 1280x1024'],
  ['1920x1080 + 1280x1024 | 800x600', '1920x1080; 1280x1024; 800x600'],
  ['1920x1080 and 1280x1024 und 800*600', '1920x1080; 1280x1024; 800x600'],
  // the comma of a refresh parts no screens, with its unit or without, at the end or before the next
  ['1920x1080 @ 59,9 Hz', '1920x1080@59.9'],
  ['1920x1080 @ 59,940 hz, 1280x1024 @ 75 Hz', '1920x1080@59.940; 1280x1024@75'],
  ['1920x1080@59,9hz;1280x1024', '1920x1080@59.9; 1280x1024'],
  ['large', '? “large” is not a screen'],
])('screens written %s are %s', (cell, wanted) => {
  expect(read(cell, field('screens', 'structured'))).toBe(wanted);
});

const plugged = field('plugged', 'boolean', { expected: 'yes or no' });
test.each([
  ['Ja', 'yes'],
  ['nein', 'no'],
  ['in', 'in'],
  ['out', 'out'],
  ['Plugged', 'plugged'],
  ['plugged in', 'plugged in'],
  ['unplugged', 'unplugged'],
  ['connected', 'connected'],
  ['disconnected', 'disconnected'],
  ['none', 'none'],
  ['nonesuch', '? “nonesuch” is neither yes nor no'],
  ['put in', '? “put in” is neither yes nor no'],
])('a yes or no written %s is %s', (cell, wanted) => {
  expect(read(cell, plugged)).toBe(wanted);
});
test('words of a field of its own are not those of a cable', () => {
  expect(read('in', field('managed', 'boolean', { expected: 'managed or not' }))).toBe('? “in” is neither yes nor no');
});

test('a choice is taken by its very letters before what is written alike', () => {
  expect(wordFor('TLS', 'x', ['tls', 'TLS'])).toBe('TLS');
  expect(wordFor('tls', 'x', ['tls', 'TLS'])).toBe('tls');
  expect(wordFor('Tls', 'x', ['tls', 'TLS'])).toBe('tls');
});

test.each([
  ['headset; Scanner,-', 'headset;scanner'],
  ['headset|headset\nscanner', 'headset;scanner'],
  ['headset; toaster', '? “toaster” is not a word known here'],
])('a list of choices written %j is %s', (cell, wanted) => {
  expect(read(cell, field('peripherals', 'list', { options: ['headset', 'scanner'] }))).toBe(wanted);
});
test.each([
  ['firmware', 'v4.2', '4.2'],
  ['clientVersion', 'Version 4.2', '4.2'],
  ['release', 'vintage', 'vintage'],
  ['name', 'v4.2', 'v4.2'],
  ['warrantyEndsOn', '31.12.2026', '2026-12-31'],
])('of the field %s the text %s is %s', (name, cell, wanted) => {
  expect(read(cell, field(name, 'text'))).toBe(wanted);
});
