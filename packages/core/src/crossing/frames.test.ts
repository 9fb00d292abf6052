import { describe, expect, test } from '@jest/globals';
import { small, type Otherwise } from '../../test/small.js';
import { framesAfterLoss, framesAfterSpread, framesOnLine } from '../picture/index.js';
import { softwareMacroblocksPerS } from '../screens/index.js';
import { between, exact } from '../units/index.js';
import { computeFigures } from './index.js';
import { framesOf } from './frames.js';
import type { Way } from './way.js';

/** Macroblocks of 1920 × 1080 and of 3840 × 2160. */
const [fullHd, uhd] = [120 * 68, 240 * 135];
const card = { card: true, driver: true, mode: 'display', usedForSessions: true, encoder: true };
const framesWith = (otherwise: Otherwise = {}) => computeFigures(small(otherwise)).frames;
const screen = (more: object) => ({ widthPx: 1920, heightPx: 1080, refreshHz: 60, ...more });
const large = { endpoint: { screens: [screen({ widthPx: 3840, heightPx: 2160 })], decoders: [{ codec: 'h264', level: '6.2' }] } };

describe('coding on the host', () => {
  const encoding = (host: object, more: Otherwise = {}) => framesWith({ ...more, host }).encoding;
  test('by the card where there is one that codes, it is wanted, and the codec is one that cards do', () => {
    const by = (graphics: object | undefined, settings: Record<string, unknown> = {}) => encoding({ graphics }, { settings }).by;
    expect(by(card)).toBe('card');
    expect([by({ ...card, encoder: false }), by({ ...card, encoder: undefined }), by({ ...card, card: false })]).toEqual(
      Array(3).fill('processor'),
    );
    expect(by(card, { 'picture.hardwareEncode': false })).toBe('processor');
    expect([by(card, { 'picture.codec': 'bitmap' }), by(card, { 'picture.codec': 'progressive' })]).toEqual(Array(2).fill('processor'));
    expect(by(undefined)).toBe('not known');
  });
  test('its time: told, else assumed within a half; a larger picture takes longer, on the card at six tenths of its size', () => {
    expect(encoding({ graphics: card, encodeMs: 7 })).toMatchObject({ ms: 7, spreadMs: 0, assumed: false });
    expect(encoding({ graphics: card, encodeMs: undefined })).toMatchObject({ ms: 5, spreadMs: 2.5, assumed: true });
    expect(encoding({ graphics: card, encodeMs: undefined }, large).ms).toBeCloseTo(((5 * uhd) / fullHd) * 0.6, 9);
    expect(encoding({ encodeMs: undefined })).toMatchObject({
      ...{ ms: 12, spreadMs: 6, assumed: true },
      ...{ fps: expect.closeTo(1000 / 12, 9), fpsLow: expect.closeTo(1000 / 18, 9) },
    });
    expect(encoding({ encodeMs: undefined }, large).ms).toBeCloseTo((12 * uhd) / fullHd, 9);
    expect(encoding({ encodeMs: 0.2 })).toMatchObject({ fps: 1000, fpsLow: 1000, spreadMs: 0 });
  });
  test('a card’s rate goes by what its other sessions leave: told, else shared with who is there, else with who may be', () => {
    const at = (more: object) => {
      const { fps, fpsLow } = encoding({ graphics: card, encoderMacroblocksPerS: 100 * fullHd, ...more });
      return [fps, fpsLow].map((each) => Math.round(each * 1e6) / 1e6);
    };
    expect(at({ encoderLoad: 0.25 })).toEqual([75, 75]);
    expect(at({ encoderLoad: 1 })).toEqual([0, 0]);
    expect(at({ used: 0 })).toEqual([100, 100]);
    expect(at({ used: 4 })).toEqual([20, 20]);
    expect(at({ used: undefined, places: 8 })).toEqual([100, 12.5]);
    expect(encoding({ graphics: card }).fps).toBe(Infinity);
  });
  test('where the worst of what is assumed codes fewer, the figures of the host are what is missing', () => {
    const slow = framesWith({ ...large, host: { encodeMs: undefined, graphics: { card: false } }, settings: { 'picture.frameCap': 60 } });
    // 12 · 32 400 / 8160 = 47.6 ms, and half as much again
    expect(slow).toMatchObject({
      ...{ limiter: 'host encoding', missing: 'host figures' },
      ...{ value: expect.closeTo(1000 / 47.647, 2), low: expect.closeTo(1000 / 71.47, 2) },
    });
    expect(framesWith({ ...large, host: { encodeMs: 40 } })).toMatchObject({ value: 25, low: 25, limiter: 'host encoding', missing: null });
  });
});

