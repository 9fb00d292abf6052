import { describe, expect, test } from '@jest/globals';
import { on } from '../../test/judged.js';
import { small } from '../../test/small.js';
import { burdenTable } from './effect.js';
import { burden, computeFigures, effectOf, type CrossingFigures } from './index.js';

const plain = computeFigures(small(on));
type More = (f: CrossingFigures) => Partial<CrossingFigures>;
const item = (works: boolean | null, meant: boolean, code?: string) =>
  ({ ...plain.desk[0], works, meant, because: code ? { code } : null }) as unknown as CrossingFigures['desk'][number];
const step = (name: string, state: string) => ({ ...plain.ladder[0], name, state }) as CrossingFigures['ladder'][number];
const heard = (mos: number): Partial<CrossingFigures> => ({ voice: { ...plain.voice, heard: { mos, low: mos, high: mos } } as never });
const delay = (value: number, worst = 0): Partial<CrossingFigures> => ({
  delay: { ...plain.delay, value, worst: { ...plain.delay.worst, value: worst } },
});
const up = (value: number | null, upNeededMbps = 4) =>
  ({ upNeededMbps, way: { ...plain.way, availableUp: value === null ? null : { value, low: value, high: value } } }) as never;
const usable = (totalS: number): Partial<CrossingFigures> => ({ timeline: { ...plain.timeline, totalS } });
const session = (more: Partial<CrossingFigures['session']>): Partial<CrossingFigures> => ({ session: { ...plain.session, ...more } });

describe('the burden of a crossing is the sum of what stands in its table', () => {
  // what is wanted of office work: 150 ms, 20 frames, MOS 3.6, 45 s; a worst twentieth of twice the delay; each sum reckoned by hand
  const twice = plain.assumed.finding.worstDelayFactor;
  const rows: [row: string, why: string, points: number, of: Partial<CrossingFigures> | More][] = [
    [
      'does not open',
      'two steps were not reached',
      1040,
      { broken: step('a', 'broken'), ladder: ['reached', 'not reached', 'not reached'].map((state) => step('b', state)) },
    ],
    ['does not open', 'it opens', 0, { broken: null, ladder: [step('b', 'not reached')] }],
    ['verdict', 'Blocked', 120, { verdict: 'blocked' }],
    ['verdict', 'Limited', 80, { verdict: 'limited' }],
    ['verdict', 'Unknown', 40, { verdict: 'unknown' }],
    ['verdict', 'Clear', 0, { verdict: 'clear' }],
    [
      'things on the desk that do not work',
      'two do not, one is left out on purpose, of one nobody knows',
      200,
      { desk: [item(false, false), item(false, false), item(false, true), item(null, false), item(true, false)] },
    ],
    [
      'things on the desk that do not work',
      'the fourth costs nothing more',
      300,
      { desk: Array.from({ length: 4 }, () => item(false, false)) },
    ],
    ['left out by a setting or a rule', 'two', 6, { desk: [item(false, true), item(false, true), item(false, false), item(true, true)] }],
    ['delay', 'one and a half times the threshold', 100, delay(225)],
    ['delay', 'on it', 0, delay(150)],
    ['delay', 'four times: no more than three', 400, delay(600)],
    ['worst twentieth', 'one and a half times what it may be', 50, delay(0, 225 * twice)],
    ['worst twentieth', 'ten times', 200, delay(0, 1500 * twice)],
    ['frames', 'half of what is wanted', 100, { frames: { ...plain.frames, value: 10 } }],
    ['frames', 'more than is wanted', 0, { frames: { ...plain.frames, value: 30 } }],
    ['voice', 'half a grade below', 50, heard(3.1)],
    ['voice', 'above', 0, heard(4)],
    ['voice', 'nobody hears any', 0, { voice: { ...plain.voice, heard: null } as never }],
    ['sending', 'a quarter is there', 75, up(1)],
    ['sending', 'more than is needed', 0, up(8)],
    ['sending', 'nobody knows', 0, up(null)],
    ['loss', '7.5 of 5 percent', 25, { way: { ...plain.way, loss: { ...plain.way.loss, value: 7.5 } } }],
    ['loss', 'all of it', 100, { way: { ...plain.way, loss: { ...plain.way.loss, value: 100 } } }],
    ['time until usable', 'twice as long as wanted', 20, usable(90)],
    ['time until usable', 'sooner', 0, usable(40)],
    ['facts not known', 'three', 6, { missing: ['loss', 'screens', 'line rate'] }],
    ['every 100 ms', '50 of them', 0.5, delay(50)],
    ['every 20 s until usable', '30', 1.5, usable(30)],
    ['every two points of voice', 'four', -2, heard(4)],
    ['every two points of voice', 'none', 0, { voice: { ...plain.voice, heard: null } as never }],
    ['every 20 Mbit/s asked', 'thirty', 1.5, { onLine: { ...plain.onLine, downP95Mbps: 30 } }],
    ['TCP', 'over TCP', 1, session({ transport: 'tcp' })],
    ['TCP', 'over UDP', 0, session({ transport: 'udp' })],
    [
      'screens below their own refresh',
      'two',
      10,
      { desk: [item(true, false, 'port slow'), item(true, false, 'port slow'), item(true, false, 'other')] },
    ],
    ['sharpness', 'three quarters', -0.75, session({ resolutionShare: 0.75 })],
    ['several scales', 'they differ', 10, session({ mixedScales: true })],
    ['several scales', 'they do not', 0, session({ mixedScales: false })],
  ];
  test.each(rows)('%s: %s: %f', (row, _why, points, of) => {
    const found = burdenTable.find((each) => each.of === row);
    expect(found?.points({ ...plain, ...(of as Partial<CrossingFigures>) })).toBeCloseTo(points, 9);
  });
  test('each row is tried, and the whole is their sum', () => {
    expect(new Set(rows.map(([row]) => row))).toEqual(new Set(burdenTable.map(({ of }) => of)));
    expect(burden(plain)).toBeCloseTo(
      burdenTable.reduce((sum, { points }) => sum + points(plain), 0),
      9,
    );
  });
});

