import { describe, expect, test } from '@jest/globals';
import { inStorm, whileOthersDo } from './storm.js';

/** Numbers between 0 and 1, the same in every run [Park and Miller 1988]. */
function random(seed: number): () => number {
  return () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647;
}

/** Transfers of one size that begin at random and share a line evenly, followed from event to event: the mean time of one. */
function simulated(aloneS: number, perS: number, many: number): number {
  const draw = random(20_261);
  const left: { at: number; work: number }[] = [];
  let [now, nextAt, sum, done] = [0, 0, 0, 0];
  while (done < many) {
    const soonest = left.length ? Math.min(...left.map(({ work }) => work)) * left.length : Infinity;
    const until = Math.min(nextAt, now + soonest);
    for (const one of left) one.work -= (until - now) / left.length;
    now = until;
    for (let i = left.length - 1; i >= 0; i--)
      if (left[i]!.work <= 1e-9) {
        sum += now - left[i]!.at;
        done++;
        left.splice(i, 1);
      }
    if (now >= nextAt) {
      left.push({ at: now, work: aloneS });
      nextAt = now - Math.log(draw()) / perS;
    }
  }
  return sum / many;
}

describe('everybody signs on at the beginning of the day', () => {
  test.each([
    [2, 0.1],
    [2, 0.25],
    [2, 0.4],
  ])('%d s alone, %d begin each second: as a simulated line that is shared evenly', (aloneS, perS) => {
    const mean = simulated(aloneS, perS, 40_000);
    expect(Math.abs(whileOthersDo(aloneS, perS * 900, 900) / mean - 1)).toBeLessThan(0.06);
  });

  test('2 s alone, 100 people in 900 s: 2 ÷ (1 − 200 ÷ 900)', () => {
    expect(whileOthersDo(2, 100, 900)).toBeCloseTo(2.5714, 4);
    // one alone, and nothing to send
    expect([whileOthersDo(2, 1, 900), whileOthersDo(0, 100, 900)]).toEqual([2, 0]);
  });

  test('more than the line takes: all at once, and no more', () => {
    // 440 people: 90 s each; 450 fill 900 s: load 1, and all of them wait for all
    expect(whileOthersDo(2, 440, 900)).toBeCloseTo(2 / (1 - 880 / 900), 6);
    expect(whileOthersDo(2, 450, 900)).toBe(900);
    // three people within 4 s: load 1.5, all three take 6 s; within 7: load 0.857 would be 14
    expect([whileOthersDo(2, 3, 4), whileOthersDo(2, 3, 7)]).toEqual([6, 6]);
  });

  test('the interval: few over half an hour, many within five minutes', () => {
    // 2.5 MB at 10 Mbit/s are 2 s
    const { seconds, low, high } = inStorm(2.5e6, { value: 60, low: 40, high: 80, lineMbps: 10 }, 15)!;
    expect(inStorm(2.5e6, { value: 60, low: 40, high: 80, lineMbps: 10 }, 15, high)).toBeNull();
    expect([seconds, low, high]).toEqual([2 / (1 - 120 / 900), 2 / (1 - 80 / 1800), 2 / (1 - 160 / 300)]);
  });
});
