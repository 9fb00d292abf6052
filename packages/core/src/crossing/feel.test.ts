import { describe, expect, test } from '@jest/globals';
import { on } from '../../test/judged.js';
import { small } from '../../test/small.js';
import { feelOf, framesBay } from './feel.js';
import { computeFigures, worstVerdict, type CrossingFigures } from './index.js';
import { unlessUnknown } from './question.js';

const plain = computeFigures(small(on));
type Part = Partial<CrossingFigures>;
const span = (low: number, value = low, high = value) => ({ low, value, high });
const parts = (...list: [name: string, bay: string, lowMs: number, ms: number, highMs: number][]) =>
  list.map(([name, bay, lowMs, ms, highMs]) => ({ ...plain.delay.parts[0], name, bay, lowMs, ms, highMs }));
const delay = (of: ReturnType<typeof span>, worst = span(0), list: ReturnType<typeof parts> = []): Part =>
  ({ delay: { ...plain.delay, ...of, parts: list, worst: { ...plain.delay.worst, ...worst } } }) as Part;
const way = (more: object): Part => ({ way: { ...plain.way, rttKnown: true, lossKnown: true, ...more } });
const frames = (more: object): Part => ({ frames: { ...plain.frames, cap: 60, ...more } });
const voice = (more: object): Part => ({ voice: { ...plain.voice, counts: true, kept: false, carried: 'endpoint', ...more } as never });
/** Nothing short and nothing in doubt, but for what a row says. */
const well: Part = {
  ...delay(span(50), span(60)),
  ...frames(span(30)),
  ...way({ loss: { ...plain.way.loss, ...span(0) } }),
  ...voice({ counts: false }),
  upNeededMbps: 0.05,
};
function felt(...more: Part[]) {
  const [missing, doubts] = [[], {}] as [CrossingFigures['missing'], CrossingFigures['doubts']];
  const aspects = Object.fromEntries(Object.keys(plain.aspects).map((each) => [each, 'clear'])) as CrossingFigures['aspects'];
  const { verdict, bay } = feelOf(Object.assign({}, plain, well, ...more) as CrossingFigures, missing, aspects, doubts);
  const told = Object.fromEntries(Object.entries(aspects).filter(([, each]) => each !== 'clear'));
  return { verdict, bay, aspects: told, doubts, missing };
}
const clear = { verdict: 'clear', bay: 'Link', aspects: {}, doubts: {}, missing: [] };
// wanted of office work: 150 ms, 20 frames, MOS 3.6; the worst twentieth may be twice the delay
const twice = plain.assumed.finding.worstDelayFactor;

test('of two verdicts the worse one counts, and what nobody found out is never Clear', () => {
  const order = ['clear', 'unknown', 'limited', 'blocked'] as const;
  for (const [i, a] of order.entries()) for (const [j, b] of order.entries()) expect(worstVerdict(a, b)).toBe(order[Math.max(i, j)]);
  expect(order.map((each) => unlessUnknown(each, true))).toEqual(order);
  expect(order.map((each) => unlessUnknown(each, false))).toEqual(['unknown', 'unknown', 'limited', 'blocked']);
});

test('where nothing is short and nothing in doubt it is Clear', () => {
  expect([plain.wanted.keyToPixelMs, plain.wanted.framesAtLeast, plain.wanted.voiceMosAtLeast]).toEqual([150, 20, 3.6]);
  expect(felt()).toEqual(clear);
});