describe('what a change does is told in the figures it moves', () => {
  const told = (before: Partial<CrossingFigures>, after: Partial<CrossingFigures>) =>
    effectOf({ ...plain, ...before }, { ...plain, ...after }).text;
  const none = 'no figure of this crossing changes';
  const frames = (value: number) => ({ frames: { ...plain.frames, value } });
  const demand = (p95Mbps: number) => ({ demand: { ...plain.demand, p95Mbps } });
  const desk = (...works: boolean[]) => ({ desk: works.map((each) => item(each, false)) });
  test.each<[string, Partial<CrossingFigures>, Partial<CrossingFigures>, string]>([
    ['nothing', {}, {}, none],
    ['it opens', { broken: step('name', 'broken') }, { broken: null }, 'opens'],
    ['it comes a step further', { broken: step('name', 'broken') }, { broken: step('host', 'broken') }, 'gets as far as “host”'],
    ['it breaks where it broke', { broken: step('name', 'broken') }, { broken: step('name', 'broken') }, none],
    ['half a frame', frames(10), frames(10.5), '11 frames instead of 10'],
    ['less than half a frame', frames(10), frames(10.49), none],
    ['one frame', frames(3), frames(1), '1 frame instead of 3'],
    ['one ms of few', delay(50), delay(49), '49 ms instead of 50'],
    ['less than one ms', delay(50), delay(49.01), none],
    ['one percent of many', delay(1000), delay(990), '990 ms instead of 1000'],
    ['less than one percent of many', delay(1000), delay(991), none],
    ['a twentieth of a grade', heard(3), heard(3.0501), 'voice 3.1 instead of 3.0'],
    ['less than that', heard(3), heard(3.04), none],
    ['a voice that was not heard', { voice: { ...plain.voice, heard: null } as never }, heard(4), none],
    ['half a second', usable(9), usable(8.5), 'usable after 8.5 s instead of 9'],
    ['less than half a second', usable(9), usable(8.6), none],
    ['half a second that is written alike', usable(30), usable(29.5), none],
    ['half a frame that is written alike', frames(9.6), frames(10.1), none],
    ['a voice that is written alike', heard(3.06), heard(3.12), none],
    ['so many that they are written alike', up(12.4), up(11.8), none],
    ['one more on the desk', desk(true, false, false), desk(true, true, false), '2 of 3 things on the desk work instead of 1'],
    ['as many, but others', desk(true, false), desk(false, true), none],
    ['a tenth of a megabit of few', demand(1), demand(0.89), 'asks for 0.89 Mbit/s instead of 1'],
    ['less than that', demand(1), demand(0.91), none],
    ['a twentieth of many', demand(20), demand(19), 'asks for 19 Mbit/s instead of 20'],
    ['less than a twentieth', demand(20), demand(19.1), none],
    ['one size of text', session({ mixedScales: true }), session({ mixedScales: false }), 'text has one size on all screens'],
    ['several sizes of text', session({ mixedScales: false }), session({ mixedScales: true }), none],
    ['another transport', session({ transport: 'tcp' }), session({ transport: 'udp' }), 'over UDP'],
    ['upwards', up(2), up(2.1), '2.1 Mbit/s upwards instead of 2'],
    ['hardly upwards', up(2), up(2.09), none],
    ['upwards where nobody knew', up(null), up(3), none],
    ['what is sent', { upNeededMbps: 1 }, { upNeededMbps: 1.1 }, 'sends 1.1 Mbit/s instead of 1'],
    ['hardly less sent', { upNeededMbps: 1 }, { upNeededMbps: 0.91 }, none],
    ['less sharp', session({ resolutionShare: 1 }), session({ resolutionShare: 0.94 }), 'text is less sharp'],
    ['hardly less sharp', session({ resolutionShare: 1 }), session({ resolutionShare: 0.95 }), none],
    ['another verdict', { verdict: 'limited' }, { verdict: 'clear' }, 'becomes Clear'],
    ['not known any more', { verdict: 'clear' }, { verdict: 'unknown' }, 'becomes Unknown'],
    ['the worst', { verdict: 'clear' }, { verdict: 'blocked' }, 'becomes Blocked'],
    ['short', { verdict: 'blocked' }, { verdict: 'limited' }, 'becomes Limited'],
  ])('%s', (_what, before, after, text) => expect(told(before, after)).toBe(text));

  test('at most four figures, the verdict before them', () => {
    const before = {
      ...frames(10),
      ...delay(100),
      ...usable(60),
      ...demand(20),
      ...session({ transport: 'tcp' }),
      verdict: 'limited' as const,
    };
    const after = {
      ...frames(30),
      ...delay(50),
      ...usable(30),
      ...demand(10),
      ...session({ transport: 'udp' }),
      verdict: 'clear' as const,
    };
    expect(told(before, after)).toBe(
      'becomes Clear, 30 frames instead of 10, 50 ms instead of 100, usable after 30 s instead of 60, asks for 10 Mbit/s instead of 20',
    );
  });
  test('helps where it is told by a figure, takes away from the burden, and makes the verdict no worse', () => {
    const effect = (before: Partial<CrossingFigures>, after: Partial<CrossingFigures>) => {
      const { helps, gain, becomes } = effectOf({ ...plain, ...before }, { ...plain, ...after });
      return [helps, Number(gain.toFixed(6)), becomes];
    };
    expect(effect(delay(100), delay(50))).toEqual([true, 0.5, 'clear']);
    expect(effect(delay(50), delay(100))).toEqual([false, -0.5, 'clear']);
    // told, and nothing less
    expect(effect(demand(2), demand(1))).toEqual([false, 0, 'clear']);
    expect(effect(delay(50), delay(48.9))).toEqual([true, 0.011, 'clear']);
    // less, and told by no figure
    expect(effect({ missing: ['loss'] }, { missing: [] })).toEqual([false, 2, 'clear']);
    // a verdict that is worse is no help, whatever else is better: 0.5 · 200 + 40 for the verdict
    expect(effect({ ...delay(300), verdict: 'unknown' }, { ...delay(150), verdict: 'limited' })[0]).toBe(false);
    expect(effect({ ...delay(300), verdict: 'limited' }, { ...delay(150), verdict: 'limited' })[0]).toBe(true);
    expect(effect({ verdict: 'limited' }, { verdict: 'unknown' })).toEqual([true, 40, 'unknown']);
  });
});
