import type { SignonStep } from '@underpass/contracts';

/** What one browser has got as far as. */
export interface Visit {
  portal: string;
  person: string;
  kiosk: string | null;
  stage: 'new' | 'guest' | 'second factor' | 'in';
  /** Where to go once signed in. */
  next: string;
  code: string;
  shownAt: number;
  steps: Partial<Record<SignonStep, number>>;
  saw: string[];
  wanted: { resource: string; publication: string } | null;
  waking: { host: string; since: number } | null;
  /** Session to take up; none for a new one. */
  take: string | null;
}

export const emptyVisit = (portal: string, next: string): Visit => ({
  portal,
  person: '',
  kiosk: null,
  stage: 'new',
  next,
  code: '',
  shownAt: performance.now(),
  steps: {},
  saw: [],
  wanted: null,
  waking: null,
  take: null,
});

/** A way on within this portal; anything else leads to its list. */
export const safeNext = (next: string | null, base: string): string =>
  next !== null && next.startsWith(`${base}/`) && !next.includes('\\') && !next.includes('//') ? next : `${base}/resources`;
