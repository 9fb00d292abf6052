import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { shippedAssumed } from '../../assumed/index.js';
import { planTransfer, shareBy, withoutResumingS, worksAt, type Transfer } from '../index.js';

const plan = (more: Partial<Transfer>) =>
  planTransfer({
    ...{
      devices: 40,
      sizeMB: 1000,
      lineMbps: 20,
      localMbps: 1000,
      way: 'all at once',
      beginMs: Date.UTC(2026, 10, 23, 20),
      shareAt: () => 1,
    },
    ...more,
  });
const london = {
  timeZone: 'Europe/London',
  worksFrom: '06:00',
  worksTo: '22:00',
  worksOn: ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'],
} as never;

describe('a file to the devices of a place', () => {
  // closed forms of the handbook: N at once end at N·S·8/C; in turn the i-th at i·S·8/C; with a copy S·8/C + N·S·8/local
  test('40 × 1000 MB on 20 Mbit/s: 16 000 s at once; one after the other the mean is 8200 s and the last no later', () => {
    const [once, turn, copy] = [plan({}), plan({ way: 'one after the other' }), plan({ way: 'once, then from a copy at the place' })];
    expect([once.endS, once.meanS]).toEqual([16_000, 16_000]);
    expect([turn.endS, turn.meanS, turn.finishesS[0]]).toEqual([16_000, expect.closeTo(8200, 6), 400]);
    expect([copy.endS, copy.meanS]).toEqual([400 + 320, 720]);
  });

  test('the rate follows the hours of the place, over the night in which the clocks go back [handbook: 35 420 s, a week earlier 90 140 s]', () => {
    const night = (beginMs: number) =>
      plan({ devices: 5, sizeMB: 16_000, way: 'one after the other', beginMs, shareAt: shareBy(london, shippedAssumed.day, 0.05, 1) }).endS;
    expect(night(Date.UTC(2026, 9, 24, 20))).toBeCloseTo(35_420, 6);
    expect(night(Date.UTC(2026, 9, 17, 20))).toBeCloseTo(90_140, 6);
  });

  test('what the line carries hour by hour is what went, and never more than is allowed', () => {
    fc.assert(
      fc.property(
        fc.record({
          devices: fc.integer({ min: 1, max: 60 }),
          sizeMB: fc.integer({ min: 1, max: 4000 }),
          lineMbps: fc.integer({ min: 1, max: 200 }),
          way: fc.constantFrom('all at once' as const, 'one after the other' as const, 'once, then from a copy at the place' as const),
          minute: fc.integer({ min: 0, max: 1439 }),
          working: fc.constantFrom(0.05, 0.1, 0.5),
        }),
        ({ minute, working, ...more }) => {
          const { endS, hours, finishesS } = plan({
            ...more,
            beginMs: Date.UTC(2026, 10, 23, 0, minute),
            shareAt: shareBy(london, shippedAssumed.day, working, 0.9),
          });
          for (const { usedMbps, allowedMbps } of hours) {
            expect(usedMbps).toBeLessThanOrEqual(allowedMbps + 1e-9);
            expect(allowedMbps).toBeLessThanOrEqual(0.9 * more.lineMbps + 1e-9);
          }
          const mbit = hours.reduce((sum, { usedMbps }) => sum + usedMbps * 3600, 0);
          const whole = more.sizeMB * 8 * (more.way === 'once, then from a copy at the place' ? 1 : more.devices);
          if (endS !== null && hours.length < 96) expect(mbit).toBeCloseTo(whole, 3);
          // none before the one ahead of it
          for (const [i, s] of finishesS.entries()) if (i > 0 && s !== null) expect(s).toBeGreaterThanOrEqual(finishesS[i - 1] as number);
        },
      ),
    );
  });

  test('a line that may not be used at all never ends it, and nothing goes', () => {
    const { endS, meanS, finishesS, hours } = plan({ shareAt: () => 0 });
    expect([endS, meanS, finishesS[0], hours.length]).toEqual([null, null, null, 96]);
    expect(hours.every(({ usedMbps, allowedMbps }) => usedMbps === 0 && allowedMbps === 0)).toBe(true);
  });

  test('begun anew at each break of the line [handbook: 1.72 h and 6.36 h for an hour’s transfer]', () => {
    expect(withoutResumingS(3600, 1) / 3600).toBeCloseTo(1.72, 2);
    expect(withoutResumingS(3600, 3) / 3600).toBeCloseTo(6.36, 2);
    expect(withoutResumingS(3600, 0)).toBe(3600);
  });
});

describe('whether a place works', () => {
  const at = (place: object, iso: string) => worksAt({ timeZone: 'Europe/London', ...place } as never, shippedAssumed.day, Date.parse(iso));
  test('by its own clock and days; a shift past midnight belongs to the day it began on', () => {
    const office = { worksFrom: '08:00', worksTo: '18:00', worksOn: ['fri'] };
    // Friday 27 November 2026
    expect([
      at(office, '2026-11-27T07:59:00Z'),
      at(office, '2026-11-27T08:00:00Z'),
      at(office, '2026-11-27T17:59:00Z'),
      at(office, '2026-11-27T18:00:00Z'),
    ]).toEqual([false, true, true, false]);
    expect(at(office, '2026-11-26T12:00:00Z')).toBe(false);
    const shift = { worksFrom: '22:00', worksTo: '06:00', worksOn: ['fri'] };
    expect([
      at(shift, '2026-11-27T05:00:00Z'),
      at(shift, '2026-11-27T23:00:00Z'),
      at(shift, '2026-11-28T05:00:00Z'),
      at(shift, '2026-11-28T23:00:00Z'),
    ]).toEqual([false, true, true, false]);
    const always = { worksFrom: '00:00', worksTo: '00:00', worksOn: ['fri'] };
    expect([at(always, '2026-11-27T03:00:00Z'), at(always, '2026-11-28T03:00:00Z')]).toEqual([true, false]);
  });
});
