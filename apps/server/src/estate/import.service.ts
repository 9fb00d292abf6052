import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import {
  folderFiles,
  objectKinds,
  type Estate,
  type FileProblem,
  type FolderContent,
  type ImportJob,
  type ImportResult,
  type ObjectKind,
} from '@underpass/contracts';
import type { Difference, ObjectChange } from '@underpass/core';
import { difference, faultsOfEstate } from '@underpass/core';
import { Piscina } from 'piscina';
import { DataSource } from 'typeorm';
import { MessageChannel } from 'node:worker_threads';
import { uuidV7 } from '../database/uuid.js';
import { ProblemError } from '../problems/problem.js';
import { ChangeService } from './change.service.js';
import { EstateStore } from './estate.store.js';

/** Rejections told in full; above that the number is told. */
const mostRejections = 500;

/** Imports estate folders: read in a worker thread, compared, and written all or nothing. */
@Injectable()
export class ImportService implements OnApplicationShutdown {
  private readonly logger = new Logger('import');
  private readonly jobs = new Map<string, ImportJob>();
  private pool: Piscina | null = null;

  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
    private readonly changes: ChangeService,
  ) {}

  async onApplicationShutdown(): Promise<void> {
    await this.pool?.destroy();
  }

  job(id: string): ImportJob {
    const job = this.jobs.get(id);
    if (!job) throw new ProblemError(404, 'Not found', 'This import is not known here any more. Start it again.');
    return job;
  }

  start(files: Record<string, string>, apply: boolean, by: string): ImportJob {
    if (Object.keys(files).length === 0) throw new ProblemError(422, 'Nothing to import', 'Choose at least one file of an estate folder.');
    if ([...this.jobs.values()].filter((job) => job.state === 'running').length >= 2)
      throw new ProblemError(429, 'Busy', 'Two imports are running. Wait until one is done.');
    for (const [id, old] of this.jobs) if (this.jobs.size > 20 && old.state !== 'running') this.jobs.delete(id);
    const job: ImportJob = { id: uuidV7(), state: 'running', step: 'reading', done: 0, total: 1 };
    this.jobs.set(job.id, job);
    this.run(job, files, apply, by).catch((error: Error) => {
      this.logger.error(error.stack ?? error.message);
      Object.assign(job, { state: 'failed', message: 'The import could not be finished; nothing was changed.' });
    });
    return job;
  }

  /** Imports at once, for the demo estate and the command line of the server. */
  async now(files: Record<string, string>, by: string, summary: string): Promise<ImportJob> {
    const job: ImportJob = { id: uuidV7(), state: 'running', step: 'reading', done: 0, total: 1 };
    await this.run(job, files, true, by, summary);
    return job;
  }

  private async read(job: ImportJob, files: Record<string, string>): Promise<FolderContent> {
    this.pool ??= new Piscina({
      filename: new URL('./read.worker.js', import.meta.url.replace('/src/', '/dist/')).href,
      maxThreads: 1,
      idleTimeout: 10_000,
    });
    const { port1, port2 } = new MessageChannel();
    port1.on('message', (at: { file: string; done: number; total: number }) =>
      Object.assign(job, { step: `reading ${at.file}`, done: at.done, total: at.total }),
    );
    const known = Object.fromEntries(
      objectKinds.map((kind) => [kind, [...this.store.all(kind)].map((object) => (object as { id: string }).id)]),
    );
    try {
      return (await this.pool.run({ files, known, port: port2 }, { transferList: [port2] })) as FolderContent;
    } finally {
      port1.close();
    }
  }

  /** What is wrong only in the whole, together with what is here already. */
  private wholeProblems({ estate, lines, problems }: FolderContent): FileProblem[] {
    if (problems.length) return [];
    const together = <K extends ObjectKind>(kind: K): Estate[K] => {
      const objects = new Map((this.store.model.estate[kind] as { id: string }[]).map((object) => [object.id, object]));
      for (const object of estate[kind] as { id: string }[]) objects.set(object.id, object);
      return [...objects.values()] as Estate[K];
    };
    const whole = {
      group: together('group'),
      publication: together('publication'),
      resource: together('resource'),
      pool: together('pool'),
      person: together('person'),
      requirement: together('requirement'),
    };
    return faultsOfEstate(whole).map(({ kind, id, field, problem, expected }) => ({
      file: folderFiles[kind],
      line: lines[kind]?.get(id) ?? 1,
      field,
      problem,
      expected,
    }));
  }

  private async run(
    job: ImportJob,
    files: Record<string, string>,
    apply: boolean,
    by: string,
    summary = `Import of ${Object.keys(files).length} files`,
  ): Promise<void> {
    const content = await this.read(job, files);
    content.problems.push(...this.wholeProblems(content));
    Object.assign(job, { step: 'comparing', done: 0, total: 1 });
    const differences = difference(this.store.model.estate, content.estate);
    const known = new Set(this.store.allMeasurements().map((m) => m.id));
    const fresh = content.measurements.filter((m) => !known.has(m.id));
    job.result = resultOf(differences, content, fresh.length);
    if (content.problems.length) {
      job.state = 'rejected';
      job.message = 'Nothing was changed. Mend the rows below and import again.';
      return;
    }
    if (!apply) {
      job.state = 'checked';
      return;
    }
    const wanted = differences.filter((d) => d.change !== 'unchanged');
    if (wanted.length + fresh.length > 0) {
      const objects = new Map<ObjectKind, Map<string, object>>(
        objectKinds.map((kind) => [kind, new Map((content.estate[kind] as { id: string }[]).map((o) => [o.id, o]))]),
      );
      const writes: ObjectChange[] = wanted.map(({ kind, id }) => ({
        kind,
        id,
        before: this.store.find(kind, id) ?? null,
        after: objects.get(kind)?.get(id) ?? null,
      }));
      Object.assign(job, { step: 'writing', done: 0, total: writes.length });
      await this.data.transaction((manager) =>
        this.changes.write(manager, writes, uuidV7(), by, summary, null, fresh, (done) => (job.done = done)),
      );
      Object.assign(job, { step: 'evaluating', done: 0, total: 1 });
      await this.store.refresh(summary);
    }
    job.state = 'applied';
  }
}

function resultOf(differences: readonly Difference[], content: FolderContent, measurements: number): ImportResult {
  const count = (change: Difference['change']) => differences.filter((d) => d.change === change).length;
  return {
    added: count('added'),
    changed: count('changed'),
    unchanged: count('unchanged'),
    measurements,
    rejected: content.problems.slice(0, mostRejections),
    rejectedTotal: content.problems.length,
    sample: differences.filter((d) => d.change !== 'unchanged').slice(0, 200),
  };
}
