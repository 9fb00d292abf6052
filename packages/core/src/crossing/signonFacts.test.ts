import { describe, expect, test } from '@jest/globals';
import { small, type Otherwise } from '../../test/small.js';
import { between } from '../units/index.js';
import { handedOf, handsOnPlainly, typesAgainAt } from './handed.js';
import { computeFigures } from './index.js';
import { signonFactsOf } from './signonFacts.js';
import type { Way } from './way.js';

const of = (otherwise: Otherwise = {}) => computeFigures(small(otherwise)).signon;
const fact = (name: keyof ReturnType<typeof of>, otherwise: Otherwise = {}) => of(otherwise)[name];

describe('what a sign-on depends on', () => {
  test('the way, and how far it may be otherwise', () => {
    const facts = small();
    const figures = computeFigures(facts);
    const with_ = (way: Partial<Way>) =>
      signonFactsOf(facts, figures.settings, { ...figures, way: { ...figures.way, ...way }, profileMbps: 7 } as never);
    expect(with_({ rtt: between(50, 20, 60, 'measured', '') })).toMatchObject({ rttMs: 50, rttSpreadMs: 30, profileMbps: 7 });
    expect(with_({ rtt: between(50, 45, 90, 'measured', '') }).rttSpreadMs).toBe(40);
    expect(with_({ available: between(8, 4, 9, 'measured', '') })).toMatchObject({ availableMbps: 8, rateKnown: true });
    expect(with_({ available: null })).toMatchObject({ availableMbps: 5, rateKnown: false });
    const storm = { value: 3, low: 2, high: 4, lineMbps: 9 };
    expect(with_({ storm }).storm).toBe(storm);
    expect(of().firstFrameBytes).toBe(figures.demand.firstFrameBytes);
  });
  test('the device: connection, client, platform', () => {
    expect([
      fact('wired'),
      fact('wired', { endpoint: { connection: 'wifi' } }),
      fact('wired', { endpoint: { connection: undefined } }),
    ]).toEqual([...[true, false, undefined]]);
    expect([fact('browserClient'), fact('browserClient', { endpoint: { clientKind: 'browser' } })]).toEqual([false, true]);
    expect([fact('thinClient'), fact('thinClient', { endpoint: { platform: 'desktop' } })]).toEqual([true, false]);
  });
  test('a device that stays on does, unless a setting that it follows has it off in the morning', () => {
    const on = (settings: Record<string, unknown>, endpoint: object = {}) =>
      fact('alwaysOn', { endpoint: { alwaysOn: true, ...endpoint }, settings });
    expect([on({}), on({ 'client.powerOff': 'sleeps' }), on({ 'session.logOff': 'start again' })]).toEqual([true, true, true]);
    expect([on({ 'client.powerOff': 'off' }), on({ 'session.logOff': 'switch off' })]).toEqual([false, false]);
    expect([
      on({ 'client.powerOff': 'off', 'session.logOff': 'switch off' }),
      on({ 'client.powerOff': 'off' }, { platform: 'desktop' }),
    ]).toEqual([...[false, true]]);
    expect(fact('alwaysOn', { endpoint: { alwaysOn: false } })).toBe(false);
  });
  test('what is asked of the person: a second factor, a card, a password; QUIC where UDP may pass', () => {
    expect([fact('secondFactor'), fact('secondFactor', { gateway: { secondFactor: true } })]).toEqual([false, true]);
    const signs = (ownership: string, singleSignOn: boolean) =>
      of({ endpoint: { ownership }, settings: { 'session.singleSignOn': singleSignOn } });
    expect(
      [signs('managed', true), signs('personal', true), signs('managed', false)].map(({ singleSignOn, types }) => [singleSignOn, types]),
    ).toEqual([
      [true, false],
      [false, true],
      [false, true],
    ]);
    const taps = (peripherals: string[], tapCard: boolean) => of({ endpoint: { peripherals }, settings: { 'session.tapCard': tapCard } });
    expect(
      [taps(['card-reader'], true), taps([], true), taps(['card-reader'], false)].map(({ taps: does, types }) => [does, types]),
    ).toEqual([
      [true, false],
      [false, true],
      [false, true],
    ]);
    expect(fact('types', { settings: { 'security.savedPasswords': true } })).toBe(false);
    const quic = (udp: boolean | undefined) => fact('quic', { gateway: { udp }, settings: { 'transport.prefer': 'quic' } });
    expect([quic(true), quic(undefined), quic(false), fact('quic')]).toEqual([true, true, false, false]);
  });
  test('the host: asleep where none is spare, and off', () => {
    const host = (power: string, spareHosts = 0) => {
      const { hostAsleep, hostOff } = of({ host: { power }, pool: { spareHosts } });
      return [hostAsleep, hostOff];
    };
    expect([host('on'), host('asleep'), host('asleep', 1), host('off')]).toEqual([
      [false, false],
      [true, false],
      [false, false],
      [false, true],
    ]);
  });
  test('the profile: as large as it is told, else of unknown size', () => {
    const profile = (profileMB: number | undefined) => {
      const { profileMB: mb, profileHighMB } = of({ resource: { profileMB } });
      return [mb, profileHighMB];
    };
    expect([profile(80), profile(0), profile(undefined)]).toEqual([
      [80, 80],
      [0, 0],
      [0, 1500],
    ]);
    const south = (km: number) => ({ id: 'far', name: 'Far', latitude: 55 - km / (6371 * (Math.PI / 180)), longitude: 3 });
    const mbps = (km: number, profileRegion: string | undefined = 'far', more: Otherwise = {}) =>
      fact('profileMbps', { ...more, resource: { profileRegion }, more: { region: [south(km)] } });
    expect([mbps(1000), mbps(1700), mbps(1800), mbps(1000, 'near')]).toEqual([expect.closeTo(200, 6), expect.closeTo(60, 6), 50, 2000]);
    expect([fact('profileMbps'), mbps(1000, 'gone')]).toEqual([2000, 400]);
    expect([fact('publishedApp'), fact('publishedApp', { resource: { kind: 'app' }, publication: { kind: 'apps' } })]).toEqual([
      false,
      true,
    ]);
  });
});

