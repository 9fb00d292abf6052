import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { FormRow } from '@underpass/contracts';
import { mergeValues, told } from './merge.js';

const fields = ['a', 'b', 'c', 'd'];
const texts = fc.record(Object.fromEntries(fields.map((field) => [field, fc.constantFrom('', 'x', 'y', 'z')])));

test('each kind of field, worked by hand', () => {
  const began = { a: '1', b: '1', c: '1', d: '1' };
  expect(mergeValues(fields, began, { a: '2', b: '1', c: '2', d: '2' }, { a: '1', b: '3', c: '3', d: '2' })).toEqual({
    values: { a: '2', b: '3', c: '2', d: '2' },
    clashes: [{ field: 'c', mine: '2', theirs: '3' }],
    followed: [{ field: 'b', value: '3' }],
  });
});

test('nothing anybody typed is lost: every text of either is in the result, is told, or stood there before', () => {
  fc.assert(
    fc.property(texts, texts, texts, (began, mine, theirs) => {
      const merge = mergeValues(fields, began, mine, theirs);
      for (const field of fields) {
        const clash = merge.clashes.find((each) => each.field === field);
        if (clash) {
          expect([clash.mine, clash.theirs]).toEqual([mine[field], theirs[field]]);
          expect(new Set([began[field], mine[field], theirs[field]]).size).toBe(3);
          // what was typed stays in the field until something is chosen
          expect(merge.values[field]).toBe(mine[field]);
        } else {
          if (mine[field] !== began[field]) expect(merge.values[field]).toBe(mine[field]);
          else if (theirs[field] !== began[field]) expect(merge.values[field]).toBe(theirs[field]);
          else expect(merge.values[field]).toBe(began[field]);
        }
      }
      // whoever is second, the same fields clash
      expect(mergeValues(fields, began, theirs, mine).clashes.map(({ field }) => field)).toEqual(merge.clashes.map(({ field }) => field));
    }),
  );
});

test('rows and lists are taken or left as a whole, and are told in words', () => {
  const small: FormRow[] = [{ widthPx: '1280', port: '' }];
  const large: FormRow[] = [{ widthPx: '3840', port: 'hdmi-2.0' }, { widthPx: '1280' }];
  expect(mergeValues(['a'], { a: small }, { a: [...small] }, { a: large }).followed).toEqual([{ field: 'a', value: large }]);
  expect(mergeValues(['a'], { a: [] }, { a: small }, { a: large }).clashes).toHaveLength(1);
  expect([told(large), told(['x', '', 'y']), told('z'), told([])]).toEqual(['3840 hdmi-2.0; 1280', 'x; y', 'z', '']);
});
