import { setImmediate } from 'node:timers/promises';

/** So long works whoever goes through the whole estate before others are served, ms: a small request waits for several of them, one in each of its steps. */
const sliceMs = 5;
const mostKept = 100;

/** Goes through a list without holding others up: after every slice of time whoever waits is served first. */
export async function eachInSlices<T>(list: readonly T[], work: (each: T) => void): Promise<void> {
  let until = performance.now() + sliceMs;
  for (let i = 0; i < list.length; i++) {
    work(list[i] as T);
    if (i % 32 > 0 || performance.now() < until) continue;
    await setImmediate();
    until = performance.now() + sliceMs;
  }
}

/** Goes through work that yields between its steps, in the same way; resolves to what it comes to. */
export async function inSlices<T>(work: Generator<void, T>): Promise<T> {
  let until = performance.now() + sliceMs;
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
    if (performance.now() < until) continue;
    await setImmediate();
    until = performance.now() + sliceMs;
  }
}

/** Answers over the whole estate, each worked out once while what they rest on stands: the results, or the estate. */
export class KeptAnswers<T> {
  private basis: object | null = null;
  private answers = new Map<string, Promise<T>>();

  get(basis: object, key: string, make: () => Promise<T>): Promise<T> {
    if (this.basis !== basis || this.answers.size >= mostKept) {
      this.basis = basis;
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
