import { describe, expect, test } from '@jest/globals';
import { degrees, small, type Otherwise } from '../../test/small.js';
import { shippedAssumed } from '../assumed/index.js';
import { between, exact } from '../units/index.js';
import { around, delayOf, type DelayPart } from './delay.js';
import type { Frames } from './frames.js';
import { computeFigures } from './index.js';
import type { Way } from './way.js';

const at = (way: Partial<Way> = {}, frames: Partial<Frames> = {}, otherwise: Otherwise = {}) => {
  const facts = small(otherwise);
  const base = computeFigures(facts);
  const { session, host, demand, settings } = base;
  return delayOf(facts, settings, session, host, demand, { ...base.way, ...way }, { ...base.frames, ...frames });
};
const part = (name: string, of: { parts: readonly DelayPart[] }) => {
  const found = of.parts.find((each) => each.name === name);
  return found && [found.ms, found.lowMs, found.highMs, found.source, found.bay];
};
const otherwise = (name: string, more: Otherwise) => part(name, at({}, {}, more));

describe('parts of the delay', () => {
  test('their sums are the whole, at both ends; what takes nothing is not among them', () => {
    for (const delay of [at(), at({ rtt: between(50, 20, 90, 'measured', ''), busyMs: between(10, 0, 40, 'measured', '') })]) {
      const sum = (of: (each: DelayPart) => number) => delay.parts.reduce((total, each) => total + of(each), 0);
      expect(sum(({ ms }) => ms)).toBeCloseTo(delay.value, 9);
      expect(sum(({ lowMs }) => lowMs)).toBeCloseTo(delay.low, 9);
      expect(sum(({ highMs }) => highMs)).toBeCloseTo(delay.high, 9);
      expect(delay.parts.every(({ ms, highMs }) => ms > 0 || highMs > 0)).toBe(true);
      expect(delay.parts).toBe(delay.parts);
    }
    expect(part('load of the line', at({ busyMs: exact(0, 'measured', '') }))).toBeUndefined();
    expect(part('load of the line', at({ busyMs: between(0, 0, 9, 'assumed', '') }))).toEqual([0, 0, 9, 'assumed', 'Link']);
  });
  test('idle it is without what the load adds; the worst twentieth has how far the way varies, and all that is sent again', () => {
    const none = { value: 0, low: 0, high: 0 };
    const busy = at(
      { busyMs: between(12, 5, 40, 'measured', ''), spreadMs: between(7, 3, 30, 'measured', '') },
      { resentMs: none, resentWorstMs: none },
    );
    expect(busy.value - busy.idleMs).toBeCloseTo(12, 9);
    expect([busy.worst.value - busy.value, busy.worst.low - busy.low, busy.worst.high - busy.high]).toEqual(
      [7, 3, 30].map((ms) => expect.closeTo(ms, 9)),
    );
    const resent = at(
      { spreadMs: exact(0, 'measured', '') },
      { resentMs: { value: 2, low: 1, high: 5 }, resentWorstMs: { value: 20, low: 9, high: 60 } },
    );
    expect(part('sent again after loss', resent)?.slice(0, 3)).toEqual([2, 1, 5]);
    expect([resent.worst.value - resent.value, resent.worst.low - resent.low, resent.worst.high - resent.high]).toEqual(
      [18, 8, 55].map((ms) => expect.closeTo(ms, 9)),
    );
  });
});

test('each part lies in its bay, and says where it comes from', () => {
  expect(
    at({ busyMs: exact(9, 'measured', '') }, { resentMs: { value: 1, low: 1, high: 1 } }).parts.map(({ name, bay, source }) => [
      name,
      bay,
      source,
    ]),
  ).toEqual([
    ['keyboard poll', 'Desk', 'assumed'],
    ['wait for the screen and scan-out', 'Desk', 'declared'],
    ['panel', 'Desk', 'assumed'],
    ['client handling', 'Endpoint', 'assumed'],
    ['jitter buffer', 'Endpoint', 'assumed'],
    ['decode', 'Endpoint', 'assumed'],
    ['local network', 'Local network', 'assumed'],
    ['round trip', 'Link', 'declared'],
    ['sent again after loss', 'Link', 'measured'],
    ['load of the line', 'Link', 'measured'],
    ['sending the changed area', 'Link', 'computed'],
    ['gateway', 'Gateway', 'assumed'],
    ['way to the host', 'Gateway', 'assumed'],
    ['wait for the next frame', 'Host', 'computed'],
    ['draw and capture', 'Host', 'declared'],
    ['encode', 'Host', 'declared'],
    ['application answers', 'Workspace', 'assumed'],
  ]);
});