describe('drawing on the host, and the screens', () => {
  test('the slowest counts: the cap, a screen, drawing', () => {
    expect(framesWith()).toMatchObject({ value: 30, limiter: 'frame cap', cap: 30, drawMs: 8, drawAssumed: false });
    expect(framesWith({ settings: { 'picture.frameCap': 60 } })).toMatchObject({ value: 60, cap: 60, limiter: 'frame cap' });
    const two = { endpoint: { screens: [screen({}), screen({ refreshHz: 25 })] } };
    expect(framesWith(two)).toMatchObject({ value: 25, limiter: 'screen' });
    expect(framesWith({ ...two, host: { drawMs: 50 } })).toMatchObject({ value: 20, limiter: 'host drawing' });
    expect(framesWith({ ...two, host: { drawMs: 40 } })).toMatchObject({ value: 25, limiter: 'screen' });
    expect(framesWith({ host: { drawMs: undefined } })).toMatchObject({ drawMs: 8, drawAssumed: true });
  });
  test('3D that a processor draws comes in four frames, however fast the host draws else', () => {
    const drawn = (graphics: object | undefined, drawMs: number | undefined, wants = true) =>
      framesWith({ resource: { graphics: wants }, host: { graphics, drawMs } });
    expect(drawn({ card: false }, 8)).toMatchObject({ value: 4, drawMs: 250 });
    expect(drawn({ card: false }, 400)).toMatchObject({ value: 2.5, drawMs: 400 });
    expect(drawn({ card: false }, 8, false)).toMatchObject({ value: 30, drawMs: 8 });
    expect(drawn(card, 8)).toMatchObject({ value: 30, missing: null });
    // what it draws in was told: that it may be the processor is in it
    expect(drawn(undefined, 8)).toMatchObject({ value: 30, low: expect.closeTo(30, 2), missing: null });
    expect(drawn(undefined, undefined)).toMatchObject({ value: 30, low: 4, missing: 'graphics of the host' });
  });
  test('what a browser was seen to draw holds for the browser', () => {
    const measured = { scene: { frames: 100, averageFps: 18, medianFps: 18, low1Fps: 9, low01Fps: 5, over50ms: 3 } } as never;
    expect(framesWith({ endpoint: { clientKind: 'browser' }, measured })).toMatchObject({ value: 18, limiter: 'browser drawing' });
    expect(framesWith({ endpoint: { clientKind: 'native client' }, measured }).value).toBe(30);
  });
});

