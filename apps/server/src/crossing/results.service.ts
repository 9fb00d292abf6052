import { Inject, Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import {
  boardOf,
  FactsReader,
  leadingFindings,
  summariseCrossing,
  type Board,
  type CrossingRef,
  type LeadingFinding,
  type Summary,
} from '@underpass/core';
import { Piscina } from 'piscina';
import { Subject, type Subscription } from 'rxjs';
import { DataSource } from 'typeorm';
import { CONFIG, type Config } from '../config.js';
import { EstateStore, type StoreChange } from '../estate/estate.store.js';
import type { EvaluationTask } from './results.worker.js';

/** From this many crossings on, worker threads evaluate; below it the wait for a thread is longer than the work. */
const manyCrossings = 6000;
const threads = 2;

const order = { blocked: 0, limited: 1, unknown: 2, clear: 3 };

interface Result {
  ref: CrossingRef;
  summary: Summary;
  text: string | null;
}

/** Results of all crossings at an estate version. A change evaluates again only what it touches. */
@Injectable()
export class ResultsService implements OnModuleInit, OnApplicationShutdown {
  private readonly logger = new Logger('results');
  private summaries = new Map<string, Summary>();
  private refs = new Map<string, CrossingRef>();
  private pool: Piscina | null = null;
  private work: Promise<void> = Promise.resolve();
  private subscription: Subscription | null = null;
  private stopped = false;
  private derived: { version: number; board: Board; leading: LeadingFinding[] | null } | null = null;
  private ordered: { version: number; results: Result[] } | null = null;
  reader: FactsReader;
  version = 0;
  /** Sent when results stand for a new version. */
  readonly ready = new Subject<{ version: number; cause: string }>();

  constructor(
    private readonly store: EstateStore,
    @InjectDataSource() private readonly data: DataSource,
    @Inject(CONFIG) private readonly config: Config,
  ) {
    this.reader = new FactsReader(store.model, Date.now());
  }

  async onModuleInit(): Promise<void> {
    this.subscription = this.store.changes.subscribe((change) => this.queue(change));
    this.queue({ version: String(this.store.version), cause: 'loaded', locations: 'all' });
    await this.settled();
  }

  async onApplicationShutdown(): Promise<void> {
    this.stopped = true;
    this.subscription?.unsubscribe();
    await this.work.catch(() => undefined);
    await this.pool?.destroy();
  }

  /** Resolves when every change known so far is evaluated. */
  settled(): Promise<void> {
    return this.work;
  }

  private queue(change: StoreChange): void {
    this.work = this.work
      .then(() => this.evaluate(change))
      .catch((error: Error) => {
        // such as a reading thread without its database: everything is evaluated again, until it stands
        this.logger.error(`the crossings could not be evaluated, trying again: ${error.message}`);
        if (!this.stopped) setTimeout(() => this.queue({ ...change, locations: 'all' }), 3000).unref();
      });
  }

  private async evaluate({ version, cause, locations }: StoreChange): Promise<void> {
    const { model } = this.store;
    const reader = new FactsReader(model, Date.now());
    const touched = locations === 'all' ? model.crossings : model.crossings.filter((ref) => locations.has(ref.location));
    const next = new Map<string, Summary>();
    if (locations !== 'all')
      for (const ref of model.crossings) if (!locations.has(ref.location)) keep(next, ref.id, this.summaries.get(ref.id));
    if (touched.length < manyCrossings) {
      for (const ref of touched) {
        const facts = reader.read(ref);
        if (facts) next.set(ref.id, summariseCrossing(facts));
      }
    } else for (const [id, summary] of await this.inThreads(locations === 'all' ? 'all' : [...locations])) next.set(id, summary);
    await this.remember(next, Number(version), cause).catch((error: Error) =>
      this.logger.warn(`the history of verdicts has a gap at version ${version}: ${error.message}`),
    );
    this.summaries = next;
    this.refs = new Map(model.crossings.map((ref) => [ref.id, ref]));
    this.reader = reader;
    this.derived = null;
    this.version = Number(version);
    this.ready.next({ version: this.version, cause });
  }

  private async inThreads(locations: string[] | 'all'): Promise<[string, Summary][]> {
    this.pool ??= new Piscina({
      filename: new URL('./results.worker.js', import.meta.url.replace('/src/', '/dist/')).href,
      maxThreads: threads,
      idleTimeout: 30_000,
    });
    const task = (part: number): EvaluationTask => ({
      databaseUrl: this.config.databaseUrl,
      atMs: Date.now(),
      part,
      parts: threads,
      locations,
    });
    const parts = await Promise.all(
      Array.from({ length: threads }, (_, part) => this.pool?.run(task(part)) as Promise<[string, Summary][]>),
    );
    return parts.flat();
  }

  /** Keeps the history of verdicts: a row where a crossing's result moved, or is new. */
  private async remember(next: ReadonlyMap<string, Summary>, version: number, cause: string): Promise<void> {
    if (version === 0 || next.size > 20_000) return;
    const known = this.summaries.size > 0 ? this.summaries : await this.remembered();
    const moved = [...next].filter(([id, now]) => {
      const before = known.get(id);
      return (
        !before ||
        before.verdict !== now.verdict ||
        Math.abs(before.delayMs - now.delayMs) > 0.5 ||
        Math.abs(before.frameRate - now.frameRate) > 0.2
      );
    });
    if (moved.length === 0) return;
    await this.data.query(
      `INSERT INTO verdict_history (crossing, version, at, verdict, delay_ms, frame_rate, cause)
       SELECT c, $1, now(), v, d, f, $2 FROM unnest($3::text[], $4::text[], $5::real[], $6::real[]) AS t(c, v, d, f) ON CONFLICT DO NOTHING`,
      [
        version,
        cause,
        moved.map(([id]) => id),
        moved.map(([, s]) => s.verdict),
        moved.map(([, s]) => s.delayMs),
        moved.map(([, s]) => s.frameRate),
      ],
    );
  }

  private async remembered(): Promise<Map<string, Pick<Summary, 'verdict' | 'delayMs' | 'frameRate'>>> {
    const rows = await this.data.query(
      'SELECT DISTINCT ON (crossing) crossing, verdict, delay_ms, frame_rate FROM verdict_history ORDER BY crossing, version DESC',
    );
    return new Map(
      (rows as { crossing: string; verdict: Summary['verdict']; delay_ms: number; frame_rate: number }[]).map((row) => [
        row.crossing,
        { verdict: row.verdict, delayMs: row.delay_ms, frameRate: row.frame_rate },
      ]),
    );
  }

  ref(id: string): CrossingRef | undefined {
    return this.refs.get(id);
  }
  summary(id: string): Summary | undefined {
    return this.summaries.get(id);
  }
  /** All results, worst first; sorted once for a version. */
  sorted(): readonly Result[] {
    if (this.ordered?.version !== this.version) {
      const results = [...this.refs.values()].flatMap((ref) => {
        const summary = this.summaries.get(ref.id);
        return summary ? [{ ref, summary, text: null }] : [];
      });
      results.sort(
        (a, b) =>
          order[a.summary.verdict] - order[b.summary.verdict] || b.summary.delayMs - a.summary.delayMs || (a.ref.id < b.ref.id ? -1 : 1),
      );
      this.ordered = { version: this.version, results };
    }
    return this.ordered.results;
  }

  /** The words a search looks through, lower case; made when first asked for. */
  textOf(result: Result): string {
    if (result.text === null) {
      const { people, locations, resources } = this.reader.model;
      const { person, endpoint, location, resource } = result.ref;
      result.text =
        `${people.get(person)?.name ?? ''} ${endpoint} ${locations.get(location)?.name ?? ''} ${resources.get(resource)?.name ?? ''} ${person}`.toLowerCase();
    }
    return result.text;
  }

  board(): Board {
    return this.fresh().board;
  }

  leading(): LeadingFinding[] {
    const derived = this.fresh();
    return (derived.leading ??= leadingFindings(this.reader, [...this.refs.values()], this.summaries, 9));
  }

  private fresh() {
    if (!this.derived || this.derived.version !== this.version)
      this.derived = { version: this.version, board: boardOf(this.reader.model, [...this.refs.values()], this.summaries), leading: null };
    return this.derived;
  }
}

function keep(map: Map<string, Summary>, id: string, summary: Summary | undefined): void {
  if (summary) map.set(id, summary);
}
