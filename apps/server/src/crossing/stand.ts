import { areaOf, BoardTally, LeadingTally, type Counted, type EstateModel } from '@underpass/core';
import type { Found } from './found.js';
import { eachInSlices, inSlices } from '../jobs/slices.js';
import { OrderedResults } from './orderedResults.js';

/** What all crossings come to, in every form in which it is asked for: one by one, as a list, as the Board, as leading findings. */
export class Stand {
  readonly ordered = new OrderedResults();
  readonly tally = new BoardTally();
  readonly leading = new LeadingTally();

  /** Puts results in their places. Of many this is done in slices: each crossing is then told as it is, old or new. */
  async put(found: readonly Found[], model: EstateModel): Promise<void> {
    await eachInSlices(found, ({ ref, summary }) => this.set(ref.id, { ref, area: areaOf(model, ref.location), summary }));
    if (this.ordered.isLong) await inSlices(this.ordered.work());
  }

  /** Counts a crossing in the row of this area. */
  setArea(id: string, area: string): void {
    const before = this.ordered.byId.get(id);
    if (before) this.set(id, { ref: before.ref, area, summary: before.summary });
  }

  drop(id: string): void {
    this.set(id, null);
  }

  private set(id: string, now: Counted | null): void {
    const before = this.ordered.byId.get(id) ?? null;
    this.tally.move(before, now);
    this.leading.move(before, now);
    if (now) this.ordered.put(now);
    else this.ordered.drop(id);
  }
}
