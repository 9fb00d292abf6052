import { describe, expect, test } from '@jest/globals';
import { small, trips, type Otherwise } from '../../test/small.js';
import type { Evidence, Taken } from '../evidence/index.js';
import { shareInterval } from '../link/index.js';
import { lossOf } from './loss.js';

const taken = <T>(value: T, more: Partial<Taken<T>> = {}): Taken<T> => ({
  value,
  at: '2026-11-25T09:00:00Z',
  by: 'x',
  note: 'x, today',
  samples: 1,
  ...more,
});
const pings = (lost: number, more: Parameters<typeof trips>[1] = {}) => trips(20, { samples: 200 - lost, lost, ...more });
const counted = (lost: number | undefined, passes = true, sent = 1000) => ({ passes, sent, lost });
const loss = (evidence: Partial<Evidence>, otherwise?: Otherwise) => {
  const { value, low, high, source } = lossOf({ ...small(otherwise), evidence } as never);
  return { value, low, high, source };
};
/** What is told of a share [Clopper and Pearson 1934, as link.test.ts holds it], in percent. */
const share = (sent: number, lost: number, more = 0) => {
  const { low, high } = shareInterval(sent, lost);
  return { value: (100 * lost) / sent, low: 100 * low, high: 100 * high + more, source: 'measured' };
};
const fibre = { value: 0, low: 0, high: 0.1, source: 'assumed' };
const wifi = { endpoint: { connection: 'wifi' } };

test('where nobody counted, what the kind of line does not rule out, and Wi-Fi before it', () => {
  const { high } = loss({});
  expect(loss({})).toEqual({ ...fibre, high });
  expect(loss({}, { location: { lineKind: 'geo-satellite' } }).high).toBeGreaterThan(high);
  expect(loss({}, wifi).high).toBeCloseTo(high + 2, 12);
  // datagrams that did not pass, and none sent, prove nothing
  for (const datagrams of [counted(3, false), counted(0, true, 0)])
    expect(loss({ datagrams: taken(datagrams) } as never).source).toBe('assumed');
  expect(loss({ roundTrips: taken(trips(20, { samples: 0, lost: 0 })) }).source).toBe('assumed');
});

describe('counted', () => {
  test('of datagrams; no more is lost than was sent, and what was not told is none', () => {
    expect(loss({ datagrams: taken(counted(10)) } as never)).toEqual(share(1000, 10));
    expect(loss({ datagrams: taken(counted(undefined)) } as never)).toEqual(share(1000, 0));
    expect(loss({ datagrams: taken(counted(1200)) } as never)).toEqual(share(1000, 1000));
  });
  test('of pings where no datagrams were; the worse of the two where both were, datagrams where they are as bad', () => {
    expect(loss({ roundTrips: taken(pings(8)) })).toEqual(share(200, 8));
    expect(loss({ roundTrips: taken(pings(8)), datagrams: taken(counted(10)) } as never)).toEqual(share(200, 8));
    expect(loss({ roundTrips: taken(pings(1)), datagrams: taken(counted(10)) } as never)).toEqual(share(1000, 10));
    expect(loss({ roundTrips: taken(pings(2)), datagrams: taken(counted(10)) } as never)).toEqual(share(1000, 10));
  });
  test('pings through a connection that sends again show loss where one is missing, or by the longest', () => {
    const of = (lost: number, more: Parameters<typeof trips>[1]) => loss({ roundTrips: taken(pings(lost, more), { sentAgain: true }) });
    expect(of(0, { maxMs: undefined }).source).toBe('assumed');
    expect(of(0, { minMs: 18, maxMs: 36 }).source).toBe('assumed');
    expect(of(0, { minMs: 18, maxMs: 35.9 })).toEqual(share(200, 0));
    expect(of(3, { minMs: 18, maxMs: 90 })).toEqual(share(200, 3));
  });
  test('the same figures by somebody else have their own words', () => {
    const value = counted(10);
    const note = (said: string) => lossOf({ ...small(), evidence: { datagrams: taken(value, { note: said }) } } as never).note;
    expect([note('ann, today'), note('bob, today'), note('bob, today')]).toEqual(['ann, today', 'bob, today', 'bob, today']);
    // the same figures by the same one are worked out once
    const of = () => lossOf({ ...small(), evidence: { datagrams: taken(value) } } as never);
    expect(of()).toBe(of());
  });
});

describe('counted with another device', () => {
  const by = (medium: 'wired' | 'wifi' | undefined, otherwise: Otherwise, own = false) =>
    loss({ datagrams: taken(counted(10), { medium, own }) } as never, otherwise);
  test('alike or not told: it counts as it is, as one of its own does', () => {
    for (const [medium, otherwise] of [
      ['wired', {}],
      ['wifi', wifi],
      [undefined, wifi],
      [undefined, {}],
    ] as const)
      expect(by(medium, otherwise)).toEqual(share(1000, 10));
    expect(by('wifi', {}, true)).toEqual(share(1000, 10));
    expect(by('wired', wifi, true)).toEqual(share(1000, 10));
  });
  test('its Wi-Fi may have lost it all; its cable proves nothing of the Wi-Fi of this one', () => {
    expect(by('wifi', {})).toEqual({ ...share(1000, 10), value: 0, low: 0 });
    expect(by('wired', wifi)).toEqual(share(1000, 10, 2));
    // one of which nobody said how it is connected may be on Wi-Fi
    expect(by('wired', { endpoint: { connection: undefined } })).toEqual(share(1000, 10, 2));
  });
});

test('what is old goes towards what is not ruled out where nobody counted', () => {
  const unmeasured = loss({});
  const half = loss({ datagrams: taken(counted(10), { weight: 0.5 }) } as never);
  const full = share(1000, 10);
  expect(half).toEqual({ ...full, low: full.low / 2, high: Math.max(full.high, (full.high + unmeasured.high) / 2) });
  expect(loss({ roundTrips: taken(pings(8), { weight: 0.25 }) }).low).toBeCloseTo(share(200, 8).low / 4, 12);
});
