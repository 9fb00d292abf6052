import { describe, expect, test } from '@jest/globals';
import type { Peripheral, UsbMatch, UsbRule } from '@underpass/contracts';
import fc from 'fast-check';
import { decide, failedOf, nearMisses, rulesInOrder, shadowed, type PluggedSide } from './index.js';

const side: PluggedSide = { ownership: 'managed', groups: ['clerks', 'hall'], hasUsb: true, ownChannels: [], when: 'when plugged in' };
const device = (more: Partial<Peripheral> = {}): Peripheral => ({
  id: 'd',
  endpoint: 'e',
  vid: 'f055',
  pid: '0101',
  class: '00',
  interfaces: [],
  ...more,
});
const rule = (id: string, match: UsbMatch, more: Partial<UsbRule> = {}): UsbRule => ({ id, rank: 10, action: 'allow', match, ...more });
const headset = device({ interfaces: ['01/01/00', '01/02/00', '03/00/00'] });
const stick = device({ pid: '0801', interfaces: ['08/06/50'], serial: 'A1', revision: '01.10' });

describe('what a rule is for', () => {
  test.each<[string, UsbMatch, UsbMatch]>([
    ['vid', { vid: 'f055' }, { vid: 'f056' }],
    ['pid', { pid: '0801' }, { pid: '0802' }],
    ['revision', { revision: '01.10' }, { revision: '01.11' }],
    ['class', { class: '08' }, { class: '07' }],
    ['class', { class: '08/06' }, { class: '08/05' }],
    ['class', { class: '08/06/50' }, { class: '08/06/62' }],
    ['serial', { serial: 'A1' }, { serial: 'a1' }],
    ['hidBoot', { hidBoot: false }, { hidBoot: true }],
    ['ownership', { ownership: 'managed' }, { ownership: 'personal' }],
    ['group', { group: 'hall' }, { group: 'planners' }],
  ])('%s: it holds and it fails', (field, holds, fails) => {
    expect(failedOf(rule('r', holds), stick, side)).toBeNull();
    expect(failedOf(rule('r', fails), stick, side)).toBe(field);
  });

  test('a class is compared with the device and with every interface, and never by half a code', () => {
    expect(failedOf(rule('r', { class: '03' }), headset, side)).toBeNull();
    expect(failedOf(rule('r', { class: '0e' }), headset, side)).toBe('class');
    expect(failedOf(rule('r', { class: 'ef' }), device({ class: 'ef/02/01' }), side)).toBeNull();
    expect(failedOf(rule('r', { class: '03/0' }), device({ interfaces: ['03/01/01'] }), side)).toBe('class');
  });

  test('a keyboard is a device that works before a system is there', () => {
    expect(failedOf(rule('r', { hidBoot: true }), device({ interfaces: ['03/01/01'] }), side)).toBeNull();
    expect(failedOf(rule('r', { hidBoot: true }), device({ interfaces: ['03/00/00'] }), side)).toBe('hidBoot');
  });
});

