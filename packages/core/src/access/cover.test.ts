import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { setCover } from './cover.js';

/** Sets as words, an element a letter. */
const cover = (...sets: string[]) => setCover(sets.map((set) => [...set]));

/** Fewest sets by trying every choice. */
function fewest(sets: readonly string[]): number {
  const all = new Set(sets.flatMap((set) => [...set]));
  for (let size = 0; size <= sets.length; size++)
    for (let choice = 0; choice < 2 ** sets.length; choice++) {
      const chosen = sets.filter((_, i) => choice & (1 << i));
      if (chosen.length === size && [...all].every((element) => chosen.some((set) => set.includes(element)))) return size;
    }
  return NaN;
}

describe('the fewest sets that hold everything', () => {
  test('nothing needs nothing', () => {
    expect(cover()).toEqual({ chosen: [], optimal: true, nodes: 1 });
    expect(cover('', '')).toEqual({ chosen: [], optimal: true, nodes: 1 });
  });

  test('by hand: where the largest first takes one too many', () => {
    // the largest first takes “cdef” and then needs both others; without it two are enough
    expect(cover('cdef', 'abcd', 'efgh', 'ab').chosen).toEqual([1, 2]);
    expect(cover('ab', 'efgh', 'abcd', 'cdef').chosen).toEqual([1, 2]);
    // and are told in the order in which they stood, whichever was found first
    expect(cover('abc', 'def', 'defg', 'abcx').chosen).toEqual([2, 3]);
  });

  test('of choices that are as small the first is kept, so that the answer stays', () => {
    expect(cover('ab', 'ab').chosen).toEqual([0]);
    expect(cover('ab', 'cd', 'ac', 'bd').chosen).toEqual([0, 1]);
    expect(cover('ac', 'bd', 'ab', 'cd').chosen).toEqual([0, 1]);
  });

  test('an element twice in a set, and the same set twice, count once', () => {
    expect(setCover([['a', 'a', 'b'], ['b'], ['c', 'c']])).toMatchObject({ chosen: [0, 2], optimal: true });
  });

  test('is what trying every choice finds', () => {
    const anySets = fc.array(fc.uniqueArray(fc.constantFrom(...'abcdefgh'), { maxLength: 5 }), { maxLength: 9 });
    fc.assert(
      fc.property(anySets, (sets) => {
        const words = sets.map((set) => set.join(''));
        const { chosen, optimal } = setCover(sets);
        expect(chosen.length).toBe(fewest(words));
        expect(optimal).toBe(true);
        expect([...chosen].sort((a, b) => a - b)).toEqual(chosen);
        expect(new Set(chosen.flatMap((i) => sets[i] ?? []))).toEqual(new Set(sets.flat()));
      }),
      { numRuns: 500 },
    );
  });
});

// how much is searched is a part of the answer: it is what keeps a large estate from being given up
describe('how far it is searched', () => {
  /** All pairs of so many points: a cover of them is a cover of edges. */
  const pairs = (points: number) =>
    Array.from({ length: points }, (_, i) =>
      Array.from({ length: points }, (__, j) => `${Math.min(i, j)}-${Math.max(i, j)}`).filter((_, j) => j !== i),
    );
  /** Lines of the plane of seven points, of which three are needed and more fit [Fano plane]. */
  const fano = ['abc', 'ade', 'afg', 'bdf', 'beg', 'cdg', 'cef'];

  test('not at all where the largest first cannot be beaten', () => {
    // four that share nothing: the floor says so at once
    expect(cover('ab', 'cd', 'ef', 'gh').nodes).toBe(1);
    // sets within another are left out before: only one is left to be looked at
    expect(cover('abcd', 'ab', 'bc', 'cd', 'd').nodes).toBe(1);
  });

  test.each([
    // any point lies on three lines, and so does any that is left: 1 + 3 + 9, where one more cannot be fewer than three
    ['the plane of seven points', fano, 3, 13],
    ['the same, its lines the other way round', [...fano].reverse(), 3, 13],
    ['where the largest first is one too many', ['cdef', 'abcd', 'efgh', 'ab'], 2, 3],
  ])('%s', (_, sets, size, nodes) => {
    const found = cover(...sets);
    expect([found.chosen.length, found.nodes]).toEqual([size, nodes]);
  });

  test('it is given up beyond what may be searched, and said so; what was found until then is a cover', () => {
    const few = setCover(pairs(9));
    expect([few.optimal, few.chosen.length]).toEqual([true, 8]);
    // 40 sets of 6 of 60 elements by a rule: more than can be searched
    const sets = Array.from({ length: 60 }, (_, i) =>
      Array.from({ length: 6 }, (__, j) => String((i * 7 + j * (i % 5) * 11 + j * j * 3) % 60)),
    );
    const given = setCover(sets);
    expect([given.optimal, given.nodes]).toEqual([false, 50_000]);
    expect(new Set(given.chosen.flatMap((i) => sets[i] ?? []))).toEqual(new Set(sets.flat()));
  });
});
