import { describe, expect, test } from '@jest/globals';
import type { Screen } from '@underpass/contracts';
import fc from 'fast-check';
import {
  besideScreen,
  checkDesk,
  clientLimits,
  deskFaultSays,
  deskLines,
  deskSides,
  makePrimary,
  mendsOf,
  mirrorScreen,
  modesThrough,
  passesQuartered,
  pathFit,
  placedAt,
  primaryOf,
  putScreen,
  screenMendSays,
  settledDesk,
  usualModes,
  type DeskFault,
} from '../index.js';

const screen = (more: Partial<Screen> = {}): Screen => ({ widthPx: 1920, heightPx: 1080, refreshHz: 60, scale: 1, ...more });
const uhd = (more: Partial<Screen> = {}) => screen({ widthPx: 3840, heightPx: 2160, ...more });
const native = { client: clientLimits['native client'], thin: false };
const codes = (screens: readonly Screen[], limits: Parameters<typeof checkDesk>[1] = native) =>
  checkDesk(screens, limits).map(({ code }) => code);
const fault = <C extends DeskFault['code']>(code: C, screens: readonly Screen[], limits: Parameters<typeof checkDesk>[1] = native) =>
  checkDesk(screens, limits).find((each): each is Extract<DeskFault, { code: C }> => each.code === code);

describe('the way of a picture', () => {
  // 2160p60 is 533.25 MHz [VESA CVT-RB] × 24 bit = 12.798 Gbit/s, of which HDMI 1.4 carries 8.16 and HDMI 2.0 14.4
  test('the part that carries least decides, the first of equals is named', () => {
    expect(pathFit(uhd())).toBeNull();
    expect(pathFit(uhd({ port: 'hdmi-2.0' }))).toMatchObject({ fits: true, limit: { part: 'port', kind: 'hdmi-2.0' } });
    expect(pathFit(uhd({ port: 'hdmi-2.0', cable: 'hdmi-1.4' }))).toMatchObject({
      ...{ fits: false, neededGbps: 12.798, usableGbps: 8.16, highestHz: 30 },
      limit: { part: 'cable', kind: 'hdmi-1.4' },
    });
    expect(pathFit(uhd({ port: 'dp-hbr2', adapter: 'hdmi-1.4', cable: 'hdmi-1.4', input: 'hdmi-2.0' }))?.limit.part).toBe('adapter');
    expect(pathFit(uhd({ input: 'dvi' }))).toMatchObject({ fits: false, highestHz: 0, limit: { part: 'input', kind: 'dvi' } });
  });

  test('at a quarter of the colours it asks half', () => {
    expect(passesQuartered(uhd({ port: 'hdmi-1.4' }))).toBe(true); // 6.4 of 8.16
    expect(passesQuartered(uhd({ port: 'dvi' }))).toBe(false); // 6.4 of 3.96
    expect(passesQuartered(uhd())).toBe(false);
  });

  test('what gets it through: each way passes when it is tried', () => {
    const mends = mendsOf(uhd({ port: 'hdmi-1.4', cable: 'hdmi-1.4' }));
    expect(mends.map(screenMendSays)).toEqual([
      'Give it a port of HDMI 2.0 and a cable of HDMI 2.0: the mode passes',
      'Use DisplayPort HBR2 all the way: the mode passes',
      '30 Hz at the same size',
      '3440 × 1440 at 60 Hz',
      'Colours at a quarter of the detail, 6.4 of 8.2 Gbit/s, if device and screen can: thin coloured text is blurred',
    ]);
    for (const mend of mends) if (mend.code !== 'quartered') expect(pathFit(mend.screen)?.fits).toBe(true);
    // only the part that limits is another
    expect(mendsOf(uhd({ port: 'hdmi-2.0', cable: 'hdmi-1.4' }))[0]).toMatchObject({ parts: [{ part: 'cable', kind: 'hdmi-2.0' }] });
    // DVI has no better of its plug; nothing carries 8K in full
    expect(mendsOf(uhd({ port: 'dvi' })).map(({ code }) => code)).toEqual(['another way', 'smaller']);
    expect(mendsOf(screen({ widthPx: 7680, heightPx: 4320, port: 'dp-hbr3' })).map(({ code }) => code)).toEqual([
      'slower',
      'smaller',
      'quartered',
    ]);
    expect(mendsOf(uhd({ port: 'dp-hbr2' }))).toEqual([]);
    expect(mendsOf(uhd())).toEqual([]);
  });

  test('which modes pass, largest first', () => {
    const mode = (widthPx: number, heightPx: number, refreshHz: number, more = {}) => ({
      ...{ widthPx, heightPx, refreshHz, interlaced: false, only420: false },
      ...more,
    });
    const modes = [mode(1920, 1080, 60), mode(3840, 2160, 60), mode(3840, 2160, 30), mode(3840, 2160, 50, { only420: true })];
    expect(
      modesThrough(uhd({ port: 'hdmi-1.4' }), modes).map(({ mode: { heightPx, refreshHz }, passes }) => [heightPx, refreshHz, passes]),
    ).toEqual([
      [2160, 60, 'quartered'],
      [2160, 50, 'quartered'],
      [2160, 30, 'whole'],
      [1080, 60, 'whole'],
    ]);
    expect(modesThrough(uhd({ port: 'dvi' }), modes).map(({ passes }) => passes)).toEqual(['no', 'no', 'no', 'whole']);
    expect(modesThrough(uhd(), modes).map(({ passes }) => passes)).toEqual(Array(4).fill('not known'));
    // 1080i: 540 lines at a time
    expect(modesThrough(screen({ port: 'dvi' }), [mode(1920, 1080, 60, { interlaced: true })])[0]?.fit?.neededGbps).toBeLessThan(2);
    expect(usualModes({ widthPx: 1920, heightPx: 1080 })[0]).toMatchObject({ widthPx: 1920, heightPx: 1080, refreshHz: 120 });
    expect(usualModes({ widthPx: 1919, heightPx: 1080 }).every(({ widthPx }) => widthPx < 1920)).toBe(true);
  });
});

