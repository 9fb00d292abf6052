/** The closed word lists and answer types alone, for pages that must stay light: nothing here brings a validator along. */
import type { Bay as BayWord, Verdict as VerdictWord } from './estate/words.js';

export const Verdict = { options: ['clear', 'limited', 'blocked', 'unknown'] as const satisfies readonly VerdictWord[] };
export const Bay = {
  options: ['Desk', 'Endpoint', 'Local network', 'Link', 'Gateway', 'Host', 'Workspace'] as const satisfies readonly BayWord[],
};
export type Verdict = VerdictWord;
export type Bay = BayWord;
export type { CrossingPage, CrossingRow } from './api/answers.js';
