import type { Codec, ContentClass } from '@underpass/contracts';

/** Sizes the rates were measured at, in pixels. */
const sizes = [1280 * 720, 1920 * 1080, 3840 * 2160] as const;

interface MeasuredContent {
  words: string;
  /** Mbit/s at 30 frames a second at the three sizes, after the first frame. */
  mbps: readonly [number, number, number];
  /** Bytes of the first full frame at the three sizes. */
  firstFrameBytes: readonly [number, number, number];
  /** 4:4:4 against 4:2:0. */
  chroma444Factor: number;
  /** How much of it is video to a codec that is made for text. */
  videoShare: number;
}

/**
 * Rates of content classes, measured with a free H.264 encoder (veryfast, zero latency, crf 23, 4:2:0, 8 s); the handbook's
 * table. The first-frame figures come from the same run.
 */
export const contentClasses: Record<ContentClass, MeasuredContent> = {
  still: { words: 'a still page', mbps: [0.09, 0.2, 0.91], firstFrameBytes: [237e3, 546e3, 2194e3], chroma444Factor: 1, videoShare: 0 },
  text: { words: 'scrolling text', mbps: [1.6, 1.8, 5.0], firstFrameBytes: [306e3, 647e3, 2614e3], chroma444Factor: 1, videoShare: 0 },
  window: {
    words: 'windows moved over text',
    mbps: [1.1, 2.3, 11.6],
    firstFrameBytes: [246e3, 565e3, 2244e3],
    chroma444Factor: 1,
    videoShare: 0.2,
  },
  'page-video': {
    words: 'a moving picture in a page',
    mbps: [3.5, 4.3, 6.1],
    firstFrameBytes: [178e3, 490e3, 2139e3],
    chroma444Factor: 1.4,
    videoShare: 0.9,
  },
  video: { words: 'full-screen video', mbps: [4.5, 9.2, 33.5], firstFrameBytes: [32e3, 60e3, 214e3], chroma444Factor: 1.7, videoShare: 1 },
  motion: {
    words: 'detailed full-screen motion',
    mbps: [7.2, 14.4, 47.0],
    firstFrameBytes: [56e3, 106e3, 325e3],
    chroma444Factor: 1.7,
    videoShare: 1,
  },
};

/** Power by which the rate grows with frames a second (fitted to the handbook's 15/30/60 rows). */
export const frameRatePower = 0.7;

/** Interpolates between the measured sizes in log-log, and goes on with the end slopes outside them. */
export function atPixels(values: readonly [number, number, number], pixels: number): number {
  const i = pixels <= sizes[1] ? 0 : 1;
  const [x0, x1, y0, y1] = [sizes[i], sizes[i + 1] as number, values[i] as number, values[i + 1] as number];
  return y0 * Math.pow(pixels / x0, Math.log(y1 / y0) / Math.log(x1 / x0));
}

/** Rate relative to H.264 at equal quality, text and video apart; from memory, assumed. */
const codecFactors: Record<Codec, readonly [text: number, video: number]> = {
  h264: [1, 1],
  hevc: [0.65, 0.62],
  av1: [0.6, 0.55],
  progressive: [1, 5],
  bitmap: [1.2, 8],
};

/**
 * Rate of a codec relative to H.264 at equal quality, between its text and its video figure.
 * @param videoShare 0 (text) to 1 (video)
 * @example ("hevc", 0.2) is 0.65 − 0.2 · 0.03 = 0.644
 */
export const codecFactor = (codec: Codec, videoShare: number): number => {
  const [text, video] = codecFactors[codec];
  return text + (video - text) * videoShare;
};
