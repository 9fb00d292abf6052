import { Injectable } from '@nestjs/common';
import type { Change, JobView } from '@underpass/contracts';
import { ImpactTally, touchOf, type Impact } from '@underpass/core';
import type { JobRow } from '../database/entities.js';
import { PaperService } from '../estate/paper.service.js';
import { JobsService } from '../jobs/jobs.service.js';
import type { Progress } from '../jobs/progress.js';
import { ResultsService } from './results.service.js';
import { eachInSlices } from '../jobs/slices.js';

/** Up to this many objects that a change touches, and crossings there are, it is worked out while it is asked for. */
const fewTouched = 500;
const fewCrossings = 5000;

/** An impact, with the version of the estate that it was worked out on. */
export type ImpactAt = Impact & { version: number };

/** What a change would do to everybody: at once where that is soon done, otherwise as long work. */
@Injectable()
export class ImpactWork {
  constructor(
    private readonly results: ResultsService,
    private readonly paper: PaperService,
    private readonly jobs: JobsService,
  ) {
    jobs.takes('impact', (job, progress) => this.work(job, progress));
  }

  async of(change: Change, by: string): Promise<ImpactAt | { job: JobView }> {
    this.paper.assertGood(change);
    if (this.isSoonDone(change)) return this.tally(change, () => undefined);
    return { job: await this.jobs.start({ kind: 'impact', name: 'Impact of a change', by, request: change }) };
  }

  /** Whether a change touches little enough to be looked at at once. */
  isSoonDone(change: Change): boolean {
    if (this.results.count <= fewCrossings) return true;
    const { model } = this.results.reader.after(change);
    const touch = model.laid && touchOf(model.laid, model, 'results');
    return (
      !touch ||
      (!touch.everything && touch.people.size + touch.endpoints.size + 50 * (touch.locations.size + touch.resources.size) <= fewTouched)
    );
  }

  private async work(job: JobRow, progress: Progress): Promise<ImpactAt> {
    await this.results.standing();
    return this.tally(job.request as Change, (done, total) => progress.at('evaluating', done, total));
  }

  private async tally(change: Change, told: (done: number, total: number) => void): Promise<ImpactAt> {
    const { reader, version } = this.results;
    const tally = new ImpactTally(reader, change, ({ id }) => this.results.summary(id));
    const total = tally.crossings.length;
    let done = 0;
    await eachInSlices(tally.crossings, (ref) => {
      tally.add(ref);
      if (++done % 200 === 0) told(done, total);
    });
    return { version, ...tally.result() };
  }
}
