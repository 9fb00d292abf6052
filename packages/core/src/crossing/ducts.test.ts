import { describe, expect, test } from '@jest/globals';
import type { Peripheral, PeripheralKind } from '@underpass/contracts';
import { small, type Otherwise } from '../../test/small.js';
import { callMbps } from '../voice/index.js';
import { cameraMbpsOf, rawCameraMbps } from './camera.js';
import { deskSession } from './deskSession.js';
import { deviceName, hasOnDesk, kindOf } from './devices.js';
import { computeFigures, ductsOf } from './index.js';
import { demandOf, lineDemandOf } from './demandOf.js';

const device = (more: Partial<Peripheral> = {}): Peripheral =>
  ({ ...{ id: 'd', endpoint: 'e1', vid: 'f1a5', pid: '0101', class: '00', interfaces: ['01/01/00'] }, ...more }) as Peripheral;
const allow = [{ id: 'all', rank: 0, match: {}, action: 'allow' }];
const kinds: PeripheralKind[] = ['headset', 'camera', 'card-reader', 'printer', 'scanner', 'storage'];
const ducts = (otherwise: Otherwise = {}, devices: Peripheral[] = [], rules: object[] = allow) => {
  const facts = { ...small({ gateway: { usb: true }, ...otherwise, more: { usbRule: rules } }), devices };
  const figures = computeFigures(facts);
  return { list: ductsOf(facts, figures), figures, facts };
};
const onDesk = (peripherals: PeripheralKind[], otherwise: Otherwise = {}) =>
  ducts({ ...otherwise, endpoint: { peripherals }, settings: { 'redirection.devices': kinds, ...otherwise.settings } }).list.slice(4);

