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

describe('demand worked by hand from the measured table', () => {
  // full HD at 30 frames: text 1.8, video 9.2, still 0.2 Mbit/s; 5 % of headers, 0.1 for sound and input, 1.3 for the peak second
  const [text, video, sound] = [1.8 * 1.05, 9.2 * 1.05, 0.1];

  test('one class: mean, peak, no spread, the first frame with its headers', () => {
    const demand = pictureDemand({ text: 1 }, stream);
    expect(demand.meanMbps).toBeCloseTo(text + sound, 9);
    expect(demand.p95Mbps).toBeCloseTo(1.3 * text + sound, 9);
    expect(demand.sdMbps).toBeCloseTo(0, 6);
    expect(demand.videoMbps).toBe(0);
    expect(demand.firstFrameBytes).toBeCloseTo(647e3 * 1.05, 3);
  });

  test('half text, half video: the mean of both, the spread half their difference, the video its half', () => {
    const demand = pictureDemand({ text: 0.5, video: 0.5 }, stream);
    expect(demand.meanMbps).toBeCloseTo((text + video) / 2 + sound, 9);
    expect(demand.sdMbps).toBeCloseTo((video - text) / 2, 9);
    expect(demand.videoMbps).toBeCloseTo(video / 2, 9);
    expect(demand.firstFrameBytes).toBeCloseTo(((647e3 + 60e3) / 2) * 1.05, 3);
  });

  test('the busiest twentieth belongs to the class that asks most as far as it lasts: at 4 % four fifths of it, from 5 % on all of it', () => {
    const peak = (share: number) => pictureDemand({ video: share, text: 1 - share }, stream).p95Mbps;
    expect(peak(0.04)).toBeCloseTo(1.3 * (0.8 * video + 0.2 * text) + sound, 9);
    expect(peak(0.05)).toBeCloseTo(1.3 * video + sound, 9);
    expect(peak(0.0001)).toBeLessThan(1.32 * text + sound);
    expect(peak(0.06)).toBeCloseTo(1.3 * video + sound, 9);
    expect(pictureDemand({}, stream)).toMatchObject({ meanMbps: sound, p95Mbps: sound, sdMbps: 0, firstFrameBytes: 0 });
    expect(pictureDemand({ text: 1, video: 0 }, stream)).toEqual(pictureDemand({ text: 1 }, stream));
  });

  test('other screens stand still: 0.2 Mbit/s and a first frame of 546 kB each of full HD', () => {
    const demand = pictureDemand({ text: 1 }, { ...stream, idlePixels: 1920 * 1080 });
    expect(demand.meanMbps).toBeCloseTo(text + 0.2 * 1.05 + sound, 9);
    expect(demand.p95Mbps).toBeCloseTo(1.3 * text + 0.2 * 1.05 + sound, 9);
    expect(demand.firstFrameBytes).toBeCloseTo((647e3 + 546e3) * 1.05, 3);
  });

  test('what an option does to each class', () => {
    const mean = (content: 'text' | 'video' | 'window' | 'page-video', more: object) =>
      (pictureDemand({ [content]: 1 }, { ...stream, ...more }).meanMbps - sound) /
      (pictureDemand({ [content]: 1 }, stream).meanMbps - sound);
    expect(mean('text', { fps: 60 })).toBeCloseTo(2 ** 0.7, 9);
    expect([mean('text', { chroma444: true }), mean('page-video', { chroma444: true }), mean('video', { chroma444: true })]).toEqual([
      expect.closeTo(1, 9),
      expect.closeTo(1.4, 9),
      expect.closeTo(1.7, 9),
    ]);
    // between text and video by the share that is video: 0.65 − 0.2 · 0.03
    expect([mean('text', { codec: 'hevc' }), mean('video', { codec: 'hevc' }), mean('window', { codec: 'hevc' })]).toEqual([
      expect.closeTo(0.65, 9),
      expect.closeTo(0.62, 9),
      expect.closeTo(0.644, 9),
    ]);
    // codecs made for text are dear for video
    expect([mean('text', { codec: 'progressive' }), mean('video', { codec: 'progressive' })]).toEqual([
      expect.closeTo(1, 9),
      expect.closeTo(5, 9),
    ]);
    expect(mean('video', { codec: 'bitmap' })).toBeGreaterThan(mean('video', { codec: 'progressive' }));
    expect(mean('video', { codec: 'av1' })).toBeLessThan(mean('video', { codec: 'hevc' }));
  });

  test('16 bit saves a third with codecs that send bits, and nothing with those that send pictures', () => {
    const at = (codec: 'bitmap' | 'progressive' | 'h264', colourDepth: number) =>
      pictureDemand({ text: 1 }, { ...stream, codec, colourDepth }).meanMbps - sound;
    expect(at('bitmap', 16) / at('bitmap', 32)).toBeCloseTo(2 / 3, 9);
    expect(at('progressive', 16) / at('progressive', 24)).toBeCloseTo(2 / 3, 9);
    expect(at('h264', 16)).toBeCloseTo(at('h264', 32), 9);
  });

  test('between and beyond the three sizes by the slope in log and log', () => {
    const { mbps } = contentClasses.text;
    // 1600 × 900 is 1.5625 times 720p, full HD 2.25 times: 1.6 · 1.125^(ln 1.5625 / ln 2.25)
    expect(atPixels(mbps, 1600 * 900)).toBeCloseTo(1.6 * 1.125 ** (Math.log(1.5625) / Math.log(2.25)), 9);
    // four times 2160p goes on as from full HD to 2160p: 5 · 5 / 1.8
    expect(atPixels(mbps, 4 * 3840 * 2160)).toBeCloseTo(25 / 1.8, 9);
  });
});

test('quality gives way down to its floor, then frames do; what is not asked for is not short', () => {
  expect(framesOnLine(10, 10, 30, 0.7)).toEqual({ fps: 30, quality: 1 });
  expect(framesOnLine(7, 10, 30, 0.7)).toEqual({ fps: 30, quality: 0.7 });
  expect(framesOnLine(6.999, 10, 30, 0.7)).toMatchObject({ quality: 0.7, fps: expect.closeTo(29.994, 2) });
  expect(framesOnLine(0, 0, 30, 0.7)).toEqual({ fps: 30, quality: 1 });
  expect(framesOnLine(0, -1, 30, 0.7)).toEqual({ fps: 30, quality: 1 });
});

test('frame times of 1000 frames: the worst 1 % are ten, the worst 0.1 % is one; just 50 ms is not over 50', () => {
  const times = [...Array<number>(989).fill(20), 50, ...Array<number>(9).fill(60), 200];
  const summary = summariseFrameTimes([...times].reverse());
  expect(summary).toMatchObject({ frames: 1000, medianFps: 50, over50ms: 10, low01Fps: 5 });
  // nine of 60 ms and one of 200: 740 / 10
  expect(summary.low1Fps).toBeCloseTo(1000 / 74, 9);
  expect(summary.averageFps).toBeCloseTo(1000 / ((989 * 20 + 50 + 540 + 200) / 1000), 9);
  expect(summariseFrameTimes([])).toEqual({ frames: 0, averageFps: 0, medianFps: 0, low1Fps: 0, low01Fps: 0, over50ms: 0 });
});
