import { describe, expect, test } from '@jest/globals';
import { dock, home, office, setting } from '../../test/scenes.js';
import { settingKeys } from '../settings/index.js';
import { computeFigures, settingsOf, valueCosts } from './index.js';

describe('what each value of a setting costs', () => {
  test('the one in force is marked once, and comes to what the crossing comes to', () => {
    for (const facts of [office, home, dock])
      for (const key of settingKeys) {
        const now = valueCosts(facts, key).filter(({ isNow }) => isNow);
        expect([key, now.length]).toEqual([key, 1]);
        const { verdict, delay, frames, timeline } = computeFigures(facts);
        expect(now[0]).toMatchObject({ verdict, delayMs: delay.value, framesPerS: frames.value, usableS: timeline.totalS });
      }
  });
  test('more frames ask more of the line and of the decoder; a raw camera more than is there; what does not fit is counted', () => {
    const frames = valueCosts(office, 'picture.frameCap');
    expect(frames.map(({ value }) => value)).toEqual([15, 30, 60]);
    for (const [a, b] of [frames.slice(0, 2), frames.slice(1)] as const) {
      expect(b!.downMbps).toBeGreaterThan(a!.downMbps);
      expect(b!.decoding!).toBeGreaterThan(a!.decoding!);
    }
    const camera = valueCosts(home, 'redirection.camera');
    expect(camera.find(({ value }) => value === 'as raw USB')!.upMbps).toBeGreaterThan(400);
    expect(camera.find(({ value }) => value === 'not')!.upMbps).toBeLessThan(camera.find(({ value }) => value === 'by channel')!.upMbps);
    const depth = valueCosts(office, 'picture.colourDepth');
    expect(depth.map(({ checks }) => checks)).toEqual([1, 0, 0]);
  });
  test('a figure that is none of the usual ones stands among them', () => {
    const odd = setting('picture.frameCap', 47)(office);
    expect(valueCosts(odd, 'picture.frameCap').map(({ value, isNow }) => [value, isNow])).toEqual([
      [15, false],
      [30, false],
      [47, true],
      [60, false],
    ]);
    expect(settingsOf(odd)['picture.frameCap']).toBe(47);
  });
});
