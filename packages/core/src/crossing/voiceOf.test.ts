import { describe, expect, test } from '@jest/globals';
import { on } from '../../test/judged.js';
import { small } from '../../test/small.js';
import { voiceOnEndpoint, voiceThroughHost } from '../voice/index.js';
import { computeFigures, settingsOf, type CrossingFacts, type CrossingFigures } from './index.js';
import { voiceOf } from './voiceOf.js';
import { callDetourMs } from './wayIn.js';

const facts = small({ ...on, resource: { calls: true } });
const plain = computeFigures(facts);
const span = (value: number, low = value, high = value) => ({ value, low, high });
const way = {
  ...plain.way,
  ...{
    jitterMs: 7,
    rtt: span(60, 40, 100),
    busyMs: span(5, 1, 9),
    spreadMs: span(10, 4, 30),
    localMs: span(8, 2, 20),
    loss: span(1, 0.5, 3),
  },
} as unknown as CrossingFigures['way'];
const heardOf = (settings: object = {}, endpoint: object = {}, resource: object = {}, of = way) => {
  const these: CrossingFacts = {
    ...facts,
    endpoint: { ...facts.endpoint, ...endpoint } as CrossingFacts['endpoint'],
    resource: { ...facts.resource, ...resource } as CrossingFacts['resource'],
  };
  return voiceOf(these, { ...settingsOf(facts), 'media.callOffload': false, 'sound.bufferMs': 50, ...settings } as never, of, {
    ...plain.session,
    transport: 'udp',
  });
};
// what the formulas come to is held against ITU-T G.107 in voice; here, what goes into them
const at = (rttMs: number, spreadMs: number, lossPercent: number, more: object = {}) => ({
  ...{ rttMs, jitterMs: 7, spreadMs, lossPercent, transport: 'udp' as const, waitsMs: 50, codec: 'g711-plc' as const },
  ...more,
});

describe('a call as it is heard', () => {
  test('there and back with the line busy twice, and what is lost: the value by the values, its ends by the ends', () => {
    const { host, endpoint } = heardOf();
    const want = (f: typeof voiceThroughHost) => ({
      ...{ mos: f(at(70, 10, 1)).mos, r: f(at(70, 10, 1)).r, low: f(at(118, 30, 3)).mos, high: f(at(42, 4, 0.5)).mos },
    });
    expect(host).toEqual(want(voiceThroughHost));
    expect(endpoint).toEqual(want(voiceOnEndpoint));
    expect(host!.low).toBeLessThan(host!.mos);
    expect(host!.high).toBeGreaterThan(host!.mos);
  });
  test('on Wi-Fi what it waits there counts as unsteady too; jitter that nobody measured is two ms', () => {
    expect(heardOf({}, { connection: 'wifi' }).host).toMatchObject({
      ...{
        mos: voiceThroughHost(at(70, 18, 1)).mos,
        low: voiceThroughHost(at(118, 50, 3)).mos,
        high: voiceThroughHost(at(42, 6, 0.5)).mos,
      },
    });
    expect(heardOf({}, {}, {}, { ...way, jitterMs: null }).host?.mos).toBe(voiceThroughHost(at(70, 10, 1, { jitterMs: 2 })).mos);
  });
  test('speech alone is coded narrowly, and sound waits as long as the settings say', () => {
    expect(heardOf({ 'sound.quality': 'for speech' }).host?.mos).toBe(voiceThroughHost(at(70, 10, 1, { codec: 'g729a' })).mos);
    expect(heardOf({ 'sound.bufferMs': 200 }).host?.mos).toBe(voiceThroughHost(at(70, 10, 1, { waitsMs: 200 })).mos);
  });
  test('goes by the host, or from the endpoint where that is set; what is heard is the one it takes', () => {
    const [host, endpoint] = [heardOf(), heardOf({ 'media.callOffload': true })];
    expect([host.carried, host.heard]).toEqual(['host', host.host]);
    expect([endpoint.carried, endpoint.heard]).toEqual(['endpoint', endpoint.endpoint]);
  });
  test('sound or microphone that the settings keep out is kept from a call by the host, and from no other', () => {
    const kept = (settings: object) => heardOf(settings).kept;
    expect(kept({ 'sound.play': 'on the endpoint', 'sound.microphone': true })).toBeNull();
    expect(kept({ 'sound.play': 'on the endpoint', 'sound.microphone': false })).toBe('microphone');
    expect(kept({ 'sound.play': 'nowhere', 'sound.microphone': true })).toBe('sound');
    expect(kept({ 'sound.play': 'nowhere', 'sound.microphone': false })).toBe('sound');
    expect(kept({ 'media.callOffload': true, 'sound.play': 'nowhere', 'sound.microphone': false })).toBeNull();
  });
  test('work without calls holds none', () => {
    expect(heardOf({ 'sound.play': 'nowhere' }, {}, { calls: false })).toEqual({
      ...{ host: null, endpoint: null, carried: 'host', heard: null, kept: null, counts: false },
    });
  });
  test('a call that is sent through a tunnel of its own goes a detour, the one by the host does not', () => {
    const desktop = { platform: 'desktop', deviceClass: 'laptop' };
    const [host, endpoint] = [voiceThroughHost(at(70, 10, 1)), voiceOnEndpoint(at(70, 10, 1))];
    const through = (pastTunnel: string) => heardOf({ 'transport.wayIn': 'tunnel', 'transport.pastTunnel': pastTunnel }, desktop);
    expect(through('nothing')).toMatchObject({
      ...{ host: { mos: host.mos }, endpoint: { mos: voiceOnEndpoint(at(70 + callDetourMs, 10, 1)).mos } },
    });
    expect(voiceOnEndpoint(at(70 + callDetourMs, 10, 1)).mos).toBeLessThan(endpoint.mos);
    for (const past of ['calls', 'calls and session']) expect([past, through(past).endpoint?.mos]).toEqual([past, endpoint.mos]);
  });
});