describe('the delay', () => {
  const halves = parts(['a', 'Host', 0, 60, 60], ['b', 'Endpoint', 0, 40, 40], ['c', 'Endpoint', 0, 30, 30], ['d', 'Link', 0, 10, 10]);
  test('on the threshold it is Clear, all above it Limited in the bay that takes most of it, across it not known', () => {
    expect(felt(delay(span(150)))).toEqual(clear);
    expect(felt(delay(span(150.1), span(0), halves))).toMatchObject({
      verdict: 'limited',
      bay: 'Endpoint',
      aspects: { delay: 'limited' },
      missing: [],
    });
    expect(felt(delay(span(100, 120, 150.1)))).toMatchObject({ verdict: 'unknown', aspects: { delay: 'unknown' } });
    expect(felt(delay(span(150, 180, 200)))).toMatchObject({ verdict: 'unknown', aspects: { delay: 'unknown' } });
  });
  test('that rests on the kind of line alone is not known however short, and Limited where it is too long all the same', () => {
    expect(felt(way({ rttKnown: false }))).toEqual({
      ...{ verdict: 'unknown', aspects: { delay: 'unknown' }, doubts: { delay: 'round trips' }, missing: ['round trips'] },
      bay: 'Link',
    });
    expect(felt(way({ rttKnown: false }), delay(span(200), span(0), halves))).toMatchObject({
      verdict: 'limited',
      doubts: {},
      missing: [],
    });
    // and what settles it is the round trip, whatever part is widest
    expect(felt(way({ rttKnown: false }), delay(span(100, 120, 200), span(0), parts(['decode', 'Endpoint', 0, 9, 99]))).doubts).toEqual({
      delay: 'round trips',
    });
  });
  test.each([
    ['sent again after loss', 'loss'],
    ['decode', 'decoders'],
    ['draw and capture', 'host figures'],
    ['encode', 'host figures'],
    ['way to the host', 'host figures'],
    ['something else', 'round trips'],
  ])('in doubt by %s: what settles it is %s', (name, fact) => {
    const widest = parts(['first', 'Link', 0, 10, 20], [name, 'Link', 0, 10, 21], ['last', 'Link', 5, 10, 26]);
    expect(felt(delay(span(100, 120, 200), span(0), widest))).toMatchObject({ doubts: { delay: fact }, missing: [fact] });
  });
  test('in doubt by sending: by the people at once where the rate is known, else by the rate', () => {
    const sending = delay(span(100, 120, 200), span(0), parts(['sending the changed area', 'Link', 0, 10, 21]));
    const [rate, none] = [{ value: 1 }, null];
    const by = (available: unknown, down: unknown) => felt(sending, way({ available, down })).doubts.delay;
    expect([by(rate, rate), by(rate, none), by(none, rate)]).toEqual(['people at once', 'line rate', 'line rate']);
  });
  test('in doubt by the wait for the next frame: by what the frames are in doubt', () => {
    const waiting = delay(span(100, 120, 200), span(0), parts(['wait for the next frame', 'Host', 0, 10, 21]));
    const by = (missing: string | undefined) => felt(waiting, frames({ ...span(30), missing })).doubts.delay;
    expect([by('decoders'), by('line'), by(undefined)]).toEqual(['decoders', 'round trips', 'host figures']);
  });
});

describe('the worst twentieth', () => {
  test('may be so many times the delay: on it Clear, beyond Limited, across not known', () => {
    expect(felt(delay(span(50), span(150 * twice)))).toEqual(clear);
    expect(felt(delay(span(50), span(150 * twice + 0.1)))).toMatchObject({
      verdict: 'limited',
      bay: 'Link',
      aspects: { sticking: 'limited' },
    });
    expect(felt(delay(span(50), span(60, 70, 150 * twice + 0.1)))).toMatchObject({
      aspects: { sticking: 'unknown' },
      doubts: { sticking: 'loss' },
    });
  });
  test('hangs on what the delay hangs on where the loss is known and the delay may be too long; and counts for nothing beside a delay that is', () => {
    const wide = delay(span(100, 120, 151), span(60, 70, 150 * twice + 1), parts(['decode', 'Endpoint', 0, 9, 99]));
    expect(felt(wide).doubts).toEqual({ delay: 'decoders', sticking: 'decoders' });
    expect(felt(wide, way({ lossKnown: false })).doubts.sticking).toBe('loss');
    const narrow = delay(span(100, 120, 150), span(60, 70, 150 * twice + 1), parts(['decode', 'Endpoint', 0, 9, 99]));
    expect(felt(narrow).doubts).toEqual({ sticking: 'loss' });
    expect(felt(delay(span(200), span(999 * twice))).aspects).toEqual({ delay: 'limited' });
  });
});

describe('the frames', () => {
  test('are as many as wanted but for a twentieth, or short where their limit lies', () => {
    expect(felt(frames(span(19.95)))).toEqual(clear);
    expect(felt(frames({ ...span(19.9), limiter: 'decoding' }))).toMatchObject({
      verdict: 'limited',
      bay: 'Endpoint',
      aspects: { frames: 'limited' },
      missing: [],
    });
    for (const [limiter, bay] of Object.entries(framesBay))
      expect([limiter, felt(frames({ ...span(5), limiter })).bay]).toEqual([limiter, bay]);
    expect(framesBay).toEqual({
      ...{ 'frame cap': 'Host', screen: 'Desk', 'host drawing': 'Host', 'host encoding': 'Host', decoding: 'Endpoint' },
      ...{ 'browser drawing': 'Endpoint', line: 'Link', loss: 'Link', 'unsteady way': 'Link' },
    });
  });
  test('that a setting holds below what is wanted are short by themselves, and held against the setting for what is in doubt', () => {
    expect(felt(frames({ ...span(15), cap: 15, limiter: 'frame cap' }))).toMatchObject({
      verdict: 'limited',
      bay: 'Host',
      aspects: { frames: 'limited' },
      missing: [],
    });
    expect(felt(frames({ ...span(5, 10, 15), cap: 15, limiter: 'frame cap', missing: 'decoders' }))).toMatchObject({
      ...{ verdict: 'limited', bay: 'Endpoint', aspects: { frames: 'limited' }, doubts: { frames: 'decoders' } },
    });
    expect(felt(frames({ ...span(20), cap: 20 }))).toEqual(clear);
  });
  test.each([
    ['decoders', 'Endpoint', 'decoders'],
    ['graphics of the host', 'Host', 'graphics of the host'],
    ['host figures', 'Host', 'host figures'],
    ['line rate', 'Link', 'line rate'],
    ['loss', 'Link', 'loss'],
    ['people at once', 'Link', 'people at once'],
    ['Wi-Fi signal', 'Local network', 'Wi-Fi signal'],
    ['line', 'Link', 'round trips'],
    [undefined, 'Link', 'round trips'],
  ])('in doubt by %s: in the bay %s, settled by %s', (missing, bay, fact) =>
    expect(felt(frames({ ...span(10, 20, 30), missing }))).toEqual({
      ...{ verdict: 'unknown', bay, aspects: { frames: 'unknown' }, doubts: { frames: fact }, missing: [fact] },
    }),
  );
});

