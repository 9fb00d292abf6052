import { describe, expect, test } from '@jest/globals';
import { reached, small, type Otherwise } from '../../test/small.js';
import { macroblocks } from '../screens/index.js';
import { computeFigures } from './index.js';

const screen = (widthPx = 1920, heightPx = 1080, more: object = {}) => ({ widthPx, heightPx, refreshHz: 60, ...more });
const session = (otherwise: Otherwise = {}) => computeFigures(small(otherwise)).session;
const of = (screens: object[] | undefined, settings: Record<string, unknown> = {}, endpoint: object = {}) =>
  session({ endpoint: { screens, ...endpoint }, settings });
const sizes = (...given: Parameters<typeof of>) => of(...given).screens.map(({ widthPx, heightPx }) => `${widthPx}x${heightPx}`);
const three = [screen(), screen(2560, 1440), screen(1280, 720)];

describe('screens of a session', () => {
  test('as they are; what is worked on is the largest, the others stand still', () => {
    expect(of(three)).toMatchObject({
      ...{ left: 0, leftBecause: null, shrunk: false, resolutionShare: 1, pixelsOf: 'client' },
      ...{ activePixels: 2560 * 1440, idlePixels: 1920 * 1080 + 1280 * 720 },
      ...{ macroblocks: macroblocks(1920, 1080) + macroblocks(2560, 1440) + macroblocks(1280, 720) },
    });
    expect(of([screen(1920, 1080, { refreshHz: 75 })]).screens).toEqual([
      { nativeWidthPx: 1920, nativeHeightPx: 1080, widthPx: 1920, heightPx: 1080, refreshHz: 75, scale: 1 },
    ]);
    expect(of([screen(1920, 1080, { refreshHz: undefined })]).screens[0]?.refreshHz).toBeNull();
  });
  test('none known or none there: one of full HD is taken', () => {
    expect(of(undefined)).toMatchObject({ native: null, left: 0, activePixels: 1920 * 1080 });
    expect(of([])).toMatchObject({ native: [], activePixels: 1920 * 1080, screens: [{ refreshHz: 60, scale: 1 }] });
  });
  test('measured ones count before told ones, and say themselves what they show', () => {
    const measured = { ...reached, screens: [{ widthPx: 1366, heightPx: 768, scale: 1 }] };
    expect(session({ endpoint: { screens: three }, measured }).screens.map(({ widthPx }) => widthPx)).toEqual([1366]);
  });
  test('one that mirrors another is none more to a session', () => {
    expect(sizes([screen(), screen(2560, 1440, { mirrors: true }), screen(1280, 720)])).toEqual(['1920x1080', '1280x720']);
    expect(of([screen(), screen(2560, 1440, { mirrors: true })])).toMatchObject({ left: 0, activePixels: 1920 * 1080, idlePixels: 0 });
  });
  test('as many as the settings use, and as the client takes', () => {
    const left = (...given: Parameters<typeof of>) => {
      const { screens, left: dark, leftBecause } = of(...given);
      return [screens.length, dark, leftBecause];
    };
    expect(left(three, { 'screens.most': 3 })).toEqual([3, 0, null]);
    expect(left(three, { 'screens.most': 2 })).toEqual([2, 1, 'setting']);
    expect(left(three, { 'screens.use': 'one' })).toEqual([1, 2, 'setting']);
    expect(left(three, { 'screens.arrange': 'the same' })).toEqual([1, 2, 'the same']);
    expect(left(three, {}, { clientKind: 'thin-client firmware' })).toEqual([2, 1, 'client']);
    expect(left([screen(), screen()], {}, { clientKind: 'thin-client firmware' })).toEqual([2, 0, null]);
    expect(left(three, {}, { clientKind: 'browser' })).toEqual([1, 2, 'client']);
  });
  test('a browser that was seen to open a second one takes two, and twice the pixels', () => {
    const can = (secondScreen: boolean) => ({
      ...reached,
      browser: { kind: 'x', version: '1', can: { secondScreen } },
    });
    const browser = (measured: object, clientKind = 'browser') =>
      session({ endpoint: { clientKind, screens: three }, measured: measured as never });
    expect([browser(can(true)).screens.length, browser(can(true)).limits.pixels]).toEqual([2, 2 * 3840 * 2160]);
    expect([browser(can(false)).screens.length, browser(reached).screens.length]).toEqual([1, 1]);
    expect(browser(can(true), 'thin-client firmware').limits.pixels).toBe(2 * 3840 * 2160);
  });
  test('pixels: of client, device and settings the least counts and is named', () => {
    const pixels = (settings: Record<string, unknown>, mostPixels?: number) => {
      const { pixelsOf, limits, screens, leftBecause, left } = of([screen(), screen()], settings, { mostPixels });
      return [pixelsOf, limits.pixels, screens.length, left, leftBecause];
    };
    const client = 6 * 3840 * 2160;
    expect(pixels({})).toEqual(['client', client, 2, 0, null]);
    expect(pixels({}, 2 * 1920 * 1080)).toEqual(['device', 2 * 1920 * 1080, 2, 0, null]);
    expect(pixels({}, 2 * 1920 * 1080 - 1)).toEqual(['device', 2 * 1920 * 1080 - 1, 1, 1, 'pixels']);
    expect(pixels({ 'screens.mostMegapixels': 4 }, 5e6)).toEqual(['setting', 4e6, 1, 1, 'pixels']);
    expect(pixels({ 'screens.mostMegapixels': 5 }, 4e6)).toEqual(['device', 4e6, 1, 1, 'pixels']);
  });
  test('the first is always there, as large as may be, to an even pixel', () => {
    const one = of([screen(7680, 4320), screen()], {}, { mostPixels: 8_294_400 });
    expect(one).toMatchObject({ shrunk: true, left: 1, leftBecause: 'pixels' });
    expect(one.screens[0]).toMatchObject({ nativeWidthPx: 7680, widthPx: 3840, heightPx: 2160 });
    expect(one.resolutionShare).toBeCloseTo(0.5, 9);
    // 1001 × 999 into 500 000: 707.8 × 706.4, down to even
    expect(sizes([screen(1001, 999)], {}, { mostPixels: 500_000 })).toEqual(['706x706']);
  });
  test('held at a height: the shorter side, the other in proportion, to an even pixel', () => {
    expect(sizes([screen(2560, 1440)], { 'picture.heldHeight': 1080 })).toEqual(['1920x1080']);
    expect(sizes([screen(1440, 2560)], { 'picture.heldHeight': 1080 })).toEqual(['1080x1920']);
    expect(sizes([screen(1920, 1080)], { 'picture.heldHeight': 1080 })).toEqual(['1920x1080']);
    expect(sizes([screen(1366, 768)], { 'picture.heldHeight': 721 })).toEqual(['1282x722']);
    expect(of([screen(2560, 1440)], { 'picture.heldHeight': 1080 }).resolutionShare).toBeCloseTo(0.75, 9);
  });
  test('of a fixed size, whatever the screen has; the worst share of several counts', () => {
    const fixed = { 'picture.resolution': 'fixed', 'picture.fixedSize': '1280x1024' };
    expect(sizes(three, fixed)).toEqual(['1280x1024', '1280x1024', '1280x1024']);
    expect(of(three, fixed).resolutionShare).toBeCloseTo(1280 / 2560, 9);
    expect(of([screen(1080, 1920)], fixed).resolutionShare).toBeCloseTo(1280 / 1920, 9);
    expect(sizes(three, { 'picture.fixedSize': '1280x1024' })).toEqual(['1920x1080', '2560x1440', '1280x720']);
  });
  test('scales: as the screens have them or as it is set; of several in a client that takes one, text is wrong', () => {
    const scaled = [screen(1920, 1080, { scale: 1 }), screen(3840, 2160, { scale: 2 })];
    const firmware = { clientKind: 'thin-client firmware' };
    expect(of(scaled).screens.map(({ scale }) => scale)).toEqual([1, 2]);
    expect(of(scaled, { 'screens.scale': '150 %' }).screens.map(({ scale }) => scale)).toEqual([1.5, 1.5]);
    expect([of(scaled).mixedScales, of(scaled, {}, firmware).mixedScales]).toEqual([false, true]);
    expect(of(scaled, { 'screens.oneScale': true }, firmware).mixedScales).toBe(false);
    expect(of(scaled, { 'screens.scale': '150 %' }, firmware).mixedScales).toBe(false);
    expect(of([scaled[0]!, screen()], {}, firmware).mixedScales).toBe(false);
  });
});