describe('what becomes of a device', () => {
  const of = (what: Peripheral, rules: UsbRule[], more: Partial<PluggedSide> = {}) => {
    const { decision, rule: by, when } = decide(what, { ...side, ...more }, rulesInOrder(rules));
    return [decision, by?.id ?? null, when];
  };

  test('the lowest rank that fits decides, whatever the order they stand in', () => {
    const rules = [rule('late', {}, { rank: 20 }), rule('early', { class: '08' }, { rank: 5, action: 'deny' })];
    for (const list of [rules, [...rules].reverse()]) {
      expect(of(stick, list)).toEqual(['not allowed', 'early', null]);
      expect(of(headset, list)).toEqual(['channel', 'late', 'when plugged in']);
    }
    // of one rank the first by id
    expect(of(stick, [rule('b', {}, { action: 'deny' }), rule('a', {})])[1]).toBe('a');
  });

  test('no rule fits: not allowed', () => {
    expect(of(stick, [])).toEqual(['not allowed', null, null]);
    expect(of(stick, [rule('r', { class: '0b' })])).toEqual(['not allowed', null, null]);
  });

  test('hubs and clients without USB are decided before the rules', () => {
    const hub = device({ class: '09', interfaces: ['09/00/00'] });
    expect(of(hub, [rule('r', {}, { action: 'deny' })])).toEqual(['local only', null, null]);
    expect(of(stick, [rule('r', {})], { hasUsb: false })).toEqual(['local only', null, null]);
    expect(of(headset, [rule('r', {}, { action: 'deny' })], { hasUsb: false, ownChannels: ['headset'] })).toEqual([
      'channel',
      null,
      'when plugged in',
    ]);
  });

  test('carried as the rule says, else as is best; when as the rule says, else as the settings do', () => {
    expect(of(stick, [rule('r', {}, { carryAs: 'raw USB', when: 'by hand' })])).toEqual(['raw USB', 'r', 'by hand']);
    expect(of(stick, [rule('r', {})], { when: 'at start' })).toEqual(['channel', 'r', 'at start']);
    expect(of(device({ interfaces: ['06/01/01'] }), [rule('r', {})])[0]).toBe('raw USB');
    // keys and pointer are the session’s own input: a rule that allows them changes nothing
    expect(of(device({ interfaces: ['03/01/01'] }), [rule('r', {})])[0]).toBe('local only');
  });

  test('split: only the interfaces that are named', () => {
    const found = decide(headset, side, [rule('r', { class: '01' }, { interfaces: ['01'] })]);
    expect([found.decision, found.interfaces]).toEqual(['split', ['01/01/00', '01/02/00']]);
    expect(found.looked).toEqual([{ rule: 'r', fits: true, failed: null }]);
  });
});

const code = fc.constantFrom('01', '03', '03/01', '03/01/01', '08', '08/06/50', '0b');
const match: fc.Arbitrary<UsbMatch> = fc.record(
  {
    vid: fc.constantFrom('f055', 'f056'),
    class: code,
    hidBoot: fc.boolean(),
    ownership: fc.constantFrom('managed' as const, 'personal' as const),
    group: fc.constantFrom('clerks', 'planners'),
  },
  { requiredKeys: [] },
);
const anyDevice = fc
  .array(fc.constantFrom('01/01/00', '03/00/00', '03/01/01', '08/06/50', '0b/00/00'), { maxLength: 3 })
  .chain((interfaces) => fc.constantFrom('f055', 'f056').map((vid) => device({ vid, interfaces })));
const anySide = fc.record({
  ownership: fc.constantFrom('managed' as const, 'personal' as const),
  groups: fc.subarray(['clerks', 'planners']),
});
const anyRules = fc
  .array(fc.tuple(match, fc.constantFrom('allow' as const, 'deny' as const)), { maxLength: 6 })
  .map((list) => list.map(([each, action], i) => rule(`r${i}`, each, { rank: i, action })));

describe('over many rules and devices', () => {
  test('a rule that is shadowed never decides, and taking it away changes nothing', () => {
    fc.assert(
      fc.property(anyRules, anyDevice, anySide, (rules, what, more) => {
        const hidden = new Set(shadowed(rules).map(({ rule: each }) => each.id));
        const before = decide(what, { ...side, ...more }, rules);
        expect(hidden.has(before.rule?.id ?? '')).toBe(false);
        const after = decide(
          what,
          { ...side, ...more },
          rules.filter(({ id }) => !hidden.has(id)),
        );
        expect([after.decision, after.rule?.id]).toEqual([before.decision, before.rule?.id]);
      }),
    );
  });

  test('a rule fits exactly where nothing of it fails; what nearly fits does once that one thing is left out', () => {
    fc.assert(
      fc.property(anyRules, anyDevice, anySide, (rules, what, more) => {
        const seat = { ...side, ...more };
        const first = rules.find((each) => failedOf(each, what, seat) === null);
        const { rule: by } = decide(what, seat, rules);
        if (!what.interfaces.every((each) => each.startsWith('09')) || what.interfaces.length === 0) expect(by?.id).toBe(first?.id);
        for (const { rule: near, field } of nearMisses(what, seat, rules)) {
          const { [field]: gone, ...rest } = near.match;
          expect(gone).toBeDefined();
          expect(failedOf({ match: rest }, what, seat)).toBeNull();
        }
      }),
    );
  });
});
