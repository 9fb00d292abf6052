import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { mergeTexts } from './merge.js';

const fields = ['a', 'b', 'c', 'd'];
const texts = fc.record(Object.fromEntries(fields.map((field) => [field, fc.constantFrom('', 'x', 'y', 'z')])));

test('each kind of field, worked by hand', () => {
  const began = { a: '1', b: '1', c: '1', d: '1' };
  expect(mergeTexts(fields, began, { a: '2', b: '1', c: '2', d: '2' }, { a: '1', b: '3', c: '3', d: '2' })).toEqual({
    texts: { a: '2', b: '3', c: '2', d: '2' },
    clashes: [{ field: 'c', mine: '2', theirs: '3' }],
    followed: [{ field: 'b', text: '3' }],
  });
});

test('nothing anybody typed is lost: every text of either is in the result, is told, or stood there before', () => {
  fc.assert(
    fc.property(texts, texts, texts, (began, mine, theirs) => {
      const merge = mergeTexts(fields, began, mine, theirs);
      for (const field of fields) {
        const clash = merge.clashes.find((each) => each.field === field);
        if (clash) {
          expect([clash.mine, clash.theirs]).toEqual([mine[field], theirs[field]]);
          expect(new Set([began[field], mine[field], theirs[field]]).size).toBe(3);
          // what was typed stays in the field until something is chosen
          expect(merge.texts[field]).toBe(mine[field]);
        } else {
          if (mine[field] !== began[field]) expect(merge.texts[field]).toBe(mine[field]);
          else if (theirs[field] !== began[field]) expect(merge.texts[field]).toBe(theirs[field]);
          else expect(merge.texts[field]).toBe(began[field]);
        }
      }
      // whoever is second, the same fields clash
      expect(mergeTexts(fields, began, theirs, mine).clashes.map(({ field }) => field)).toEqual(merge.clashes.map(({ field }) => field));
    }),
  );
});