describe('at the desk', () => {
  test('a refresh of the first screen: told by whoever told it', () => {
    const screen = (more: Otherwise['endpoint'], measured?: object) =>
      otherwise('wait for the screen and scan-out', {
        endpoint: more as object,
        ...(measured ? { measured: measured as never } : {}),
      })?.slice(0, 4);
    const [full, both] = [{ widthPx: 1920, heightPx: 1080, refreshHz: 50 }, [{ widthPx: 1920, heightPx: 1080, refreshHz: 75 }]];
    expect(screen({ screens: [full, ...both] })).toEqual([20, 20, 20, 'declared']);
    expect(screen({ screens: [full], reportedAt: '2026-11-24T08:00:00Z' })).toEqual([20, 20, 20, 'reported']);
    expect(screen({ screens: [full] }, { screens: [{ widthPx: 1920, heightPx: 1080, refreshHz: 75, scale: 1 }] })).toEqual([
      1000 / 75,
      1000 / 75,
      1000 / 75,
      'measured',
    ]);
    expect(screen({ screens: [{ widthPx: 1920, heightPx: 1080 }] })).toEqual([1000 / 60, 1000 / 60, 1000 / 60, 'assumed']);
    expect(screen({ screens: undefined })?.[3]).toBe('assumed');
  });
  test('a browser handles in 6 ms, a client in 2; packets wait twice their jitter, 40 ms at most', () => {
    expect(otherwise('client handling', { endpoint: { clientKind: 'browser' } })?.[0]).toBe(6);
    expect(otherwise('client handling', {})?.[0]).toBe(2);
    const buffer = (jitterMs: number | null) => part('jitter buffer', at({ jitterMs }));
    expect(buffer(null)).toEqual([4, 4, 4, 'assumed', 'Endpoint']);
    expect(buffer(3)).toEqual([6, 6, 6, 'measured', 'Endpoint']);
    expect([buffer(20)?.[0], buffer(20.5)?.[0], buffer(19.5)?.[0]]).toEqual([40, 40, 39]);
  });
  test('decoding: 4 ms in hardware, on the processor by its rate and 60 ms at the most; 4 at the least where it is not known', () => {
    const decode = (by: 'hardware' | 'processor' | 'not known', processor: number) =>
      part('decode', at({}, { decoding: { by, processor, capacity: null, neededMacroblocksPerS: 0 } }))?.slice(0, 3);
    const ms = (120 * 68 * 1000) / 400_000;
    expect(decode('hardware', 400_000)).toEqual([4, 4, 4]);
    const about = expect.closeTo(ms, 9);
    expect(decode('processor', 400_000)).toEqual([about, about, about]);
    expect(decode('not known', 400_000)).toEqual([about, 4, about]);
    expect(decode('processor', 130_000)?.[0]).toBe(60);
    expect(decode('processor', 137_000)?.[0]).toBeCloseTo((120 * 68) / 137, 9);
  });
});

describe('on the line', () => {
  test('sending the changed area: a frame’s part of the mean over what is available, 400 ms at most', () => {
    const { demand, frames } = computeFigures(small());
    const each = (mbps: number, quality = 1) => ((demand.meanMbps * quality) / frames.cap / mbps) * 1000;
    const sent = (available: Way['available'], quality = 1) => part('sending the changed area', at({ available }, { quality }));
    expect(sent(between(10, 5, 20, 'measured', ''))).toEqual([each(10), each(20), each(5), 'measured', 'Link']);
    expect(sent(exact(10, 'declared', ''), 0.85)).toEqual([each(10, 0.85), each(10, 0.85), each(10, 0.85), 'computed', 'Link']);
    expect(sent(between(1, 0, 1, 'measured', ''))?.[2]).toBeCloseTo(Math.min(400, each(0.001)), 9);
    expect(sent(exact(0.01, 'measured', ''))?.[0]).toBe(400);
    expect(sent(null)).toBeUndefined();
  });
  test('what is measured says so', () => {
    expect(part('round trip', at({ rtt: between(50, 40, 70, 'measured', '') }))).toEqual([50, 40, 70, 'measured', 'Link']);
    expect(part('local network', at({ localMs: between(8, 3, 20, 'assumed', '') }))).toEqual([8, 3, 20, 'assumed', 'Local network']);
  });
});

