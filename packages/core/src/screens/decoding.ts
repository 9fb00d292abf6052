import type { Codec, Decoder, DecodeAnswer } from '@underpass/contracts';
import { h264Levels, hevcLevels } from './levels.js';

/** AV1 levels, luma samples a second (from memory of the AV1 specification, Annex A; assumed). VP9 decoders are taken alike. */
const av1SamplesPerS: Record<string, number> = {
  '4': 70_778_880,
  '4.1': 141_557_760,
  '5': 267_386_880,
  '5.1': 534_773_760,
  '5.2': 1_069_547_520,
};

/** Macroblocks a second by codec and level (256 luma samples are one macroblock). */
const capacities = new Map<string, number>([
  ...h264Levels.map(([level, rate]) => [`h264@${level}`, rate] as const),
  ...[...hevcLevels].map(([level, rate]) => [`hevc@${level}`, rate / 256] as const),
  ...['av1', 'vp9'].flatMap((codec) => Object.entries(av1SamplesPerS).map(([level, rate]) => [`${codec}@${level}`, rate / 256] as const)),
]);
/** Levels between those of the tables hold what the next lower one holds. */
const aliases: Record<string, string> = { '4.1': '4', '3.2': '3.1' };

/** Macroblocks a second a decoder of this level takes; 0 for a level that is in no table. */
export const decoderMacroblocksPerS = (decoder: Decoder): number =>
  capacities.get(`${decoder.codec}@${decoder.level}`) ??
  capacities.get(`${decoder.codec}@${aliases[decoder.level] ?? decoder.level.replace('.0', '')}`) ??
  0;

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

/** The strongest decoder for a codec, with full colour where that is asked; undefined where there is none. */
export const fittingDecoder = (decoders: readonly Decoder[], codec: Codec, chroma444: boolean): Decoder | undefined => {
  let best: Decoder | undefined;
  for (const decoder of decoders)
    if (
      decoder.codec === codec &&
      (!chroma444 || decoder.chroma444) &&
      (!best || decoderMacroblocksPerS(decoder) > decoderMacroblocksPerS(best))
    )
      best = decoder;
  return best;
};

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
