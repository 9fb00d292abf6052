import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { JobView } from '@underpass/contracts';
import { DataSource } from 'typeorm';
import { JobRow } from '../database/entities.js';
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
  input?: Uint8Array;
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

  async start({ kind, name, by, request = {}, input }: NewJob): Promise<JobView> {
    const jobs = this.data.getRepository(JobRow);
    const open = await jobs.countBy([{ state: 'waiting' }, { state: 'running' }]);
    const own = await jobs.countBy([
      { state: 'waiting', byName: by },
      { state: 'running', byName: by },
    ]);
    if (open >= mostOpen || own >= mostOfOne)
      throw new ProblemError(
        429,
        'Busy',
        `${open} pieces of long work wait or run, ${own} of them yours. Wait until some are done, or call some off.`,
      );
    const id = uuidV7();
    await this.data.transaction(async (manager) => {
      await manager.query(
        `INSERT INTO job (id, kind, name, by_name, created_at, state, step, done, total, request, input)
         VALUES ($1, $2, $3, $4, now(), 'waiting', 'waiting', 0, 1, $5, $6)`,
        [id, kind, name.slice(0, 300), by, JSON.stringify(request), input ? Buffer.from(input) : null],
      );
      await manager.query(
        "SELECT graphile_worker.add_job($1, json_build_object('id', $2::text), max_attempts => $3, job_key => $2::text)",
        [task, id, mostAttempts],
      );
    });
    return this.one(id);
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
