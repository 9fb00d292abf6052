import { describe, expect, test } from '@jest/globals';
import type { Patch, Peripheral } from '@underpass/contracts';
import {
  all,
  base,
  changed,
  dock,
  endpoint,
  gateway,
  home,
  line,
  office,
  resource,
  setting,
  trips,
  unmeasured,
  type Setup,
} from '../../test/scenes.js';
import { carryCosts, computeFigures, ductsOf, evaluateCrossing, plugIn, settingsOf, whyNotThere, type CrossingFacts } from './index.js';

const device = (facts: CrossingFacts, more: Partial<Peripheral> = {}): Peripheral => ({
  ...{ id: 'new', endpoint: facts.endpoint.id, vid: 'f1a5', pid: '0101', class: '00', interfaces: ['01/01/00'] },
  ...more,
});
const rule = (object: object): Patch => ({
  do: 'create',
  kind: 'usbRule',
  id: 'first',
  object: { id: 'first', rank: 0, action: 'allow', match: {}, ...object },
});
const ruled =
  (object: object): Setup =>
  (facts) =>
    changed(facts, rule(object));
const plug = (facts: CrossingFacts, more: Partial<Peripheral> = {}, answers = {}) =>
  plugIn(facts, computeFigures(facts), device(facts, more), answers);
const stop = (facts: CrossingFacts, more: Partial<Peripheral> = {}) => {
  const { steps, works } = plug(facts, more);
  return [works, steps.find(({ state }) => state === 'stops')?.name ?? null];
};
const scanner = { pid: '0601', interfaces: ['06/01/01'], revision: '01.00' };
const camera = { pid: '0e01', interfaces: ['0e/01/00'] };

describe('a device is plugged in', () => {
  test('what passes every step works; later steps of what stops are not reached', () => {
    const facts = ruled({})(office);
    expect(stop(facts)).toEqual([true, null]);
    const { steps, sees } = plug(ruled({ action: 'deny' })(office));
    expect(steps.map(({ name, state }) => [name, state])).toEqual([
      ['seen', 'passes'],
      ['power', 'passes'],
      ['client', 'passes'],
      ['rule', 'stops'],
      ...['when', 'setting', 'taken', 'gateway', 'driver', 'way'].map((name) => [name, 'not reached']),
    ]);
    expect(sees).toBe('The person sees: it works at the desk, and is not in the session');
  });

  test.each<[string, CrossingFacts, Partial<Peripheral>, string]>([
    ['a client without USB', endpoint({ clientKind: 'browser' })(office), scanner, 'client'],
    ['a rule that denies', ruled({ action: 'deny', match: { class: '01' } })(office), {}, 'rule'],
    ['a rule that keeps it at the desk', ruled({ carryAs: 'local only' })(office), {}, 'rule'],
    ['no rule', office, { interfaces: ['e1/01/01'] }, 'rule'],
    ['a setting', all(ruled({}), setting('sound.play', 'nowhere'))(office), {}, 'setting'],
    ['a camera that the call program holds', all(ruled({}), setting('media.callOffload', true))(home), camera, 'taken'],
    ['a gateway without USB', all(ruled({ carryAs: 'raw USB' }), gateway({ usb: false }))(office), scanner, 'gateway'],
    ['a way that does not carry it', ruled({ carryAs: 'raw USB' })(home), { ...camera, isochronousMbps: 196.6 }, 'way'],
  ])('%s stops it', (_, facts, more, name) => {
    const answers = { driver: false, taken: false, when: false };
    const { steps, works } = plug(facts, more, answers);
    expect([works, steps.find(({ state }) => state === 'stops')?.name]).toEqual([false, name]);
  });

  test('power: 500 mA of a port of USB 2, 900 of USB 3; one more is asked about', () => {
    const state = (maxPowerMa: number, speed: 'high' | 'super') =>
      plug(ruled({})(office), { maxPowerMa, speed }).steps.find(({ name }) => name === 'power')?.state;
    expect([state(500, 'high'), state(501, 'high'), state(900, 'super'), state(901, 'super')]).toEqual([
      'passes',
      'not known',
      'passes',
      'not known',
    ]);
  });

  test('when: by hand is asked about, at start it waits', () => {
    expect(plug(ruled({ when: 'by hand' })(office)).works).toBeNull();
    expect(plug(ruled({ when: 'at start' })(office)).sees).toMatch(/from the next start/);
    expect(plug(all(ruled({}), setting('redirection.connect', 'by hand'))(office)).works).toBeNull();
  });
});

