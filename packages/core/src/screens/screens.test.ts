import { describe, expect, test } from '@jest/globals';
import type { Decoder } from '@underpass/contracts';
import {
  clientLimits,
  decodersFromAnswers,
  decodeCapacity,
  levelLimits,
  h264Level,
  hevcLevel,
  needsDecoder,
  portFit,
  reducedBlanking,
  softwareMacroblocksPerS,
} from './index.js';

// [VESA DMT 1.0 rev. 13, modes marked CVT reduced blanking]; values from memory
test.each([
  [1280, 768, 60, 68.25, 1440, 790],
  [1280, 800, 60, 71, 1440, 823],
  [1400, 1050, 60, 101, 1560, 1080],
  [1440, 900, 60, 88.75, 1600, 926],
  [1680, 1050, 60, 119, 1840, 1080],
  [1600, 1200, 60, 130.25, 1760, 1235],
  [1920, 1200, 60, 154, 2080, 1235],
  [1920, 1440, 60, 184.75, 2080, 1481],
  [2560, 1600, 60, 268.5, 2720, 1646],
])('%i × %i at %i has the clock and totals of its published mode', (w, h, hz, clockMhz, totalWidthPx, totalLines) =>
  expect(reducedBlanking(w, h, hz)).toEqual({ clockMhz, totalWidthPx, totalLines }),
);

