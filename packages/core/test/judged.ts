import { evaluateCrossing, type Evaluation } from '../src/crossing/index.js';
import { reached, small, type Otherwise } from './small.js';

/** A person whose device stays on, so that the time until it is usable is not what decides. */
export const on = { endpoint: { alwaysOn: true } };
/** The one crossing of the small estate, of a device that stays on. */
export const of = (otherwise: Otherwise = {}): Evaluation =>
  evaluateCrossing(small({ ...otherwise, endpoint: { ...on.endpoint, ...(otherwise.endpoint ?? {}) } }));
/** What was measured besides reaching the gateway. */
export const measured = (figures: object): Otherwise => ({ measured: { ...reached, ...figures } as Otherwise['measured'] });
/** The kinds of what is found on it. */
export const kinds = (otherwise: Otherwise): string[] => of(otherwise).findings.map(({ kind }) => kind);
/** Its verdict. */
export const verdict = (otherwise: Otherwise): string => of(otherwise).figures.verdict;