describe('why a device does not appear', () => {
  const facts = ruled({ carryAs: 'raw USB', when: 'by hand' })(dock);
  test('facts at hand first; else the next question, each once, until one is the cause', () => {
    expect(whyNotThere(plug(ruled({ action: 'deny' })(office)))).toMatchObject({ cause: expect.stringMatching(/rule first/), ask: null });
    const first = whyNotThere(plug(facts, scanner));
    expect(first).toMatchObject({ cause: null, ask: { step: 'when' } });
    const second = whyNotThere(plug(facts, scanner, { when: false }));
    expect(second).toMatchObject({ cause: null, ask: { step: 'driver' } });
    expect(whyNotThere(plug(facts, scanner, { when: true })).cause).toMatch(/by hand: this is it/);
    expect(whyNotThere(plug(facts, scanner, { when: false, driver: true })).cause).toMatch(/driver: this is it/);
    expect(whyNotThere(plug(facts, scanner, { when: false, driver: false }))).toEqual({ cause: null, ask: null });
  });
  test('what would decide it otherwise is told: rules that miss in one thing alone', () => {
    const denied = changed(office, rule({ action: 'deny', rank: 1 }), {
      do: 'create',
      kind: 'usbRule',
      id: 'other',
      object: { id: 'other', rank: 0, action: 'allow', match: { class: '01', ownership: 'personal' } },
    });
    expect(plug(denied).nearly).toContainEqual({ rule: 'rule other', field: 'ownership' });
  });
});

describe('what carrying costs', () => {
  const s = settingsOf(home);
  const cost = (more: Partial<Peripheral>, decision: Parameters<typeof carryCosts>[1], rttMs: number | null = 60) =>
    carryCosts(device(home, more), decision, { s, endpoint: home.endpoint, rttMs });
  test('a scanner with 400 exchanges at 60 ms waits 24 s [the handbook’s check]', () =>
    expect(cost({ interfaces: ['06/01/01'] }, 'raw USB').addedMs).toBe(24_000));
  test('raw: what its descriptors say; a camera of which nothing is known takes what the bus carries', () => {
    expect(cost({ isochronousMbps: 8.184 }, 'raw USB').mbps).toBe(8.184);
    expect(cost({ interfaces: ['0e/01/00'] }, 'raw USB').mbps).toBeCloseTo(196.608, 9);
    expect(cost({ interfaces: ['0e/01/00'], speed: 'full' }, 'raw USB').mbps).toBeCloseTo(8.184, 9);
    // 1280 · 720 pixels of 16 bit, 30 times a second
    expect(cost({ interfaces: ['0e/01/00'], speed: 'super' }, 'raw USB').mbps).toBeCloseTo(442.368, 9);
    // 48 000 samples of 16 bit, two to the ear and one from the mouth
    expect(cost({}, 'raw USB').mbps).toBeCloseTo(2.304, 9);
  });
  test('how much delay it bears: raw, as much as the least of its functions; by a channel, and where none is known, any', () => {
    const bears = (interfaces: string[], decision: 'raw USB' | 'channel') =>
      carryCosts(device(office, { interfaces }), decision, { s: settingsOf(office), endpoint: office.endpoint, rttMs: 60 }).bearsMs;
    expect(bears(['06/01/01'], 'raw USB')).toBe(200);
    expect(bears(['06/01/01', '03/00/00'], 'raw USB')).toBe(100);
    expect(bears(['06/01/01'], 'channel')).toBeNull();
    expect(bears(['07/01/02'], 'raw USB')).toBeNull();
  });
  test('raw and in even time: nothing but cameras and sound', () => {
    const asks = (interfaces: string[]) =>
      carryCosts(device(office, { interfaces }), 'raw USB', { s: settingsOf(office), endpoint: office.endpoint, rttMs: 60 }).mbps;
    expect([asks(['06/01/01']), asks(['01/01/00'])]).toEqual([0, 2.304]);
  });
  test('by channel: a call, a coded picture; a card is asked 40 times; nothing where it stays', () => {
    expect(cost({}, 'channel').mbps).toBeCloseTo(0.08, 9);
    expect(cost({ interfaces: ['0e/01/00'] }, 'channel').mbps).toBe(1.5);
    expect(cost({ interfaces: ['0b/00/00'] }, 'channel').addedMs).toBe(2400);
    for (const stays of ['local only', 'not allowed'] as const) expect(cost({}, stays)).toMatchObject({ mbps: 0, addedMs: 0 });
    expect(cost({ interfaces: ['06/01/01'] }, 'raw USB', null).addedMs).toBeNull();
  });
});

