import { describe, expect, test } from '@jest/globals';
import { on } from '../../test/judged.js';
import { small } from '../../test/small.js';
import { cameraMbps, cameraMbpsOf, rawCameraMbps } from './camera.js';
import { settingsOf } from './index.js';

test('a coded picture by its height: up to 360 and up to 720 lines, just within and just beyond', () => {
  expect([180, 360, 361, 720, 721, 1080].map(cameraMbps)).toEqual([0.6, 0.6, 1.5, 1.5, 3, 3]);
});

test('an uncoded one has 16 bit a pixel, 16 by 9', () => {
  // 1280 · 720 · 16 · 30 and 640 · 360 · 16 · 15 bit/s, by hand
  expect(rawCameraMbps(720, 30)).toBeCloseTo(442.368, 6);
  expect(rawCameraMbps(360, 15)).toBeCloseTo(55.296, 6);
});

describe('what a camera sends by the settings', () => {
  const facts = small(on);
  const sends = (way: string, height: number, fps: number) =>
    cameraMbpsOf(
      { ...settingsOf(facts), 'redirection.camera': way, 'media.cameraHeight': height, 'media.cameraFrames': fps } as never,
      facts.endpoint,
    );
  test('nothing where it is not handed on; all of it as a raw device', () => {
    expect([sends('not', 1080, 30), sends('as raw USB', 720, 30)]).toEqual([0, rawCameraMbps(720, 30)]);
  });
  test('by a channel coded, by the 0.7th power of its frames', () => {
    expect(sends('by channel', 720, 30)).toBeCloseTo(1.5, 12);
    // 0.5^0.7 = 0.6156, 2^0.7 = 1.6245
    expect(sends('by channel', 720, 15)).toBeCloseTo(1.5 * 0.615572, 5);
    expect(sends('by channel', 1080, 60)).toBeCloseTo(3 * 1.624505, 5);
  });
});
