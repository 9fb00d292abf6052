import { describe, expect, test } from '@jest/globals';
import { small } from '../../test/small.js';
import { plainLooks } from '../picture/index.js';
import { looksOf, soundMbps } from './looks.js';
import { computeFigures } from './index.js';
import { headersShare } from './wayIn.js';

const { settings } = computeFigures(small());
const device = small().endpoint;
const looks = (more: object) => looksOf({ ...settings, ...more }, device);
const plain = { rate: {}, firstFrame: 1, videoFps: 120, besideMbps: plainLooks.besideMbps, overhead: plainLooks.overhead };
const all = { 'picture.transparency': true, 'picture.dragContents': true, 'picture.animation': true, 'picture.fontSmoothing': true };
const whole = {
  ...all,
  'picture.wallpaper': true,
  'picture.networkHint': 'as set',
  'picture.refineStill': false,
  'media.calmAnimated': false,
};
const of = (more: object) => {
  const found = looks({ ...whole, ...more });
  return found && { ...found, key: undefined };
};

describe('what settings take off a picture and add to it', () => {
  test('nothing where it is as it was measured', () => expect(of({})).toBeUndefined());
  test.each<[string, object, object]>([
    ['without transparency', { 'picture.transparency': false }, { rate: { window: 0.9 } }],
    ['without what is in a window while it is dragged', { 'picture.dragContents': false }, { rate: { window: 0.6 } }],
    ['without animation', { 'picture.animation': false }, { rate: { window: 0.9 } }],
    ['without smooth edges', { 'picture.fontSmoothing': false }, { rate: { text: 0.85, still: 0.95 } }],
    ['without a background picture', { 'picture.wallpaper': false }, { firstFrame: 0.7 }],
    ['what stands still once more without loss', { 'picture.refineStill': true }, { rate: { text: 1.25, window: 1.1 }, firstFrame: 1.8 }],
    ['moving pictures in pages calmed', { 'media.calmAnimated': true }, { rate: { 'page-video': 0.5 } }],
    ['video at most so often', { 'media.videoFrames': 24 }, { videoFps: 24 }],
    ['sound for speech', { 'sound.quality': 'for speech' }, { besideMbps: plainLooks.besideMbps - 0.064 + 0.024 }],
    ['sound in full', { 'sound.quality': 'in full' }, { besideMbps: plainLooks.besideMbps - 0.064 + 0.256 }],
    ['no sound here', { 'sound.play': 'off' }, { besideMbps: plainLooks.besideMbps - 0.064 }],
  ])('%s', (_, more, wanted) => expect(of(more)).toEqual({ key: undefined, ...plain, ...wanted }));
  test('together they multiply', () => {
    const both = of({
      'picture.transparency': false,
      'picture.dragContents': false,
      'picture.refineStill': true,
      'picture.wallpaper': false,
    });
    expect(both?.rate.window).toBeCloseTo(0.9 * 0.6 * 1.1, 12);
    expect(both?.firstFrame).toBeCloseTo(0.7 * 1.8, 12);
  });
  test('what the line is taken for counts before each switch, but for the edges of text', () => {
    const off = { 'picture.transparency': false, 'picture.dragContents': false, 'picture.animation': false, 'picture.wallpaper': false };
    expect(of({ ...off, 'picture.networkHint': 'fast line' })).toBeUndefined();
    expect(of({ ...off, 'picture.networkHint': 'fast line', 'picture.fontSmoothing': false })?.rate).toEqual({ text: 0.85, still: 0.95 });
    const thin = of({ 'picture.networkHint': 'thin line' });
    expect(thin).toMatchObject({ firstFrame: 0.7, rate: { window: expect.closeTo(0.9 * 0.6 * 0.9, 12) } });
    expect(thin?.rate.text).toBeUndefined();
  });
  test('smaller packets and a tunnel put more around each byte', () => {
    const small = { ...settings, ...whole, 'transport.mtu': 1200 };
    expect(looksOf(small as never, device)?.overhead).toBeCloseTo(
      (plainLooks.overhead * headersShare(small as never, device)) / headersShare(null, device),
      12,
    );
    expect(of({ 'transport.mtu': 1200 })!.overhead).toBeGreaterThan(plain.overhead);
    expect(of({ 'transport.wayIn': 'tunnel' })!.overhead).toBeGreaterThan(plain.overhead);
    expect(headersShare(null, device)).toBeCloseTo(1500 / (1500 - 57), 12);
    expect(headersShare({ ...settings, 'transport.mtu': 1400, 'transport.wayIn': 'tunnel' } as never, device)).toBeCloseTo(
      1400 / (1400 - 117),
      12,
    );
  });
  test('the same looks are the same object, told apart by their key; other devices may not follow', () => {
    const calm = { ...settings, ...whole, 'media.calmAnimated': true };
    expect(looksOf(calm as never, device)).toBe(looksOf(calm as never, device));
    expect(looksOf({ ...calm } as never, device)).toBe(looksOf(calm as never, device));
    expect(looks({ ...whole, 'picture.wallpaper': false })?.key).not.toBe(looks({ ...whole, 'media.calmAnimated': true })?.key);
    // a phone takes the session past a tunnel that its settings ask for, where it does not follow them
    const tunnel = { ...settings, ...whole, 'transport.wayIn': 'tunnel' } as never;
    const kinds = (['browser', 'native client', 'thin-client firmware'] as const).flatMap((clientKind) =>
      (['thin', 'desktop', 'mobile'] as const).map((platform) => [clientKind, platform] as const),
    );
    for (const [clientKind, platform] of kinds)
      expect([clientKind, platform, looksOf(tunnel, { ...device, clientKind, platform })?.overhead]).toEqual([
        ...[clientKind, platform],
        looksOf({ ...(tunnel as object) } as never, { ...device, clientKind, platform })?.overhead,
      ]);
  });
  test('sound by how much of it is kept', () => expect(soundMbps).toEqual({ 'for speech': 0.024, balanced: 0.064, 'in full': 0.256 }));
});
