import { atOnce, type CrossingRef, type Summary } from '@underpass/core';
import { mergePairs, sortSteps } from '../jobs/order.js';

/** A crossing with what it comes to. */
export interface Result {
  readonly ref: CrossingRef;
  readonly summary: Summary;
  /** What a search looks through; made when first asked for. */
  text: string | null;
  /** Another one has come for it, or it is no more. */
  isGone: boolean;
}

/** From so many changes on, putting them in their place is work of its own. */
const many = 10_000;
/** Where no more than one in so many is new, each is looked up its place; else all are gone through. */
const few = 16;

const rank = { blocked: 0, limited: 1, unknown: 2, clear: 3 };
const worseFirst = (a: Result, b: Result): number =>
  rank[a.summary.verdict] - rank[b.summary.verdict] || b.summary.delayMs - a.summary.delayMs || (a.ref.id < b.ref.id ? -1 : 1);

/** Results by the id of their crossing, and in the order of the list, worst first. What changed is put in its place when the list is next asked for. */
export class OrderedResults {
  private sorted: Result[] = [];
  private fresh: Result[] = [];
  private gone = 0;
  private isAtWork = false;
  readonly byId = new Map<string, Result>();

  put(ref: CrossingRef, summary: Summary): void {
    this.leave(ref.id);
    const result = { ref, summary, text: null, isGone: false };
    this.byId.set(ref.id, result);
    this.fresh.push(result);
  }
  drop(id: string): void {
    this.leave(id);
    this.byId.delete(id);
  }
  private leave(id: string): void {
    const before = this.byId.get(id);
    if (!before) return;
    before.isGone = true;
    this.gone++;
  }
  /** Names changed, so that what was made to search through is no more. */
  forgetTexts(): void {
    for (const result of this.byId.values()) result.text = null;
  }

  /** Whether so much changed that putting it in its place would hold up whoever asks for the list next. */
  get isLong(): boolean {
    return this.fresh.length > many;
  }

  /** Of many that changed the list of before is told until their work is done. */
  list(): readonly Result[] {
    if (!this.isLong && !this.isAtWork) atOnce(this.work());
    return this.sorted;
  }

  /** Puts what changed in its place, in steps, so that whoever waits can be served between them. */
  *work(): Generator<void, void> {
    if (this.fresh.length === 0 && this.gone === 0) return;
    const come = this.fresh.filter(({ isGone }) => !isGone);
    this.fresh = [];
    this.gone = 0;
    // what comes between the steps waits for the next time, or its place would be lost
    this.isAtWork = true;
    try {
      const sorted = yield* sortSteps(come, worseFirst);
      if (sorted.length * few < this.sorted.length) this.sorted = placed(sorted, this.sorted);
      else {
        const [all = []] = yield* mergePairs([sorted, this.sorted.filter(({ isGone }) => !isGone)], worseFirst);
        this.sorted = all;
      }
    } finally {
      this.isAtWork = false;
    }
  }
}

/** A long list with a few that came put in their places, and without those that are gone. */
function placed(come: readonly Result[], list: readonly Result[]): Result[] {
  // of its full length at once: a list that grows is copied over and over
  const all = new Array<Result>(list.length + come.length);
  let [count, next] = [0, 0];
  const copyTo = (end: number) => {
    for (; next < end; next++) if (!(list[next] as Result).isGone) all[count++] = list[next] as Result;
  };
  for (const result of come) {
    let [low, high] = [next, list.length];
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (worseFirst(list[middle] as Result, result) < 0) low = middle + 1;
      else high = middle;
    }
    copyTo(low);
    all[count++] = result;
  }
  copyTo(list.length);
  all.length = count;
  return all;
}
