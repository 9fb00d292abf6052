import { describe, expect, test } from '@jest/globals';
import type { Figures } from '@underpass/contracts';
import fc from 'fast-check';
import { small, trips } from '../../test/small.js';
import { checkRates, checkWanted, computeFigures, judgeCheck } from './index.js';

const organisation = { id: 'organisation' as const, name: 'Small', thresholds: {} };
const wanted = checkWanted(organisation, []);
const udp = (lost: number, sent = 2000) => ({ passes: true, sent, lost });

describe('what is wanted of a way', () => {
  const silent = { calls: false, camera: false };
  test('is the strictest of what the person’s work wants, by the estate’s own thresholds', () => {
    expect(
      checkWanted(organisation, [
        { work: 'status', ...silent },
        { work: 'design', calls: true, camera: false },
      ]),
    ).toEqual({ keyToPixelMs: 100, framesAtLeast: 30, voiceMosAtLeast: 3.6, lossAtMostPercent: 5, calls: true, camera: false });
    const own = { ...organisation, thresholds: { status: { keyToPixelMs: 80, framesAtLeast: 2, usableWithinS: 9, lossAtMostPercent: 2 } } };
    const status = checkWanted(own, [{ work: 'status', ...silent }]);
    expect(status).toEqual({ keyToPixelMs: 80, framesAtLeast: 2, voiceMosAtLeast: 1, lossAtMostPercent: 2, ...silent });
    // who neither calls nor shows a picture sends input alone
    expect(checkRates(status).up.leastMbps).toBe(0.05);
  });

  test('asks for no voice of whoever makes no calls', () => {
    expect(checkWanted(organisation, [{ work: 'office', ...silent }]).voiceMosAtLeast).toBe(1);
    expect(checkWanted(organisation, [{ work: 'office', calls: true, camera: false }]).voiceMosAtLeast).toBe(3.6);
  });

  test('where no work is known it is office work and calls', () => {
    expect(wanted).toEqual({ keyToPixelMs: 150, framesAtLeast: 20, voiceMosAtLeast: 4, lossAtMostPercent: 5, calls: true, camera: true });
  });
});

describe('each part, just below and just above its threshold', () => {
  test('the round trip: with what the leanest and the usual session add', () => {
    // 4 + 1000/60 + 5 + 4 (buffer of 2 ms jitter, twice) + 4 + 2 = 35.67 around every session; leanest 2 + 500/60 + 4 + 2.5 + 8,
    // usual 6 + 2 + 500/20 + 8 + 12 + 10: 60.5 and 98.67 of 150 ms
    const at = (ms: number) => judgeCheck({ roundTrips: trips(ms) }, wanted).quick?.verdict;
    expect([at(51.3), at(51.4), at(89.4), at(89.6)]).toEqual(['clear', 'unknown', 'unknown', 'limited']);
  });

  test('what a full line adds: enough while it is quiet is not known while it is full', () => {
    // 30 ms and 98.67 of the usual session leave 21.3
    const at = (added: object) => judgeCheck({ roundTrips: trips(30), ...added }, wanted).quick;
    expect([at({ addedDownMs: 21.3, addedUpMs: 3 }), at({ addedDownMs: 2, addedUpMs: 21.4 })]).toEqual([
      { verdict: 'clear' },
      { verdict: 'unknown', because: 'under load' },
    ]);
    // what is near or slow already is told as that
    expect(judgeCheck({ roundTrips: trips(60), addedDownMs: 500 }, wanted).quick).toEqual({ verdict: 'unknown' });
  });

  test('a round trip of which too few came back says nothing', () => {
    const at = (samples: number) => judgeCheck({ roundTrips: trips(900, { samples }) }, wanted).quick;
    expect([at(19), at(20)]).toEqual([{ verdict: 'unknown', because: 'too few' }, { verdict: 'limited' }]);
  });

  test('loss: an interval below, across and above what the work stands', () => {
    // Clopper and Pearson for 80, 100 and 125 of 2000: up to 4.95 %, 4.09 to 6.05, from 5.23
    const stands = { ...wanted, voiceMosAtLeast: 1 };
    const at = (lost: number) => judgeCheck({ roundTrips: trips(5), datagrams: udp(lost) }, stands).steady?.verdict;
    expect([at(80), at(100), at(125)]).toEqual(['clear', 'unknown', 'limited']);
  });

  test('delay variation: the worst twentieth may take twice what the average may', () => {
    const deaf = { ...wanted, voiceMosAtLeast: 1 };
    const at = (spreadMs: number) => judgeCheck({ roundTrips: trips(5, { p95Ms: 5 + spreadMs }), datagrams: udp(0) }, deaf).steady?.verdict;
    // 300 ms less the 60.5 of the leanest session
    expect([at(239), at(240)]).toEqual(['clear', 'limited']);
  });

  test('rates and frames', () => {
    const { down, up } = checkRates(wanted);
    // 4.3 Mbit/s × (20/30)^0.7 × 1.05 and 0.1 of sound and input; a voice of 80 kbit/s, a camera of 1.5, input of 50 kbit/s
    expect(down.leastMbps).toBeCloseTo(4.3 * (20 / 30) ** 0.7 * 1.05 + 0.1, 6);
    expect(up).toEqual({ leastMbps: 0.05 + 0.08 + 1.5, plentyMbps: 0.05 + 0.08 + 3 });
    const at = (figures: Figures) => Object.values(judgeCheck(figures, wanted)).map((part) => part?.verdict ?? null);
    const browser = { kind: 'x', version: '1', touch: false, can: {} };
    const scene = (averageFps: number) => ({ renderer: 'x', frames: 9, averageFps, low1Fps: 1 });
    expect(at({ downMbps: down.leastMbps, upMbps: up.leastMbps, browser, scene: scene(20) })).toEqual([
      null,
      null,
      'clear',
      'clear',
      'clear',
    ]);
    expect(at({ downMbps: down.leastMbps - 0.01, upMbps: up.leastMbps - 0.01, browser, scene: scene(19.9) })).toEqual([
      null,
      null,
      'limited',
      'limited',
      'limited',
    ]);
  });

  test('what was not measured is not known, and what is not over yet is nothing', () => {
    expect(judgeCheck({}, wanted)).toEqual({ quick: null, steady: null, down: null, up: null, picture: null });
    const over = { roundTrips: trips(5), downMbps: 50, browser: { kind: 'x', version: '1', touch: false, can: {} } };
    const none = { verdict: 'unknown', because: 'not measured' };
    expect(judgeCheck(over, wanted)).toMatchObject({ steady: none, picture: none });
    expect(judgeCheck({ ...over, datagrams: { passes: false } }, wanted).steady).toEqual(none);
  });
});

