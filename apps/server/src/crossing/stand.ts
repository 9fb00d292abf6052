import { areaOf, BoardTally, LeadingTally, type CrossingRef, type EstateModel, type Summary } from '@underpass/core';
import { eachInSlices, inSlices } from '../jobs/slices.js';
import { OrderedResults } from './orderedResults.js';

/** What all crossings come to, in every form in which it is asked for: one by one, as a list, as the Board, as leading findings. */
export class Stand {
  readonly ordered = new OrderedResults();
  readonly tally = new BoardTally();
  readonly leading = new LeadingTally();

  /** Puts results in their places. Of many this is done in slices: each crossing is then told as it is, old or new. */
  async put(found: readonly [CrossingRef, Summary][], model: EstateModel): Promise<void> {
    await eachInSlices(found, ([ref, summary]) => {
      this.ordered.put(ref, summary);
      this.count(ref, areaOf(model, ref.location), summary);
    });
    if (this.ordered.isLong) await inSlices(this.ordered.work());
  }

  /** Counts a crossing in the row of its area; null takes it out. */
  count(ref: CrossingRef, area: string, summary: Summary | null): void {
    this.tally.set(ref, area, summary);
    this.leading.set(ref, area, summary);
  }

  drop(ref: CrossingRef): void {
    this.ordered.drop(ref.id);
    this.count(ref, '', null);
  }
}
