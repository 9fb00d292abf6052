import { atOnce, type CrossingRef, type Summary } from '@underpass/core';
import { mergePairs, sortSteps } from '../jobs/order.js';

/** A crossing with what it comes to; `text` is what a search looks through, made when first asked for. */
export interface Result {
  ref: CrossingRef;
  summary: Summary;
  text: string | null;
}

/** From so many changes on, putting them in their place is work of its own. */
const many = 4000;

const rank = { blocked: 0, limited: 1, unknown: 2, clear: 3 };
const worseFirst = (a: Result, b: Result): number =>
  rank[a.summary.verdict] - rank[b.summary.verdict] || b.summary.delayMs - a.summary.delayMs || (a.ref.id < b.ref.id ? -1 : 1);

/** Results in the order of the list, worst first. What changed is put in its place when the list is next asked for. */
export class OrderedResults {
  private sorted: Result[] = [];
  private readonly changed = new Map<string, Result | null>();

  put(ref: CrossingRef, summary: Summary): void {
    this.changed.set(ref.id, { ref, summary, text: null });
  }
  drop(id: string): void {
    this.changed.set(id, null);
  }
  /** Names changed, so that what was made to search through is no more. */
  forgetTexts(): void {
    for (const result of this.sorted) result.text = null;
  }

  /** Whether so much changed that putting it in its place would hold up whoever asks for the list next. */
  get isLong(): boolean {
    return this.changed.size > many;
  }

  /** Of many that changed the list of before is told until their work is done. */
  list(): readonly Result[] {
    if (!this.isLong) atOnce(this.work());
    return this.sorted;
  }

  /** Puts what changed in its place, in steps, so that whoever waits can be served between them. */
  *work(): Generator<void, void> {
    if (this.changed.size === 0) return;
    const changed = new Map(this.changed);
    this.changed.clear();
    const fresh = yield* sortSteps(
      [...changed.values()].filter((result) => result !== null),
      worseFirst,
    );
    const [all = []] = yield* mergePairs([fresh, this.sorted.filter(({ ref }) => !changed.has(ref.id))], worseFirst);
    this.sorted = all;
  }
}