describe('from the gateway to the host', () => {
  const away = (km: number, more: object = {}): Otherwise => ({
    host: { region: 'away' },
    more: { region: [{ id: 'away', name: 'Away', latitude: 55 - degrees(km), longitude: 3 }] },
    ...more,
  });
  const way = (of: Otherwise) => otherwise('way to the host', of)?.slice(0, 3);
  test('half a millisecond where they stand together; else by the distance, give or take a third', () => {
    expect(way({})).toEqual([0.5, 0.5, 0.5]);
    expect(way(away(1000))).toEqual([16, (16 * 2) / 3, (16 * 4) / 3].map((ms) => expect.closeTo(ms, 6)));
    // 1 ms is as good as none
    expect(way(away(0))).toEqual([1, 1, 1]);
    expect(way(away(0.1))?.[1]).toBeCloseTo((1.0015 * 2) / 3, 6);
  });
  test('inside: 2 ms more and the detour where the gateway is gone through, the nearer way where it is not', () => {
    const inside = (bypass: boolean) => ({
      location: { inside: true, latitude: 55 - degrees(1000) },
      settings: { 'transport.gatewayBypass': bypass },
    });
    // 16 ms to the gateway, 16 back to the host next door
    const by = at({}, {}, away(1000, inside(false)));
    expect(part('way to the host', by)?.[0]).toBeCloseTo(18, 6);
    expect(by.detourMs).toBeCloseTo(16 + 16 + 2 - 1, 6);
    expect(part('gateway', by)?.[0]).toBe(2);
    const past = at({}, {}, away(1000, inside(true)));
    expect([part('way to the host', past), part('gateway', past), past.detourMs]).toEqual([undefined, undefined, 0]);
    // farther than the gateway: what it is farther
    const far = at({}, {}, away(3000, inside(true)));
    expect(part('way to the host', far)?.[0]).toBeCloseTo(1.5 * 20 + 1 - 16, 6);
    // beside the gateway: no detour but its 2 ms
    expect(at({}, {}, { location: { inside: true }, settings: { 'transport.gatewayBypass': false } }).detourMs).toBeCloseTo(0.5 + 2, 6);
    expect(at({}, {}, away(1000)).detourMs).toBe(0);
  });
  test('a tunnel adds to both ends of the way', () => {
    const tunnel = (pastTunnel: string) =>
      otherwise('tunnel', { settings: { 'transport.wayIn': 'tunnel', 'transport.pastTunnel': pastTunnel } });
    expect(tunnel('nothing')).toEqual([4, 4, 4, 'assumed', 'Gateway']);
    expect([tunnel('calls')?.[0], tunnel('calls and session'), otherwise('tunnel', {})]).toEqual([4, undefined, undefined]);
  });
});

describe('in the host', () => {
  test('half a frame of wait: by the frames that come, 500 ms at the most; two frames a second at the least where it is not known', () => {
    const wait = (value: number, low: number, high: number) => part('wait for the next frame', at({}, { value, low, high }))?.slice(0, 3);
    expect(wait(20, 10, 25)).toEqual([25, 20, 50]);
    expect(wait(20, 0, 25)).toEqual([25, 20, 250]);
    expect(wait(0.1, 0, 0.2)).toEqual([1000, 1000, 1000]);
    expect(wait(1, 1, 1)).toEqual([500, 500, 500]);
  });
  test('drawing and encoding: declared, reported, or assumed within a half', () => {
    expect(otherwise('draw and capture', {})).toEqual([10, 10, 10, 'declared', 'Host']);
    expect(otherwise('draw and capture', { host: { drawMs: undefined } })).toEqual([10, 6, 14, 'assumed', 'Host']);
    expect(otherwise('draw and capture', { host: { reportedAt: '2026-11-24T08:00:00Z' } })?.[3]).toBe('reported');
    expect(otherwise('encode', {})).toEqual([10, 10, 10, 'declared', 'Host']);
    expect(otherwise('encode', { host: { encodeMs: undefined } })).toEqual([12, 6, 18, 'assumed', 'Host']);
    expect(otherwise('encode', { host: { reportedAt: '2026-11-24T08:00:00Z' } })?.[3]).toBe('reported');
  });
  test('an app answers in 8 ms, a desktop in 10', () => {
    expect(otherwise('application answers', {})).toEqual([10, 10, 10, 'assumed', 'Workspace']);
    expect(otherwise('application answers', { resource: { kind: 'app' }, publication: { kind: 'apps' } })?.[0]).toBe(8);
  });
});

test('what is around a way of which nothing else is known: the least, and the usual', () => {
  const { host } = shippedAssumed;
  // 4 of the keyboard, a refresh at 60 Hz, 5 of the panel, twice the jitter, 4 to decode, 2 to capture
  const both = 4 + 1000 / 60 + 5 + 6 + 4 + 2;
  const { leastMs, usualMs } = around(3, 30);
  expect(leastMs).toBeCloseTo(both + 2 + 500 / 60 + host.drawMs / 2 + host.cardMs / 2 + 8, 9);
  expect(usualMs).toBeCloseTo(both + 6 + 2 + 500 / 30 + host.drawMs + host.processorMs + 10, 9);
  expect(around(3, 120).leastMs).toBeCloseTo(leastMs - 500 / 60 + 500 / 120, 9);
  expect(around(50, 30).leastMs - leastMs).toBeCloseTo(40 - 6, 9);
});
