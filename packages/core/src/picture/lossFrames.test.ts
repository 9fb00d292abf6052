import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { datagramsOf, framesAfterLoss, framesAfterSpread, retransmissionTimeout, type LossRepair, type LossyStream } from './index.js';

/** A small generator of numbers in [0, 1) (mulberry32), so that the simulation is the same each time. */
function numbers(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/**
 * Loss by Gilbert and Elliott: a good state without loss, a bad one in which everything is lost. Mean loss p, mean length of a burst b
 * datagrams; b = 1/(1 − p) is loss of each datagram for itself.
 */
function gilbert(p: number, burst: number, random: () => number): () => boolean {
  const leave = 1 / burst;
  const enter = (leave * p) / (1 - p);
  let bad = random() < p;
  return () => {
    const lost = bad;
    bad = bad ? random() >= leave : random() < enter;
    return lost;
  };
}

/** Sends frame by frame, shows them in order, the newest that is there, and counts what was shown. */
function simulated({ fps, frameBits, lossShare, rttMs, repair, repairShare, timeoutMs }: LossyStream, burst: number, frames = 40_000) {
  const random = numbers(7);
  const lost = gilbert(lossShare, burst, random);
  const n = datagramsOf(frameBits);
  const added = repair === 'forward' ? Math.ceil(n * repairShare) : 0;
  const there: number[] = [];
  const waits: number[] = [];
  let whole = 0;
  for (let i = 0; i < frames; i++) {
    const missing = Array.from({ length: n + added }, (_, k) => (lost() ? k : -1)).filter((k) => k >= 0);
    let wait = 0;
    if (repair === 'tcp' && missing.length) wait = missing.some((k) => k >= n - 3) ? timeoutMs : rttMs;
    // each of them is sent again until it is there; what is sent again meets loss of its own, on a way that varies by a half
    if (repair === 'resend')
      for (let left = missing.length; left > 0; wait += rttMs * (0.75 + random() / 2))
        left = Array.from({ length: left }).filter(() => random() < lossShare).length;
    if (missing.length <= added) whole++;
    waits.push(wait);
    there.push(Math.max(there[i - 1] ?? 0, (i * 1000) / fps + wait));
  }
  // a frame that is there no sooner than the next one is never seen
  const seen = repair === 'resend' || repair === 'tcp' ? there.filter((at, i) => at < (there[i + 1] ?? Infinity)).length : whole;
  waits.sort((a, b) => a - b);
  const worst = waits.slice(Math.floor(waits.length * 0.95));
  return { fps: (seen / frames) * fps, worstMs: worst.reduce((sum, wait) => sum + wait, 0) / worst.length };
}

const stream = (more: Partial<LossyStream>): LossyStream => ({
  fps: 30,
  frameBits: 60_000,
  lossShare: 0.01,
  rttMs: 40,
  repair: 'resend',
  repairShare: 0.2,
  timeoutMs: 200,
  ...more,
});

describe('frames after loss', () => {
  test('a frame of 60 kbit is seven datagrams of 1200 bytes', () => {
    expect([0, 9600, 9601, 60_000].map(datagramsOf)).toEqual([1, 1, 2, 7]);
  });

  test('worked by hand: three datagrams, 1 %, 40 ms', () => {
    const after = framesAfterLoss(stream({ frameBits: 20_000 }));
    // 1 − 0.99³ = 0.029701 of the frames wait once, 1 − (1 − 0.0001)³ = 0.0003 twice; 40 ms are 1.2 frames, 80 ms 2.4, less one
    expect(after.fps).toBeCloseTo(30 * (1 - 0.029701) ** 0.2 * (1 - 0.0003) ** 1.2, 3);
    // of the worst twentieth 0.0297 / 0.05 wait once, 0.0003 / 0.05 twice
    expect(after.addedP95Ms).toBeCloseTo((0.030001 / 0.05) * 40, 2);
    // a wait of less than a frame misses nobody's eye
    expect(framesAfterLoss(stream({ frameBits: 20_000, rttMs: 16 })).fps).toBeGreaterThan(29.999);
    expect(framesAfterLoss(stream({ frameBits: 20_000, rttMs: 36 })).fps).toBeLessThan(29.95);
    expect([after.addedP50Ms, after.damagedShare]).toEqual([0, 0]);
  });

  test('the half of the frames is late where 1 − (1 − p)^n passes one half', () => {
    // 1 − 0.9^n: seven datagrams 0.522, six 0.469
    expect(framesAfterLoss(stream({ lossShare: 0.1, frameBits: 60_000 })).addedP50Ms).toBe(40);
    expect(framesAfterLoss(stream({ lossShare: 0.1, frameBits: 57_600 })).addedP50Ms).toBe(0);
    const tcp = stream({ lossShare: 0.2, frameBits: 20_000, repair: 'tcp' });
    // three datagrams are all among the last three: 1 − 0.8³ = 0.488 wait for the time-out; four: 0.59 late, 0.44 of them by time-out
    expect(framesAfterLoss(tcp).addedP50Ms).toBe(0);
    expect(framesAfterLoss({ ...tcp, frameBits: 38_400 }).addedP50Ms).toBe(40);
    expect(framesAfterLoss({ ...tcp, lossShare: 0.3 }).addedP50Ms).toBe(200);
  });

  test('with repair data: four datagrams and one more are whole with one lost, at 5 % in 0.977 of the frames', () => {
    const after = framesAfterLoss(stream({ frameBits: 38_400, repair: 'forward', repairShare: 0.25, lossShare: 0.05 }));
    // 0.95⁵ + 5 · 0.05 · 0.95⁴
    expect(1 - after.damagedShare).toBeCloseTo(0.95 ** 5 + 5 * 0.05 * 0.95 ** 4, 9);
    expect(after.fps).toBeCloseTo(30 * (1 - after.damagedShare), 9);
    // without any, four of four must come
    expect(framesAfterLoss(stream({ frameBits: 38_400, repair: 'none', lossShare: 0.05 })).damagedShare).toBeCloseTo(1 - 0.95 ** 4, 9);
  });

  test.each<[LossRepair, number, number]>([
    ['resend', 0.01, 20],
    ['resend', 0.05, 60],
    ['resend', 0.15, 30],
    ['tcp', 0.01, 20],
    ['tcp', 0.03, 60],
    ['forward', 0.05, 40],
    ['none', 0.02, 40],
  ])('%s at %f lost, %i ms: what a simulation shows', (repair, lossShare, rttMs) => {
    const one = stream({ repair, lossShare, rttMs });
    const reckoned = framesAfterLoss(one);
    const alone = simulated(one, 1 / (1 - lossShare));
    expect(Math.abs(alone.fps / reckoned.fps - 1)).toBeLessThan(0.12);
    if (repair === 'resend' || repair === 'tcp') expect(Math.abs(alone.worstMs / Math.max(1, reckoned.addedP95Ms) - 1)).toBeLessThan(0.2);
    // the same loss in bursts meets fewer frames: what is reckoned is on the safe side, but for repair data, which bursts break through
    const bursts = simulated(one, 4);
    if (repair !== 'forward') expect(bursts.fps).toBeGreaterThan(reckoned.fps * 0.97);
  });

  test('more loss, a longer way or a larger frame never leaves more', () => {
    const any = fc.record({
      lossShare: fc.double({ min: 0, max: 0.4, noNaN: true }),
      rttMs: fc.double({ min: 1, max: 800, noNaN: true }),
      frameBits: fc.integer({ min: 1000, max: 400_000 }),
      repair: fc.constantFrom<LossRepair>('resend', 'none', 'tcp'),
    });
    fc.assert(
      fc.property(any, fc.double({ min: 0, max: 0.2, noNaN: true }), (one, more) => {
        const now = framesAfterLoss(stream(one));
        const lossier = framesAfterLoss(stream({ ...one, lossShare: one.lossShare + more }));
        expect(lossier.fps).toBeLessThanOrEqual(now.fps + 1e-9);
        expect(lossier.addedP95Ms).toBeGreaterThanOrEqual(now.addedP95Ms - 1e-9);
        expect(framesAfterLoss(stream({ ...one, rttMs: one.rttMs * 1.5 })).fps).toBeLessThanOrEqual(now.fps + 1e-9);
        if (one.repair !== 'tcp')
          expect(framesAfterLoss(stream({ ...one, frameBits: one.frameBits * 2 })).fps).toBeLessThanOrEqual(now.fps + 1e-9);
      }),
    );
  });

  test('the time-out of TCP, just below and just above its floors', () => {
    expect(retransmissionTimeout(100, 20)).toEqual({ standardMs: 1000, usualMs: 200, probeMs: 200 });
    expect(retransmissionTimeout(101, 25)).toEqual({ standardMs: 1000, usualMs: 201, probeMs: 202 });
    expect(retransmissionTimeout(600, 101).standardMs).toBe(1004);
  });

  test('a way that holds packets up for longer than a frame leaves fewer', () => {
    expect(framesAfterSpread(30, 33)).toBe(30);
    expect(framesAfterSpread(30, 200 / 3)).toBeCloseTo(30 * 0.95, 9);
    expect(framesAfterSpread(30, 400)).toBeCloseTo(30 * 0.95 ** 11, 9);
    expect(framesAfterSpread(0, 400)).toBe(0);
  });
});
