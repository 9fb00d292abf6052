import type { Source } from '@underpass/contracts';

/** A figure with the interval it lies in and where it comes from. low = value = high where nothing is uncertain. */
export interface Estimate {
  value: number;
  low: number;
  high: number;
  source: Source | 'computed';
  /** By whom and when, or the source of an assumption. */
  note: string;
  samples?: number | undefined;
  /** The figure that disagrees and is not used. */
  notUsed?: { value: number; source: Source; note: string } | undefined;
}

// Every estimate has the same fields in the same order: evaluation makes millions of them, and that keeps them cheap.
/** A figure that lies in an interval. @param samples how many it rests on */
export const between = (
  value: number,
  low: number,
  high: number,
  source: Estimate['source'],
  note: string,
  samples?: number,
): Estimate => ({ value, low, high, source, note, samples, notUsed: undefined });
/** A figure without doubt. */
export const exact = (value: number, source: Estimate['source'], note: string): Estimate => between(value, value, value, source, note);
/** A default of ours with a spread: wide enough that a threshold inside it counts as not known. */
export const assumed = (value: number, low: number, high: number, note: string): Estimate => between(value, low, high, 'assumed', note);
