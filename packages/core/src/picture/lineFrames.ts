import { frameRatePower } from './content.js';

/** What of a picture passes a line. */
export interface OnTheLine {
  fps: number;
  /** Part of the wanted quality the encoder keeps, from its floor to 1. */
  quality: number;
}

/**
 * Frames that pass a line. An adaptive encoder lowers quality first, down to its floor, and only then drops frames; the
 * demand grows with the power 0.7 of the frame rate, so frames fall faster than the rate.
 */
export function framesOnLine(availableMbps: number, neededMbps: number, cap: number, qualityFloor: number): OnTheLine {
  if (neededMbps <= 0 || availableMbps >= neededMbps) return { fps: cap, quality: 1 };
  const share = availableMbps / neededMbps;
  if (share >= qualityFloor) return { fps: cap, quality: share };
  return { fps: cap * Math.pow(share / qualityFloor, 1 / frameRatePower), quality: qualityFloor };
}
