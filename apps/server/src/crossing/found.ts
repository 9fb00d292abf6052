import type { CrossingRef, Summary } from '@underpass/core';

/** What a crossing comes to now, and came to before: undefined where there was none. */
export interface Found {
  readonly ref: CrossingRef;
  readonly summary: Summary;
  readonly before: Summary | undefined;
}
