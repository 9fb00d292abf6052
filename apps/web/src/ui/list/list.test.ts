import { expect, test } from '@jest/globals';
import { namedOf, shownOf, type ListColumn } from './columns.js';
import { between } from './useListKeys.js';

const column = (id: string, extra = false): ListColumn<string> => ({
  id,
  head: id,
  width: '1fr',
  cell: (row) => row,
  text: (row) => row,
  extra,
});
const columns = [column('name'), column('kind'), column('place'), column('cores', true)];

test('the first column is always shown, others by their names in the address; the usual ones are not named', () => {
  expect(shownOf(columns, null)).toEqual(['name', 'kind', 'place']);
  expect(shownOf(columns, 'cores,kind,nonsense')).toEqual(['name', 'kind', 'cores']);
  expect(shownOf(columns, '')).toEqual(['name']);
  expect(namedOf(columns, ['place', 'kind', 'name'])).toBeNull();
  expect(namedOf(columns, ['name', 'cores'])).toBe('name,cores');
  expect(shownOf(columns, namedOf(columns, ['name', 'cores']))).toEqual(['name', 'cores']);
});

test('a range holds both its ends, whichever way it is drawn', () => {
  const ids = ['a', 'b', 'c', 'd'];
  expect([between(ids, 1, 2), between(ids, 2, 1), between(ids, 3, 3)]).toEqual([['b', 'c'], ['b', 'c'], ['d']]);
});
