import type { Verdict } from '@underpass/contracts';

/** How many people or crossings have each verdict. */
export type Counts = Record<Verdict, number>;
/** Nobody of any verdict, to be counted up. */
export const noCounts = (): Counts => ({ blocked: 0, limited: 0, unknown: 0, clear: 0 });