describe('an arrangement', () => {
  const row = [screen({ x: 0, y: 0, primary: true }), screen({ x: 1920, y: 0 })];

  test('two that touch are fine', () => {
    expect(codes(row)).toEqual([]);
    expect(codes([screen({ x: 0, y: 0 }), screen({ x: 0, y: 1080 })])).toEqual([]);
    // without places they stand in a row
    expect(codes([screen(), screen(), screen()])).toEqual([]);
  });

  test.each<[string, number, number, DeskFault['code'][], number | null]>([
    ['one pixel apart', 1921, 0, ['gap'], 1],
    ['one pixel upon each other', 1919, 0, ['overlap'], 1],
    ['at a corner', 1920, 1080, ['corner'], null],
    ['past the corner', 1920, 1081, ['gap'], 1],
    ['by one pixel of an edge', 1920, 1079, [], null],
    ['far', -5000, 200, ['gap'], 3080],
  ])('%s', (_, x, y, wanted, byPx) => {
    const faults = checkDesk([row[0]!, screen({ x, y })], native);
    expect(faults.map(({ code }) => code)).toEqual(wanted);
    if (byPx !== null) expect(faults[0]).toMatchObject({ screens: [0, 1], byPx });
  });

  test('a screen with half a place has none: it stands to the right of all, at the height of the primary', () => {
    for (const half of [{ x: 7 }, { y: 7 }])
      expect(placedAt([screen({ x: 0, y: 40, primary: true }), screen(half)])[1]).toMatchObject({ x: 1920, y: 40 });
  });

  test('an island of two is told once, by its nearest', () => {
    const screens = [row[0]!, screen({ x: 2020, y: 0 }), screen({ x: 3940, y: 0 })];
    expect(checkDesk(screens, native)).toEqual([{ code: 'gap', screens: [0, 1], byPx: 100 }]);
  });

  test('the primary one', () => {
    expect(fault('primary not at origin', [screen({ x: 0, y: 0 }), screen({ x: 1920, y: 0, primary: true })])).toMatchObject({
      screens: [1],
      x: 1920,
      y: 0,
    });
    // also where it lies lower alone
    expect(fault('primary not at origin', [screen({ x: 0, y: 1080, primary: true }), screen({ x: 0, y: 0 })])).toMatchObject({
      x: 0,
      y: 1080,
    });
    expect(fault('several primaries', [row[0]!, screen({ x: 1920, y: 0, primary: true })])?.screens).toEqual([0, 1]);
    expect(primaryOf([screen({ x: -1920, y: 0 }), screen({ x: 0, y: 0 })])).toBe(1);
    expect(primaryOf([screen({ mirrors: true }), screen()])).toBe(1);
  });

  test('scales, where the client takes one', () => {
    const mixed = [screen({ scale: 1.5 }), screen()];
    expect(fault('mixed scales', mixed, { client: clientLimits['thin-client firmware'], thin: false })?.scales).toEqual([1, 1.5]);
    expect(codes(mixed)).toEqual([]);
    expect(codes(mixed, { client: clientLimits['thin-client firmware'], oneScaleSet: true, thin: false })).toEqual([]);
  });

  test('text of another size: from one and a quarter on, with the scale of each', () => {
    // letters: 480 ÷ 1920 = 0.25 mm a pixel against 600 ÷ 1920 = 0.3125, which is 1.25 times
    const wide = (widthMm: number, more = {}) => screen({ widthMm, heightMm: 300, ...more });
    expect(fault('text of another size', [wide(480), wide(600)])).toMatchObject({ screens: [0, 1], factor: 1.25 });
    expect(codes([wide(480), wide(599)])).toEqual([]);
    // a scale makes up for it, unless one is set for all
    expect(codes([wide(480), wide(600, { scale: 0.8 })])).toEqual([]);
    expect(codes([wide(480), wide(600, { scale: 0.8 })], { ...native, oneScaleSet: true })).toEqual(['text of another size']);
    expect(codes([wide(480), screen()])).toEqual([]);
  });

  test('mirrors of another shape have black edges; turned ones too', () => {
    expect(codes([screen(), screen({ mirrors: true, widthPx: 3840, heightPx: 2160 })])).toEqual([]);
    expect(fault('mirror of another shape', [screen(), screen({ mirrors: true, heightPx: 1200 })])?.screens).toEqual([1, 0]);
    expect(codes([screen(), screen({ mirrors: true, turned: 90 })])).toEqual(['mirror of another shape']);
  });

  test('limits of client and device: at the limit, and one above', () => {
    const thin = { client: clientLimits['thin-client firmware'], thin: true };
    expect(codes([screen(), screen()], thin)).toEqual(['restart first']);
    expect(fault('too many screens', [screen(), screen(), screen()], thin)).toMatchObject({ screens: [2], most: 2 });
    // what mirrors is none more to the session, but to the device
    expect(codes([screen(), screen(), screen({ mirrors: true })], { ...thin, thin: false })).toEqual([]);
    const two = 2 * 1920 * 1080;
    expect(codes([screen(), screen({ mirrors: true })], { ...native, devicePixels: two })).toEqual([]);
    expect(fault('too many pixels', [screen(), screen({ mirrors: true })], { ...native, devicePixels: two - 1 })).toMatchObject({
      of: 'device',
      pixels: two,
    });
    const one = { client: clientLimits.browser, thin: false };
    expect(codes([uhd()], one)).toEqual([]);
    expect(fault('too many pixels', [uhd({ widthPx: 3856 })], one)).toMatchObject({ of: 'client', most: 3840 * 2160 });
  });

  test('what is wrong is said with names, what keeps a screen dark first', () => {
    const nameOf = (i: number) => `Screen ${i + 1}`;
    const says = (screens: readonly Screen[], limits = native) =>
      checkDesk(screens, limits).map((each) => Object.values(deskFaultSays(each, nameOf)).join(' '));
    expect(says([uhd({ port: 'hdmi-1.4', x: 0, y: 0 }), uhd({ port: 'dvi', x: 3840, y: 2160 })])).toEqual([
      'Screen 1 needs 12.8 Gbit/s; its port (HDMI 1.4) carries 8.2. It falls to 30 Hz, or stays dark.',
      'Screen 2 needs 12.8 Gbit/s; its port (DVI) carries 4.0. It stays dark, or shows a smaller picture.',
      'Screen 1 and Screen 2 meet at a corner only: the pointer does not get across. Give them a part of an edge in common.',
    ]);
  });
});

