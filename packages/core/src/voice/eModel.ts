/** Codec figures [ITU-T G.113 Appendix I]: equipment impairment and robustness to loss. */
export const voiceCodecs = {
  g711: { ie: 0, bpl: 4.3 },
  'g711-plc': { ie: 0, bpl: 25.1 },
  g729a: { ie: 11, bpl: 19 },
} as const;
/** Codecs with figures in ITU-T G.113 appendix I. */
export type VoiceCodec = keyof typeof voiceCodecs;

/** Result of the E-model: R (0 to 100), MOS (1 to 4.5) and the impairments it took off [ITU-T G.107]. */
export interface VoiceQuality {
  r: number;
  mos: number;
  idd: number;
  ieEff: number;
}

/** Impairment by absolute delay, Idd(Ta) [ITU-T G.107 §7.4]. @param delayMs one way, mouth to ear */
export function delayImpairment(delayMs: number): number {
  if (delayMs <= 100) return 0;
  const x = Math.log2(delayMs / 100);
  return 25 * ((1 + x ** 6) ** (1 / 6) - 3 * (1 + (x / 3) ** 6) ** (1 / 6) + 2);
}

/** Effective equipment impairment at a loss [ITU-T G.107 §7.5]. @param burstRatio 1 for random loss, above for bursts */
export const lossImpairment = (codec: VoiceCodec, lossPercent: number, burstRatio = 1): number => {
  const { ie, bpl } = voiceCodecs[codec];
  return lossPercent <= 0 ? ie : ie + (95 - ie) * (lossPercent / (lossPercent / burstRatio + bpl));
};

/** Mean opinion score of a rating R [ITU-T G.107 Annex B]. */
export function mosOfRating(r: number): number {
  if (r <= 0) return 1;
  if (r >= 100) return 4.5;
  return Math.max(1, 1 + 0.035 * r + r * (r - 60) * (100 - r) * 7e-6);
}

/**
 * Voice quality by the E-model with default values: R = 93.2 − Idd − Ie,eff + A [ITU-T G.107].
 * @param delayMs one way, mouth to ear, 0 and up
 * @param lossPercent 0 to 100
 */
export function voiceQuality(
  delayMs: number,
  lossPercent: number,
  codec: VoiceCodec = 'g711-plc',
  burstRatio = 1,
  advantage = 0,
): VoiceQuality {
  const idd = delayImpairment(delayMs);
  const ieEff = lossImpairment(codec, lossPercent, burstRatio);
  const r = 93.2 - idd - ieEff + advantage;
  return { r, mos: mosOfRating(r), idd, ieEff };
}
