import { describe, expect, it } from '@jest/globals';
import { usualOrder, type SourceClass } from '@underpass/contracts';
import { arrived, classOf, originsOf, orderFor, typed, type SaidFields, type SaidOf } from './sources.js';

const order = () => usualOrder;
const at = '2026-11-01T08:00:00Z';
const says = (value: unknown, when = at): SaidFields => ({ memoryMB: { value, at: when } });
const said = (entries: Record<string, SaidFields>): SaidOf => new Map(Object.entries(entries));
const comes = (source: string, value: unknown, there: number | undefined, of: SaidOf, by = order, assumed?: string[]) =>
  arrived({
    before: { id: 'a', ...(there === undefined ? {} : { memoryMB: there }), ...(assumed ? { assumed } : {}) },
    after: { id: 'a', ...(value === undefined ? {} : { memoryMB: value as number }) },
    ...{ fields: ['memoryMB'], source, at, said: of, order: by },
  });

describe('a source that says something', () => {
  it('fills what is not there, and what is only assumed', () => {
    expect(comes('list:Inventory', 16, undefined, said({}))).toEqual({
      object: { id: 'a', memoryMB: 16 },
      held: [],
      says: { memoryMB: { value: 16, at } },
    });
    expect(comes('list', 16, 8, said({ typed: says(8) }), order, ['memoryMB']).held).toEqual([]);
  });

  it('is held back by one before it in the order, and what it says is kept', () => {
    const { object, held, says: kept } = comes('list', 16, 8, said({ typed: says(8) }));
    expect(object.memoryMB).toBe(8);
    expect(held).toEqual([{ field: 'memoryMB', value: 16, stands: 8, source: 'typed', at }]);
    expect(kept).toEqual({ memoryMB: { value: 16, at } });
  });

  it('takes its turn by the order of the class, just before and just behind it', () => {
    const classes = usualOrder;
    for (const mine of classes)
      for (const theirs of classes) {
        const { object } = comes(mine, 16, 8, said(theirs === 'files' ? {} : { [theirs]: says(8) }));
        expect([mine, theirs, object.memoryMB]).toEqual([mine, theirs, classes.indexOf(mine) <= classes.indexOf(theirs) ? 16 : 8]);
      }
  });

  it('takes the later of two lists', () => {
    expect(comes('list:B', 16, 8, said({ 'list:A': says(8) })).object.memoryMB).toBe(16);
  });

  it('is not held by what is not said any more', () => {
    // somebody typed 4 once; 8 stands now, and nobody says so
    expect(comes('list', 16, 8, said({ typed: says(4) })).object.memoryMB).toBe(16);
  });

  it('is held where somebody said that there is nothing', () => {
    const { object, held } = comes('list', 16, undefined, said({ typed: says(null) }));
    expect(object).toEqual({ id: 'a' });
    expect(held).toHaveLength(1);
  });

  it('says nothing anew where it says the same as before', () => {
    expect(comes('list', 16, 16, said({ list: says(16, '2026-10-01T08:00:00Z') })).says).toEqual({});
    expect(comes('list', 17, 16, said({ list: says(16) })).says).toEqual({ memoryMB: { value: 17, at } });
  });

  it('leaves alone what it says nothing of', () => {
    const { object, held } = arrived({
      before: { id: 'a', name: 'Front desk', memoryMB: 8 },
      after: { id: 'a', name: 'Front desk', memoryMB: 16 },
      ...{ fields: [], source: 'list', at, said: said({ typed: says(8) }), order },
    });
    expect([object.memoryMB, held]).toEqual([16, []]);
  });

  it('makes a new object whatever others say', () => {
    const after = { id: 'a', memoryMB: 16 };
    expect(arrived({ before: null, after, fields: ['memoryMB'], source: 'files', at, said: said({}), order }).object).toEqual(after);
  });
});

describe('the order', () => {
  const turned: readonly SourceClass[] = ['list', 'typed', 'device', 'ldap', 'scim', 'files'];
  it('is that of the field, else that of the kind, else the usual one', () => {
    const own = { endpoint: { all: turned, fields: { name: usualOrder } } } as never;
    expect(orderFor(own, 'endpoint', 'name', usualOrder)).toBe(usualOrder);
    expect(orderFor(own, 'endpoint', 'memoryMB', usualOrder)).toBe(turned);
    expect(orderFor(own, 'person', 'name', usualOrder)).toBe(usualOrder);
    expect(comes('list', 16, 8, said({ typed: says(8) }), () => turned).object.memoryMB).toBe(16);
  });
  it('is by class', () => expect([classOf('list:Inventory'), classOf('typed')]).toEqual(['list', 'typed']));
});

describe('what somebody types', () => {
  it('is what becomes another, and that something is taken away', () => {
    expect(typed({ id: 'a', name: 'A', memoryMB: 8, wired: true }, { id: 'a', name: 'A', memoryMB: 16 }, at, 'Ines Farrow')).toEqual({
      memoryMB: { value: 16, at, by: 'Ines Farrow' },
      wired: { value: null, at, by: 'Ines Farrow' },
    });
  });
  it('may be figures under the name of what is assumed', () => {
    const before = { id: 'organisation', assumed: { 'line/4g': 40 } };
    const after = { id: 'organisation', assumed: { 'line/4g': 45 } };
    expect(typed(before, after, at, 'x')).toEqual({ assumed: { value: { 'line/4g': 45 }, at, by: 'x' } });
    expect(typed({ id: 'organisation' }, after, at, 'x')).toHaveProperty('assumed');
    expect(arrived({ before, after, fields: ['assumed'], source: 'list', at, said: said({}), order }).object).toEqual(after);
    expect(typed({ id: 'e', assumed: ['platform'] }, { id: 'e', platform: 'thin' }, at, 'x')).toEqual({
      platform: { value: 'thin', at, by: 'x' },
    });
  });
  it('is not what is assumed', () => {
    expect(typed(null, { id: 'a', name: 'A', platform: 'desktop', assumed: ['platform'] }, at, 'x')).toEqual({
      name: { value: 'A', at, by: 'x' },
    });
  });
});

describe('where a field is from', () => {
  it('names the deciding source of those that say what stands, and those that say otherwise', () => {
    const of = said({ 'list:Inventory': says(8), device: says(8, '2026-11-02T08:00:00Z'), 'ldap:Main': says(4), typed: says(32) });
    expect(originsOf({ id: 'a', memoryMB: 8 }, of, order)).toEqual([
      {
        ...{ field: 'memoryMB', value: 8, source: 'device', at: '2026-11-02T08:00:00Z' },
        others: [
          { source: 'typed', value: 32, at },
          { source: 'ldap:Main', value: 4, at },
        ],
      },
    ]);
  });
  it('is the files where nobody says what stands', () => {
    expect(originsOf({ id: 'a', memoryMB: 9 }, said({ list: says(8) }), order)[0]).toMatchObject({ source: 'files', at: null });
  });
});
