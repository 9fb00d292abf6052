import { describe, expect, it } from '@jest/globals';
import { readResource, valueOf } from './resource.js';
import { enterpriseSchema, userKind, type ScimAttribute, type ScimType } from './schema.js';

const of = (type: ScimType, more: Partial<ScimAttribute> = {}): ScimAttribute => ({ name: 'it', type, description: '', ...more });
const outcome = (attribute: ScimAttribute, value: unknown, one = false): unknown => {
  try {
    return valueOf(attribute, value, one);
  } catch (error) {
    return `${(error as { fault: string }).fault}: ${(error as Error).message}`;
  }
};
const wrong = (what: string) => `invalidValue: “it” must be ${what}`;

// the types of RFC 7643 2.3
describe('a value', () => {
  it.each<[ScimType, unknown, unknown]>([
    ['boolean', true, true],
    ['boolean', 'TRUE', true],
    ['boolean', 'false', false],
    ['boolean', 'untrue', wrong('true or false')],
    ['boolean', 'true!', wrong('true or false')],
    ['boolean', ['true'], 'invalidValue: “it” has one value, not a list'],
    ['boolean', 1, wrong('true or false')],
    ['boolean', { toString: () => 'true' }, wrong('true or false')],
    ['integer', 7, 7],
    ['integer', 7.5, wrong('a whole number')],
    ['integer', '7', wrong('a whole number')],
    ['integer', Infinity, wrong('a whole number')],
    ['decimal', 7.5, 7.5],
    ['decimal', -2, -2],
    ['decimal', NaN, wrong('a number')],
    ['decimal', '7.5', wrong('a number')],
    ['string', 7, wrong('a text')],
    ['string', 'x'.repeat(4000), 'x'.repeat(4000)],
    ['string', 'x'.repeat(4001), wrong('at most 4000 characters')],
    ['reference', '7', '7'],
    ['binary', 'A'.repeat(80_000), 'A'.repeat(80_000)],
    ['binary', 'A'.repeat(80_001), wrong('at most 80000 characters')],
    ['dateTime', '2026-11-27T08:00:00Z', '2026-11-27T08:00:00Z'],
    ['dateTime', 'yesterday', wrong('a time as 2026-11-27T08:00:00Z')],
    ['string', 'yesterday', 'yesterday'],
    ['string', null, undefined],
    ['string', undefined, undefined],
    ['complex', 'x', wrong('an object with its parts')],
    ['complex', {}, undefined],
    ['complex', { part: 'x' }, undefined],
  ])('of the type %s: %j', (type, value, wanted) => expect(outcome(of(type), value)).toEqual(wanted));

  const mail = of('complex', {
    multiValued: true,
    subAttributes: [
      { name: 'value', type: 'string', description: '' },
      { name: 'primary', type: 'boolean', description: '' },
      { name: 'ours', type: 'string', mutability: 'readOnly', description: '' },
    ],
  });
  it.each([
    ['one that is no list', 'a', [{ value: 'a' }]],
    ['with one that is nothing', ['a', null, {}, 'b'], [{ value: 'a' }, { value: 'b' }]],
    ['none', [], undefined],
    ['nothing but nothing', [null], undefined],
    ['what is ours to say', [{ value: 'a', ours: 'x', theirs: 'y' }], [{ value: 'a' }]],
    [
      'two that come first, of which the last does',
      [{ value: 'a', primary: true }, { value: 'b', primary: true }, { value: 'c' }],
      [{ value: 'a', primary: false }, { value: 'b', primary: true }, { value: 'c' }],
    ],
  ])('of several: %s', (_, value, wanted) => expect(outcome(mail, value)).toEqual(wanted));
  it('of several may be asked for alone', () => {
    expect(outcome(mail, { value: 'a' }, true)).toEqual({ value: 'a' });
    expect(outcome(mail, [{ value: 'a' }], true)).toBe('invalidValue: “it” has one value, not a list');
  });
  it('of several has an end', () => {
    const list = (length: number) => Array.from({ length }, () => 'a');
    const texts = of('string', { multiValued: true });
    expect(outcome(texts, list(20_000))).toHaveLength(20_000);
    expect(outcome(texts, list(20_001))).toBe('invalidValue: “it” has more than 20000 values');
  });
});

describe('an extension', () => {
  const sent = (part: unknown) => readResource(userKind, { schemas: [userKind.schema.id], userName: 'a', [enterpriseSchema.id]: part });
  it.each([
    ['with nothing that is known', { odd: 1 }],
    ['that is null', null],
    ['that is nothing', undefined],
    ['that is empty', {}],
  ])('%s is left out', (_, part) => expect(sent(part)).toEqual({ userName: 'a' }));
  it('that is a text is refused', () => {
    expect(() => sent('x')).toThrow(`“${enterpriseSchema.id}” must be an object`);
  });
});
