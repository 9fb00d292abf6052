import { percentile } from '../link/percentile.js';

/** A log of frame times summed up, frames a second. */
export interface FrameTimes {
  frames: number;
  averageFps: number;
  medianFps: number;
  /** Mean of the worst 1 % of the frame times, inverted. */
  low1Fps: number;
  low01Fps: number;
  over50ms: number;
}

/** Figures of a frame-time log. A smooth average hides stutter, so the worst 1 % and 0.1 % are told. @param timesMs at least one */
export function summariseFrameTimes(timesMs: readonly number[]): FrameTimes {
  const sorted = [...timesMs].sort((a, b) => a - b);
  const fps = (ms: number) => (ms > 0 ? 1000 / ms : 0);
  const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / Math.max(1, values.length);
  const worst = (share: number) => mean(sorted.slice(-Math.max(1, Math.floor(sorted.length * share))));
  return {
    frames: sorted.length,
    averageFps: fps(mean(sorted)),
    medianFps: sorted.length ? fps(percentile(sorted, 0.5)) : 0,
    low1Fps: fps(worst(0.01)),
    low01Fps: fps(worst(0.001)),
    over50ms: sorted.filter((ms) => ms > 50).length,
  };
}