describe('decoding', () => {
  const decoding = (endpoint: object, settings: Record<string, unknown> = {}) => framesWith({ endpoint, settings }).decoding;
  const rate = (cores: number, smallProcessor: boolean) => softwareMacroblocksPerS('h264', { cores, smallProcessor });
  test('thin clients, kiosks, phones, and what is no x86-64 have a small processor; where the cores are not told they are two', () => {
    const capacity = (deviceClass: string, processor = 'x86-64', cores: number | undefined = 4) =>
      decoding({ deviceClass, processor, cores, decoders: [] }).processor;
    expect(rate(4, true)).toBeLessThan(rate(4, false));
    for (const kind of ['thin-client', 'kiosk', 'phone']) expect([kind, capacity(kind)]).toEqual([kind, rate(4, true)]);
    expect(capacity('laptop')).toBe(rate(4, false));
    expect(capacity('laptop', 'arm64')).toBe(rate(4, true));
    expect(decoding({ deviceClass: 'laptop', cores: undefined, decoders: [] }).processor).toBe(rate(2, false));
  });
  test('by hardware where it is wanted and there; of none, or of one that does not do it, by the processor', () => {
    const h264 = [{ codec: 'h264', level: '5.2' }];
    expect(decoding({ decoders: h264 })).toMatchObject({ by: 'hardware', neededMacroblocksPerS: 30 * fullHd });
    expect(decoding({ decoders: h264 }, { 'picture.hardwareDecode': false }).by).toBe('processor');
    expect(decoding({ decoders: [] }).by).toBe('processor');
    expect(decoding({ decoders: undefined })).toMatchObject({ by: 'not known', capacity: null });
    // pictures that no decoder is asked for
    expect(decoding({ decoders: undefined }, { 'picture.codec': 'bitmap' })).toMatchObject({
      by: 'processor',
      capacity: expect.any(Number),
    });
  });
  test('what is needed goes by the frames that come so far', () => {
    expect(framesWith({ host: { drawMs: 100 } }).decoding.neededMacroblocksPerS).toBeCloseTo(10 * fullHd, 6);
  });
  test('the processor too slow for what comes: where who decodes is not known, that is missing', () => {
    const slow = { ...large.endpoint, cores: 1 };
    const fps = rate(1, true) / uhd;
    expect(framesWith({ endpoint: { ...slow, decoders: [] } })).toMatchObject({ value: expect.closeTo(fps, 9), limiter: 'decoding' });
    expect(framesWith({ endpoint: { ...slow, decoders: undefined } })).toMatchObject({
      ...{ value: 30, low: expect.closeTo(fps, 9), missing: 'decoders' },
    });
  });
});

