import type { CrossingRef, FactsReader } from '@underpass/core';
import { setImmediate } from 'node:timers/promises';

/** The longest that others wait for work over the whole estate, ms. */
const sliceMs = 10;
const mostKept = 100;

/** Goes through crossings without holding others up: after every slice of time whoever waits is served first. */
export async function eachInSlices(crossings: readonly CrossingRef[], work: (ref: CrossingRef) => void): Promise<void> {
  let until = performance.now() + sliceMs;
  for (const [i, ref] of crossings.entries()) {
    work(ref);
    if (i % 32 > 0 || performance.now() < until) continue;
    await setImmediate();
    until = performance.now() + sliceMs;
  }
}

/** Answers over the whole estate, each worked out once while the results they rest on stand. */
export class KeptAnswers<T> {
  private reader: FactsReader | null = null;
  private answers = new Map<string, Promise<T>>();

  get(reader: FactsReader, key: string, make: () => Promise<T>): Promise<T> {
    if (this.reader !== reader || this.answers.size >= mostKept) {
      this.reader = reader;
      this.answers = new Map();
    }
    const { answers } = this;
    const known = answers.get(key);
    if (known) return known;
    const answer = make();
    answers.set(key, answer);
    // a failure is not kept
    answer.catch(() => answers.delete(key));
    return answer;
  }
}
