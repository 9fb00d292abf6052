import { describe, expect, test } from '@jest/globals';
import type { Peripheral, PeripheralKind } from '@underpass/contracts';
import { small, type Otherwise } from '../../test/small.js';
import { carriedAs, deviceItem, isMeant, keptOut, type DeviceWay } from './deskDevices.js';
import { bayOfReason, deskOf, deskWhy, type DeskReason } from './desk.js';
import { between, exact } from '../units/index.js';
import { computeFigures } from './index.js';

/** Every reason there is, in the words that follow a name, and where it lies. */
const reasons: [DeskReason, string, string][] = [
  [{ code: 'screens not known' }, 'the screens are not known', 'Endpoint'],
  [{ code: 'fewer by setting' }, 'the settings use fewer screens', 'Endpoint'],
  [{ code: 'fewer pixels by setting' }, 'the settings allow fewer pixels', 'Endpoint'],
  [{ code: 'shows the same' }, 'it shows the same as the first', 'Endpoint'],
  [{ code: 'too many pixels' }, 'more pixels than the client takes', 'Endpoint'],
  [{ code: 'pixels of the device' }, 'more pixels than the device drives', 'Endpoint'],
  [{ code: 'too many screens' }, 'more screens than the client takes', 'Endpoint'],
  [{ code: 'port too small' }, 'its port carries no such size', 'Endpoint'],
  [{ code: 'port slow', highestHz: 30 }, 'its port carries 30 Hz only', 'Endpoint'],
  [{ code: 'client cannot', clientKind: 'browser' }, 'a browser has no way for it', 'Endpoint'],
  [{ code: 'rules forbid' }, 'the rules do not let it through', 'Gateway'],
  [{ code: 'personal device' }, 'not from a personal device', 'Endpoint'],
  [{ code: 'guest' }, 'nothing leaves with a guest', 'Endpoint'],
  [{ code: 'sound elsewhere' }, 'the settings keep the sound off this device', 'Gateway'],
  [{ code: 'microphone off' }, 'the settings keep the microphone out', 'Gateway'],
  [{ code: 'setting forbids' }, 'a setting keeps it out', 'Gateway'],
  [{ code: 'way too slow', bearsMs: 25 }, 'it bears 25 ms there and back, and the way takes longer', 'Link'],
  [{ code: 'way too thin', mbps: 8 }, 'it asks 8 Mbit/s, and the line does not send so much', 'Link'],
  [{ code: 'each job longer', seconds: 24 }, 'each of its jobs takes 24 s longer: it asks and waits many times', 'Link'],
  [{ code: 'stays local' }, 'a rule keeps it at the desk', 'Endpoint'],
  [{ code: 'rule denies' }, 'a rule denies it', 'Gateway'],
  [{ code: 'no rule' }, 'no rule names it, and what none names is not allowed', 'Gateway'],
  [{ code: 'by hand' }, 'it goes over only by hand', 'Endpoint'],
  [{ code: 'gateway without USB' }, 'the gateway carries no USB', 'Gateway'],
];
test.each(reasons)('$code', (reason, words, bay) => expect([deskWhy(reason), bayOfReason(reason)]).toEqual([words, bay]));
test('without a reason nothing is said', () => expect(deskWhy(null)).toBe(''));

const kinds: PeripheralKind[] = ['headset', 'camera', 'card-reader', 'printer', 'scanner', 'storage'];
const desk = (endpoint: object, otherwise: Otherwise = {}) => {
  const { desk: items } = computeFigures(small({ ...otherwise, endpoint: { ...endpoint, screens: [] } }));
  return items;
};
/** Why a peripheral does not get in, by what is otherwise; null where it does. */
const why = (kind: PeripheralKind, otherwise: Otherwise = {}) => {
  const facts = small({ ...otherwise, endpoint: { ...otherwise.endpoint, peripherals: [kind] } });
  const { settings, session } = computeFigures(facts);
  return keptOut(kind, facts, settings, session)?.code ?? null;
};
const usb = { gateway: { usb: true } };

