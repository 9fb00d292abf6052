import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { atPixels, contentClasses, framesOnLine, pictureDemand, summariseFrameTimes } from './index.js';

const stream = { activePixels: 1920 * 1080, idlePixels: 0, fps: 30, codec: 'h264', chroma444: false } as const;

describe('picture demand', () => {
  test('meets the measured table at its three sizes, and grows with the frame rate by the power 0.7', () => {
    for (const content of Object.values(contentClasses))
      [1280 * 720, 1920 * 1080, 3840 * 2160].forEach((pixels, i) =>
        expect(atPixels(content.mbps, pixels)).toBeCloseTo(content.mbps[i] as number, 6),
      );
    // the table's own 15/30/60 rows at 1080p: detailed motion 7.8 / 14.4 / 23.2, scrolling 1.2 / 1.8 / 2.4 Mbit/s
    const picture = (fps: number) => (pictureDemand({ motion: 1 }, { ...stream, fps }).meanMbps - 0.1) / 1.05;
    expect(picture(15) / 7.8).toBeGreaterThan(0.85);
    expect(picture(15) / 7.8).toBeLessThan(1.15);
    expect(picture(60) / 23.2).toBeGreaterThan(0.85);
    expect(picture(60) / 23.2).toBeLessThan(1.15);
  });

  test('an ordinary 1080p desktop with some video wants 5 to 6 Mbit/s at its peak (common practice)', () => {
    const demand = pictureDemand({ text: 0.42, still: 0.4, window: 0.08, 'page-video': 0.1 }, stream);
    expect(demand.p95Mbps).toBeGreaterThan(4.5);
    expect(demand.p95Mbps).toBeLessThan(6.5);
  });

  test('more pixels, frames or colour detail never ask for less; HEVC never for more', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 500_000, max: 20_000_000 }),
        fc.integer({ min: 5, max: 60 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (pixels, fps, video) => {
          const mix = { video, text: 1 - video };
          const base = pictureDemand(mix, { ...stream, activePixels: pixels, fps });
          for (const more of [{ activePixels: pixels * 1.5 }, { fps: fps + 5 }, { chroma444: true }, { idlePixels: 2e6 }])
            expect(pictureDemand(mix, { ...stream, activePixels: pixels, fps, ...more }).p95Mbps).toBeGreaterThanOrEqual(
              base.p95Mbps - 1e-9,
            );
          expect(pictureDemand(mix, { ...stream, activePixels: pixels, fps, codec: 'hevc' }).p95Mbps).toBeLessThan(base.p95Mbps);
          expect(base.p95Mbps).toBeGreaterThanOrEqual(base.meanMbps * 0.99);
        },
      ),
    );
  });

  test('quality falls before frames, and frames never rise on a narrower line', () => {
    expect(framesOnLine(8, 10, 30, 0.7)).toEqual({ fps: 30, quality: 0.8 });
    expect(framesOnLine(3.5, 10, 30, 0.7).fps).toBeCloseTo(30 * 0.5 ** (1 / 0.7), 9);
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 20, noNaN: true }), (mbps) =>
        expect(framesOnLine(mbps, 10, 30, 0.7).fps).toBeLessThanOrEqual(framesOnLine(mbps * 1.1, 10, 30, 0.7).fps + 1e-9),
      ),
    );
  });
});

test('frame times: 1 % low is the mean of the worst 1 %, inverted', () => {
  const times = [...Array<number>(99).fill(16.667), 100];
  const summary = summariseFrameTimes(times);
  expect(summary.low1Fps).toBeCloseTo(10, 6);
  expect(summary.medianFps).toBeCloseTo(60, 1);
  expect(summary.over50ms).toBe(1);
});
