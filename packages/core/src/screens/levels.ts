/** H.264 limits [ITU-T H.264 Table A-1]: level, macroblocks a second, frame size in macroblocks. */
export const h264Levels: readonly [level: string, macroblocksPerS: number, frameMacroblocks: number][] = [
  ['1', 1485, 99],
  ['1.1', 3000, 396],
  ['1.2', 6000, 396],
  ['1.3', 11_880, 396],
  ['2', 11_880, 396],
  ['2.1', 19_800, 792],
  ['2.2', 20_250, 1620],
  ['3', 40_500, 1620],
  ['3.1', 108_000, 3600],
  ['3.2', 216_000, 5120],
  ['4', 245_760, 8192],
  ['4.1', 245_760, 8192],
  ['4.2', 522_240, 8704],
  ['5', 589_824, 22_080],
  ['5.1', 983_040, 36_864],
  ['5.2', 2_073_600, 36_864],
  ['6', 4_177_920, 139_264],
  ['6.1', 8_355_840, 139_264],
  ['6.2', 16_711_680, 139_264],
];

/** HEVC limits [ITU-T H.265 Tables A.8, A.9]: level, luma samples a second, luma samples a frame. */
export const hevcLevels: readonly [level: string, samplesPerS: number, frameSamples: number][] = [
  ['1', 552_960, 36_864],
  ['2', 3_686_400, 122_880],
  ['2.1', 7_372_800, 245_760],
  ['3', 16_588_800, 552_960],
  ['3.1', 33_177_600, 983_040],
  ['4', 66_846_720, 2_228_224],
  ['4.1', 133_693_440, 2_228_224],
  ['5', 267_386_880, 8_912_896],
  ['5.1', 534_773_760, 8_912_896],
  ['5.2', 1_069_547_520, 8_912_896],
  ['6', 1_069_547_520, 35_651_584],
  ['6.1', 2_139_095_040, 35_651_584],
  ['6.2', 4_278_190_080, 35_651_584],
];

/**
 * AV1 limits: level, luma samples a second that are shown, luma samples a frame [AV1 specification, Annex A.3; from memory, 2.0 to 3.1
 * too]. VP9 decoders are taken alike.
 */
export const av1Levels: readonly [level: string, samplesPerS: number, frameSamples: number][] = [
  ['2', 4_423_680, 147_456],
  ['2.1', 8_363_520, 278_784],
  ['3', 19_975_680, 665_856],
  ['3.1', 31_950_720, 1_065_024],
  ['4', 70_778_880, 2_359_296],
  ['4.1', 141_557_760, 2_359_296],
  ['5', 267_386_880, 8_912_896],
  ['5.1', 534_773_760, 8_912_896],
  ['5.2', 1_069_547_520, 8_912_896],
  ['5.3', 1_069_547_520, 8_912_896],
  ['6', 1_069_547_520, 35_651_584],
  ['6.1', 2_139_095_040, 35_651_584],
  ['6.2', 4_278_190_080, 35_651_584],
  ['6.3', 4_278_190_080, 35_651_584],
];

/** Macroblocks of 16 × 16 in a picture. */
export const macroblocks = (widthPx: number, heightPx: number): number => Math.ceil(widthPx / 16) * Math.ceil(heightPx / 16);

/** Lowest H.264 level that holds a mode, or null above all. Each side may be at most sqrt(8 · frame size) macroblocks. */
export function h264Level(widthPx: number, heightPx: number, fps: number): string | null {
  const frame = macroblocks(widthPx, heightPx);
  const side = Math.ceil(Math.max(widthPx, heightPx) / 16);
  return h264Levels.find(([, rate, size]) => frame <= size && frame * fps <= rate && side <= Math.sqrt(8 * size))?.[0] ?? null;
}

/** Lowest HEVC level that holds a mode (main tier), or null above all. Sides are at most sqrt(8 · frame samples). */
export function hevcLevel(widthPx: number, heightPx: number, fps: number): string | null {
  const samples = widthPx * heightPx;
  return (
    hevcLevels.find(
      ([, rate, size]) => samples <= size && samples * fps <= rate && Math.max(widthPx, heightPx) <= Math.sqrt(8 * size),
    )?.[0] ?? null
  );
}
