import { describe, expect, test } from '@jest/globals';
import type { ListLook, TableMap } from '@underpass/contracts';
import { after, filledBy, fitted, openFields, withBehind, withConstant, withField, withPattern, withValue } from './mapping.js';
import { sharesOf } from './shares.js';

const plain = (from: string, to: string) => ({ from, to, with: ' ' });
const map: TableMap = {
  kind: 'endpoint',
  key: 'id',
  columns: [plain('Name', 'name'), plain('No', 'id')],
  constants: { model: 'X' },
  make: {},
};
const look = { head: ['Name', 'No', 'RAM (GB)', 'First'], sample: [{ row: 2, cells: ['A', '1', '8', 'Ada'] }] } as unknown as ListLook;

describe('a mapping that somebody changes', () => {
  test('each field is filled once: the column before is free again, and so is what was the same for all', () => {
    expect(withField(map, 'First', 'name').columns).toEqual([plain('No', 'id'), plain('First', 'name')]);
    expect(withField(map, 'First', 'model')).toMatchObject({
      constants: {},
      columns: [plain('Name', 'name'), plain('No', 'id'), plain('First', 'model')],
    });
    expect(withField(map, 'Name', null).columns).toEqual([plain('No', 'id')]);
    expect(withField(map, 'Name', 'model').columns).toEqual([plain('No', 'id'), plain('Name', 'model')]);
    expect(map.columns).toHaveLength(2);
  });

  test('two columns become one field, and one of them is taken out again', () => {
    const both = withBehind(map, 'First', 'name', ', ');
    expect(filledBy(both, 'First')).toEqual({ from: ['Name', 'First'], with: ', ', to: 'name' });
    expect(withField(both, 'Name', null).columns).toContainEqual({ from: 'First', with: ', ', to: 'name' });
    expect(withBehind(map, 'First', 'model').columns).toContainEqual(plain('First', 'model'));
  });

  test('one column becomes several fields by a pattern, which frees what filled them', () => {
    const parted = withPattern(map, 'First', '{location}-{name}');
    expect(parted.columns).toEqual([plain('No', 'id'), { from: 'First', with: ' ', pattern: '{location}-{name}' }]);
    expect(withPattern(parted, 'First', ' ').columns).toEqual([plain('No', 'id')]);
    expect(openFields(parted).map(({ name }) => name)).not.toContain('location');
  });

  test('what is needed and not filled is told, without the id and parts that may be left out whole', () => {
    expect(openFields(map).map(({ name }) => name)).toEqual([
      'location',
      'deviceClass',
      'ownership',
      'platform',
      'processor',
      'clientKind',
    ]);
    expect(openFields(withConstant(map, 'ownership', 'managed')).map(({ name }) => name)).not.toContain('ownership');
    expect(withConstant(withConstant(map, 'ownership', 'managed'), 'ownership', '').constants).toEqual({ model: 'X' });
  });

  test('cells stand as they will, by what was said of them, and one that cannot be read says so', () => {
    const ram = withField(map, 'RAM (GB)', 'memoryMB');
    expect(after(ram, look, 'RAM (GB)', ['8', 'much', '-'])).toEqual(['8192', null, '']);
    expect(after(withValue(ram, 'RAM (GB)', 'much', '64'), look, 'RAM (GB)', ['much'])).toEqual(['65536']);
    expect(after(map, look, 'RAM (GB)', ['8'])).toEqual([]);
  });

  test('a kept one is fitted to another list: columns that are gone or new are named', () => {
    const kept = { ...map, columns: [...map.columns, plain('Gone', 'model'), { from: ['First', 'Last'], with: ' ', to: 'firmware' }] };
    const { map: next, gone, fresh } = fitted({ ...kept, heads: ['Name', 'No', 'Gone', 'First', 'Last'] }, look);
    expect(fresh).toEqual(['RAM (GB)']);
    expect(fitted(kept, look).fresh).toEqual([]);
    expect(gone).toEqual(['Gone', 'Last']);
    expect(next.columns).toEqual(map.columns);
    expect(next.heads).toEqual(look.head);
  });
});

test('the shares of what is known add up to one, and what many verdicts hang on weighs more', () => {
  const fact = (more: object) => ({
    kind: 'location' as const,
    field: 'x',
    measured: 0,
    reported: 0,
    declared: 0,
    assumed: 0,
    notKnown: 0,
    decides: 0,
    ...more,
  });
  expect(sharesOf([fact({ measured: 3, notKnown: 1 })])).toMatchObject({ measured: 0.75, notKnown: 0.25 });
  const shares = sharesOf([fact({ measured: 1 }), fact({ notKnown: 1, decides: 3 })]);
  expect(shares.notKnown).toBeCloseTo(0.8, 10);
  expect(Object.values(shares).reduce((a, b) => a + b)).toBeCloseTo(1, 10);
  expect(sharesOf([])).toEqual({ measured: 0, reported: 0, declared: 0, assumed: 0, notKnown: 0 });
});