describe('what keeps a peripheral out', () => {
  test.each(kinds)('nothing keeps out a %s as everything is by itself', (kind) => expect(why(kind, usb)).toBeNull());
  test.each<[string, PeripheralKind, Otherwise, string | null]>([
    ['a client that has no way for it', 'scanner', { ...usb, endpoint: { clientKind: 'browser' } }, 'client cannot'],
    [
      'a stick of a personal device, where those are limited',
      'storage',
      { endpoint: { ownership: 'personal' }, settings: { 'security.personalDevices': 'limited' } },
      'personal device',
    ],
    [
      'where they are not',
      'storage',
      { endpoint: { ownership: 'personal' }, settings: { 'security.personalDevices': 'as managed' } },
      null,
    ],
    ['of a managed one', 'storage', { settings: { 'security.personalDevices': 'limited' } }, null],
    ['drives by a setting', 'storage', { settings: { 'redirection.drives': 'none' } }, 'setting forbids'],
    ['printers by a setting', 'printer', { settings: { 'redirection.printers': 'none' } }, 'setting forbids'],
    ['cards by a setting', 'card-reader', { settings: { 'redirection.smartCard': false } }, 'setting forbids'],
    ['a camera by a setting', 'camera', { settings: { 'redirection.camera': 'not' } }, 'setting forbids'],
    [
      'one that goes raw, over a gateway without USB',
      'camera',
      { gateway: { usb: false }, settings: { 'redirection.camera': 'as raw USB' } },
      'gateway without USB',
    ],
    ['one that goes raw, over one with it', 'camera', { ...usb, settings: { 'redirection.camera': 'as raw USB' } }, null],
    ['a coded one needs none', 'camera', { gateway: { usb: false } }, null],
    ['a scanner over a gateway without USB', 'scanner', { gateway: { usb: false } }, 'gateway without USB'],
    ['a headset where the sound is not on the endpoint', 'headset', { settings: { 'sound.play': 'off' } }, 'sound elsewhere'],
    [
      'one for calls where the microphone is off',
      'headset',
      { resource: { calls: true }, settings: { 'sound.microphone': false } },
      'microphone off',
    ],
    ['one without calls does not need it', 'headset', { settings: { 'sound.microphone': false } }, null],
    [
      'one whose calls are handled on the endpoint has its sound there',
      'headset',
      { resource: { calls: true }, settings: { 'sound.play': 'off', 'sound.microphone': false, 'media.callOffload': true } },
      null,
    ],
    ['but not for what has no calls', 'headset', { settings: { 'sound.play': 'off', 'media.callOffload': true } }, 'sound elsewhere'],
  ])('%s: %s', (_, kind, otherwise, code) => expect(why(kind, otherwise)).toBe(code));
  test('with a guest no stick and no printer leaves, unless guests are as everybody', () => {
    const guest = (kind: PeripheralKind, rule: string) =>
      why(kind, {
        ...usb,
        person: { kind: 'guest', guest: { organisation: 'Elsewhere', owner: 'ann', endsOn: '2026-12-31', invitation: 'accepted' } },
        settings: { 'security.guests': rule },
      });
    expect(kinds.map((kind) => guest(kind, 'limited'))).toEqual([null, null, null, 'guest', null, 'guest']);
    expect(kinds.map((kind) => guest(kind, 'as everybody'))).toEqual(Array(6).fill(null));
  });
  test('that data does not leave is meant; that a client has no way for a stick is not', () => {
    const meant = (code: DeskReason['code']) => kinds.filter((kind) => isMeant(kind, { code } as DeskReason));
    expect(meant('guest')).toEqual(kinds);
    expect(meant('setting forbids')).toEqual(['printer', 'storage']);
    expect(meant('personal device')).toEqual(['storage']);
    expect(meant('client cannot')).toEqual([]);
  });
  test('a scanner goes raw, a camera where it is set so, all else by a channel', () => {
    const facts = small();
    const { settings } = computeFigures(facts);
    const as = (s: object) => kinds.map((kind) => carriedAs(kind, { ...settings, ...s }, facts.endpoint));
    expect(as({})).toEqual(['channel', 'channel', 'channel', 'channel', 'raw USB', 'channel']);
    expect(as({ 'redirection.camera': 'as raw USB' })).toEqual(['channel', 'raw USB', 'channel', 'channel', 'raw USB', 'channel']);
  });
});