describe('codec and transport', () => {
  const codec = (wanted: string, codecs: string[]) => {
    const { codec: got, codecAsked } = session({ gateway: { codecs }, settings: { 'picture.codec': wanted } });
    return [got, codecAsked];
  };
  test('what is asked for where the gateway passes it, else H.264, else the progressive one', () => {
    expect(codec('av1', ['h264', 'av1'])).toEqual(['av1', 'av1']);
    expect(codec('hevc', ['h264', 'av1'])).toEqual(['h264', 'hevc']);
    expect(codec('hevc', ['progressive'])).toEqual(['progressive', 'hevc']);
  });
  test('chroma as it is set', () => {
    const chroma = (value: string) => session({ settings: { 'picture.chroma': value } }).chroma444;
    expect([chroma('4:4:4'), chroma('4:2:0')]).toEqual([true, false]);
  });
  test('UDP unless a setting, the gateway, or what was measured says otherwise, told in that order', () => {
    const transport = (prefer: string, udp: boolean | undefined, passes: boolean | undefined) => {
      const datagrams = passes === undefined ? undefined : { passes, ...(passes ? { sent: 100, lost: 0 } : {}) };
      const measured = { upMbps: 19, datagrams } as never;
      const found = session({ gateway: { udp }, settings: { 'transport.prefer': prefer }, measured });
      return [found.transport, found.transportBecause, found.quic, found.mayBeTcp];
    };
    expect(transport('udp', true, true)).toEqual(['udp', null, false, false]);
    expect(transport('quic', true, true)).toEqual(['udp', null, true, false]);
    expect(transport('tcp', false, false)).toEqual(['tcp', 'setting', false, false]);
    expect(transport('quic', false, false)).toEqual(['tcp', 'gateway', false, false]);
    expect(transport('quic', true, false)).toEqual(['tcp', 'udp does not pass', false, false]);
    expect(transport('udp', true, undefined)).toEqual(['udp', null, false, true]);
    expect(transport('udp', undefined, undefined)).toEqual(['udp', null, false, true]);
    expect(transport('tcp', true, undefined)).toEqual(['tcp', 'setting', false, false]);
  });
});