/** The plain crossing with these figures, of somebody who is told the same thresholds. */
const crossing = (figures: Figures) =>
  computeFigures(
    small({
      measured: { upMbps: 19, addedDownMs: 0, addedUpMs: 0, ...figures },
      endpoint: { clientKind: 'browser' },
      resource: { calls: true },
    }),
  );

test('person and Board agree: what the check calls Limited limits the crossing, what it calls Clear is Clear there', () => {
  const office = checkWanted(organisation, [{ work: 'office', calls: true, camera: false }]);
  const seen = new Set<string>();
  fc.assert(
    fc.property(
      fc.double({ min: 1, max: 200, noNaN: true }),
      fc.double({ min: 0, max: 500, noNaN: true }),
      fc.integer({ min: 0, max: 400 }),
      (medianMs, spreadMs, lost) => {
        const figures = { roundTrips: trips(medianMs, { p95Ms: medianMs + spreadMs }), datagrams: udp(lost) };
        const { quick, steady } = judgeCheck(figures, office);
        const { aspects, voice } = crossing(figures);
        const heard = voice.endpoint;
        if (quick?.verdict === 'limited') expect(aspects.delay).toBe('limited');
        if (steady?.verdict === 'clear') {
          expect(aspects.loss).toBe('clear');
          expect(heard?.low).toBeGreaterThanOrEqual(office.voiceMosAtLeast);
        }
        if (steady?.verdict === 'limited')
          expect(
            aspects.loss === 'limited' ||
              (heard?.high ?? 5) < office.voiceMosAtLeast ||
              aspects.sticking === 'limited' ||
              aspects.delay === 'limited',
          ).toBe(true);
        seen.add(`quick ${quick?.verdict}`).add(`steady ${steady?.verdict}`);
      },
    ),
    { numRuns: 400, seed: 11 },
  );
  // each of them was met, so that no row above stands empty
  expect([...seen].sort()).toEqual(['quick clear', 'quick limited', 'quick unknown', 'steady clear', 'steady limited', 'steady unknown']);
});

describe('what was measured of a way, at the edge', () => {
  const steadyOf = (datagrams: object | undefined, more: object = {}) =>
    judgeCheck({ roundTrips: trips(20), datagrams, ...more } as Figures, wanted).steady;
  test('loss of which nothing came back, of which nothing was sent, or that nobody tried yet', () => {
    expect(steadyOf({ passes: false, sent: 100, lost: 100 })).toEqual({ verdict: 'unknown', because: 'not measured' });
    expect(steadyOf({ passes: true, sent: 0, lost: 0 })).toEqual({ verdict: 'unknown', because: 'not measured' });
    expect(steadyOf({ passes: true })).toEqual({ verdict: 'unknown', because: 'not measured' });
    // not over yet, and over without it
    expect([steadyOf(undefined), steadyOf(undefined, { downMbps: 50 })]).toEqual([null, { verdict: 'unknown', because: 'not measured' }]);
    expect(steadyOf(udp(0))?.verdict).toBe('clear');
  });
  test('nineteen round trips are too few, twenty are not', () => {
    const at = (samples: number) => judgeCheck({ roundTrips: trips(20, { samples }), datagrams: udp(0) } as Figures, wanted);
    expect([at(19).steady, at(19).quick]).toEqual(Array(2).fill({ verdict: 'unknown', because: 'too few' }));
    expect([at(20).steady?.verdict, at(20).quick?.verdict]).toEqual(['clear', 'clear']);
  });
  test('what the load adds, on either way, up to just as much as there is left', () => {
    const quick = (more: object) => judgeCheck({ roundTrips: trips(20), ...more } as Figures, wanted).quick;
    const left = (() => {
      let ms = 0;
      while (quick({ addedDownMs: ms + 0.5 })?.verdict === 'clear') ms += 0.5;
      return ms;
    })();
    expect(left).toBeGreaterThan(5);
    const under = { verdict: 'unknown', because: 'under load' };
    expect([quick({ addedDownMs: left + 1 }), quick({ addedUpMs: left + 1 }), quick({ addedDownMs: 1, addedUpMs: left + 1 })]).toEqual(
      Array(3).fill(under),
    );
    expect(quick({ addedDownMs: left, addedUpMs: left })?.verdict).toBe('clear');
  });
});