describe('peripherals in short', () => {
  test('each by its name, as it is carried', () => {
    const items = desk({ peripherals: kinds }, { ...usb, settings: { 'redirection.devices': kinds } });
    expect(items.flatMap(({ name, peripheral, works, carriedAs: as }) => (peripheral ? [[name, works, as]] : []))).toEqual([
      ['Headset', true, 'channel'],
      ['Camera', true, 'channel'],
      ['Card reader', true, 'channel'],
      ['Printer', true, 'channel'],
      ['Scanner', true, 'raw USB'],
      ['Storage stick', true, 'channel'],
    ]);
  });
  test('that no rule lets through, unless the client has no way for it anyhow', () => {
    const of = (clientKind: string) =>
      desk({ peripherals: ['storage', 'scanner'], clientKind }, { ...usb, settings: { 'redirection.devices': [] } }).flatMap(
        ({ peripheral, works, because, meant, carriedAs: as }) => (peripheral ? [[peripheral, works, because?.code, meant, as]] : []),
      );
    expect(of('native client')).toEqual([
      ['storage', false, 'rules forbid', true, 'not allowed'],
      ['scanner', false, 'rules forbid', false, 'not allowed'],
    ]);
    expect(of('browser').at(-1)).toEqual(['scanner', false, 'client cannot', false, 'not allowed']);
  });
});

describe('screens', () => {
  const screen = (more: object = {}) => ({ widthPx: 1920, heightPx: 1080, refreshHz: 60, ...more });
  const shown = (screens: object[] | undefined, otherwise: Otherwise = {}) =>
    computeFigures(small({ ...otherwise, endpoint: { ...otherwise.endpoint, screens } })).desk.map(
      ({ name, works, carriedAs: as, because, meant, screen: at }) => [name, works, as, because?.code ?? null, meant, at],
    );
  test('one is the screen, more are counted; none known is not known', () => {
    expect(shown([screen()])).toEqual([['Screen', true, 'session', null, false, 0]]);
    expect(shown([screen(), screen()])).toEqual([
      ['Screen 1', true, 'session', null, false, 0],
      ['Screen 2', true, 'session', null, false, 1],
    ]);
    expect(shown(undefined)).toEqual([['Screens', null, 'not known', 'screens not known', false, undefined]]);
  });
  test('that stay dark, and whether that is meant', () => {
    const second = (otherwise: Otherwise) => shown([screen(), screen()], otherwise)[1]?.slice(1, 5);
    expect(second({ settings: { 'screens.use': 'one' } })).toEqual([false, 'local only', 'fewer by setting', true]);
    expect(second({ settings: { 'screens.most': 1 } })).toEqual([false, 'local only', 'fewer by setting', true]);
    expect(second({ settings: { 'screens.arrange': 'the same' } })).toEqual([false, 'local only', 'shows the same', true]);
    expect(second({ settings: { 'screens.mostMegapixels': 3 } })).toEqual([false, 'local only', 'fewer pixels by setting', true]);
    expect(second({ endpoint: { mostPixels: 3e6 } })).toEqual([false, 'local only', 'pixels of the device', false]);
    expect(second({ endpoint: { clientKind: 'browser' } })).toEqual([false, 'local only', 'too many screens', false]);
  });
  test('a first one of too many pixels is shown smaller, and that is no fault of its size alone', () => {
    const large = [screen({ widthPx: 7680, heightPx: 4320 })];
    expect(shown(large, { endpoint: { mostPixels: 9e6 } })).toEqual([['Screen', false, 'session', 'pixels of the device', false, 0]]);
    expect(shown(large, { settings: { 'screens.mostMegapixels': 9 } })[0]?.[3]).toBe('fewer pixels by setting');
    expect(shown(large, { endpoint: { clientKind: 'browser' } })[0]?.[3]).toBe('too many pixels');
  });
});

