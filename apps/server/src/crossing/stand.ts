import { areaOf, BoardTally, LeadingTally, type Counted, type EstateModel } from '@underpass/core';
import type { Found } from './found.js';
import { eachInSlices, inSlices } from '../jobs/slices.js';
import { OrderedResults, type Result } from './orderedResults.js';

/** What all crossings come to, in every form in which it is asked for: one by one, as a list, as the Board, as leading findings. */
export class Stand {
  readonly ordered = new OrderedResults();
  readonly tally = new BoardTally();
  readonly leading = new LeadingTally();

  /** Puts results in place of what stands. Of many this is done in slices: each crossing is then told as it is, old or new. */
  async put(found: readonly Found[], model: EstateModel): Promise<void> {
    await eachInSlices(found, ({ ref, summary, before }) => {
      const stands = before && !before.isGone ? before : this.ordered.byId.get(ref.id);
      this.move(stands, { ref, area: areaOf(model, ref.location), summary });
    });
    if (this.ordered.isLong) await inSlices(this.ordered.work());
  }

  /** The same where nothing stands yet. */
  async fill(found: readonly Found[], model: EstateModel): Promise<void> {
    await eachInSlices(found, ({ ref, summary }) => this.move(undefined, { ref, area: areaOf(model, ref.location), summary }));
    await inSlices(this.ordered.work());
  }

  /** Counts a crossing in the row of this area. */
  setArea(id: string, area: string): void {
    const before = this.ordered.byId.get(id);
    if (before) this.move(before, { ref: before.ref, area, summary: before.summary });
  }

  drop(id: string): void {
    const before = this.ordered.byId.get(id);
    if (!before) return;
    this.count(before, null);
    this.ordered.drop(id);
  }

  private move(before: Result | undefined, now: Counted): void {
    this.count(before ?? null, now);
    this.ordered.put(now, before);
  }
  private count(before: Counted | null, now: Counted | null): void {
    this.tally.move(before, now);
    this.leading.move(before, now);
  }
}
