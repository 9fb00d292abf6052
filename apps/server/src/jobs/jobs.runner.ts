import { Inject, Injectable, Logger as NestLogger, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { Logger, run, type Runner, type WorkerEvents } from 'graphile-worker';
import { EventEmitter } from 'node:events';
import pg from 'pg';
import { DataSource } from 'typeorm';
import { CONFIG, type Config } from '../config.js';
import { JobRow } from '../database/entities.js';
import { logFailure } from '../problems/lastResort.js';
import { ProblemError } from '../problems/problem.js';
import { JobsService, task } from './jobs.service.js';
import { Cancelled, Progress } from './progress.js';

/** What a worker takes up at the same time. */
const atOnce = 2;
/** How often a worker says that it lives, and after which silence its work is given to others, ms. */
const beatEveryMs = 2000;
const silentAfterMs = 12_000;

/** Takes up long work from the queue. One that dies over it is noticed by the others, which take the work up again. */
@Injectable()
export class JobRunner implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly logger = new NestLogger('jobs');
  private readonly workers = new Set<string>();
  private runner: Runner | null = null;
  private pool: pg.Pool | null = null;
  private beat: NodeJS.Timeout | null = null;
  private starting: NodeJS.Timeout | null = null;
  private stopped = false;

  constructor(
    @InjectDataSource() private readonly data: DataSource,
    @Inject(CONFIG) private readonly config: Config,
    private readonly jobs: JobsService,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    if (this.config.jobs === 'here') await this.start();
  }

  private async start(): Promise<void> {
    const pool = new pg.Pool({ connectionString: this.config.databaseUrl, max: atOnce + 2, connectionTimeoutMillis: 5000 });
    pool.on('error', () => undefined);
    pool.on('connect', (client) => client.on('error', () => undefined));
    const events = new EventEmitter() as WorkerEvents;
    // work is locked in the name of the pool that a process takes it up with
    events.on('pool:create', ({ workerPool }) => this.workers.add(workerPool.id));
    events.on('pool:release', ({ workerPool }) => this.workers.delete(workerPool.id));
    try {
      this.pool = pool;
      this.runner = await run({
        pgPool: pool,
        concurrency: atOnce,
        noHandleSignals: true,
        pollInterval: 1000,
        events,
        logger: new Logger(() => () => undefined),
        taskList: { [task]: (payload) => this.work((payload as { id: string }).id) },
      });
    } catch (error) {
      this.again(error);
      return;
    }
    this.runner.promise.then(
      () => this.again(null),
      (error: unknown) => this.again(error),
    );
    this.beat ??= setInterval(() => {
      this.live().catch((error: Error) => this.logger.warn(`the queue does not hear that this worker lives: ${error.message}`));
    }, beatEveryMs);
    await this.live();
  }

  /** The queue's own connection is gone, such as with the database: begin anew. */
  private again(error: unknown): void {
    // who stops ends the connections itself, and waits for that
    if (this.stopped) return;
    this.workers.clear();
    this.runner = null;
    const pool = this.pool;
    this.pool = null;
    pool?.end().catch(() => undefined);
    if (error) this.logger.warn(`the queue is out of reach, trying again: ${(error as Error).message}`);
    this.starting = setTimeout(() => {
      this.start().catch((failed: Error) => this.again(failed));
    }, 1000);
  }

  /** Says that the workers here live, and frees the work of those that do not any more. */
  private async live(): Promise<void> {
    const own = [...this.workers];
    if (own.length)
      await this.data.query(
        `INSERT INTO job_worker (id, at) SELECT w, now() FROM unnest($1::text[]) w ON CONFLICT (id) DO UPDATE SET at = now()`,
        [own],
      );
    // also whoever died before it could say that it lives
    const silent = (await this.data.query(
      `WITH gone AS (DELETE FROM job_worker WHERE at < now() - $1 * interval '1 ms' RETURNING id)
       SELECT id FROM gone UNION
       SELECT locked_by FROM graphile_worker.jobs WHERE locked_at < now() - $1 * interval '1 ms' AND locked_by NOT IN (SELECT id FROM job_worker)`,
      [silentAfterMs],
    )) as { id: string }[];
    const ids = silent.map(({ id }) => id);
    if (ids.length) {
      await this.data.query('SELECT graphile_worker.force_unlock_workers($1::text[])', [ids]);
      this.logger.warn(`${ids.length} workers fell silent; their work is taken up again`);
    }
    await this.giveUp();
  }

  /** Work that the queue does not give out again, since every worker that began it died over it. */
  private async giveUp(): Promise<void> {
    const [given] = (await this.data.query(
      `UPDATE job SET state = 'failed', input = NULL, message = $1
       WHERE state IN ('waiting', 'running') AND NOT EXISTS (
         SELECT 1 FROM graphile_worker.jobs q WHERE q.key = job.id::text AND (q.attempts < q.max_attempts OR q.locked_at IS NOT NULL))
       RETURNING id`,
      ['It was begun again and again and never came to an end, so it was given up. Whether it wrote something stands under Changes.'],
    )) as [{ id: string }[], number];
    for (const { id } of given) await this.jobs.tell(id);
  }

  private async work(id: string): Promise<void> {
    const jobs = this.data.getRepository(JobRow);
    const job = await jobs.findOneBy({ id });
    if (!job || !['waiting', 'running'].includes(job.state)) return;
    const progress = new Progress(this.data, id, (told) => this.jobs.tell(told));
    await jobs.update({ id }, { state: 'running' });
    const end = async (set: Partial<Pick<JobRow, 'state' | 'message'>>, result: unknown = null) => {
      await progress.end();
      await this.data.query(
        "UPDATE job SET state = $2, message = $3, result = $4::jsonb, input = NULL, done = CASE $2 WHEN 'done' THEN total ELSE done END WHERE id = $1",
        [id, set.state, set.message ?? null, result === null ? null : JSON.stringify(result)],
      );
      await this.jobs.tell(id);
    };
    try {
      const result = await this.jobs.workOf(job.kind)(job, progress);
      await end({ state: 'done' }, result);
    } catch (error) {
      if (error instanceof Cancelled) return end({ state: 'cancelled', message: 'Called off. Nothing was changed.' });
      if (error instanceof ProblemError) return end({ state: 'failed', message: error.problem.detail });
      await progress.end();
      // while the database is away the work waits for it: the queue gives it out again
      if (!this.stopped && (await this.answers())) {
        await end({ state: 'failed', message: `It could not be finished (${logFailure(job.kind, error)}). Nothing was changed.` });
        return;
      }
      throw error;
    } finally {
      await progress.end();
    }
  }

  private answers(): Promise<boolean> {
    return this.data.query('SELECT 1').then(
      () => true,
      () => false,
    );
  }

  async onApplicationShutdown(): Promise<void> {
    this.stopped = true;
    if (this.beat) clearInterval(this.beat);
    if (this.starting) clearTimeout(this.starting);
    const own = [...this.workers];
    await this.runner?.stop().catch(() => undefined);
    await this.data.query('DELETE FROM job_worker WHERE id = ANY($1::text[])', [own]).catch(() => undefined);
    await this.pool?.end().catch(() => undefined);
  }
}