describe('a device told in full', () => {
  const scanner: Partial<Peripheral> = { interfaces: ['06/01/01'] };
  const itemOf = (device: Partial<Peripheral>, otherwise: Otherwise = {}, rules: object[] = [], way: DeviceWay | null = null) => {
    const facts = small({
      ...usb,
      ...otherwise,
      more: { usbRule: rules.map((rule, rank) => ({ id: `r${rank}`, rank, match: {}, ...rule })) },
    });
    const { settings, session } = computeFigures(facts);
    const full = { id: 'd', endpoint: 'e1', vid: 'f1a5', pid: '0101', class: '00', interfaces: ['01/01/00'], ...device } as Peripheral;
    return deviceItem(full, facts, settings, session, way);
  };
  const item = (...of: Parameters<typeof itemOf>) => {
    const found = itemOf(...of);
    return found && [found.works, found.carriedAs, found.because?.code ?? null, found.meant];
  };
  test('what is the session’s own input works, whatever a rule says, unless it is made raw', () => {
    const keys = { interfaces: ['03/01/01'] };
    expect(item(keys, {}, [{ action: 'deny' }])).toEqual([true, 'session', null, false]);
    expect(item(keys, {}, [{ action: 'allow', carryAs: 'raw USB' }])).toEqual([true, 'raw USB', null, false]);
  });
  test('kept at the desk or denied by a rule; by none that names it', () => {
    expect(item({}, {}, [{ action: 'allow', carryAs: 'local only' }])).toEqual([false, 'local only', 'stays local', true]);
    expect(item({}, {}, [{ action: 'deny' }])).toEqual([false, 'not allowed', 'rule denies', false]);
    expect(item({ interfaces: ['08/06/50'] }, {}, [{ action: 'deny' }])).toEqual([false, 'not allowed', 'rule denies', true]);
    expect(item(scanner)).toEqual([false, 'not allowed', 'no rule', false]);
  });
  test('by a channel where its settings let it', () => {
    expect(item({}, {}, [{ action: 'allow' }])).toEqual([true, 'channel', null, false]);
    expect(item({}, { settings: { 'sound.play': 'off' } }, [{ action: 'allow' }])).toEqual([
      false,
      'not allowed',
      'sound elsewhere',
      false,
    ]);
  });
  test('raw over a gateway with USB; what the way is too slow or too thin for does not work, what is long does', () => {
    const allow = [{ action: 'allow' }];
    const way = (rttMs: number, upMbps = 20, known = true): DeviceWay => ({
      rtt: exact(rttMs, 'measured', ''),
      rttKnown: known,
      availableUp: between(upMbps / 2, upMbps / 4, upMbps, 'measured', ''),
    });
    expect(item(scanner, {}, allow)).toEqual([true, 'raw USB', null, false]);
    expect(item(scanner, { gateway: { usb: false } }, allow)).toEqual([false, 'not allowed', 'gateway without USB', false]);
    // 400 questions of 12.5 ms are 5 s
    expect(item(scanner, {}, allow, way(12.4))).toEqual([true, 'raw USB', null, false]);
    expect(item(scanner, {}, allow, way(12.5))).toEqual([true, 'raw USB', 'each job longer', false]);
    expect(itemOf(scanner, {}, allow, way(12.5))?.because).toEqual({ code: 'each job longer', seconds: 5 });
    expect(item(scanner, {}, allow, way(12.5, 20, false))).toEqual([true, 'raw USB', null, false]);
    const asking = { ...scanner, isochronousMbps: 20 };
    expect(item(asking, {}, allow, way(5, 20))).toEqual([true, 'raw USB', null, false]);
    expect(item(asking, {}, allow, way(5, 19.9))).toEqual([false, 'raw USB', 'way too thin', false]);
    expect(item(asking, {}, allow, { ...way(5), availableUp: null })).toEqual([true, 'raw USB', null, false]);
  });
  test('that goes over by hand says so before that it is long', () => {
    expect(item(scanner, { settings: { 'redirection.connect': 'by hand' } }, [{ action: 'allow' }])).toEqual([
      ...[true, 'raw USB', 'by hand', false],
    ]);
  });
  test('a browser has no way for what it has no channel for, and says nothing of what is no peripheral', () => {
    const browser = { endpoint: { clientKind: 'browser' } };
    expect(item(scanner, browser)).toEqual([false, 'local only', 'client cannot', false]);
    expect(item({ interfaces: ['02/02/01'] }, browser)).toBeNull();
  });
  test('what is told in full is not told in short', () => {
    const facts = small({ ...usb, endpoint: { peripherals: ['headset', 'printer'], screens: [] } });
    const device = { id: 'd', endpoint: 'e1', name: 'Mine', vid: 'f1a5', pid: '0101', class: '00', interfaces: ['01/01/00'] } as Peripheral;
    const { settings, session } = computeFigures(facts);
    const names = deskOf({ ...facts, devices: [device] }, settings, session).flatMap(({ name, peripheral }) => (peripheral ? [name] : []));
    expect(names).toEqual(['Mine', 'Printer']);
  });
});