describe('screens are moved', () => {
  const two = [screen({ x: 0, y: 0, primary: true }), screen({ x: 1920, y: 0 })];
  const at = (screens: readonly Screen[], i: number) => [screens[i]?.x, screens[i]?.y];

  test.each<[string, { x: number; y: number }, [number, number]]>([
    ['near to an edge it is laid upon it', { x: 1950, y: 40 }, [1920, 0]],
    ['at the edge of its reach', { x: 1980, y: 60 }, [1920, 0]],
    ['beyond its reach it stays', { x: 1981, y: 61 }, [1981, 61]],
    ['upon the other it is pushed out the short way', { x: 1700, y: 300 }, [1920, 300]],
    ['from below', { x: 300, y: 900 }, [300, 1080]],
    ['to the left', { x: -1500, y: 200 }, [-1920, 200]],
  ])('%s', (_, to, wanted) => expect(at(putScreen(two, 1, to), 1)).toEqual(wanted));

  test('beside another, on every side', () => {
    expect(deskSides.map((side) => at(besideScreen(two, 1, side, 0), 1))).toEqual([
      [-1920, 0],
      [1920, 0],
      [0, -1080],
      [0, 1080],
    ]);
    // turned, it is as wide as it was high
    expect(at(besideScreen([two[0]!, screen({ turned: 90 })], 1, 'left of', 0), 1)).toEqual([-1080, 0]);
    expect(besideScreen(two, 1, 'left of', 1)).toEqual(two);
  });

  test('another is the primary one, and lies at the origin when it is settled', () => {
    const other = settledDesk(makePrimary(two, 1));
    expect(other.map(({ x, y, primary }) => [x, y, primary])).toEqual([
      [-1920, 0, undefined],
      [0, 0, true],
    ]);
    expect(codes(other)).toEqual([]);
    expect(makePrimary([two[0]!, screen({ mirrors: true })], 1)[1]).toMatchObject({ primary: true });
    expect(makePrimary([two[0]!, screen({ mirrors: true })], 1)[1]).not.toHaveProperty('mirrors');
  });

  test('mirrored it lies upon the primary one, and extended again to the right of all', () => {
    const mirrored = mirrorScreen(two, 1, true);
    // whoever mirrors already goes on when another one begins to
    expect(mirrorScreen([...mirrored, screen({ x: 3840, y: 0 })], 2, true).map(({ mirrors }) => mirrors ?? false)).toEqual([
      false,
      true,
      true,
    ]);
    expect(placedAt(mirrored)[1]).toEqual({ x: 0, y: 0, widthPx: 1920, heightPx: 1080 });
    expect(mirrorScreen(two, 0, true)).toEqual(two);
    expect(placedAt(mirrorScreen(mirrored, 1, false))[1]).toMatchObject({ x: 1920, y: 0 });
    expect(putScreen(mirrored, 1, { x: 5, y: 5 })).toEqual(mirrored);
  });

  const anyScreen = fc.record({
    widthPx: fc.constantFrom(1280, 1920, 2560, 3840),
    heightPx: fc.constantFrom(720, 1080, 1440, 2160),
    scale: fc.constant(1),
    turned: fc.constantFrom(undefined, 90, 180, 270),
  }) as fc.Arbitrary<Screen>;

  test('of any two, one put anywhere is not upon the other; settled, the primary is at the origin and the rest as far from it as before', () => {
    fc.assert(
      fc.property(anyScreen, anyScreen, fc.integer({ min: -6000, max: 6000 }), fc.integer({ min: -6000, max: 6000 }), (a, b, x, y) => {
        const put = putScreen([a, b], 1, { x, y });
        expect(codes(put)).not.toContain('overlap');
        const settled = settledDesk(put);
        const [was, is] = [placedAt(put), placedAt(settled)];
        const first = primaryOf(settled);
        expect([is[first]?.x, is[first]?.y]).toEqual([0, 0]);
        expect([is[1]!.x - is[0]!.x, is[1]!.y - is[0]!.y]).toEqual([was[1]!.x - was[0]!.x, was[1]!.y - was[0]!.y]);
      }),
    );
  });

  test('any number in a row have neither gap nor overlap', () => {
    fc.assert(
      fc.property(fc.array(anyScreen, { minLength: 1, maxLength: 6 }), (screens) => {
        expect(codes(settledDesk(screens))).toEqual([]);
      }),
    );
  });
});

test('an arrangement as it stands in a file of a device', () => {
  const screens = [screen({ x: 1080, y: 0, primary: true, scale: 1.5 }), screen({ x: 0, y: 100, turned: 90 }), screen({ mirrors: true })];
  expect(deskLines(screens)).toEqual([
    { key: 'layout', value: 'extend' },
    { key: 'screen1', value: '1920x1080@60 +0+0 scale 1.5 primary' },
    { key: 'screen2', value: '1920x1080@60 -1080+100 turned 90' },
    { key: 'screen3', value: '1920x1080@60 mirrors' },
  ]);
  expect(deskLines([screen(), screen({ mirrors: true })])[0]?.value).toBe('mirror');
  expect(deskLines([screen()])[0]?.value).toBe('extend');
  expect(deskLines([screen({ refreshHz: undefined })])[1]?.value).toBe('1920x1080 +0+0 primary');
});