describe('what is handed on', () => {
  const again = (otherwise: Otherwise) => {
    const facts = small(otherwise);
    return typesAgainAt(facts, computeFigures(facts).settings);
  };
  test('nobody types again where all is handed on and nobody wants a name of a form', () => {
    expect(again({})).toEqual([]);
    for (const [key, value] of [
      ['signon.gatewayName', '{domain}\\{name}'],
      ['signon.brokerName', '{domain}\\{name}'],
      ['signon.hostName', '{domain}\\{name}'],
      ['signon.brokerGets', 'nothing'],
      ['signon.hostGets', 'nothing'],
    ] as const) {
      const { settings } = computeFigures(small({ settings: { [key]: value } }));
      expect([key, handsOnPlainly(settings)]).toEqual([key, false]);
    }
    expect(handsOnPlainly(computeFigures(small()).settings)).toBe(true);
  });
  test('where nothing is handed on, they do', () => {
    expect(again({ settings: { 'signon.brokerGets': 'nothing' } })).toEqual(['broker']);
    expect(again({ settings: { 'signon.hostGets': 'nothing' } })).toEqual(['host']);
  });
  test('where a name is wanted in another form', () => {
    expect(again({ gateway: { nameForm: 'domain before' }, settings: { 'session.singleSignOn': true } })).toEqual(['gateway']);
    expect(again({ pool: { nameForm: 'domain before' } })).toEqual(['host']);
    expect(again({ pool: { nameForm: 'bare' } })).toEqual([]);
  });
  test('from the device comes a secret that somebody types, or a ticket of a sign-in or a card', () => {
    const first = (otherwise: Otherwise) => {
      const facts = small(otherwise);
      const { gets, typed } = handedOf(facts, computeFigures(facts).settings)[0]!;
      return [gets, typed];
    };
    expect(first({ settings: { 'session.singleSignOn': false } })).toEqual(['secret', true]);
    expect(first({ settings: { 'session.singleSignOn': true } })).toEqual(['ticket', false]);
    expect(
      first({ endpoint: { peripherals: ['card-reader'] }, settings: { 'session.tapCard': true, 'session.singleSignOn': false } }),
    ).toEqual([...['ticket', false]]);
    expect(first({ settings: { 'security.savedPasswords': true, 'session.singleSignOn': false } })).toEqual(['secret', false]);
  });
});
