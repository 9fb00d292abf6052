import { atOnce, type Counted, type CrossingRef, type Summary } from '@underpass/core';
import { sortSteps } from '../jobs/order.js';

/** A crossing with what it comes to, in the row of its area. */
export interface Result extends Counted {
  readonly ref: CrossingRef;
  /** May become others while its place stays. */
  summary: Summary;
  area: string;
  /** Its place in the list: by the verdict, then by the delay. */
  readonly order: number;
  /** What a search looks through; made when first asked for. */
  text: string | null;
  /** Another one has come for it, or it is no more. */
  isGone: boolean;
}

/** From so many changes on, putting them in their place is work of its own. */
const many = 10_000;
/** So many are gone through between two steps. */
const stride = 8192;

const rank = { blocked: 0, limited: 1, unknown: 2, clear: 3 };
/** More than any delay, ms: a verdict comes before every delay. */
const beyond = 1e7;
/** As one figure: the list is far longer than the machine's caches, and each look into what a result refers to has to be waited for. */
const orderOf = ({ verdict, delayMs }: Summary): number => rank[verdict] * beyond - Math.min(delayMs, beyond - 1);
const worseFirst = (a: Result, b: Result): number => a.order - b.order || (a.ref.id < b.ref.id ? -1 : 1);

/** Results by the id of their crossing, and in the order of the list, worst first. What changed is put in its place when the list is next asked for. */
export class OrderedResults {
  private sorted: Result[] = [];
  private fresh: Result[] = [];
  private gone = 0;
  private isAtWork = false;
  readonly byId = new Map<string, Result>();

  put({ ref, area, summary }: Counted): void {
    const order = orderOf(summary);
    const before = this.byId.get(ref.id);
    if (before?.order === order && before.ref === ref) {
      // most stay where they are
      before.summary = summary;
      before.area = area;
      return;
    }
    if (before) this.leave(before);
    const result = { ref, area, summary, order, text: null, isGone: false };
    this.byId.set(ref.id, result);
    this.fresh.push(result);
  }
  drop(id: string): void {
    const before = this.byId.get(id);
    if (!before) return;
    this.leave(before);
    this.byId.delete(id);
  }
  private leave(before: Result): void {
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
      this.sorted = yield* placed(yield* sortSteps(come, worseFirst), this.sorted);
    } finally {
      this.isAtWork = false;
    }
  }
}

/** A list with those that came put in their places, and without those that are gone, in steps. */
function* placed(come: readonly Result[], list: readonly Result[]): Generator<void, Result[]> {
  // of its full length at once: a list that grows is copied over and over
  const all = new Array<Result>(list.length + come.length);
  let [count, next] = [0, 0];
  for (let i = 0; i < list.length; i++) {
    const result = list[i] as Result;
    if (i % stride === stride - 1) yield;
    if (result.isGone) continue;
    for (let first = come[next]; first && worseFirst(first, result) < 0; first = come[++next]) all[count++] = first;
    all[count++] = result;
  }
  for (; next < come.length; next++) all[count++] = come[next] as Result;
  all.length = count;
  return all;
}
