import type { Organisation, Thresholds, Verdict, WorkKind } from '@underpass/contracts';

/** Thresholds by kind of work; common practice, no source, editable in the estate. Voice: R 80 "satisfied", R 70 "some dissatisfied" [ITU-T G.109]. */
export const shippedThresholds: Record<WorkKind, Thresholds> = {
  office: { keyToPixelMs: 150, framesAtLeast: 20, voiceMosAtLeast: 3.6, usableWithinS: 45 },
  calls: { keyToPixelMs: 150, framesAtLeast: 20, voiceMosAtLeast: 4.0, usableWithinS: 45 },
  video: { keyToPixelMs: 400, framesAtLeast: 24, voiceMosAtLeast: 3.6, usableWithinS: 45 },
  design: { keyToPixelMs: 100, framesAtLeast: 30, voiceMosAtLeast: 3.6, usableWithinS: 90 },
  touch: { keyToPixelMs: 100, framesAtLeast: 30, usableWithinS: 15 },
  status: { keyToPixelMs: 1000, framesAtLeast: 5, usableWithinS: 60 },
};

/** Kinds of work as they are told. */
export const workWords: Record<WorkKind, string> = {
  office: 'office work',
  calls: 'calls all day',
  video: 'video and training',
  design: '3D design',
  touch: 'touch and kiosks',
  status: 'log and status screens',
};

/** What is wanted for a kind of work: the organisation’s own thresholds, else those shipped. */
export const thresholdsFor = (organisation: Organisation, work: WorkKind): Thresholds =>
  organisation.thresholds[work] ?? shippedThresholds[work];

/** Above this loss, percent, a session breaks off again and again, whatever it shows; common practice, no source. Editable in the estate. */
const shippedLossAtMostPercent = 5;
/** The loss that is stood, percent: the estate’s own threshold, else what is shipped. */
export const lossAtMost = ({ lossAtMostPercent }: Thresholds): number => lossAtMostPercent ?? shippedLossAtMostPercent;

/** Whether a figure stays below a limit with all of its interval: Clear, with none: Limited, else Unknown. */
export const atMost = (figure: { low: number; high: number }, limit: number): Verdict =>
  figure.low > limit ? 'limited' : figure.high <= limit ? 'clear' : 'unknown';

/** Whether a figure reaches a limit with all of its interval: Clear, with none: Limited, else Unknown. */
export const atLeast = (figure: { low: number; high: number }, limit: number): Verdict =>
  figure.high < limit ? 'limited' : figure.low >= limit ? 'clear' : 'unknown';
