import { describe, expect, test } from '@jest/globals';
import type { Figures, Location, Measurement } from '@underpass/contracts';
import { lightFloorMs, distanceKm, geostationaryFloorMs } from '../link/index.js';
import { shippedAssumed } from '../assumed/index.js';
import { chooseEvidence, chooseSignonTimes, rejection } from './index.js';

const hall = { id: 'hall', name: 'Hall', latitude: 55, longitude: 3, lineKind: 'fibre', ownLines: false } as Location;
const farEnd = { latitude: 46, longitude: 3 };
const trips = (medianMs: number, samples = 100) => ({
  samples,
  lost: 0,
  minMs: medianMs,
  medianMs,
  p95Ms: medianMs,
  medianLowMs: medianMs,
  medianHighMs: medianMs,
});
const taken = (id: string, at: string, figures: Figures, more: Partial<Measurement> = {}): Measurement => ({
  id,
  at,
  by: 'Ann',
  method: 'field check',
  vantage: 'desk',
  location: 'hall',
  partial: false,
  figures,
  ...more,
});
const choose = (list: Measurement[], endpoint: Parameters<typeof chooseEvidence>[2] = { id: 'e1' }, place: Location = hall) =>
  chooseEvidence(list, place, endpoint, undefined);

describe('what a fact says of itself', () => {
  test('by whom, when to the minute, and of how many samples', () => {
    const evidence = choose([
      taken(
        'a',
        '2026-11-02T08:09:10Z',
        {
          roundTrips: trips(20, 77),
          datagrams: { passes: true, sent: 200, lost: 2 } as Figures['datagrams'] & object,
          downMbps: 50,
          scene: { frames: 300, averageFps: 60, drawnBy: 'processor' } as Figures['scene'] & object,
        },
        { endpoint: 'e1' },
      ),
    ]);
    expect(evidence.roundTrips).toMatchObject({ samples: 77, note: 'Ann, 2026-11-02 08:09', by: 'Ann', at: '2026-11-02T08:09:10Z' });
    expect([evidence.datagrams?.samples, evidence.scene?.samples, evidence.downMbps?.samples]).toEqual([200, 300, 1]);
    expect(shippedAssumed.evidence.fewestRoundTrips).toBe(20);
  });

  test('nothing measured, nothing known; a measurement of sign-on times alone is none of the line', () => {
    expect(choose([])).toEqual({ rejected: [] });
    expect(choose([taken('a', '2026-11-02T08:00:00Z', { signon: { wake: 9 } })])).toEqual({ rejected: [] });
    expect(choose([taken('a', '2026-11-02T08:00:00Z', { signon: { wake: 9 }, downMbps: 5 })]).downMbps?.value).toBe(5);
  });
});

describe('what was typed since counts more than what was measured of a device', () => {
  const screens = [{ widthPx: 1920, heightPx: 1080, scale: 1 }];
  const decoders = [{ codec: 'h264' as const, level: '4', chroma444: false }];
  const measured = taken('a', '2026-11-02T08:00:00Z', { screens, decoders, downMbps: 5 }, { endpoint: 'e1' });

  test.each(['screensAt', 'decodersAt'] as const)('%s', (stamp) => {
    const fact = stamp === 'screensAt' ? 'screens' : 'decoders';
    const other = stamp === 'screensAt' ? 'decoders' : 'screens';
    const with_ = (at: string) => choose([measured], { id: 'e1', [stamp]: at });
    expect(with_('2026-11-02T08:00:00Z')[fact]?.value).toBeDefined();
    expect(with_('2026-11-02T08:00:01Z')[fact]).toBeUndefined();
    // it takes away that fact alone
    expect(with_('2026-11-02T08:00:01Z')[other]?.value).toBeDefined();
    expect(with_('2026-11-02T08:00:01Z').downMbps?.value).toBe(5);
  });

  test('decoders that were read come before those a browser’s answers prove', () => {
    const decodes = [{ codec: 'av1' as const, mode: '1080p30' as const, supported: true, smooth: true, hardware: true }];
    expect(choose([taken('a', '2026-11-02T08:00:00Z', { decoders, decodes }, { endpoint: 'e1' })]).decoders?.value).toBe(decoders);
  });
});

