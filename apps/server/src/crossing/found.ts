import type { CrossingRef, Summary } from '@underpass/core';
import type { Result } from './orderedResults.js';

/** What a crossing comes to now. */
export interface Found {
  readonly ref: CrossingRef;
  readonly summary: Summary;
  /** What stands for it; undefined where nothing does. */
  readonly before: Result | undefined;
}
