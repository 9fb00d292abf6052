import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { idsBy, keyed, keyedAfter, keying, Layers, wholeBy, type Keyed, type KeyedBy, type Written } from './index.js';

const listed = <V>(layers: Layers<V>) => [...layers.entries()];

describe('a map with changes over it', () => {
  const under = Layers.of(
    new Map([
      ['a', 1],
      ['b', 2],
      ['c', 3],
    ]),
  );
  const over = under.with(
    new Map<string, number | undefined>([
      ['b', 20],
      ['c', undefined],
      ['d', 4],
    ]),
  );

  test('has what was changed, not what was taken away, and all else; new entries come last', () => {
    expect(listed(over)).toEqual([
      ['a', 1],
      ['b', 20],
      ['d', 4],
    ]);
    expect([over.get('a'), over.get('b'), over.get('c'), over.get('d'), over.get('x')]).toEqual([1, 20, undefined, 4, undefined]);
    expect(['a', 'b', 'c', 'd', 'x'].map((key) => over.has(key))).toEqual([true, true, false, true, false]);
    expect([over.size, under.size]).toEqual([3, 3]);
    expect([[...over.keys()], [...over.values()], [...over]]).toEqual([['a', 'b', 'd'], [1, 20, 4], listed(over)]);
    const each: unknown[] = [];
    over.forEach((value, key, map) => each.push([key, value, map === over]));
    expect(each).toEqual([
      ['a', 1, true],
      ['b', 20, true],
      ['d', 4, true],
    ]);
  });

  test('leaves the one beneath as it was, is the same without changes, and lists itself once', () => {
    expect(listed(under)).toEqual([
      ['a', 1],
      ['b', 2],
      ['c', 3],
    ]);
    expect(under.with(new Map())).toBe(under);
    expect(over.array()).toEqual([1, 20, 4]);
    expect(over.array()).toBe(over.array());
  });

  test('what was taken away and comes again stands where it stood', () => {
    const again = over.with(new Map([['c', 30]]));
    expect(again.get('c')).toBe(30);
    expect(again.size).toBe(4);
    // to take away what is not there changes nothing
    expect(over.with(new Map([['x', undefined]])).size).toBe(3);
  });

  const change = fc.array(fc.tuple(fc.constantFrom(...'abcdefgh'), fc.option(fc.nat({ max: 9 }), { nil: undefined })), { maxLength: 6 });
  test('however many lie over each other, settled or not, it is what a plain map comes to', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 6 }), (changes) => {
        const plain = new Map<string, number>();
        let layers = Layers.of(new Map<string, number>());
        let inOrder = Layers.inOrder(new Map<string, number>());
        for (const list of changes) {
          const map = new Map(list);
          for (const [key, value] of map)
            if (value === undefined) plain.delete(key);
            else plain.set(key, value);
          layers = layers.with(map);
          inOrder = inOrder.with(map);
          for (const each of [inOrder, inOrder.settled(), Layers.inOrder(plain)])
            expect(listed(each)).toEqual([...plain].sort(([a], [b]) => (a < b ? -1 : 1)));
          for (const each of [layers, layers.settled()]) {
            expect(new Map(each.entries())).toEqual(plain);
            expect(each.size).toBe(plain.size);
            for (const key of 'abcdefgh') expect([each.get(key), each.has(key)]).toEqual([plain.get(key), plain.has(key)]);
          }
        }
      }),
    );
  });

  test('settled, at most one layer lies over a plain map; where too much does, it is copied', () => {
    expect(under.settled()).toBe(under);
    const few = over.with(new Map([['e', 5]])).settled();
    expect(few.settled()).toBe(few);
    expect(listed(few)).toEqual([
      ['a', 1],
      ['b', 20],
      ['d', 4],
      ['e', 5],
    ]);
    const many = over.with(new Map(Array.from({ length: 100 }, (_, i) => [`n${i}`, i]))).settled();
    expect(many.settled()).toBe(many);
    expect(many.size).toBe(103);
    expect(listed(many).slice(0, 4)).toEqual([
      ['a', 1],
      ['b', 20],
      ['d', 4],
      ['n0', 0],
    ]);
  });
});

