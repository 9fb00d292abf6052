import { describe, expect, test } from '@jest/globals';
import type { Change, Peripheral, UsbRule } from '@underpass/contracts';
import fc from 'fast-check';
import { decide, lettingThrough, moved, orderedAs, rulesInOrder, type PluggedSide } from './index.js';

const rule = (id: string, rank: number, more: Partial<UsbRule> = {}): UsbRule => ({ id, rank, action: 'allow', match: {}, ...more });
/** Rules as they are after steps that make them or change their rank. */
const after = (rules: readonly UsbRule[], { patches }: Change): UsbRule[] => {
  const byId = new Map(rules.map((each) => [each.id, each]));
  for (const patch of patches) {
    if (patch.do === 'change') byId.set(patch.id, { ...byId.get(patch.id)!, ...(patch.set as { rank: number }) });
    if (patch.do === 'create') byId.set(patch.id, patch.object as UsbRule);
  }
  return rulesInOrder(byId.values());
};

describe('the order of rules', () => {
  const rules = [rule('a', 10), rule('b', 20), rule('c', 30)];
  const inOrderAfter = (change: Change): string[] => after(rules, change).map(({ id }) => id);

  test('moved to any place, the ranks give that order', () => {
    for (const id of ['a', 'b', 'c'])
      for (const to of [0, 1, 2]) {
        const order = moved(['a', 'b', 'c'], id, to);
        expect(order[to]).toBe(id);
        expect(inOrderAfter(orderedAs(rules, order))).toEqual(order);
      }
    expect(orderedAs(rules, ['a', 'b', 'c']).patches).toEqual([]);
  });
  test('a rule that splits a device stands right before the one that decides it, with room or without', () => {
    const device = { id: 'd', endpoint: 'e', vid: 'f1a5', pid: '0103', class: '00', interfaces: ['01/01/00', '03/00/00'] };
    expect(inOrderAfter(lettingThrough(rules, device, ['01'], 'b'))).toEqual(['a', 'split-f1a5-0103', 'b', 'c']);
    const tight = [rule('a', 10), rule('b', 11)];
    const change = lettingThrough(tight, device, ['01'], 'b');
    const created = change.patches.find((patch) => patch.do === 'create');
    expect((created as { object: UsbRule }).object).toMatchObject({ rank: 11, interfaces: ['01'], match: { vid: 'f1a5', pid: '0103' } });
    expect(change.patches).toContainEqual({ do: 'change', kind: 'usbRule', id: 'b', set: { rank: 21 } });
    expect(inOrderAfter(lettingThrough(rules, device, ['01'], null))).toEqual(['a', 'b', 'c', 'split-f1a5-0103']);
  });

  test('what is put beyond an end stands at it, and of what is not there nothing is written', () => {
    expect(moved(['a', 'b', 'c'], 'c', -5)).toEqual(['c', 'a', 'b']);
    expect(moved(['a', 'b', 'c'], 'a', 99)).toEqual(['b', 'c', 'a']);
    expect(orderedAs(rules, ['nobody', 'b', 'a']).patches).toEqual([{ do: 'change', kind: 'usbRule', id: 'a', set: { rank: 30 } }]);
    // of one rank the later one moves on by ten
    expect(orderedAs([rule('a', 7), rule('b', 7)], ['a', 'b']).patches).toEqual([
      { do: 'change', kind: 'usbRule', id: 'b', set: { rank: 17 } },
    ]);
  });
});

describe('a rule that lets a device through', () => {
  const side: PluggedSide = { ownership: 'managed', groups: ['hall'], hasUsb: true, ownChannels: [], when: 'when plugged in' };
  const device: Peripheral = { id: 'd', endpoint: 'e', vid: 'f1a5', pid: '0103', class: '00', interfaces: ['01/01/00', '03/00/00'] };

  test('is called after it, has an id of its own, and takes all of it or some functions', () => {
    const made = (rules: UsbRule[], classes: string[] | null, name?: string) => {
      const [patch] = lettingThrough(rules, name ? { ...device, name } : device, classes, null).patches;
      return patch?.do === 'create' ? patch.object : null;
    };
    expect(made([], ['01'])).toEqual({
      id: 'split-f1a5-0103',
      name: 'f1a5:0103, by function',
      rank: 10,
      action: 'allow',
      match: { vid: 'f1a5', pid: '0103' },
      interfaces: ['01'],
    });
    expect(made([rule('let-f1a5-0103', 5), rule('let-f1a5-0103-2', 6)], null, 'Headset')).toEqual({
      id: 'let-f1a5-0103-3',
      name: 'Headset, let through',
      rank: 16,
      action: 'allow',
      match: { vid: 'f1a5', pid: '0103' },
    });
    expect((made([], null, 'n'.repeat(120)) as { name: string }).name).toHaveLength(113);
  });

  test('decides it from then on, and nothing else is decided otherwise', () => {
    const any = fc.record({
      rank: fc.integer({ min: 0, max: 6 }),
      action: fc.constantFrom('allow' as const, 'deny' as const),
      match: fc.record({ vid: fc.constantFrom('f1a5', 'f056'), class: fc.constantFrom('01', '03', '08') }, { requiredKeys: [] }),
    });
    const rulesOf = fc.array(any, { maxLength: 6 }).map((list) => rulesInOrder(list.map((each, i) => rule(`r${i}`, each.rank, each))));
    fc.assert(
      fc.property(rulesOf, fc.constantFrom(null, ['01']), (rules, classes) => {
        const before = decide(device, side, rules);
        const change = lettingThrough(rules, device, classes, before.rule?.id ?? null);
        const now = after(rules, change);
        const { rule: by, decision, interfaces } = decide(device, side, now);
        expect(by?.id).toBe(classes ? 'split-f1a5-0103' : 'let-f1a5-0103');
        expect([decision, interfaces]).toEqual(classes ? ['split', ['01/01/00']] : ['channel', null]);
        for (const other of [
          { ...device, pid: '0104' },
          { ...device, vid: 'f056' },
          { ...device, pid: '0801', interfaces: ['08/06/50'] },
        ]) {
          const [then, later] = [decide(other, side, rules), decide(other, side, now)];
          expect([later.decision, later.rule?.id]).toEqual([then.decision, then.rule?.id]);
        }
      }),
    );
  });
});