describe('over the way', () => {
  const facts = small({ settings: { 'picture.frameCap': 30 } });
  const base = computeFigures(facts);
  const { p95Mbps } = base.demand;
  const floor = base.settings['picture.qualityFloor'];
  const calm: Partial<Way> = {
    available: exact(95, 'measured', ''),
    loss: exact(0, 'measured', ''),
    lossKnown: true,
    rtt: exact(50, 'measured', ''),
    spreadMs: exact(0, 'measured', ''),
    localMs: exact(0.5, 'assumed', ''),
    timeoutMs: exact(200, 'computed', ''),
    down: exact(100, 'measured', ''),
    mayBeTcp: false,
    bound: 'line',
  };
  const on = (way: Partial<Way>, { transport = 'udp', repair = 'resend', repairShare = 25 } = {}) =>
    framesOf(
      facts,
      { ...base.settings, 'transport.repair': repair as 'resend', 'transport.repairShare': repairShare },
      { ...base.session, transport: transport as 'udp' },
      base.host,
      base.demand,
      { ...base.way, ...calm, ...way },
    );
  const loss = (percent: number, more: object = {}) => ({
    lossShare: percent / 100,
    rttMs: 50,
    repairShare: 0.25,
    timeoutMs: 200,
    ...more,
  });
  const frameBits = (p95Mbps * 1e6) / 30;

  test('nothing is taken off by a way that is wide and even', () => {
    expect(on({})).toMatchObject({
      ...{ value: 30, low: 30, high: 30, quality: 1, damagedShare: 0, limiter: 'frame cap', missing: null },
      ...{ resentMs: { value: 0, low: 0, high: 0 }, resentWorstMs: { value: 0, low: 0, high: 0 } },
    });
  });
  test('narrow: the quality first, then the frames, and the line is named', () => {
    const soft = on({ available: exact(p95Mbps * 0.9, 'measured', '') });
    expect(soft).toMatchObject({ value: 30, quality: expect.closeTo(0.9, 9), limiter: 'frame cap' });
    const few = on({ available: exact(p95Mbps * 0.5, 'measured', '') });
    expect(few.value).toBeCloseTo(framesOnLine(0.5, 1, 30, floor).fps, 9);
    expect(few).toMatchObject({ quality: floor, limiter: 'line' });
  });
  test.each(['resend', 'forward', 'none'] as const)('lossy, mended by %s', (repair) => {
    const lost = on({ loss: exact(2, 'measured', '') }, { repair });
    const wanted = framesAfterLoss({ fps: 30, frameBits, repair, ...loss(2) });
    expect(lost).toMatchObject({ value: expect.closeTo(wanted.fps, 9), damagedShare: wanted.damagedShare, quality: 1 });
    expect(lost.resentMs.value).toBeCloseTo(wanted.addedMeanMs, 9);
    expect(lost.resentWorstMs.value).toBeCloseTo(wanted.addedP95Ms, 9);
  });
  test('over TCP it is sent again whatever the setting says, and what may be TCP is so at its worst', () => {
    const tcp = framesAfterLoss({ fps: 30, frameBits, repair: 'tcp', ...loss(2) }).fps;
    expect(on({ loss: exact(2, 'measured', '') }, { transport: 'tcp', repair: 'none' }).value).toBeCloseTo(tcp, 9);
    const maybe = on({ loss: exact(2, 'measured', ''), mayBeTcp: true }, { repair: 'forward' });
    const forward = framesAfterLoss({ fps: 30, frameBits, repair: 'forward', ...loss(2) }).fps;
    expect([maybe.value, maybe.low]).toEqual([expect.closeTo(forward, 9), expect.closeTo(Math.min(tcp, forward), 9)]);
  });
  test('what mends asks more of the line: a quarter of repair data, or what is sent again', () => {
    const available = exact(p95Mbps, 'measured', '');
    const mended = (repair: string, percent: number) => on({ available, loss: exact(percent, 'measured', '') }, { repair }).quality;
    expect(mended('forward', 1)).toBeCloseTo(Math.max(floor, 1 / 1.25), 9);
    expect(mended('resend', 10)).toBeCloseTo(0.9, 9);
    expect(mended('none', 10)).toBeCloseTo(0.9, 9);
    // nine tenths are as much as it is reckoned with
    const all = on({ available: exact(p95Mbps * 20, 'measured', ''), loss: exact(99, 'measured', '') }, { repair: 'none' });
    expect(all.quality).toBe(1);
  });
  test('uneven: frames that come together count less, of the Wi-Fi too where it was measured', () => {
    const held = (spread: number, local: Way['localMs']) => on({ spreadMs: exact(spread, 'measured', ''), localMs: local }).value;
    const still = exact(0.5, 'assumed', '');
    expect(held(200, still)).toBeCloseTo(framesAfterSpread(30, 200), 9);
    expect(held(0, exact(150, 'measured', ''))).toBeCloseTo(framesAfterSpread(30, 150), 9);
    expect(held(100, exact(150, 'measured', ''))).toBeCloseTo(framesAfterSpread(30, 250), 9);
    expect(held(100, exact(150, 'assumed', ''))).toBeCloseTo(framesAfterSpread(30, 100), 9);
  });
  test('whatever takes most is named: loss, an uneven way, the line; what takes less than half a frame is not', () => {
    const limiter = (percent: number, spread: number, share = 10) =>
      on(
        {
          available: exact(p95Mbps * share, 'measured', ''),
          loss: exact(percent, 'measured', ''),
          spreadMs: exact(spread, 'measured', ''),
        },
        { repair: 'none' },
      ).limiter;
    expect([limiter(3, 0), limiter(0, 400), limiter(3, 400), limiter(8, 60)]).toEqual(['loss', 'unsteady way', 'unsteady way', 'loss']);
    expect(limiter(0.05, 0)).toBe('frame cap');
    expect(limiter(0, 35)).toBe('frame cap');
    expect(limiter(0.05, 0, 0.4)).toBe('line');
    expect(limiter(3, 0, 0.4)).toBe('line');
    expect(limiter(12, 0, 0.7)).toBe('loss');
  });
  test('at its ends: with all that may be lost on what it may be narrow, and the other way round', () => {
    const wide = on({
      available: between(p95Mbps * 0.6, p95Mbps * 0.3, p95Mbps * 3, 'computed', ''),
      loss: between(1, 0, 4, 'measured', ''),
      rtt: between(50, 40, 90, 'measured', ''),
      spreadMs: between(50, 0, 200, 'measured', ''),
    });
    const at = (share: number, percent: number, rttMs: number, spread: number) => {
      const { fps } = framesOnLine(share * (1 - percent / 100), 1, 30, floor);
      return framesAfterSpread(framesAfterLoss({ fps, frameBits, repair: 'resend', ...loss(percent, { rttMs }) }).fps, spread);
    };
    expect(wide.value).toBeCloseTo(at(0.6, 1, 50, 50), 6);
    expect(wide.low).toBeCloseTo(at(0.3, 4, 90, 200), 6);
    expect(wide.high).toBeCloseTo(at(3, 0, 40, 0), 6);
    expect(wide.high).toBe(30);
    expect(wide.resentMs.low).toBe(0);
    expect(wide.resentWorstMs.high).toBeGreaterThan(wide.resentWorstMs.value);
  });
  test('where nothing is taken off, it does not get better than that', () => {
    const even = on({ available: between(p95Mbps * 2, p95Mbps * 1.2, p95Mbps * 9, 'measured', '') });
    expect(even).toMatchObject({ value: 30, low: 30, high: 30 });
  });
  test('without a rate nothing is known', () => {
    expect(on({ available: null })).toMatchObject({ value: 30, low: 0, high: 30, quality: 1, missing: 'line rate' });
  });

  describe('what has to be known, where the worst end is worse', () => {
    const narrow = between(p95Mbps * 2, p95Mbps * 0.3, p95Mbps * 4, 'computed', '');
    const missing = (way: Partial<Way>) => on({ available: narrow, ...way }).missing;
    test.each<[string, Partial<Way>, string]>([
      ['nobody counted what is lost', { lossKnown: false }, 'loss'],
      ['a loss that may be more than two tenths higher', { loss: between(0.1, 0, 0.31, 'measured', '') }, 'loss'],
      ['one that may not, on a line that many share', { loss: between(0.1, 0, 0.29, 'measured', '') }, 'people at once'],
      ['one that holds the rate', { loss: between(0.1, 0, 0.2, 'measured', ''), bound: 'loss' }, 'loss'],
      ['one that holds the rate and is known', { loss: exact(0.1, 'measured', ''), bound: 'loss' }, 'people at once'],
      ['Wi-Fi that holds it', { bound: 'Wi-Fi' }, 'Wi-Fi signal'],
      ['a line that many share', {}, 'people at once'],
    ])('%s', (_, way, wanted) => expect(missing(way)).toBe(wanted));
    test('the line itself, where its rate is known to the last', () => {
      const spread = between(0, 0, 400, 'assumed', '');
      expect(on({ spreadMs: spread }).missing).toBe('line');
      expect(on({ spreadMs: spread, bound: 'Wi-Fi' }).missing).toBe('line');
      expect(on({ spreadMs: spread, down: null }).missing).toBe('line');
    });
    test('what was missing before stays named', () => {
      const both = framesWith({
        resource: { graphics: true },
        host: { graphics: undefined, drawMs: undefined },
        location: { downMbps: 3 },
      });
      expect(both.missing).toBe('graphics of the host');
    });
  });
});
