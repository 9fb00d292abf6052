import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { slipsBetween, entryOf, find, wordsIn } from './index.js';

/** The same by its definition: every way of making slips, tried in turn. */
function slow(a: string, b: string): number {
  if (a === '' || b === '') return a.length + b.length;
  const [x, y] = [a.slice(0, -1), b.slice(0, -1)];
  const last = a.at(-1) === b.at(-1) ? 0 : 1;
  const ways = [slow(x, b) + 1, slow(a, y) + 1, slow(x, y) + last];
  if (a.length > 1 && b.length > 1 && a.at(-1) === b.at(-2) && a.at(-2) === b.at(-1)) ways.push(slow(a.slice(0, -2), b.slice(0, -2)) + 1);
  return Math.min(...ways);
}

describe('slips between two words', () => {
  test('worked by hand, with the examples of the literature', () => {
    // kitten, sitting: Levenshtein; ca, abc: optimal string alignment counts 3, since no part is edited twice
    expect([
      slipsBetween('kitten', 'sitting'),
      slipsBetween('ca', 'abc'),
      slipsBetween('ab', 'ba'),
      slipsBetween('', 'abc'),
      slipsBetween('x', 'x'),
    ]).toEqual([3, 3, 1, 3, 0]);
  });

  test('as its definition says, either way round, and above the limit only that it is above', () => {
    const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), maxLength: 6 });
    fc.assert(
      fc.property(word, word, fc.nat(4), (a, b, most) => {
        const far = slow(a, b);
        expect(slipsBetween(a, b)).toBe(far);
        expect(slipsBetween(b, a)).toBe(far);
        const limited = slipsBetween(a, b, most);
        expect(far <= most ? limited : limited > most).toBe(far <= most ? far : true);
      }),
    );
  });
});

const things = [
  ['person', 'P001', 'Greta Vance', 'Wexcombe ticket hall'],
  ['person', 'P002', 'Gregor Vane', 'Head office'],
  ['endpoint', 'WEX-TC-020', 'WEX-TC-020', 'Wexcombe ticket hall'],
  ['location', 'wexcombe', 'Wexcombe ticket hall', ''],
  ['setting', 'security.secondFactorTimeoutS', 'Time allowed for the second factor', 'setting'],
  ['location', 'vance', 'Vance', ''],
].map(([kind = '', id = '', name = '', detail = '']) => entryOf({ kind, id, name, detail, path: `/${id}` }));
const words = () => new Set(things.flatMap(wordsIn));
const ids = (typed: string, limit = 10) => find(things, typed, limit, words).map(({ id }) => id);

describe('finding', () => {
  test('by parts of words in any order: the whole name first, then its beginning, beginnings of words, parts', () => {
    // Gregor Vane is one slip away, and is not called so
    expect(ids('vance')).toEqual(['vance', 'P001']);
    expect(ids('vance gre')).toEqual(['P001']);
    expect(ids('tc 020')).toEqual(['WEX-TC-020']);
    expect(ids('wex')).toEqual(['WEX-TC-020', 'wexcombe', 'P001']);
    expect(ids('eta vanc')).toEqual(['P001']);
    expect(ids('p002')).toEqual(['P002']);
    expect(ids('secondfactor')).toEqual(['security.secondFactorTimeoutS']);
    expect(ids('', 5)).toEqual([]);
    expect(ids('zebra')).toEqual([]);
  });

  test('with a small slip in a word of four letters or more, what is typed right coming first', () => {
    expect(ids('wexcmobe')).toEqual(expect.arrayContaining(['wexcombe', 'P001', 'WEX-TC-020']));
    expect(ids('gerta')).toEqual(['P001']);
    expect(ids('gre')).toEqual(['P001', 'P002']);
    // three letters would become others
    expect(ids('gte')).toEqual([]);
    expect(ids('secnod factr')).toEqual(['security.secondFactorTimeoutS']);
    expect(ids('wexc tickte')).toContain('wexcombe');
  });

  test('no more than is asked for, each once', () => {
    expect(ids('wexcombe', 2)).toHaveLength(2);
    const all = ids('wexcombe ticket', 9);
    expect(new Set(all).size).toBe(all.length);
  });
});

describe('finding, rule by rule', () => {
  const named = (...names: string[]) => names.map((name) => entryOf({ kind: 'x', id: name, name, detail: '', path: '' }));
  const found = (entries: ReturnType<typeof named>, typed: string, limit = 20) =>
    find(entries, typed, limit, () => new Set(entries.flatMap(wordsIn))).map(({ name }) => name);

  test('the whole name, its beginning, beginnings of words, parts of words; of equals as they stand', () => {
    const entries = named('betide', 'low tide', 'a tide', 'tide table', 'tide');
    expect(found(entries, 'tide')).toEqual(['tide', 'tide table', 'low tide', 'a tide', 'betide']);
    expect(found(entries, '  Tide   TABLE ')).toEqual(['tide table']);
    // one word that begins none of its words puts it behind
    expect(found(named('nightide low', 'low tide'), 'low tide')).toEqual(['low tide', 'nightide low']);
  });

  test('slips: none in three letters, one from four, two from eight', () => {
    const words = named('a tea', 'a dock', 'a harbour', 'a lighters');
    const of = (typed: string) => found(words, typed);
    expect([of('tee'), of('dokc'), of('dxkx')]).toEqual([[], ['a dock'], []]);
    expect([of('harbuor'), of('hrabuor')]).toEqual([['a harbour'], []]);
    expect([of('lihgtesr'), of('lihgxesr')]).toEqual([['a lighters'], []]);
  });

  test('the word that is least far comes first among those that slips lead to, and what is typed is never far', () => {
    expect(found(named('a loaders', 'a readers', 'a headers'), 'raeders')[0]).toBe('a readers');
    // both words are looked for: the first is right, the second slips
    expect(found(named('ticket hall', 'ticket office'), 'ticket hlal')).toEqual(['ticket hall']);
    expect(found(named('ticket hall'), 'zebra hall')).toEqual([]);
  });

  test('names are taken apart at what parts their words, and are found by their id and what is said beside them', () => {
    const one = entryOf({ kind: 'x', id: 'A-1', name: 'Berth plan', detail: 'At the quay/north', path: '' });
    expect(one.text).toBe(' berth plan a- 1 at the quay/ north a-1');
    expect(entryOf({ kind: 'x', id: 'same', name: 'same', detail: '', path: '' }).text).toBe(' same   same');
    expect(find([one], 'north', 5, () => [])).toHaveLength(1);
    expect(wordsIn(one)).toEqual(['berth', 'plan', 'the', 'quay', 'north']);
  });

  test('of very many that fit the first are ranked, and no search takes longer for more', () => {
    const many = named(...Array.from({ length: 3200 }, (_, i) => `tide ${i}`), 'tide');
    expect(found(many, 'tide')).toHaveLength(20);
    // the one that is called so stands behind those that are looked at
    expect(found(many, 'tide')[0]).toBe('tide 0');
    expect(found(many.slice(201), 'tide')[0]).toBe('tide');
  });
});
