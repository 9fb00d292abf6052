import { atOnce, type CrossingRef, type Summary } from '@underpass/core';

/** A crossing with what it comes to; `text` is what a search looks through, made when first asked for. */
export interface Result {
  ref: CrossingRef;
  summary: Summary;
  text: string | null;
}

/** So many are sorted at once. */
const run = 4000;

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
    return this.changed.size > run;
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
    let runs: Result[][] = [];
    const fresh = [...changed.values()].filter((result) => result !== null);
    for (let i = 0; i < fresh.length; i += run) {
      runs.push(fresh.slice(i, i + run).sort(worseFirst));
      yield;
    }
    runs.push(this.sorted.filter(({ ref }) => !changed.has(ref.id)));
    while (runs.length > 1) {
      const next: Result[][] = [];
      for (let i = 0; i < runs.length; i += 2) {
        next.push(merged(runs[i] as Result[], runs[i + 1] ?? []));
        yield;
      }
      runs = next;
    }
    this.sorted = runs[0] ?? [];
  }
}

/** Two sorted lists as one. */
function merged(a: readonly Result[], b: readonly Result[]): Result[] {
  const all: Result[] = [];
  let [i, j] = [0, 0];
  for (;;) {
    const [x, y] = [a[i], b[j]];
    if (!x && !y) return all;
    if (!y || (x && worseFirst(x, y) <= 0)) {
      all.push(x as Result);
      i++;
    } else {
      all.push(y);
      j++;
    }
  }
}