interface Thing {
  id: string;
  at: string[];
}
const thing = (id: string, ...at: string[]): Thing => ({ id, at });
const ids = idsBy(({ at }: Thing) => at);
const whole = wholeBy(({ at }: Thing) => at);
const plainly = <T>(index: Keyed<T>) => Object.fromEntries(index.entries());

describe('objects by something in them', () => {
  const [a, b, c] = [thing('a', 'x', 'y'), thing('b', 'x'), thing('c')];

  test('each stands under each of its keys once, in the order of the ids', () => {
    expect(plainly(keyed(ids, [b, a, c, thing('d', 'y', 'y')]))).toEqual({ x: ['a', 'b'], y: ['a', 'd'] });
    expect(plainly(keyed(whole, [b, a]))).toEqual({ x: [a, b], y: [a] });
  });

  test('an object that is written moves between the lists; one whose keys stay touches only lists that hold it whole', () => {
    const moved = { ...a, at: ['y', 'z'] };
    expect(plainly(keyedAfter(ids, keyed(ids, [a, b]), [{ id: 'a', before: a, after: moved }]))).toEqual({ x: ['b'], y: ['a'], z: ['a'] });
    const renamed = { ...b, extra: true };
    const index = keyed(ids, [a, b]);
    expect(keyedAfter(ids, index, [{ id: 'b', before: b, after: renamed }])).toBe(index);
    expect(plainly(keyedAfter(whole, keyed(whole, [a, b]), [{ id: 'b', before: b, after: renamed }])).x).toEqual([a, renamed]);
  });

  test('made and removed: a list that is empty is gone, one that is new is there', () => {
    const index = keyed(ids, [b]);
    expect(plainly(keyedAfter(ids, index, [{ id: 'b', before: b, after: null }]))).toEqual({});
    expect(plainly(keyedAfter(ids, index, [{ id: 'a', before: null, after: a }]))).toEqual({ x: ['a', 'b'], y: ['a'] });
    expect(plainly(keyedAfter(ids, index, [{ id: 'c', before: null, after: c }]))).toEqual({ x: ['b'] });
  });

  test.each<[string, KeyedBy<Thing, unknown>]>([
    ['ids', ids],
    ['whole objects', whole],
  ])('kept up step by step, lists of %s are what making them anew gives', (_, by) => {
    const places = fc.array(fc.constantFrom('x', 'y', 'z'), { maxLength: 3 });
    const writes = fc.array(fc.tuple(fc.constantFrom('a', 'b', 'c', 'd'), fc.option(places, { nil: null })), { maxLength: 5 });
    fc.assert(
      fc.property(fc.array(writes, { maxLength: 5 }), (steps) => {
        const now = new Map<string, Thing>();
        let index = keyed(by, []);
        for (const step of steps) {
          const written: Written<Thing>[] = [...new Map(step)].map(([id, at]) => {
            const before = now.get(id) ?? null;
            const after = at ? thing(id, ...at) : null;
            if (after) now.set(id, after);
            else now.delete(id);
            return { id, before, after };
          });
          index = keyedAfter(by, index, written);
          expect(plainly(index)).toEqual(plainly(keyed(by, now.values())));
        }
      }),
    );
  });
});

test('lists that are made in steps stand back after every thousand objects, and are the lists made at once', () => {
  const objects = (count: number) => Array.from({ length: count }, (_, i) => ({ id: `o${count - i}`, place: `p${i % 7}` }));
  const by = idsBy((object: { id: string; place: string }) => [object.place]);
  for (const [count, steps] of [
    [999, 0],
    [1000, 1],
    [2500, 2],
  ] as const) {
    const work = keying(by, objects(count));
    let stood = 0;
    let step = work.next();
    for (; !step.done; step = work.next()) stood++;
    expect([count, stood]).toEqual([count, steps]);
    expect(listed(step.value)).toEqual(listed(keyed(by, objects(count))));
  }
});
