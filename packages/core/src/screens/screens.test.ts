import { describe, expect, test } from '@jest/globals';
import { decoderMacroblocksPerS, decodersFromAnswers, h264Level, hevcLevel, portFit, reducedBlanking } from './index.js';

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
    expect(decoderMacroblocksPerS({ codec: 'h264', level: '5.1', chroma444: false })).toBe(983_040);
    expect(decoderMacroblocksPerS({ codec: 'h264', level: '4.1', chroma444: false })).toBe(245_760);
    expect(decoderMacroblocksPerS({ codec: 'hevc', level: '5.1', chroma444: false })).toBe(534_773_760 / 256);
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

  test('2160p60 does not pass HDMI 1.4, 30 Hz does; it passes HDMI 2.0 and DP HBR2, not two lanes of HBR2', () => {
    const screen = { widthPx: 3840, heightPx: 2160, refreshHz: 60, scale: 1 };
    expect(portFit(screen, 'hdmi-1.4')).toMatchObject({ fits: false, highestHz: 30 });
    expect(['hdmi-2.0', 'dp-hbr2', 'usb-c-2-lane'].map((port) => portFit(screen, port as 'dp-hbr2').fits)).toEqual([true, true, false]);
    expect(portFit({ ...screen, widthPx: 1920, heightPx: 1080 }, 'dvi').fits).toBe(true);
  });
});
