import type { Codec, ContentClass } from '@underpass/contracts';
import { atPixels, codecFactor, contentClasses, frameRatePower } from './content.js';

/** The picture that is sent: sizes in px, frames a second, codec. */
export interface Stream {
  /** Pixels of the screen the work happens on. */
  activePixels: number;
  /** Pixels of the other screens in the session, which mostly stand still. */
  idlePixels: number;
  fps: number;
  codec: Codec;
  chroma444: boolean;
  /** 16, 24 or 32 bit; 16 saves a third of the bits of bitmap codecs only. */
  colourDepth?: number;
  /** What the settings take off and add; nothing where it is left out. */
  looks?: Looks | undefined;
}

/** What of a picture is left out, calmed or sent more exactly, as factors on what was measured. */
export interface Looks {
  /** The same word for the same looks. */
  key: string;
  /** Factor on the rate of each class of content. */
  rate: Partial<Record<ContentClass, number>>;
  firstFrame: number;
  /** Most frames a second of what moves by itself. */
  videoFps: number;
  /** Sound and input beside the picture, Mbit/s. */
  besideMbps: number;
  /** Headers on top of the picture, as a factor. */
  overhead: number;
}

/** What a picture asks of the line, Mbit/s; the first full frame in bytes. */
export interface Demand {
  meanMbps: number;
  /** The busiest twentieth of the time, its mean: what the line must hold. A class of content counts by its part of that twentieth. */
  p95Mbps: number;
  /** Standard deviation between seconds. */
  sdMbps: number;
  /** The part of the mean that is video. */
  videoMbps: number;
  firstFrameBytes: number;
}

/**
 * As it was measured: IP, UDP and TLS headers on top of the picture are about 5 %; common practice, no source. Sound and input of an
 * ordinary session: from memory, assumed.
 */
export const plainLooks: Looks = { key: '', rate: {}, firstFrame: 1, videoFps: Infinity, besideMbps: 0.1, overhead: 1.05 };
/** Part of the time that has to be held at its worst. */
const busiest = 0.05;
/** Seconds of one class vary too: the 95th percentile second is about 1.3 times its mean (assumed). */
const peakWithinClass = 1.3;

function rateOf(content: ContentClass, pixels: number, stream: Stream): number {
  const c = contentClasses[content];
  const looks = stream.looks ?? plainLooks;
  const fps = c.videoShare >= 0.9 && content !== 'motion' ? Math.min(stream.fps, looks.videoFps) : stream.fps;
  const depth = stream.colourDepth === 16 && (stream.codec === 'bitmap' || stream.codec === 'progressive') ? 2 / 3 : 1;
  return (
    atPixels(c.mbps, pixels) *
    Math.pow(fps / 30, frameRatePower) *
    codecFactor(stream.codec, c.videoShare) *
    (stream.chroma444 ? c.chroma444Factor : 1) *
    depth *
    (looks.rate[content] ?? 1) *
    looks.overhead
  );
}

/**
 * Picture demand of a mix of content classes: a person's work shows one class at a time, so the mean is the mix; the busiest twentieth
 * of the time belongs to the class that asks most, as far as it lasts, then to the next, so that nothing leaps when a share grows.
 */
export function pictureDemand(mix: Partial<Record<ContentClass, number>>, stream: Stream): Demand {
  const looks = stream.looks ?? plainLooks;
  const rest = looks.besideMbps + (stream.idlePixels > 0 ? rateOf('still', stream.idlePixels, stream) : 0);
  const parts: { share: number; mbps: number; video: boolean }[] = [];
  let meanMbps = 0;
  let videoMbps = 0;
  let squares = 0;
  let firstFrameBytes = 0;
  for (const key in mix) {
    const content = key as ContentClass;
    const share = mix[content] ?? 0;
    if (share <= 0) continue;
    const mbps = rateOf(content, stream.activePixels, stream);
    const video = contentClasses[content].videoShare >= 0.9;
    parts.push({ share, mbps, video });
    meanMbps += share * mbps;
    squares += share * mbps * mbps;
    if (video) videoMbps += share * mbps;
    const first = contentClasses[content].firstFrameBytes;
    firstFrameBytes +=
      share *
      (atPixels(first, stream.activePixels) +
        (stream.idlePixels > 0 ? atPixels(contentClasses.still.firstFrameBytes, stream.idlePixels) : 0));
  }
  parts.sort((a, b) => b.mbps - a.mbps);
  let left = busiest;
  let peakMbps = 0;
  for (const { share, mbps } of parts) {
    const part = Math.min(share, left);
    peakMbps += (part / busiest) * mbps;
    left -= part;
    if (left <= 1e-12) break;
  }
  return {
    meanMbps: meanMbps + rest,
    p95Mbps: peakMbps * peakWithinClass + rest,
    sdMbps: Math.sqrt(Math.max(0, squares - meanMbps * meanMbps)),
    videoMbps,
    firstFrameBytes: firstFrameBytes * looks.firstFrame * looks.overhead,
  };
}

/**
 * Rate of a video at its source, before it is coded again as a picture, Mbit/s at 720p, 1080p and 2160p; from memory, assumed: the
 * middle of 2.5 to 4, 4 to 8 and 15 to 25.
 */
const sourceMbps = [3.25, 6, 20] as const;
/** The stream of a video that is played on the endpoint: it crosses the line as it is. @returns Mbit/s */
export const videoSourceMbps = (pixels: number, fullScreen: boolean): number =>
  fullScreen ? atPixels(sourceMbps, pixels) : atPixels(sourceMbps, Math.min(pixels, 1280 * 720));