describe('what goes through, end-on', () => {
  test('what every session has', () => {
    const { list, figures } = ducts();
    expect(list).toEqual([
      ...([
        ['Keyboard', 'to the session', 'session', 0.01, 'the session’s own input'],
        ['Pointer', 'to the session', 'session', 0.03, 'the session’s own input'],
        ['Picture', 'back to the desk', 'session', figures.demand.meanMbps, 'h264, over UDP'],
        ['Sound', 'back to the desk', 'channel', 0.064, 'balanced'],
      ].map(([name, direction, carriedAs, mbps, why]) => ({
        ...{ name, direction, carriedAs, mbps, why, exchanges: 0, addedMs: 0, claimedTwice: false, rule: null },
      })) as never[]),
    ]);
    const [, , , silent] = ducts({ settings: { 'sound.play': 'in the session' } }).list;
    expect(silent).toMatchObject({ carriedAs: 'not allowed', mbps: 0, why: 'heard in the session' });
    expect(ducts({ settings: { 'transport.prefer': 'tcp' } }).list[2]?.why).toBe('h264, over TCP');
  });
  test('peripherals in short: which way they go, how they are carried, what they ask', () => {
    const { figures, facts } = ducts();
    expect(onDesk(kinds).map(({ name, direction, carriedAs, mbps, why }) => [name, direction, carriedAs, mbps, why])).toEqual(
      (
        [
          ['Headset', 'to the session', 'channel', callMbps],
          ['Camera', 'to the session', 'channel', cameraMbpsOf(figures.settings, facts.endpoint)],
          ['Card reader', 'to the session', 'channel', 0],
          ['Printer', 'back to the desk', 'channel', 0],
          ['Scanner', 'to the session', 'raw USB', 0],
          ['Storage stick', 'back to the desk', 'channel', 0],
        ] as const
      ).map((each) => [...each, 'by the settings; told in short']),
    );
    const [raw] = onDesk(['camera'], { settings: { 'redirection.camera': 'as raw USB' } });
    expect(raw).toMatchObject({
      carriedAs: 'raw USB',
      mbps: Math.min(196.608, rawCameraMbps(720, 30)),
      rule: null,
      exchanges: 0,
      addedMs: 0,
    });
    const [kept] = onDesk(['camera'], { settings: { 'redirection.camera': 'not' } });
    expect(kept).toMatchObject({ carriedAs: 'not allowed', mbps: 0, why: 'a setting keeps it out' });
  });
  test('a camera that a call on the endpoint takes too is claimed twice; nothing else is, nor one that is kept out', () => {
    const claimed = (calls: boolean, offload: boolean, more: Record<string, unknown> = {}) =>
      onDesk(['headset', 'camera'], { resource: { calls }, settings: { 'media.callOffload': offload, ...more } }).flatMap(
        ({ name, claimedTwice }) => (claimedTwice ? [name] : []),
      );
    expect([claimed(true, true), claimed(false, true), claimed(true, false)]).toEqual([['Camera'], [], []]);
    expect(claimed(true, true, { 'redirection.camera': 'not' })).toEqual([]);
    const full = (calls: boolean) =>
      ducts({ resource: { calls }, settings: { 'media.callOffload': true } }, [device({ interfaces: ['0e/01/00'] })]).list.at(-1)
        ?.claimedTwice;
    expect([full(true), full(false)]).toEqual([true, false]);
  });
  const full = (more: Partial<Peripheral>, rules: object[] = allow, otherwise: Otherwise = {}) =>
    ducts(otherwise, [device(more)], rules)
      .list.slice(4)
      .map(({ name, direction, carriedAs, rule, why }) => [name, direction, carriedAs, rule, why]);
  test('a device in full: one duct for each of its functions, by its own name where it has one alone', () => {
    expect(full({ name: 'Mine' }).map((each) => each.slice(0, 4))).toEqual([['Mine', 'to the session', 'channel', 'all']]);
    expect(full({ interfaces: ['07/01/02'] })[0]?.slice(1, 3)).toEqual(['back to the desk', expect.any(String)]);
    const both = full({ name: 'Mine', interfaces: ['01/01/00', '01/02/00', '0e/01/00'] });
    expect(both.map(([name, , as]) => [name, as])).toEqual([
      ['Audio, Mine', 'channel'],
      ['Camera, Mine', 'channel'],
    ]);
  });
  test('split by a rule: what it names is carried as is best for it, the rest stays', () => {
    const rules = [{ id: 'sound', name: 'Sound only', rank: 0, match: {}, action: 'allow', interfaces: ['01'] }];
    const parts = full({ name: 'Mine', interfaces: ['01/01/00', '03/00/00'] }, rules);
    expect(parts.map(([name, , as, rule]) => [name, as, rule])).toEqual([
      ['Audio, Mine', 'channel', 'Sound only'],
      ['Controls, Mine', 'local only', 'Sound only'],
    ]);
  });
  test('buttons of a headset do not go raw by themselves', () => {
    const buttons = full({ name: 'Mine', interfaces: ['01/01/00', '03/00/00'] });
    expect(buttons.find(([name]) => name === 'Controls, Mine')?.[2]).toBe('local only');
    expect(full({ name: 'Mine', interfaces: ['03/00/00'] })[0]?.[2]).not.toBe('local only');
  });
  test('what does not work is told with why; what a rule denies is not allowed', () => {
    expect(full({ name: 'Mine' }, allow, { settings: { 'sound.play': 'in the session' } })).toEqual([
      ['Mine', 'to the session', 'not allowed', 'all', 'the settings keep the sound off this device'],
    ]);
    expect(full({ name: 'Mine' }, [{ ...allow[0], action: 'deny' }])[0]?.slice(2)).toEqual(['not allowed', 'all', 'a rule denies it']);
    expect(full({ name: 'Mine' }, [{ ...allow[0], carryAs: 'local only' }])[0]?.slice(2)).toEqual([
      ...['local only', 'all', 'a rule keeps it at the desk'],
    ]);
  });
  test('each device by its own item', () => {
    const two = ducts({ gateway: { usb: false } }, [
      device({ id: 'a', name: 'A' }),
      device({ id: 'b', name: 'B', interfaces: ['06/01/01'] }),
    ]).list.slice(4);
    expect(two.map(({ name, carriedAs }) => [name, carriedAs])).toEqual([
      ['A', 'channel'],
      ['B', 'not allowed'],
    ]);
  });
});