describe('decoder levels', () => {
  // levels that x264 and x265 wrote, read back with ffprobe -show_entries stream=level
  test.each([
    [1280, 720, 30, '3.1'],
    [1280, 720, 60, '3.2'],
    [1920, 1080, 30, '4'],
    [1920, 1080, 60, '4.2'],
    [2560, 1440, 30, '5'],
    [2560, 1440, 60, '5.1'],
    [3840, 2160, 30, '5.1'],
    [3840, 2160, 60, '5.2'],
  ] as const)('%i × %i at %i needs H.264 level %s', (w, h, fps, level) => expect(h264Level(w, h, fps)).toBe(level));

  test('HEVC levels as x265 writes them; above all levels there is none', () => {
    expect([hevcLevel(1920, 1080, 60), hevcLevel(3840, 2160, 60), hevcLevel(15_000, 15_000, 60)]).toEqual(['4.1', '5.1', null]);
  });

  test('a decoder takes exactly what its level allows', () => {
    expect(levelLimits({ codec: 'h264', level: '5.1' })).toEqual({ macroblocksPerS: 983_040, frameMacroblocks: 36_864 });
    expect(levelLimits({ codec: 'h264', level: '4.1' })).toEqual({ macroblocksPerS: 245_760, frameMacroblocks: 8192 });
    expect(levelLimits({ codec: 'hevc', level: '5.1' })).toEqual({ macroblocksPerS: 534_773_760 / 256, frameMacroblocks: 8_912_896 / 256 });
  });

  // [ITU-T H.264 Table A-1], limits from memory: the largest mode a level holds, and one frame more
  test.each([
    [1280, 720, 30, '3.1', '3.2'],
    [1280, 1024, 42, '3.2', '4'],
    [1920, 1080, 30, '4', '4.2'],
    [1920, 1080, 64, '4.2', '5'],
    [3672, 1536, 26, '5', '5.1'],
    [4096, 2304, 26, '5.1', '5.2'],
    [4096, 2304, 56, '5.2', '6'],
    [8192, 4320, 30, '6', '6.1'],
    [8192, 4320, 60, '6.1', '6.2'],
    [8192, 4320, 120, '6.2', null],
  ])('%i × %i at %i is the most of H.264 level %s', (w, h, fps, level, next) =>
    expect([h264Level(w, h, fps), h264Level(w, h, fps + 1)]).toEqual([level, next]),
  );

  // [ITU-T H.265 Tables A.8 and A.9, main tier], limits from memory
  test.each([
    [1280, 768, 33, '3.1', '4'],
    [2048, 1088, 30, '4', '4.1'],
    [2048, 1088, 60, '4.1', '5'],
    [4096, 2176, 30, '5', '5.1'],
    [4096, 2176, 60, '5.1', '5.2'],
    // level 6 takes no more samples a second than 5.2
    [4096, 2176, 120, '5.2', '6.1'],
    [8192, 4352, 30, '6', '6.1'],
    [8192, 4352, 60, '6.1', '6.2'],
    [8192, 4352, 120, '6.2', null],
  ])('%i × %i at %i is the most of HEVC level %s', (w, h, fps, level, next) =>
    expect([hevcLevel(w, h, fps), hevcLevel(w, h, fps + 1)]).toEqual([level, next]),
  );

  test('no side is longer than the root of eight frames, whichever it is', () => {
    // level 3.1: √(8 · 3600) = 169.7 macroblocks; level 4: √(8 · 8192) = 256 exactly
    expect([h264Level(2704, 16, 1), h264Level(2720, 16, 1), h264Level(16, 2720, 1)]).toEqual(['3.1', '3.2', '3.2']);
    expect([h264Level(4096, 16, 1), h264Level(4112, 16, 1)]).toEqual(['4', '4.2']);
    // level 3.1: √(8 · 983 040) = 2804.3 samples
    expect([hevcLevel(2804, 10, 1), hevcLevel(2805, 10, 1), hevcLevel(10, 2805, 1)]).toEqual(['3.1', '4', '4']);
  });

  test('levels of every codec; one that is in no table is not known, never zero', () => {
    const of = (codec: Decoder['codec'], level: string) => levelLimits({ codec, level })?.macroblocksPerS ?? null;
    // written with a zero or without one
    expect([of('hevc', '4.0'), of('h264', '5.0'), of('h264', '3.0'), of('av1', '6.0')]).toEqual([
      66_846_720 / 256,
      589_824,
      40_500,
      1_069_547_520 / 256,
    ]);
    expect([of('av1', '4.1'), of('vp9', '5.2')]).toEqual([141_557_760 / 256, 1_069_547_520 / 256]);
    expect([of('h264', '1.3'), of('h264', '2'), of('hevc', '3')]).toEqual([11_880, 11_880, 16_588_800 / 256]);
    expect([of('h264', '9'), of('hevc', '3.2'), of('av1', '2.2')]).toEqual([null, null, null]);
  });

  test('on the processor: one core stays free, a full-size core does 2.5 times as much, dearer codecs less', () => {
    const core = 245_760; // 1080p30 of H.264
    const one = { cores: 4, smallProcessor: true };
    expect(softwareMacroblocksPerS('h264', one)).toBe(3 * core);
    expect(softwareMacroblocksPerS('h264', { ...one, smallProcessor: false })).toBe(7.5 * core);
    // a single core cannot give itself up wholly
    expect(softwareMacroblocksPerS('h264', { ...one, cores: 1 })).toBeCloseTo(0.7 * core, 6);
    const effort = (codec: 'bitmap' | 'progressive' | 'hevc' | 'av1') => (3 * core) / softwareMacroblocksPerS(codec, one);
    expect(effort('bitmap')).toBeLessThan(effort('progressive'));
    expect(effort('progressive')).toBeLessThan(1);
    expect([effort('hevc'), effort('av1')].map((n) => Math.round(n * 10) / 10)).toEqual([1.6, 2]);
    expect((['bitmap', 'progressive', 'h264', 'hevc', 'av1'] as const).map(needsDecoder)).toEqual([false, false, true, true, true]);
  });

  test('of several decoders the strongest that has the codec and, where it is asked, the full colour', () => {
    const small = { codec: 'h264', level: '4', chroma444: true } as const;
    const large = { codec: 'h264', level: '5.2', chroma444: false } as const;
    const other = { codec: 'hevc', level: '6.2', chroma444: true } as const;
    const hd = [{ widthPx: 1920, heightPx: 1080 }];
    const uhd = [{ widthPx: 3840, heightPx: 2160 }];
    for (const list of [
      [small, large, other],
      [other, large, small],
    ]) {
      expect(decodeCapacity(list, 'h264', false, hd)).toBe(2_073_600);
      expect(decodeCapacity(list, 'h264', true, hd)).toBe(245_760);
      // level 4 holds 8192 macroblocks of a frame: 1920 × 1088 are 8160, 2160 lines are 32 400
      expect(decodeCapacity(list, 'h264', true, uhd)).toBeNull();
      expect(decodeCapacity(list, 'h264', false, [...uhd, ...hd])).toBe(2_073_600);
    }
    expect(decodeCapacity([large], 'av1', false, hd)).toBeNull();
    expect(decodeCapacity([large], 'h264', true, hd)).toBeNull();
    // a level in no table may hold it
    const odd = { codec: 'h264', level: '9', chroma444: false } as const;
    expect(decodeCapacity([odd], 'h264', false, hd)).toBe('not known');
    expect(decodeCapacity([odd, large], 'h264', false, hd)).toBe(2_073_600);
  });

  test('a picture fits a level by its macroblocks and by its longer side, just so and one more', () => {
    const level4 = [{ codec: 'h264', level: '4', chroma444: false } as const];
    const of = (widthPx: number, heightPx: number) => decodeCapacity(level4, 'h264', false, [{ widthPx, heightPx }]) !== null;
    // 128 × 64 = 8192, and √(8 · 8192) = 256 macroblocks = 4096 px
    expect([of(2048, 1024), of(2048, 1025), of(4096, 512), of(4097, 480), of(512, 4096), of(480, 4097)]).toEqual([
      true,
      false,
      true,
      false,
      true,
      false,
    ]);
  });

  test('the level that a mode proves is the lowest that holds it', () => {
    const modes = {
      '1080p30': [1920, 1080, 30],
      '1080p60': [1920, 1080, 60],
      '2160p30': [3840, 2160, 30],
      '2160p60': [3840, 2160, 60],
    } as const;
    for (const [mode, [w, h, fps]] of Object.entries(modes)) {
      const proven = (codec: Decoder['codec']) =>
        decodersFromAnswers([{ codec, mode: mode as keyof typeof modes, supported: true, smooth: true, hardware: true }])[0]?.level;
      expect(proven('h264')).toBe(h264Level(w, h, fps));
      for (const codec of ['hevc', 'vp9', 'av1'] as const) expect(proven(codec)).toBe(hevcLevel(w, h, fps));
    }
  });

  test('the highest proven mode counts, in whichever order they come; what is not supported proves nothing', () => {
    const answer = (mode: '1080p30' | '2160p30', more = {}) =>
      ({ codec: 'hevc', mode, supported: true, smooth: true, hardware: true, ...more }) as const;
    for (const list of [
      [answer('1080p30'), answer('2160p30')],
      [answer('2160p30'), answer('1080p30')],
    ])
      expect(decodersFromAnswers(list)).toEqual([{ codec: 'hevc', level: '5', chroma444: false }]);
    expect(decodersFromAnswers([answer('2160p30', { supported: false })])).toEqual([]);
  });

  test('a browser’s answers prove a decoder only where it says hardware', () => {
    const answer = { codec: 'h264', supported: true, smooth: true } as const;
    expect(
      decodersFromAnswers([
        { ...answer, mode: '1080p30', hardware: true },
        { ...answer, mode: '2160p60', hardware: false },
      ]),
    ).toEqual([{ codec: 'h264', level: '4', chroma444: false }]);
  });
});