describe('loss, voice and what is sent', () => {
  const loss = (of: ReturnType<typeof span>, lossKnown = true) => way({ loss: { ...plain.way.loss, ...of }, lossKnown });
  test('five percent are stood: on it Clear, above Limited, across and where nobody counted not known', () => {
    expect(felt(loss(span(5)))).toEqual(clear);
    expect(felt(loss(span(5.01)))).toMatchObject({ verdict: 'limited', bay: 'Link', aspects: { loss: 'limited' } });
    for (const one of [loss(span(1, 2, 5.1)), loss(span(0), false)])
      expect(felt(one)).toMatchObject({ verdict: 'unknown', aspects: { loss: 'unknown' }, doubts: { loss: 'loss' }, missing: ['loss'] });
  });
  test('a voice that is kept out is short at the gateway; one that does not count is not looked at', () => {
    expect(felt(voice({ kept: true, heard: null }))).toMatchObject({
      verdict: 'limited',
      bay: 'Gateway',
      aspects: { voice: 'limited' },
      missing: [],
    });
    expect(felt(voice({ counts: false, kept: true, heard: null }))).toEqual(clear);
    expect(felt(voice({ heard: { mos: 1, low: 1, high: 1 } }), { wanted: { ...plain.wanted, voiceMosAtLeast: undefined } })).toEqual(clear);
  });
  test('a voice is held against the grade that is wanted, where it goes by the host at the workspace', () => {
    const heard = (low: number, high: number, carried = 'endpoint') => voice({ carried, heard: { mos: low, low, high } });
    expect(felt(heard(3.6, 3.6))).toEqual(clear);
    expect(felt(heard(3.59, 3.59))).toMatchObject({ verdict: 'limited', bay: 'Link', aspects: { voice: 'limited' } });
    expect(felt(heard(3.5, 3.59, 'host'))).toMatchObject({ verdict: 'limited', bay: 'Workspace' });
    expect(felt(heard(3.5, 3.6))).toMatchObject({ verdict: 'unknown', doubts: { voice: 'round trips' } });
    expect(felt(voice({ heard: null }))).toMatchObject({ verdict: 'unknown', doubts: { voice: 'round trips' } });
    expect(felt(voice({ heard: null }), way({ lossKnown: false, loss: { ...plain.way.loss, ...span(0) } })).doubts).toEqual({
      loss: 'loss',
      voice: 'loss',
    });
  });
  test('what is sent is looked at from a tenth of a megabit on', () => {
    const sends = (upNeededMbps: number, availableUp: object | null) => felt(way({ availableUp }), { upNeededMbps });
    expect(sends(0.09, null)).toEqual(clear);
    expect(sends(0.1, null)).toMatchObject({
      verdict: 'unknown',
      bay: 'Link',
      doubts: { sending: 'rate upwards' },
      missing: ['rate upwards'],
    });
    expect(sends(2, span(2))).toEqual(clear);
    expect(sends(2, span(1, 1.5, 1.99))).toMatchObject({ verdict: 'limited', aspects: { sending: 'limited' }, missing: [] });
    expect(sends(2, span(1, 1.5, 2))).toMatchObject({ verdict: 'unknown', doubts: { sending: 'people at once' } });
  });
  test('of several the worst counts, and the first of it says where', () => {
    const short = frames({ ...span(5), limiter: 'decoding' });
    expect(felt(loss(span(9)), short)).toMatchObject({
      verdict: 'limited',
      bay: 'Endpoint',
      aspects: { loss: 'limited', frames: 'limited' },
    });
    expect(felt(way({ rttKnown: false }), short)).toMatchObject({ verdict: 'limited', bay: 'Endpoint', missing: ['round trips'] });
  });
});
