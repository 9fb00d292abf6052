import type { Bay, Verdict } from '@underpass/contracts';
import type { StepDoubt } from './ladder.js';

/** The verdict of one of the four questions. */
export interface Question {
  verdict: Verdict;
  /** The bay that decides. */
  bay: Bay;
}
/** A fact that is not known and decides. */
export type Missing =
  | 'round trips'
  | 'line rate'
  | 'rate upwards'
  | 'loss'
  | 'people at once'
  | 'Wi-Fi signal'
  | 'decoders'
  | 'screens'
  | 'graphics of the host'
  | 'sign-on times'
  | 'host figures'
  | 'what is assumed'
  | StepDoubt;

/** What a crossing is measured by beside whether it opens: a verdict each, with the whole interval. */
export type Aspect = 'delay' | 'sticking' | 'frames' | 'loss' | 'voice' | 'sending' | 'usable' | 'desk';

const worse: Record<Verdict, number> = { blocked: 3, limited: 2, unknown: 1, clear: 0 };
/** The worse of two verdicts: Blocked, then Limited, then Unknown, then Clear. @example ("clear", "unknown") is "unknown" */
export const worstVerdict = (a: Verdict, b: Verdict): Verdict => (worse[b] > worse[a] ? b : a);

/** What nobody found out is at best not known. */
export const unlessUnknown = (verdict: Verdict, known: boolean): Verdict => (known || verdict !== 'clear' ? verdict : 'unknown');