describe('timings and ports', () => {
  // edid-decode --cvt w=W,h=H,fps=60,rb=1
  test.each([
    [1920, 1080, 138.5, 2080, 1111],
    [2560, 1440, 241.5, 2720, 1481],
    [3840, 2160, 533.25, 4000, 2222],
  ])('CVT reduced blanking of %i × %i at 60 Hz', (w, h, clockMhz, totalWidthPx, totalLines) =>
    expect(reducedBlanking(w, h, 60)).toEqual({ clockMhz, totalWidthPx, totalLines }),
  );

  // totals of low modes, where the sync lines of the aspect ratio decide: edid-decode --cvt w=W,h=H,fps=60,rb=1; generators of version
  // 1.1 of the standard have one line less, since its back porch may be of six lines
  test.each([
    [320, 240, 254],
    [320, 180, 195],
    [320, 200, 216],
    [320, 256, 273],
    [400, 240, 257],
    [360, 200, 220],
  ])('lines of %i × %i tell its aspect ratio', (w, h, totalLines) => expect(reducedBlanking(w, h, 60).totalLines).toBe(totalLines));

  test('a width that no character cell holds is cut to whole cells of eight', () => {
    expect(reducedBlanking(1366, 768, 60).totalWidthPx).toBe(1360 + 160);
  });

  test('where the refresh rate is not known, 60 is meant; else the highest common one below it that passes', () => {
    const screen = { widthPx: 3840, heightPx: 2160, scale: 1 };
    expect(portFit(screen, 'hdmi-2.0')).toMatchObject({ fits: true, highestHz: 60 });
    expect(portFit({ ...screen, refreshHz: 144 }, 'hdmi-2.0')).toMatchObject({ fits: false, highestHz: 60 });
    // at 120 Hz the clock is 1097.5 MHz (cvt -r 3840 2160 120): 26.3 Gbit/s of 25.92
    expect(portFit({ ...screen, refreshHz: 144 }, 'dp-hbr3')).toMatchObject({ fits: false, highestHz: 100 });
    // far too large for the port: none
    expect(portFit({ ...screen, widthPx: 15_360, heightPx: 8640 }, 'dvi')).toMatchObject({ fits: false, highestHz: 0 });
    expect(portFit({ ...screen, widthPx: 15_360, heightPx: 8640 }, 'internal').fits).toBe(true);
  });

  test('2160p60 does not pass HDMI 1.4, 30 Hz does; it passes HDMI 2.0 and DP HBR2, not two lanes of HBR2', () => {
    const screen = { widthPx: 3840, heightPx: 2160, refreshHz: 60, scale: 1 };
    expect(portFit(screen, 'hdmi-1.4')).toMatchObject({ fits: false, highestHz: 30 });
    expect(['hdmi-2.0', 'dp-hbr2', 'usb-c-2-lane'].map((port) => portFit(screen, port as 'dp-hbr2').fits)).toEqual([true, true, false]);
    expect(portFit({ ...screen, widthPx: 1920, heightPx: 1080 }, 'dvi').fits).toBe(true);
  });
});

describe('what kinds of client can do (common practice, no source)', () => {
  const { browser, 'native client': native, 'thin-client firmware': firmware } = clientLimits;
  const uhd = 3840 * 2160;

  test('a browser tab is one screen of 2160p at one scale; only the native client takes six, each at its own', () => {
    expect([browser, firmware, native].map(({ screens }) => screens)).toEqual([1, 2, 6]);
    for (const { screens, pixels } of [browser, firmware, native]) expect(pixels).toBe(screens * uhd);
    expect([browser, firmware, native].map(({ oneScale }) => oneScale)).toEqual([true, true, false]);
  });

  test('a browser has no way to a card reader, a scanner or storage, and nothing before the session', () => {
    for (const kind of ['headset', 'camera', 'printer']) expect(browser.carries).toContain(kind);
    const more = ['card-reader', 'scanner', 'storage'];
    for (const kind of more) expect(browser.carries).not.toContain(kind);
    for (const able of [native, firmware]) for (const kind of [...browser.carries, ...more]) expect(able.carries).toContain(kind);
    expect([browser, native, firmware].map(({ preSession }) => preSession)).toEqual([false, true, true]);
  });
});
