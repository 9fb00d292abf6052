import { describe, expect, test } from '@jest/globals';
import { largestOnSheetMm, sheet, sheetLayout } from './codeSheet.js';
import { remedyOrder, type Work } from './remedyOrder.js';

describe('codes on sheets of paper', () => {
  // a sheet of 210 × 297 mm less 12 mm at each edge is 186 × 273 mm; beneath each code 24 mm for its words, 6 mm between two
  test('by hand: small ones three across and seven down', () => {
    // cells of 56 mm: 3 × 56 + 2 × 6 = 180 of 186; rows of 12 + 24 + 6 = 42: (273 + 6) ÷ 42 is 6.6, so six
    const cells = sheetLayout(19, 12);
    expect(cells[0]).toEqual({ page: 0, xMm: 12, yMm: 12, widthMm: 56 });
    expect(cells[1]).toEqual({ page: 0, xMm: 74, yMm: 12, widthMm: 56 });
    expect(cells[2]).toEqual({ page: 0, xMm: 136, yMm: 12, widthMm: 56 });
    expect(cells[3]).toEqual({ page: 0, xMm: 12, yMm: 54, widthMm: 56 });
    expect(cells[17]).toEqual({ page: 0, xMm: 136, yMm: 222, widthMm: 56 });
    expect(cells[18]).toEqual({ page: 1, xMm: 12, yMm: 12, widthMm: 56 });
  });

  test.each([
    // two across as long as 2 × width + 6 is at most 186
    [90, 2, 2],
    [91, 1, 2],
    // two down as long as 2 × (size + 24) + 6 is at most 273
    [109.5, 1, 2],
    [109.6, 1, 1],
  ])('of %f mm there are %i across and %i down', (wholeMm, across, down) => {
    const cells = sheetLayout(across * down + 1, wholeMm);
    expect(cells.filter(({ page, yMm }) => page === 0 && yMm === 12).length).toBe(across);
    expect(cells.filter(({ page, xMm }) => page === 0 && xMm === 12).length).toBe(down);
    expect(cells.at(-1)?.page).toBe(1);
  });

  test('the largest that a page takes is one a page, within its margins', () => {
    expect(largestOnSheetMm).toBe(186);
    const cells = sheetLayout(2, largestOnSheetMm);
    expect(cells).toEqual([
      { page: 0, xMm: 12, yMm: 12, widthMm: 186 },
      { page: 1, xMm: 12, yMm: 12, widthMm: 186 },
    ]);
    // what is larger than any page is put on one all the same
    expect(sheetLayout(2, 400).map(({ page }) => page)).toEqual([0, 1]);
    expect(sheetLayout(0, 40)).toEqual([]);
    expect(sheet.widthMm - 2 * sheet.marginMm).toBe(186);
  });
});

describe('in which order the work is done', () => {
  const work = (key: string, effortH: number): [string, Work] => [key, { key, condition: 'c', object: 'o', effortH }];
  const works = new Map([work('a', 2), work('b', 1), work('c', 1), work('d', 6)]);
  const needs = (of: Record<string, string[]>) => new Map(Object.entries(of).map(([person, keys]) => [person, new Set(keys)]));
  const told = (of: Record<string, string[]>, with_ = works) =>
    remedyOrder(needs(of), with_).map((step) => [step.works.map(({ key }) => key).join('+'), step.people.join('+'), step.effortH]);

  test('by hand: most people an hour first, and whoever needs no more gets through with it', () => {
    // a serves two in 2 h; b + c serve three in 2 h; d one in 6 h
    expect(told({ ann: ['a'], bob: ['a'], cid: ['b', 'c'], dot: ['c', 'b'], eve: ['c'], fay: ['d', 'a'] })).toEqual([
      ['b+c', 'cid+dot+eve', 2],
      ['a', 'ann+bob', 2],
      ['d', 'fay', 6],
    ]);
  });

  test('of two that come to the same the first stays; what is done is not done again', () => {
    expect(told({ ann: ['b'], bob: ['c'] })).toEqual([
      ['b', 'ann', 1],
      ['c', 'bob', 1],
    ]);
    expect(told({ bob: ['c'], ann: ['b'] })[0]).toEqual(['c', 'bob', 1]);
    expect(told({ ann: ['b'], bob: ['b', 'c'] })).toEqual([
      ['b', 'ann', 1],
      ['c', 'bob', 1],
    ]);
  });

  test('whoever needs nothing waits for nothing; work that nobody described takes no time, and what cannot be done ends it', () => {
    expect(told({ ann: [] })).toEqual([]);
    expect(told({})).toEqual([]);
    // the hours of what is not described are none
    expect(told({ ann: ['b', 'unknown'], bob: ['b', 'unknown'] })).toEqual([['b', 'ann+bob', 1]]);
  });

  test('names that run together are different work', () => {
    const odd = new Map([work('ab', 1), work('c', 1), work('a', 1), work('bc', 1)]);
    expect(told({ ann: ['ab', 'c'], bob: ['a', 'bc'] }, odd)).toEqual([
      ['ab+c', 'ann', 2],
      ['a+bc', 'bob', 2],
    ]);
  });
});