describe('whose measurement counts', () => {
  test('at a line of one’s own only one’s own, and nothing that names no endpoint', () => {
    const own = { ...hall, ownLines: true };
    const list = [
      taken('a', '2026-11-02T08:00:00Z', { downMbps: 5 }),
      taken('b', '2026-11-03T08:00:00Z', { downMbps: 6 }, { endpoint: 'e2' }),
    ];
    expect(choose(list, { id: 'e1' }, own).downMbps).toBeUndefined();
    expect(choose(list, { id: 'e2' }, own).downMbps?.value).toBe(6);
    expect(choose(list, { id: 'e1' }).downMbps?.value).toBe(6);
  });

  test('one’s own newer one replaces one’s own older one', () => {
    const list = [
      taken('a', '2026-11-02T08:00:00Z', { downMbps: 5 }, { endpoint: 'e1' }),
      taken('b', '2026-11-03T08:00:00Z', { downMbps: 6 }, { endpoint: 'e1' }),
      taken('c', '2026-11-04T08:00:00Z', { downMbps: 7 }, { endpoint: 'e2' }),
    ];
    expect(choose(list).downMbps?.value).toBe(6);
  });

  test('what is rejected is told to whom it is about: its own endpoint, or all where it names none', () => {
    const wrong = (endpoint?: string) =>
      taken('a', '2026-11-02T08:00:00Z', { downMbps: 5 }, { vantage: 'host', ...(endpoint ? { endpoint } : {}) });
    expect(choose([wrong('e1')]).rejected.map(({ because }) => because)).toEqual(['not taken at the desk']);
    expect(choose([wrong()]).rejected).toHaveLength(1);
    expect(choose([wrong('e2')]).rejected).toHaveLength(0);
    // a later valid one quiets it, an earlier one does not
    const trip = (at: string) => taken('b', at, { roundTrips: trips(20) }, { endpoint: 'e1' });
    expect(choose([trip('2026-11-01T08:00:00Z'), wrong('e1')]).rejected).toHaveLength(1);
    expect(choose([wrong('e1'), trip('2026-11-02T08:00:00Z')]).rejected).toHaveLength(0);
  });

  test('light is given 2 % for the clock: just below that it is too fast', () => {
    const floor = lightFloorMs(distanceKm(hall, farEnd));
    const at = (medianMs: number, place = hall) =>
      rejection(taken('a', '2026-11-02T08:00:00Z', { roundTrips: trips(medianMs) }), place, farEnd);
    expect(at(floor * 0.981)).toBeNull();
    expect(at(floor * 0.979)).toBe('below what light allows');
    expect(at(geostationaryFloorMs * 0.981, { ...hall, lineKind: 'geo-satellite' })).toBeNull();
    expect(at(geostationaryFloorMs * 0.979, { ...hall, lineKind: 'geo-satellite' })).toBe('below what light allows');
    // how far the other end is is not known, or no trip was made: nothing speaks against it
    expect(rejection(taken('a', '2026-11-02T08:00:00Z', { roundTrips: trips(0.1) }), hall, undefined)).toBeNull();
    expect(rejection(taken('a', '2026-11-02T08:00:00Z', { downMbps: 5 }), hall, farEnd)).toBeNull();
  });
});

describe('timed steps of the sign-on', () => {
  const timed = (id: string, day: number, signon: Figures['signon'] & object, more: Partial<Measurement> = {}) =>
    taken(id, `2026-11-0${day}T08:30:00Z`, { signon }, more);
  const choosing = (...list: Measurement[]) => chooseSignonTimes(list, 'e1', 'p1');

  test('the endpoint’s own come first, then the person’s, then what everybody meets of another’s recording', () => {
    const endpoint = timed('a', 1, { wake: 1, password: 1 }, { endpoint: 'e1' });
    const person = timed('b', 2, { wake: 2, password: 2, choose: 2 }, { person: 'p1' });
    const other = timed('c', 3, { wake: 3, password: 3, shell: 3 }, { person: 'p9', endpoint: 'e9', method: 'recorded sign-in' });
    expect(choosing(endpoint, person, other)?.value).toEqual({ wake: 1, password: 1, choose: 2, shell: 3 });
    expect(choosing(person, other)?.value).toEqual({ wake: 2, password: 2, choose: 2, shell: 3 });
    expect(choosing(other)?.value).toEqual({ wake: 3, shell: 3 });
    expect(choosing(other, endpoint)?.value).toEqual({ wake: 1, password: 1, shell: 3 });
  });

  test('another’s that is no recording counts for nothing; nor does the person’s on another device', () => {
    expect(choosing(timed('a', 1, { wake: 3 }, { person: 'p9', endpoint: 'e9' }))).toBeUndefined();
    expect(choosing(timed('a', 1, { wake: 3 }, { person: 'p1', endpoint: 'e9' }))).toBeUndefined();
    expect(choosing()).toBeUndefined();
  });

  test('among equals the newest, and it says by whom and when', () => {
    expect(choosing(timed('a', 1, { wake: 3 }, { endpoint: 'e1' }), timed('b', 2, { wake: 4 }, { endpoint: 'e1', by: 'Bo' }))).toEqual({
      value: { wake: 4 },
      at: '2026-11-02T08:30:00Z',
      by: 'Bo',
      note: 'Bo, 2026-11-02 08:30',
      samples: 1,
    });
  });

  test.each(['sign-in form', 'list of resources', 'broker', 'power on', 'wake', 'session create', 'pre-session sign-in', 'shell'] as const)(
    '%s is met by everybody',
    (step) => {
      expect(choosing(timed('a', 1, { [step]: 3 }, { endpoint: 'e9', method: 'recorded sign-in' }))?.value).toEqual({ [step]: 3 });
    },
  );
});
