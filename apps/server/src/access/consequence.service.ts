import { Injectable } from '@nestjs/common';
import type { Change, ConsequenceView, JobStarted, Verdict } from '@underpass/contracts';
import {
  Alike,
  computeFigures,
  consequenceOf,
  evaluateCrossing,
  noCounts,
  sentenceOf,
  type CrossingFacts,
  type FactsReader,
} from '@underpass/core';
import { eachInSlices } from '../jobs/slices.js';
import { ImpactWork } from '../crossing/impactWork.js';
import type { JobRow } from '../database/entities.js';
import { JobsService } from '../jobs/jobs.service.js';
import type { Progress } from '../jobs/progress.js';
import { ResultsService } from '../crossing/results.service.js';
import { PaperService } from '../estate/paper.service.js';
import { ProblemError } from '../problems/problem.js';
import { named } from './naming.js';

const mostRows = 200;
/** Up to so many people are moved while somebody waits. */
const fewMoved = 500;

/** What a change comes to for what people see: whose list changes, and how the crossings that would be new turn out. */
@Injectable()
export class ConsequenceService {
  constructor(
    private readonly results: ResultsService,
    private readonly paper: PaperService,
    private readonly impact: ImpactWork,
    private readonly jobs: JobsService,
  ) {
    jobs.takes('consequence', (job, progress) => this.work(job, progress));
  }

  /** At once where few are touched, otherwise as long work. */
  async of(change: Change, by: string): Promise<ConsequenceView | JobStarted> {
    const manyMoved = change.patches.some(
      (patch) => patch.do === 'move' && (patch.people ?? this.results.reader.model.members.get(patch.leave ?? '') ?? []).length > fewMoved,
    );
    if (manyMoved || !this.impact.isSoonDone(change))
      return {
        job: await this.jobs.start({ kind: 'consequence', name: 'What a change comes to for what people see', by, request: change }),
      };
    this.paper.assertGood(change);
    return this.worked(change, () => undefined);
  }

  private async work(job: JobRow, progress: Progress): Promise<ConsequenceView> {
    await this.results.standing();
    this.paper.assertGood(job.request as Change);
    return this.worked(job.request as Change, (done, total) => progress.at('evaluating', done, total));
  }

  private async worked(change: Change, told: (done: number, total: number) => void): Promise<ConsequenceView> {
    const { reader } = this.results;
    const { model } = reader;
    const after = reader.after(change);
    const writes = after.model.laid?.writes.length ?? 0;
    if (writes === 0) throw new ProblemError(422, 'Nothing to change', 'This changes nobody: they are placed so already.');
    const rows = consequenceOf(model, after.model);
    const names = (ids: readonly string[]) => ids.map((id) => named(model, 'resource', id).name);
    return {
      version: this.results.version,
      writes,
      people: rows.length,
      rows: rows.slice(0, mostRows).map(({ person, gains, loses, desktops }) => ({
        person: named(model, 'person', person),
        gains: names(gains),
        loses: names(loses),
        desktops: names(desktops),
        at: 'next sign-in',
      })),
      ...(await gained(after, new Map(rows.map(({ person, gains }) => [person, new Set(gains)])), told)),
    };
  }
}

/** How a crossing turns out, and what is said of it where it is not clear. */
function turnsOut(facts: CrossingFacts): { verdict: Verdict; sentence: string } {
  const { verdict } = computeFigures(facts);
  return { verdict, sentence: verdict === 'clear' ? '' : sentenceOf(facts, evaluateCrossing(facts)) };
}

/** How the crossings that would be new turn out; of those that are alike, in the words of the first. */
async function gained(
  reader: FactsReader,
  gains: ReadonlyMap<string, ReadonlySet<string>>,
  told: (done: number, total: number) => void,
): Promise<Pick<ConsequenceView, 'verdicts' | 'worst'>> {
  const verdicts = noCounts();
  const worst = new Map<string, { verdict: Exclude<Verdict, 'clear'>; first: string; people: Set<string> }>();
  const alike = new Alike(turnsOut);
  let done = 0;
  await eachInSlices([...gains.keys()], (person) => {
    if (++done % 100 === 0) told(done, gains.size);
    for (const ref of reader.model.crossingsOf(person)) {
      if (!gains.get(person)?.has(ref.resource)) continue;
      const facts = reader.read(ref);
      if (!facts) continue;
      const { verdict, sentence } = alike.of(facts);
      verdicts[verdict]++;
      if (verdict === 'clear') continue;
      const known = worst.get(sentence);
      // somebody with two endpoints is one of them all the same
      if (known) known.people.add(person);
      else worst.set(sentence, { verdict, first: facts.person.name, people: new Set([person]) });
    }
  });
  const order = ['blocked', 'limited', 'unknown'];
  const sentences = [...worst]
    .map(([sentence, { people, ...rest }]) => ({ ...rest, sentence, people: people.size }))
    .sort((x, y) => order.indexOf(x.verdict) - order.indexOf(y.verdict) || y.people - x.people);
  return { verdicts, worst: sentences.slice(0, 8) };
}