describe('the desk of a crossing, told in full', () => {
  const headset = base('CD-006', 'call-desktop');
  test('a headset whose buttons a rule denies does not reach the session; split by interface it does', () => {
    const before = evaluateCrossing(headset).figures.desk.find(({ device: id }) => id === 'D006');
    expect(before).toMatchObject({ works: false, because: { code: 'rule denies' }, peripheral: 'headset' });
    const split = changed(headset, {
      do: 'create',
      kind: 'usbRule',
      id: 'split',
      object: { id: 'split', rank: 1, action: 'allow', match: { vid: 'f1a5', class: '01' }, interfaces: ['01'] },
    });
    expect(computeFigures(split).desk.find(({ device: id }) => id === 'D006')).toMatchObject({ works: true, carriedAs: 'channel' });
    expect([computeFigures(headset).works.verdict, computeFigures(split).works.verdict]).toEqual(['limited', 'clear']);
  });
  test('a way that is too slow, too thin, or makes each job long is told of the device', () => {
    const plugged = (facts: CrossingFacts, more: Partial<Peripheral>, rtt: number) => {
      const there = changed(
        all(trips({ minMs: rtt, medianMs: rtt, medianLowMs: rtt, medianHighMs: rtt, p95Ms: rtt }), ruled({ carryAs: 'raw USB' }))(facts),
        {
          do: 'create',
          kind: 'peripheral',
          id: 'new',
          object: device(facts, more),
        },
      );
      const item = computeFigures(there).desk.find(({ device: id }) => id === 'new');
      return [item?.works, item?.because?.code ?? null];
    };
    const pointer = { interfaces: ['03/00/00'] };
    expect([plugged(dock, pointer, 100), plugged(dock, pointer, 101)]).toEqual([
      [true, null],
      [false, 'way too slow'],
    ]);
    const job = { interfaces: ['06/01/01'], exchanges: 500 };
    expect([plugged(dock, job, 9.9), plugged(dock, job, 10)]).toEqual([
      [true, null],
      [true, 'each job longer'],
    ]);
    expect(plugged(home, { interfaces: ['0e/01/00'], isochronousMbps: 1000 }, 20)).toEqual([false, 'way too thin']);
  });
  test('what is told in full is not told again in short', () => {
    expect(computeFigures(headset).desk.filter(({ peripheral }) => peripheral === 'headset')).toHaveLength(1);
  });
  test('ducts: what every session has, and each function, with both takers of a camera told', () => {
    const offloaded = setting('media.callOffload', true)(base('CD-002', 'call-desktop'));
    const ducts = ductsOf(offloaded, computeFigures(offloaded));
    expect(ducts.slice(0, 4).map(({ name }) => name)).toEqual(['Keyboard', 'Pointer', 'Picture', 'Sound']);
    expect(ducts.filter(({ claimedTwice }) => claimedTwice).map(({ name }) => name)).toEqual(['Camera']);
    const picture = ducts.find(({ name }) => name === 'Picture');
    expect(picture?.mbps).toBe(computeFigures(offloaded).demand.meanMbps);
    for (const { mbps } of ducts) expect(mbps).toBeGreaterThanOrEqual(0);
    const silent = setting('sound.play', 'nowhere')(offloaded);
    expect(ductsOf(silent, computeFigures(silent))[3]).toMatchObject({ carriedAs: 'not allowed', mbps: 0 });
  });
  test('a way of which nothing is known says so', () => {
    const lost = all(unmeasured, line({ downMbps: undefined, upMbps: undefined }), ruled({}))(home);
    expect(plug(lost, { interfaces: ['0b/00/00'] }).costs.addedMs).toBeNull();
    expect(resource({})(office).resource.id).toBe(office.resource.id);
  });
});
