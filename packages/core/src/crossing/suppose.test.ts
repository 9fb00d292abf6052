import { expect, test } from '@jest/globals';
import { trips } from '../../test/small.js';
import type { Evidence, Taken } from '../evidence/index.js';
import { suppose } from './suppose.js';

const taken = <T>(value: T): Taken<T> => ({
  value,
  at: '2026-11-25T09:00:00Z',
  by: 'ann',
  note: 'ann, today',
  samples: 400,
  medium: 'wifi',
});
const before = {
  rejected: [],
  roundTrips: taken({ ...trips(40, { lost: 3, p95Ms: 60 }), jitterMs: 9 }),
  datagrams: taken({ passes: true, sent: 400, lost: 8, jitterMs: 7 }),
  downMbps: taken(80),
  upMbps: taken(9),
  scene: taken({ averageFps: 11 }),
  screens: taken([]),
} as unknown as Evidence;
const none = { rejected: [] } as unknown as Evidence;
const line = (more: object) => ({ suppose: 'line' as const, kind: 'location' as const, id: 'hall', ...more });
const supposed = { at: '', by: 'supposed', note: 'supposed', samples: 1000, own: true };

test('nothing supposed is what was measured', () => expect(suppose(before, [], 'near')).toBe(before));

test('a round trip: as if a thousand had taken so long to where the way leads; jitter is not more than 2 ms', () => {
  const value = { samples: 1000, lost: 0, minMs: 15, medianMs: 15, p95Ms: 17, medianLowMs: 15, medianHighMs: 15 };
  const after = suppose(before, [line({ roundTripMs: 15 })], 'near');
  expect(after).toEqual({ ...before, roundTrips: { ...supposed, target: 'near', value: { ...value, jitterMs: 2 } } });
  const still = { ...before, roundTrips: taken({ ...trips(40), jitterMs: 1 }) } as Evidence;
  expect(suppose(still, [line({ roundTripMs: 15 })], 'near').roundTrips?.value.jitterMs).toBe(1);
  expect(suppose(none, [line({ roundTripMs: 15 })], 'far')).toEqual({ ...none, roundTrips: { ...supposed, target: 'far', value } });
});

test('jitter: of what was measured, and the worst of the round trips so far above their median', () => {
  const after = suppose(before, [line({ jitterMs: 4 })], 'near');
  expect(after.roundTrips).toEqual({ ...before.roundTrips, value: { ...before.roundTrips!.value, jitterMs: 4, p95Ms: 44 } });
  expect(after.datagrams).toEqual({ ...before.datagrams, value: { ...before.datagrams!.value, jitterMs: 4 } });
  expect(suppose(none, [line({ jitterMs: 4 })], 'near')).toEqual(none);
});

test('loss: of a hundred thousand so many, and no pings; whether UDP passes stays as it is', () => {
  const after = suppose(before, [line({ lossPercent: 0.05 })], 'near');
  expect(after.roundTrips).toEqual({ ...before.roundTrips, value: { ...before.roundTrips!.value, lost: 0 } });
  expect(after.datagrams).toEqual({ ...supposed, value: { passes: true, sent: 100_000, lost: 50, jitterMs: 7 } });
  const blocked = { ...before, datagrams: taken({ passes: false }) } as Evidence;
  expect(suppose(blocked, [line({ lossPercent: 0 })], 'near').datagrams?.value).toEqual({ passes: false, sent: 100_000, lost: 0 });
  expect(suppose(none, [line({ lossPercent: 1 })], 'near')).toEqual({
    ...none,
    datagrams: { ...supposed, value: { passes: true, sent: 100_000, lost: 1000 } },
  });
});

test('UDP, and the rates', () => {
  expect(suppose(before, [line({ udp: false })], 'near').datagrams).toEqual({
    ...supposed,
    value: { passes: false, sent: 400, lost: 8, jitterMs: 7 },
  });
  expect(suppose(none, [line({ udp: true })], 'near').datagrams?.value).toEqual({ passes: true });
  expect(suppose(before, [line({ downMbps: 300, upMbps: 40 })], 'near')).toEqual({
    ...before,
    downMbps: { ...supposed, value: 300 },
    upMbps: { ...supposed, value: 40 },
  });
});

test('drawing that was mended was not seen yet; several suppositions come one after the other', () => {
  const drawing = { suppose: 'drawing' as const, kind: 'endpoint' as const, id: 'e1' } as never;
  const { scene, ...rest } = before;
  expect(scene).toBeDefined();
  expect(suppose(before, [drawing], 'near')).toEqual(rest);
  const both = suppose(before, [line({ downMbps: 300 }), drawing, line({ downMbps: 200 })], 'near');
  expect([both.downMbps?.value, both.scene]).toEqual([200, undefined]);
});
