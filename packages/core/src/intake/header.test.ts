import { expect, test } from '@jest/globals';
import { headerAt, usualWidth, widthOf } from './header.js';

const rowsOf = (...rows: string[][]) => rows.map((cells, i) => ({ row: i + 1, cells }));
const data = ['12', '192.0.2.1', '4', '5', '6'];
const known = (text: string) => text.startsWith('known');

test.each([
  ['names of five columns', [['a', 'b', 'c', 'd', 'e'], data], 0],
  // three of five filled is as narrow as a head may be
  ['three of five', [['a', 'b', 'c'], data, data], 0],
  ['two of five', [['a', 'b'], data, data], null],
  // three different of five, whatever their capitals
  ['a name three times', [['a', 'A', 'a', 'd', 'e'], data, data], 0],
  ['a name four times', [['a', 'A', 'a', 'a', 'e'], data, data], null],
  ['a name of eighty letters', [['x'.repeat(80), 'b', 'c', 'd', 'e'], data, data], 0],
  ['a longer one', [['x'.repeat(81), 'b', 'c', 'd', 'e'], data, data], null],
  ['figures in it', [['a', 'b', 'c', 'd', '12'], data, data], null],
  // a year may stand in the head where other names are known
  ['figures, and names that are known', [['known', 'b', 'c', 'd', '2026'], data, data], 0],
  ['two that may be one: the first', [['a', 'b', 'c', 'd', 'e'], ['f', 'g', 'h', 'i', 'j'], data], 0],
  ['one that is known beneath', [['a', 'b', 'c', 'd', 'e'], ['known', 'known 2', 'h', 'i', 'j'], data], 1],
  // a fifth known is 1.2 to 1: not more than a quarter better
  ['one that is hardly known beneath', [['a', 'b', 'c', 'd', 'e'], ['known', 'g', 'h', 'i', 'j'], data], 0],
  [
    'a quarter better, and no more',
    [
      ['a', 'b', 'c', 'd'],
      ['known', 'g', 'h', 'i'],
      ['1', '2', '3', '4'],
    ],
    0,
  ],
  ['blank rows above', [['', ' '], [], ['a', 'b', 'c', 'd', 'e'], data], 2],
  ['thirty rows above', [...Array.from({ length: 30 }, () => data), ['a', 'b', 'c', 'd', 'e']], null],
  ['twenty-nine rows above', [...Array.from({ length: 29 }, () => data), ['a', 'b', 'c', 'd', 'e']], 29],
])('the head is found: %s', (_, rows, at) => {
  expect(headerAt(rowsOf(...rows), known)).toBe(at);
});

test('empty cells at the end make a row no wider, and the width that most rows have is the usual one', () => {
  expect(widthOf(['a', '', 'b', ' ', ''])).toBe(3);
  expect(widthOf(['', ' '])).toBe(0);
  expect(usualWidth(rowsOf(['a'], ['a', 'b'], ['c', 'd'], ['', '']))).toBe(2);
  // of two that are as common the wider one
  expect(usualWidth(rowsOf(['a'], ['a', 'b']))).toBe(2);
  expect(usualWidth(rowsOf(['', '']))).toBe(0);
});
