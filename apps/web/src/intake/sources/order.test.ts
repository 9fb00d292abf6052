import { describe, expect, it } from '@jest/globals';
import { SourceOrder, usualOrder } from '@underpass/contracts';
import { moved, rulesOf, withoutRule, withRule } from './order.js';

const turned = [...usualOrder].reverse();

describe('orders of sources', () => {
  it('are set for a kind and for a field, and are what the server takes', () => {
    const kind = withRule({}, { kind: 'endpoint', field: null, order: turned });
    const both = withRule(kind, { kind: 'endpoint', field: 'memoryMB', order: usualOrder });
    expect(rulesOf(both)).toEqual([
      { kind: 'endpoint', field: null, order: turned },
      { kind: 'endpoint', field: 'memoryMB', order: usualOrder },
    ]);
    expect(SourceOrder.parse(both)).toEqual(both);
    expect(withRule(both, { kind: 'endpoint', field: null, order: usualOrder }).endpoint?.fields).toEqual(both.endpoint?.fields);
  });

  it('are dropped one by one', () => {
    const both = withRule(withRule({}, { kind: 'endpoint', field: null, order: turned }), {
      kind: 'endpoint',
      field: 'name',
      order: turned,
    });
    expect(withoutRule(both, { kind: 'endpoint', field: null, order: [] })).toEqual({ endpoint: { fields: { name: turned } } });
    expect(withoutRule(both, { kind: 'endpoint', field: 'name', order: [] })).toEqual({ endpoint: { all: turned, fields: {} } });
    expect(
      withoutRule(withoutRule(both, { kind: 'endpoint', field: null, order: [] }), { kind: 'endpoint', field: 'name', order: [] }),
    ).toEqual({});
    expect(withoutRule({}, { kind: 'person', field: null, order: [] })).toEqual({});
  });

  it('move by one, and not over the ends', () => {
    expect(moved(usualOrder, 1, -1).slice(0, 2)).toEqual([usualOrder[1], usualOrder[0]]);
    expect(moved(usualOrder, 0, -1)).toEqual(usualOrder);
    expect(moved(usualOrder, 5, 1)).toEqual(usualOrder);
    expect(moved(usualOrder, 4, 1).slice(4)).toEqual([usualOrder[5], usualOrder[4]]);
  });
});
