import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { JobView } from '@underpass/contracts';
import { DataSource, type EntityManager } from 'typeorm';
import { JobRow } from '../database/entities.js';
import { largeBytes } from '../database/largeBytes.js';
import { uuidV7 } from '../database/uuid.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { Channel } from '../events/channel.service.js';
import type { Progress } from './progress.js';

/** Name of the one task that the queue knows; what is to be done stands in the job. */
export const task = 'work';
/** Work of all that may wait or run at the same time. */
const mostOpen = 20;
/** Work of one person that may. */
const mostOfOne = 4;
/** How often work is taken up again after a worker died over it. */
const mostAttempts = 4;

/** What a worker does for a job; resolves to what is told of it. Whoever called it off is told by the progress. */
export type Work = (job: JobRow, progress: Progress) => Promise<unknown>;

export interface NewJob {
  kind: JobView['kind'];
  name: string;
  by: string;
  request?: object;
  /** What was sent along, kept until the work is over. */
  input?: Buffer;
  /** Work of this kind that may wait or run at the same time: of one person, and of all. */
  atMost?: { own: number; all: number };
}

/** Long work, kept in the database: any worker process takes it up, everybody sees how far it is, and it can be called off. */
@Injectable()
export class JobsService {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly channel: Channel,
  ) {}

  private readonly works = new Map<JobView['kind'], Work>();

  /** A subject says how its long work is done, once, when it is made. */
  takes(kind: JobView['kind'], work: Work): void {
    this.works.set(kind, work);
  }

  workOf(kind: JobView['kind']): Work {
    const work = this.works.get(kind);
    if (!work) throw new Error(`nobody takes up work of the kind ${kind}`);
    return work;
  }

  async start({ kind, name, by, request = {}, input, atMost }: NewJob): Promise<JobView> {
    const id = uuidV7();
    await this.data.transaction(async (manager) => {
      // who asks at the same time is counted one after the other
      await manager.query(`SELECT pg_advisory_xact_lock(hashtext('start of long work'))`);
      await assertRoom(manager, kind, by, atMost);
      await manager.query(
        `INSERT INTO job (id, kind, name, by_name, created_at, state, step, done, total, request, input)
         VALUES ($1, $2, $3, $4, now(), 'waiting', 'waiting', 0, 1, $5, $6)`,
        [id, kind, name.slice(0, 300), by, JSON.stringify(request), input ?? null],
      );
      await manager.query(
        "SELECT graphile_worker.add_job($1, json_build_object('id', $2::text), max_attempts => $3, job_key => $2::text)",
        [task, id, mostAttempts],
      );
    });
    return this.one(id);
  }

  /** What was sent with work; null where it is not there any more. */
  inputOf(id: string): Promise<Buffer | null> {
    return largeBytes(this.data, 'job', id);
  }

  async one(id: string): Promise<JobView> {
    const job = await this.data.getRepository(JobRow).findOne({ where: { id }, select: shown });
    if (!job) throw notFound('job', id);
    return viewOf(job);
  }

  /** The latest, newest first, without what they came to. */
  async latest(): Promise<JobView[]> {
    const jobs = await this.data
      .getRepository(JobRow)
      .find({ select: { ...shown, result: false }, order: { createdAt: 'DESC' }, take: 50 });
    return jobs.map(viewOf);
  }

  /** Calls work off: what waits is not begun, what runs stops at its next step and writes nothing. */
  async cancel(id: string): Promise<JobView> {
    await this.data.query(
      `UPDATE job SET cancel = true, state = CASE state WHEN 'waiting' THEN 'cancelled' ELSE state END WHERE id = $1 AND state IN ('waiting', 'running')`,
      [id],
    );
    await this.tell(id);
    return this.one(id);
  }

  async tell(id: string): Promise<void> {
    await this.channel.tell({ type: 'job', id });
  }
}

const busy = (detail: string): ProblemError => new ProblemError(429, 'Busy', detail, undefined, { 'retry-after': '5' });

/** @throws ProblemError 429 where too much waits or runs already */
async function assertRoom(manager: EntityManager, kind: JobView['kind'], by: string, atMost: NewJob['atMost']): Promise<void> {
  const [row] = (await manager.query(
    `SELECT count(*)::int AS open, count(*) FILTER (WHERE by_name = $1)::int AS own, count(*) FILTER (WHERE kind = $2)::int AS same,
       count(*) FILTER (WHERE kind = $2 AND by_name = $1)::int AS "ownSame"
     FROM job WHERE state IN ('waiting', 'running')`,
    [by, kind],
  )) as { open: number; own: number; same: number; ownSame: number }[];
  const { open, own, same, ownSame } = row!;
  if (open >= mostOpen || own >= mostOfOne)
    throw busy(`${open} pieces of long work wait or run, ${own} of them yours. Wait until some are done, or call some off.`);
  if (atMost && (same >= atMost.all || ownSame >= atMost.own))
    throw busy(`Your ${kind} has to wait: ${ownSame ? 'another one of yours' : `${same} others`} run. Try again when that is done.`);
}

const shown = {
  id: true,
  kind: true,
  name: true,
  byName: true,
  createdAt: true,
  state: true,
  step: true,
  done: true,
  total: true,
  message: true,
  result: true,
} as const;

const viewOf = ({ id, kind, name, byName, createdAt, state, step, done, total, message, result }: JobRow): JobView => ({
  id,
  kind,
  name,
  by: byName,
  at: createdAt.toISOString(),
  state,
  step,
  done,
  total,
  message,
  result: (result as unknown) ?? null,
});
