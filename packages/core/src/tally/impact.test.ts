import { describe, expect, test } from '@jest/globals';
import { on } from '../../test/judged.js';
import { small } from '../../test/small.js';
import { computeFigures, type CrossingFigures } from '../crossing/index.js';
import { gainOf, lossOf, standOf } from './impact.js';

const plain = computeFigures(small(on));
type Part = Partial<CrossingFigures>;
const frames = (value: number): Part => ({ frames: { ...plain.frames, value } });
const delay = (value: number): Part => ({ delay: { ...plain.delay, value } });
const usable = (totalS: number): Part => ({ timeline: { ...plain.timeline, totalS } });
const sharp = (resolutionShare: number): Part => ({ session: { ...plain.session, resolutionShare } });
const desk = (...works: (boolean | null)[]): Part => ({ desk: works.map((each) => ({ ...plain.desk[0]!, works: each })) });

describe('what somebody loses is told by the first of what they would notice', () => {
  test.each<[string, Part, Part, string]>([
    ['it shuts', { verdict: 'limited', ...frames(30) }, { verdict: 'blocked', ...frames(1) }, 'does not open any more'],
    ['it was shut before', { verdict: 'blocked', ...frames(30) }, { verdict: 'blocked', ...frames(1) }, '1 frame instead of 30'],
    ['frames before delay', { ...frames(30), ...delay(50) }, { ...frames(12), ...delay(90) }, '12 frames instead of 30'],
    ['frames written alike', { ...frames(12.4), ...delay(50) }, { ...frames(11.8), ...delay(90) }, '90 ms instead of 50'],
    ['half a frame', { ...frames(12), ...delay(50) }, { ...frames(11.5), ...delay(90) }, '90 ms instead of 50'],
    ['one ms', { ...delay(50), ...usable(30) }, { ...delay(51), ...usable(40) }, 'usable after 40 s instead of 30'],
    ['more than one ms', delay(50), delay(51.1), '51 ms instead of 50'],
    ['half a second', { ...usable(30), ...sharp(1) }, { ...usable(30.5), ...sharp(0.5) }, 'text is less sharp'],
    ['seconds written alike', { ...usable(29.6), ...sharp(1) }, { ...usable(30.3), ...sharp(0.5) }, 'text is less sharp'],
    ['more than half a second', usable(30), usable(30.6), 'usable after 31 s instead of 30'],
    ['nothing of these', {}, {}, 'asks more of the line'],
  ])('%s', (_what, before, after, told) => expect(lossOf({ ...plain, ...before }, { ...plain, ...after })).toBe(told));
});

describe('and what somebody gains', () => {
  test.each<[string, Part, Part, string]>([
    ['it opens', { verdict: 'blocked' }, { verdict: 'limited' }, 'opens'],
    ['it stays shut', { verdict: 'blocked', ...delay(90) }, { verdict: 'blocked', ...delay(50) }, '50 ms instead of 90'],
    ['one device', desk(true, false, null), desk(true, true, null), '1 device more that works'],
    [
      'two devices before frames',
      { ...desk(false, false), ...frames(1) },
      { ...desk(true, true), ...frames(30) },
      '2 devices more that work',
    ],
    ['frames', frames(10), frames(30), '30 frames instead of 10'],
    ['frames written alike', { ...frames(11.8), ...delay(90) }, { ...frames(12.4), ...delay(50) }, '50 ms instead of 90'],
    ['one ms', { ...delay(51), ...usable(40) }, { ...delay(50), ...usable(30) }, 'usable after 30 s instead of 40'],
    ['seconds written alike', usable(30.3), usable(29.6), 'closer to what is wanted'],
    ['nothing of these', {}, {}, 'closer to what is wanted'],
  ])('%s', (_what, before, after, told) => expect(gainOf({ ...plain, ...before }, { ...plain, ...after })).toBe(told));
});

test('where a crossing stands: its verdict and how far it is from what is wanted; nowhere where it has no figures', () => {
  expect(standOf(null)).toBeNull();
  const stand = standOf({ ...plain, ...delay(225) });
  expect(stand?.verdict).toBe('clear');
  // half over the threshold of 150 ms costs 100, and each 100 ms one more
  expect((stand?.burden ?? 0) - (standOf({ ...plain, ...delay(0) })?.burden ?? 0)).toBeCloseTo(100 + 2.25, 9);
});
