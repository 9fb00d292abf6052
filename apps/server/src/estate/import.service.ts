import { Injectable } from '@nestjs/common';
import {
  folderFiles,
  measurementsFile,
  objectKinds,
  referencesOf,
  type Estate,
  type FileProblem,
  type FolderContent,
  type ImportJob,
  type ImportResult,
  type Measurement,
  type ObjectKind,
} from '@underpass/contracts';
import type { Difference, ObjectChange } from '@underpass/core';
import { difference, faultsOfEstate } from '@underpass/core';
import { MessageChannel } from 'node:worker_threads';
import { uuidV7 } from '../database/uuid.js';
import { Reading } from '../edge/reading.service.js';
import { logFailure } from '../problems/lastResort.js';
import { ProblemError } from '../problems/problem.js';
import { ChangeService, mostAheadMs } from './change.service.js';
import { EstateStore } from './estate.store.js';

/** Rejections told in full; above that the number is told. */
const mostRejections = 500;
/** A folder of 50 000 endpoints takes a few seconds. */
const readWithinMs = 60_000;

/** Imports estate folders: read in a worker thread, compared, and written all or nothing. */
@Injectable()
export class ImportService {
  private readonly jobs = new Map<string, ImportJob>();

  constructor(
    private readonly reading: Reading,
    private readonly store: EstateStore,
    private readonly changes: ChangeService,
  ) {}

  job(id: string): ImportJob {
    const job = this.jobs.get(id);
    if (!job) throw new ProblemError(404, 'Not found', 'This import is not known here any more. Start it again.');
    return job;
  }

  /** Starts an import of what was sent: the bytes of an ImportRequest. */
  async start(bytes: Uint8Array, by: string): Promise<ImportJob> {
    if ([...this.jobs.values()].filter((job) => job.state === 'running').length >= 2)
      throw new ProblemError(429, 'Busy', 'Two imports are running. Wait until one is done.');
    const { apply, files } = await this.reading.run('checkImport', { bytes }, { withinMs: readWithinMs });
    if (files === 0) throw new ProblemError(422, 'Nothing to import', 'Choose at least one file of an estate folder.');
    for (const [id, old] of this.jobs) if (this.jobs.size > 20 && old.state !== 'running') this.jobs.delete(id);
    const job: ImportJob = { id: uuidV7(), state: 'running', step: 'reading', done: 0, total: 1 };
    this.jobs.set(job.id, job);
    this.run(job, bytes, apply, by, `Import of ${files} files`).catch((error: Error) => {
      const told = error instanceof ProblemError ? error.problem.detail : null;
      Object.assign(job, {
        state: 'failed',
        message: `${told ?? `The import could not be finished (${logFailure('import', error)}).`} Nothing was changed.`,
      });
    });
    return job;
  }

  /** Imports at once, for the demo estate. @param only asked under the lock: whether it still is to be done */
  async now(files: Record<string, string>, by: string, summary: string, only: () => boolean): Promise<ImportJob> {
    const job: ImportJob = { id: uuidV7(), state: 'running', step: 'reading', done: 0, total: 1 };
    await this.run(job, Buffer.from(JSON.stringify({ files, apply: true })), true, by, summary, only);
    return job;
  }

  private async read(job: ImportJob, bytes: Uint8Array): Promise<FolderContent> {
    const { port1, port2 } = new MessageChannel();
    port1.on('message', (at: { file: string; done: number; total: number }) =>
      Object.assign(job, { step: `reading ${at.file}`, done: at.done, total: at.total }),
    );
    const known = Object.fromEntries(
      objectKinds.map((kind) => [kind, [...this.store.all(kind)].map((object) => (object as { id: string }).id)]),
    ) as Record<ObjectKind, string[]>;
    try {
      return await this.reading.run('readImport', { bytes, known, port: port2 }, { withinMs: readWithinMs, transfer: [port2] });
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

  /** References that were good when the folder was read and are not any more. */
  private lostReferences({ estate, lines }: FolderContent): FileProblem[] {
    const own = new Map(objectKinds.map((kind) => [kind, new Set((estate[kind] as { id: string }[]).map(({ id }) => id))]));
    return objectKinds.flatMap((kind) =>
      (estate[kind] as { id: string }[]).flatMap((object) =>
        referencesOf(kind, object)
          .filter(({ to, id }) => !own.get(to)?.has(id) && !this.store.find(to, id))
          .map(({ field, to, id }) => ({
            file: folderFiles[kind],
            line: lines[kind]?.get(object.id) ?? 1,
            field,
            problem: `no ${to} has the id “${id}” any more`,
            expected: `an id that stands in ${folderFiles[to]}`,
          })),
      ),
    );
  }

  /** What the folder would do to the estate as it is now. */
  private compare(content: FolderContent): { differences: Difference[]; fresh: Measurement[]; problems: FileProblem[] } {
    const known = new Set(this.store.allMeasurements().map((m) => m.id));
    const latest = new Date(Date.now() + mostAheadMs).toISOString();
    return {
      differences: difference(this.store.model.estate, content.estate),
      fresh: content.measurements.filter((m) => !known.has(m.id)),
      problems: [
        ...content.problems,
        ...(content.problems.length ? [] : [...this.lostReferences(content), ...this.wholeProblems(content)]),
        ...content.measurements
          .filter(({ at }) => at > latest)
          .map(({ id }) => ({
            file: measurementsFile,
            line: 1,
            field: 'at',
            problem: `${id} is more than a day from now`,
            expected: 'a time that was',
          })),
      ],
    };
  }

  private async run(
    job: ImportJob,
    bytes: Uint8Array,
    apply: boolean,
    by: string,
    summary: string,
    only: () => boolean = () => true,
  ): Promise<void> {
    const content = await this.read(job, bytes);
    Object.assign(job, { step: 'comparing', done: 0, total: 1 });
    const tell = ({ differences, fresh, problems }: ReturnType<ImportService['compare']>): boolean => {
      job.result = resultOf(differences, problems, fresh.length);
      if (problems.length === 0) return true;
      job.state = 'rejected';
      job.message = 'Nothing was changed. Mend the rows below and import again.';
      return false;
    };
    if (!apply) {
      if (tell(this.compare(content))) job.state = 'checked';
      return;
    }
    await this.changes.locked(async (manager) => {
      if (!only()) return;
      const compared = this.compare(content);
      if (!tell(compared)) return;
      const wanted = compared.differences.filter((d) => d.change !== 'unchanged');
      if (wanted.length + compared.fresh.length === 0) return;
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
      await this.changes.write(manager, writes, uuidV7(), by, summary, null, compared.fresh, (done) => (job.done = done));
    });
    if ((job.state as ImportJob['state']) === 'rejected') return;
    Object.assign(job, { step: 'evaluating', done: 0, total: 1 });
    await this.store.refresh(summary).catch(() => this.store.catchUp(summary));
    job.state = 'applied';
  }
}

function resultOf(differences: readonly Difference[], problems: readonly FileProblem[], measurements: number): ImportResult {
  const count = (change: Difference['change']) => differences.filter((d) => d.change === change).length;
  return {
    added: count('added'),
    changed: count('changed'),
    unchanged: count('unchanged'),
    measurements,
    rejected: problems.slice(0, mostRejections),
    rejectedTotal: problems.length,
    sample: differences.filter((d) => d.change !== 'unchanged').slice(0, 200),
  };
}