describe('devices in full', () => {
  test('are for the work what the first of their functions with a name is', () => {
    expect(kindOf(device())).toBe('headset');
    expect(kindOf(device({ interfaces: ['03/00/00', '07/01/02'] }))).toBe('printer');
    expect(kindOf(device({ interfaces: ['03/00/00'] }))).toBeUndefined();
  });
  test('are told by their name, else by what they do and their numbers', () => {
    expect(deviceName(device({ name: 'Mine' }))).toBe('Mine');
    expect(deviceName(device())).toBe('Audio f1a5:0101');
    expect(deviceName(device({ interfaces: ['01/01/00', '01/02/00', '0e/01/00'] }))).toBe('Audio and camera f1a5:0101');
  });
  test('are on the desk, in short or in full', () => {
    const { endpoint } = small({ endpoint: { peripherals: ['printer'] } });
    expect(kinds.filter((kind) => hasOnDesk({ endpoint, devices: [device()] }, kind))).toEqual(['headset', 'printer']);
    expect(kinds.filter((kind) => hasOnDesk({ endpoint }, kind))).toEqual(['printer']);
  });
});

describe('what a session would get of another arrangement', () => {
  const facts = small();
  const { settings } = computeFigures(facts);
  const { endpoint, gateway, resource } = facts;
  const screens = [
    { widthPx: 2560, heightPx: 1440, refreshHz: 75, scale: 1 },
    { widthPx: 1920, heightPx: 1080, scale: 2 },
    { widthPx: 1280, heightPx: 720, refreshHz: 60, scale: 1 },
  ];
  test('with each kind of client, nothing measured', () => {
    const native = deskSession({ endpoint, gateway, resource }, settings, 'native client', screens);
    const really = computeFigures(small({ endpoint: { screens } }));
    expect(native).toEqual({
      ...{ clientKind: 'native client', left: 0, leftBecause: null, pixelsOf: 'client', shrunk: false, mixedScales: false, codec: 'h264' },
      screens: [
        { widthPx: 2560, heightPx: 1440, refreshHz: 75 },
        { widthPx: 1920, heightPx: 1080, refreshHz: null },
        { widthPx: 1280, heightPx: 720, refreshHz: 60 },
      ],
      pixels: 2560 * 1440 + 1920 * 1080 + 1280 * 720,
      demand: { meanMbps: really.demand.meanMbps, p95Mbps: really.demand.p95Mbps },
    });
    expect(deskSession({ endpoint, gateway, resource }, settings, 'thin-client firmware', screens)).toMatchObject({
      ...{ left: 1, leftBecause: 'client', mixedScales: true, pixels: 2560 * 1440 + 1920 * 1080 },
    });
    expect(deskSession({ endpoint, gateway, resource }, settings, 'browser', screens)).toMatchObject({ left: 2, mixedScales: false });
  });
  test('nobody says what is worked in: what it asks of the line is not known', () =>
    expect(deskSession({ endpoint, gateway, resource: null }, settings, 'browser', screens).demand).toBeNull());
});

describe('what a session asks of its line', () => {
  const facts = small({ resource: { content: { video: 0.5, text: 0.5 } } });
  const { settings, session } = computeFigures(facts);
  test('is another one for another codec, chroma, frames, colours, pixels', () => {
    const of = (s: object = {}, more: object = {}) => demandOf(facts, { ...settings, ...s }, { ...session, ...more }).meanMbps;
    const plain = of();
    for (const [s, more] of [
      [{}, { codec: 'hevc' }],
      [{}, { chroma444: true }],
      [{}, { activePixels: 3840 * 2160 }],
      [{}, { idlePixels: 1920 * 1080 }],
      [{ 'picture.frameCap': 10 }, {}],
    ]) {
      expect([s, more, of(s, more)]).not.toEqual([s, more, plain]);
      expect(of()).toBe(plain);
    }
    const bitmap = { codec: 'bitmap' };
    expect(of({ 'picture.colourDepth': 16 }, bitmap)).toBeLessThan(of({}, bitmap));
  });
  test('video goes beside the session where that is set and the device follows it', () => {
    const video = { resource: { content: { video: 0.5, still: 0.5 } } };
    const beside = (offload: boolean, endpoint: object = {}) => {
      const { onLine } = computeFigures(small({ ...video, endpoint, settings: { 'media.videoOffload': offload } }));
      return onLine.besideMbps > 0;
    };
    expect([beside(false), beside(true)]).toEqual([false, true]);
    const none = small({ settings: { 'media.videoOffload': true } });
    expect(lineDemandOf(none, computeFigures(none).settings).besideMbps).toBe(0);
  });
});
