import type { Summary } from '../crossing/index.js';
import type { CrossingRef } from '../estate/index.js';

/** A crossing as it is counted: what it comes to, in the row of its area. Whoever counts it keeps it until it counts otherwise. */
export interface Counted {
  readonly ref: CrossingRef;
  readonly area: string;
  readonly summary: Summary;
}
