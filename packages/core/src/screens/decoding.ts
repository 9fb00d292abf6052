import type { Codec, Decoder, DecodeAnswer } from '@underpass/contracts';
import { av1Levels, h264Levels, hevcLevels, macroblocks } from './levels.js';

/** What a level holds: macroblocks a second, and of a frame (256 luma samples are one). */
export interface LevelLimits {
  macroblocksPerS: number;
  frameMacroblocks: number;
}
const ofSamples = ([level, rate, frame]: readonly [string, number, number]) => [level, rate / 256, frame / 256] as const;
const limits = new Map<string, LevelLimits>(
  [
    ...h264Levels.map((row) => ['h264', ...row] as const),
    ...hevcLevels.map((row) => ['hevc', ...ofSamples(row)] as const),
    ...av1Levels.flatMap((row) => [['av1', ...ofSamples(row)] as const, ['vp9', ...ofSamples(row)] as const]),
  ].map(([codec, level, macroblocksPerS, frameMacroblocks]) => [`${codec}@${level}`, { macroblocksPerS, frameMacroblocks }]),
);

/** What a decoder of this level holds; null for a level that is in no table: that is not known. @example h264 at 3 or 3.0 */
export const levelLimits = ({ codec, level }: Pick<Decoder, 'codec' | 'level'>): LevelLimits | null =>
  limits.get(`${codec}@${level}`) ?? limits.get(`${codec}@${level.replace(/\.0$/, '')}`) ?? null;

/**
 * One core decodes about 1080p30 of H.264 on a small processor (from memory, assumed); a full-size one about 2.5 times that.
 * The other codecs relative to H.264: from memory, assumed.
 */
const coreMacroblocksPerS = 245_760;
const softwareEffort: Record<Codec, number> = { bitmap: 0.3, progressive: 0.4, h264: 1, hevc: 1.6, av1: 2 };

/** The processor that decodes. */
export interface SoftwareDecoding {
  cores: number;
  smallProcessor: boolean;
}
/** Macroblocks a second decoded on the processor, one core left free for the rest. */
export const softwareMacroblocksPerS = (codec: Codec, { cores, smallProcessor }: SoftwareDecoding): number =>
  (Math.max(0.7, cores - 1) * coreMacroblocksPerS * (smallProcessor ? 1 : 2.5)) / softwareEffort[codec];

/** Codecs that are decoded on the processor by their nature. */
export const needsDecoder = (codec: Codec): codec is 'h264' | 'hevc' | 'av1' => codec === 'h264' || codec === 'hevc' || codec === 'av1';

/** A picture of one screen, as a decoder meets it. */
export interface Picture {
  widthPx: number;
  heightPx: number;
}
/** Whether a level holds a picture: its macroblocks, and each side at most sqrt(8 · frame size) of them [H.264 A.3.1, H.265 A.4.1]. */
const holds = ({ frameMacroblocks }: LevelLimits, { widthPx, heightPx }: Picture): boolean =>
  macroblocks(widthPx, heightPx) <= Math.ceil(frameMacroblocks) &&
  Math.ceil(Math.max(widthPx, heightPx) / 16) <= Math.ceil(Math.sqrt(8 * frameMacroblocks));

/**
 * What the strongest decoder takes that fits a codec, full colour where that is asked, and every picture.
 * @returns macroblocks a second of all pictures together; null where there is none; "not known" where it has a level that is in no table
 */
export function decodeCapacity(
  decoders: readonly Decoder[],
  codec: Codec,
  chroma444: boolean,
  pictures: readonly Picture[],
): number | null | 'not known' {
  let best: number | null = null;
  let unknown = false;
  for (const decoder of decoders) {
    if (decoder.codec !== codec || (chroma444 && !decoder.chroma444)) continue;
    const level = levelLimits(decoder);
    if (!level) unknown = true;
    else if (level.macroblocksPerS > (best ?? 0) && pictures.every((picture) => holds(level, picture))) best = level.macroblocksPerS;
  }
  return best ?? (unknown ? 'not known' : null);
}

const provenLevel: Record<string, Record<DecodeAnswer['mode'], string>> = {
  h264: { '1080p30': '4', '1080p60': '4.2', '2160p30': '5.1', '2160p60': '5.2' },
  hevc: { '1080p30': '4', '1080p60': '4.1', '2160p30': '5', '2160p60': '5.1' },
  vp9: { '1080p30': '4', '1080p60': '4.1', '2160p30': '5', '2160p60': '5.1' },
  av1: { '1080p30': '4', '1080p60': '4.1', '2160p30': '5', '2160p60': '5.1' },
};

/** The hardware decoders that a browser's answers prove: for each codec the highest mode decoded in hardware. */
export function decodersFromAnswers(answers: readonly DecodeAnswer[]): Decoder[] {
  const best = new Map<string, Decoder>();
  for (const answer of answers) {
    const level = provenLevel[answer.codec]?.[answer.mode];
    if (!answer.hardware || !answer.supported || !level) continue;
    const known = best.get(answer.codec);
    if (!known || Number(level) > Number(known.level)) best.set(answer.codec, { codec: answer.codec, level, chroma444: false });
  }
  return [...best.values()];
}
