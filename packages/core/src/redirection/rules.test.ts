import { describe, expect, test } from '@jest/globals';
import type { Peripheral, UsbMatch, UsbRule } from '@underpass/contracts';
import fc from 'fast-check';
import { codesOf, decide, failedOf, functionCodes, nearMisses, rulesInOrder, shadowed, type PluggedSide } from './index.js';

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

describe('codes are the same in whatever letters, revisions with and without their dot', () => {
  const letters = device({ vid: 'abcd', pid: 'ef01', revision: '01.0a', class: 'EF/02/01', interfaces: ['0E/01/00'] });
  test.each<[UsbMatch, boolean]>([
    [{ vid: 'ABCD' }, true],
    [{ pid: 'EF01' }, true],
    [{ pid: 'ef02' }, false],
    [{ class: '0e/01' }, true],
    [{ class: 'ef' }, true],
    [{ revision: '010A' }, true],
    [{ revision: '10a' }, true],
    [{ revision: '1.0A' }, true],
    [{ revision: '11.0a' }, false],
  ])('%j', (match, fits) => expect(failedOf(rule('r', match), letters, side) === null).toBe(fits));
  test('a device that does not tell its revision or number fits no rule that asks for them', () => {
    expect(failedOf(rule('r', { revision: '0000' }), device(), side)).toBe('revision');
    expect(failedOf(rule('r', { serial: '' }), device(), side)).toBe('serial');
  });
  test('what is told is in full, and the device’s own codes stand where it tells no interfaces', () => {
    expect(codesOf(device({ class: '08', interfaces: ['03/01/01'] }))).toEqual(['08/00/00', '03/01/01']);
    expect(functionCodes(device({ class: '08' })).map(({ class: code }) => code)).toEqual(['08']);
    expect(functionCodes(device({ class: '08', interfaces: ['03/01/01'] })).map(({ class: code }) => code)).toEqual(['03']);
    // read once, and the same whenever it is asked for
    expect(codesOf(letters)).toBe(codesOf(letters));
  });
});

describe('why, in words', () => {
  const why = (what: Peripheral, rules: UsbRule[], more: Partial<PluggedSide> = {}) => decide(what, { ...side, ...more }, rules);
  test('hubs: one by its class, or of nothing but hubs', () => {
    const said = 'a hub is never carried, only what is plugged in at it';
    for (const hub of [
      device({ class: '09' }),
      device({ class: '00', interfaces: ['09/00/00', '09/00/01'] }),
      device({ class: '09', interfaces: ['ff/00/00'] }),
    ])
      expect(why(hub, [rule('r', {})])).toEqual({
        decision: 'local only',
        rule: null,
        when: null,
        why: said,
        interfaces: null,
        looked: [],
      });
    // a dock with something else in it is no hub
    expect(why(device({ interfaces: ['09/00/00', '08/06/50'] }), [rule('r', {})]).decision).toBe('channel');
  });
  test('a client without USB: by a channel of its own for one of its kinds, or not at all', () => {
    const printer = device({ interfaces: ['ff/00/00', '07/01/02'] });
    expect(why(printer, [], { hasUsb: false, ownChannels: ['printer'] })).toEqual({
      decision: 'channel',
      rule: null,
      when: 'when plugged in',
      why: 'the client has a channel of its own for it, and no USB',
      interfaces: null,
      looked: [],
    });
    expect(why(printer, [], { hasUsb: false, ownChannels: ['camera'] })).toEqual({
      decision: 'local only',
      rule: null,
      when: null,
      why: 'the client has no USB at all',
      interfaces: null,
      looked: [],
    });
  });
  test('the rule that decides, by its name or else its id, with those looked at before it', () => {
    const before = rule('a', { class: '07' });
    const named = { name: 'Sticks of the hall' };
    const looked = [
      { rule: 'a', fits: false, failed: 'class' },
      { rule: 'r', fits: true, failed: null },
    ];
    expect(why(stick, [before, rule('r', {}, { action: 'deny', ...named })])).toMatchObject({
      why: 'rule Sticks of the hall denies it',
      looked,
    });
    expect(why(stick, [before, rule('r', {}, { action: 'deny' })]).why).toBe('rule r denies it');
    expect(why(stick, [before, rule('r', {}, { carryAs: 'raw USB' })])).toMatchObject({ why: 'rule r says so', looked, interfaces: null });
    expect(why(stick, [before, rule('r', {})]).why).toBe(
      'rule r allows it; the drive channel carries it, as the settings allow; raw only for sticks that need a program of their own',
    );
    expect(why(headset, [before, rule('r', {}, { interfaces: ['01', '03'], when: 'by hand' })])).toMatchObject({
      why: 'rule r lets only 01 and 03 of it through',
      when: 'by hand',
      interfaces: ['01/01/00', '01/02/00', '03/00/00'],
    });
    expect(why(stick, [before])).toMatchObject({
      why: 'no rule fits it, and what no rule names is not allowed',
      looked: [{ rule: 'a', fits: false, failed: 'class' }],
      interfaces: null,
    });
  });
});

describe('rules that can never decide', () => {
  const hides = (wide: UsbMatch, narrow: UsbMatch) =>
    shadowed([rule('w', wide), rule('n', narrow)]).map(({ rule: each, by }) => [each.id, by.id]);
  test.each<[UsbMatch, UsbMatch, boolean]>([
    [{}, {}, true],
    [{}, { vid: 'f055' }, true],
    [{ vid: 'f055' }, {}, false],
    [{ vid: 'f055' }, { vid: 'F055' }, true],
    [{ vid: 'F055' }, { vid: 'f055', pid: '0101' }, true],
    [{ vid: 'f055' }, { vid: 'f056' }, false],
    [{ class: '08' }, { class: '08/06/50' }, true],
    [{ class: '0E' }, { class: '0e/01' }, true],
    [{ class: '08/06' }, { class: '08' }, false],
    [{ class: '08' }, { vid: 'f055' }, false],
    [{ revision: '01.10' }, { revision: '0110' }, true],
    [{ revision: '01.10' }, { revision: '01.11' }, false],
    [{ serial: 'A' }, { serial: 'A', hidBoot: true }, true],
    [{ hidBoot: true }, { hidBoot: false }, false],
    [{ group: 'hall' }, { group: 'clerks' }, false],
    [{ ownership: 'managed' }, { ownership: 'managed', class: '08' }, true],
  ])('%j hides %j: %s', (wide, narrow, hidden) => expect(hides(wide, narrow)).toEqual(hidden ? [['n', 'w']] : []));
  test('the first that hides it is named, and a later one hides nothing', () => {
    expect(shadowed([rule('a', {}), rule('b', {}), rule('c', {})]).map(({ rule: each, by }) => [each.id, by.id])).toEqual([
      ['b', 'a'],
      ['c', 'a'],
    ]);
    expect(hides({ class: '08' }, {})).toEqual([]);
  });
});

test('what would be decided otherwise: rules that miss in one thing alone', () => {
  const rules = [
    rule('a', { class: '07', vid: 'f055' }),
    rule('b', { class: '07', vid: 'f056' }),
    rule('c', { class: '08' }),
    rule('d', { group: 'planners' }),
  ];
  expect(nearMisses(stick, side, rules)).toEqual([
    { rule: rules[0], field: 'class' },
    { rule: rules[3], field: 'group' },
  ]);
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
