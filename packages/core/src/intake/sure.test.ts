import { expect, test } from '@jest/globals';
import { guessColumns, mapOf } from './guess.js';
import type { Sheet } from './sheet.js';
import type { IntakeField, IntakeTarget, Named } from './target.js';

const field = (name: string, more: Partial<IntakeField> = {}): IntakeField => ({
  ...{ name, type: 'text', options: [], description: '', required: false, expected: 'text' },
  ...more,
});
const target = (fields: IntakeField[], places: Named[] = []): IntakeTarget => ({
  kind: 'endpoint',
  fields,
  objects: () => places,
  build: (_, texts) => ({ object: { id: texts.id ?? '' } }),
  keyOf: (name) => name,
});
const sheet = (head: string, ...cells: string[]): Sheet => ({
  ...{ format: 'csv', encoding: 'utf-8', delimiter: ';', headerRow: 1, head: [head], notes: [] },
  rows: cells.map((cell, i) => ({ row: i + 2, cells: [cell] })),
});
const memory = field('memoryMB', { type: 'number', whole: true });
const guessed = (head: string, fields: IntakeField[], cells: string[], places: Named[] = []) => {
  const [guess] = guessColumns(sheet(head, ...cells), target(fields, places));
  return [guess?.field, guess?.sure];
};

// a column without cells: nine tenths of what its name says
test.each([
  ['memoryMB', 'its own name, 1', 0.9],
  ['Memory', 'the first word of the page of words, 0.97', 0.87],
  ['Memory [in the]', 'the same, small words left out, 0.92', 0.83],
  ['Device memory', 'one word of two, 0.55 + 0.25 × 1/2', 0.61],
  ['Total device memory', 'one word of three, 0.55 + 0.25 × 1/3', 0.57],
  ['Large installed memory', 'two words of three, 0.55 + 0.25 × 2/3', 0.65],
  ['Arbeitsspeichergesamt', 'a word with one of ours at its beginning', 0],
])('a column called %s is taken for memory as surely as its name says: %s', (head, _, sure) => {
  expect(guessed(head, [memory], [])).toEqual(sure ? ['memoryMB', sure] : [null, 0]);
});

// 0.65 of it is the name’s, 0.35 that of its cells
test.each([
  // “speicher” at the end of a longer word: 0.5
  ['Gerätespeicher', ['4096', '8192'], 0.68],
  ['Speichergerät', ['4096', '8192'], 0],
  ['Memory', ['4096', '8192'], 0.98],
  ['Memory', ['4096', 'much'], 0.81],
  // nothing fits: a name by itself is not trusted
  ['Device memory', ['red', 'blue'], 0],
  ['memoryMB', ['red', 'blue'], 0.65],
])('%s with the cells %j is memory by %s', (head, cells, sure) => {
  expect(guessed(head, [memory], cells)).toEqual(sure ? ['memoryMB', sure] : [null, 0]);
});

test.each([
  // 0.45 for the last word alone, of more than three letters
  ['Radio standard', 'wifi.standard', ['4', '5'], 0.64],
  ['Radio age', 'wifi.age', ['4', '5'], 0],
  ['Radio ages', 'wifi.ages', ['4', '5'], 0.64],
])('the column %s is the field %s by its last word', (head, name, cells, sure) => {
  expect(guessed(head, [field(name, { type: 'number' })], cells)).toEqual(sure ? [name, sure] : [null, 0]);
});

const places = ['North yard', 'Wexcombe hall', 'Old quay', 'Mill', 'Ferry house'].map((name, i) => ({ id: `p${i}`, name }));
const location = field('location', { kind: 'location' });
test.each([
  [['North yard', 'Mill', 'Old quay'], 0.7],
  // four of five: 0.7 × 0.8
  [['North yard', 'Mill', 'Old quay', 'Ferry house', 'Elsewhere'], 0.56],
  [['North yard', 'Mill', 'Old quay', 'Elsewhere', 'Nowhere'], 0],
])('cells %j are places by what is there', (cells, sure) => {
  expect(guessed('xyz', [location], cells, places)).toEqual(sure ? ['location', sure] : [null, 0]);
});
test('where no place is there, cells say nothing of places', () => {
  expect(guessed('xyz', [location], ['North yard', 'Mill', 'Old quay'])).toEqual([null, 0]);
});

const colour = field('colour', { type: 'enum', options: ['red', 'blue'] });
test.each([
  // a few words that come again and again, all of them choices
  [['red', 'red', 'blue', 'red', 'red', 'blue', 'red'], 0.55],
  [['red', 'red', 'blue', 'red', 'red', 'blue', 'green'], 0],
  // so few that they may be anything
  [['red', 'blue'], 0],
])('cells %j are choices of a field whose name is another', (cells, sure) => {
  expect(guessed('xyz', [colour], cells)).toEqual(sure ? ['colour', sure] : [null, 0]);
});
test('a text takes any word, and is not taken for it', () => {
  expect(guessed('xyz', [field('remark')], ['red', 'red', 'blue', 'red', 'red', 'blue', 'red'])).toEqual([null, 0]);
});

test.each([
  [['ID', 'Name'], ['id', 'name'], 'id'],
  [['Name'], ['name'], 'name'],
  [['Place'], ['location'], 'id'],
  [['?', 'Name'], [null, 'name'], 'name'],
])('of the columns %j, taken for %j, the key is %s', (head, fields, key) => {
  const list = { ...sheet(''), head };
  const guesses = head.map((name, i) => ({ name, looksLike: 'name' as const, samples: [], field: fields[i] ?? null, sure: 1 }));
  expect(mapOf('endpoint', list, guesses)).toMatchObject({
    ...{ key, heads: head, constants: {}, make: {} },
    columns: head.flatMap((from, i) => (fields[i] ? [{ from, with: ' ', to: fields[i] }] : [])),
  });
});
