import { Injectable } from '@nestjs/common';
import {
  emptyEstate,
  folderFiles,
  kindWords,
  measurementsFile,
  objectKinds,
  referencesOf,
  secretFields,
  type Estate,
  type FileProblem,
  type FolderContent,
  type ImportJob,
  type ImportResult,
  type JobView,
  type Measurement,
  type ObjectKind,
} from '@underpass/contracts';
import type { Difference, ObjectChange } from '@underpass/core';
import { difference } from '@underpass/core';
import { MessageChannel } from 'node:worker_threads';
import type { JobRow } from '../database/entities.js';
import { uuidV7 } from '../database/uuid.js';
import { Reading } from '../edge/reading.service.js';
import { JobsService } from '../jobs/jobs.service.js';
import type { Progress } from '../jobs/progress.js';
import { ProblemError } from '../problems/problem.js';
import { Sealing } from '../secrets/sealing.service.js';
import { ChangeService, mostAheadMs } from './change.service.js';
import { EstateStore } from './estate.store.js';
import { writeSays, type Says } from './said.js';
import { assertLeaving } from './validate.js';
import { faultsOfWhole, judgedTogether } from './whole.js';

/** Rejections told in full; above that the number is told. */
const mostRejections = 500;
/** Rows beyond which the database looks at its tables anew. */
const manyRows = 5000;
/** A folder of 50 000 endpoints takes a few seconds. */
const readWithinMs = 60_000;

const kindsWithSecrets = objectKinds.filter((kind) => secretFields[kind].length);

/** Imports estate folders: read in a worker thread, compared, and written all or nothing. */
@Injectable()
export class ImportService {
  constructor(
    private readonly reading: Reading,
    private readonly store: EstateStore,
    private readonly changes: ChangeService,
    private readonly jobs: JobsService,
    private readonly sealing: Sealing,
  ) {
    jobs.takes('import', (job, progress) => this.work(job, progress));
  }

  async job(id: string): Promise<ImportJob> {
    return importOf(await this.jobs.one(id));
  }

  /** Starts an import of what was sent: the bytes of an ImportRequest. */
  async start(bytes: Uint8Array, by: string): Promise<ImportJob> {
    const { apply, files, seen } = await this.reading.run('checkImport', { bytes }, { withinMs: readWithinMs });
    if (files === 0) throw new ProblemError(422, 'Nothing to import', 'Choose at least one file of an estate folder.');
    const name = `Import of ${files} files`;
    return importOf(
      await this.jobs.start({
        kind: 'import',
        name,
        by,
        request: { apply, seen },
        input: await this.sealing.sealedBytes(bytes),
        atMost: { own: 2, all: 2 },
      }),
    );
  }

  /** The work of an import that was asked for. */
  private async work({ id, request, byName, name }: JobRow, progress: Progress): Promise<Outcome> {
    const input = await this.jobs.inputOf(id);
    const bytes = input && (await this.sealing.openedBytes(input));
    if (!bytes)
      throw new ProblemError(
        422,
        'Nothing to import',
        'What was sent is not here any more, or this worker has another SECRET_KEY than the server. Import again.',
      );
    const { apply, seen } = request as { apply: boolean; seen?: number };
    const told: Told = (step, done, total) => progress.at(step, done, total);
    return this.run(bytes, { apply, by: byName, summary: name, told, ...(seen === undefined ? {} : { seen }) });
  }

  /** Imports at once, for the demo estate. @param only asked under the lock: whether it still is to be done */
  now(files: Record<string, string>, by: string, summary: string, only: () => boolean): Promise<Outcome> {
    return this.run(Buffer.from(JSON.stringify({ files, apply: true })), { apply: true, by, summary, told: () => undefined, only });
  }

  private async read(bytes: Uint8Array, told: Told): Promise<FolderContent> {
    const { port1, port2 } = new MessageChannel();
    let fault: unknown = null;
    port1.on('message', (at: { file: string; done: number; total: number }) => {
      try {
        told(`reading ${at.file}`, at.done, at.total);
      } catch (error) {
        fault = error;
      }
    });
    const known = Object.fromEntries(
      objectKinds.map((kind) => [kind, [...this.store.all(kind)].map((object) => (object as { id: string }).id)]),
    ) as Record<ObjectKind, string[]>;
    try {
      const content = await this.reading.run('readImport', { bytes, known, port: port2 }, { withinMs: readWithinMs, transfer: [port2] });
      if (fault) throw fault;
      // only these kinds have secrets: the others are many
      for (const kind of kindsWithSecrets)
        content.estate[kind] = this.sealing.sealedOfKind(kind, content.estate[kind] as object[]) as never;
      return content;
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
    const whole = { ...emptyEstate(), ...Object.fromEntries([...judgedTogether].map((kind) => [kind, together(kind)])) } as Estate;
    return faultsOfWhole(whole).map(({ kind, id, field, problem, expected }) => ({
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
  private compare(content: FolderContent): Compared {
    const known = this.store.measured();
    const latest = new Date(Date.now() + mostAheadMs).toISOString();
    return {
      version: this.store.version,
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

  private async run(bytes: Uint8Array, how: Put): Promise<Outcome> {
    how.told('reading', 0, 1);
    return this.put(await this.read(bytes, how.told), how);
  }

  /**
   * Compares what was read, from a folder or elsewhere, with the estate as it is, and writes it: all or nothing.
   * @param seen version of the estate that it was made over, where it was: what was written since is not written over
   */
  async put(
    content: FolderContent,
    { apply, by, summary, told, only = () => true, seen, says = [], gone = () => [] }: Put,
  ): Promise<Outcome> {
    told('comparing', 0, 1);
    const outcome = (compared: Compared, good: Outcome['state']): Outcome => ({
      result: resultOf(compared),
      ...(compared.problems.length
        ? { state: 'rejected', message: 'Nothing was changed. Mend the rows below and import again.' }
        : { state: good, message: null }),
    });
    if (!apply) return outcome(this.compare(content), 'checked');
    let done: Outcome = { state: 'applied', message: null, result: null };
    await this.changes.locked(async (manager) => {
      if (!only()) return;
      const compared = this.compare(content);
      done = outcome(compared, 'applied');
      if (done.state === 'rejected') return;
      const wanted = compared.differences.filter((d) => d.change !== 'unchanged');
      const leaving = gone();
      // where nothing is another than before, it is kept all the same who says so
      if (wanted.length + compared.fresh.length + leaving.length === 0) return writeSays(manager, says);
      const mine = [...wanted, ...leaving.filter(({ after }) => after === null)];
      const newer = seen === undefined ? undefined : mine.find(({ kind, id }) => Number(this.store.versionOf(kind, id) ?? 0) > seen);
      if (newer) {
        done = {
          ...done,
          state: 'rejected',
          message: `${kindWords[newer.kind].one} ${newer.id} was changed meanwhile. Nothing was written: look at it again.`,
        };
        return;
      }
      const objects = new Map<ObjectKind, Map<string, object>>(
        objectKinds.map((kind) => [kind, new Map((content.estate[kind] as { id: string }[]).map((o) => [o.id, o]))]),
      );
      const writes: ObjectChange[] = wanted.map(({ kind, id }) => ({
        kind,
        id,
        before: this.store.find(kind, id) ?? null,
        after: objects.get(kind)?.get(id) ?? null,
      }));
      writes.push(...leaving);
      assertLeaving(leaving, writes, this.store);
      told('writing', 0, writes.length);
      await this.changes.write(manager, writes, {
        ...{ changeId: uuidV7(), by, summary, measurements: compared.fresh, says },
        onProgress: (n) => told('writing', n, writes.length),
      });
    });
    // what the database knows of its tables is from before, and it would read them whole to find an edit
    if (done.state === 'applied' && content.measurements.length + countOf(content.estate) > manyRows)
      await this.store.query('ANALYZE estate_object, audit_entry, measurement');
    if (done.state === 'applied') await this.store.refresh(summary).catch(() => this.store.catchUp(summary));
    return done;
  }
}

/** What a folder would do to the estate of a version. */
interface Compared {
  version: number;
  differences: Difference[];
  fresh: Measurement[];
  problems: FileProblem[];
}

/** How something that was read is put into the estate. */
export interface Put {
  apply: boolean;
  by: string;
  summary: string;
  told: Told;
  /** Asked under the lock: whether it still is to be done. */
  only?: () => boolean;
  seen?: number;
  /** What sources say of the objects. */
  says?: readonly Says[];
  /** Asked under the lock: what is taken away with it. */
  gone?: () => readonly ObjectChange[];
}

/** How far the work is; throws where it was called off. */
export type Told = (step: string, done: number, total: number) => void;
/** What an import came to. */
export interface Outcome {
  state: 'checked' | 'applied' | 'rejected';
  message: string | null;
  result: ImportResult | null;
}

/** An import as its page asks for it. */
function importOf({ id, state, step, done, total, message, result }: JobView): ImportJob {
  const outcome = result as Outcome | null;
  return {
    id,
    step,
    done,
    total,
    state: outcome ? outcome.state : state === 'failed' || state === 'cancelled' ? 'failed' : 'running',
    ...(outcome?.result ? { result: outcome.result } : {}),
    ...((outcome?.message ?? message) ? { message: outcome?.message ?? message ?? '' } : {}),
  };
}

const countOf = (estate: Estate): number => objectKinds.reduce((sum, kind) => sum + estate[kind].length, 0);

function resultOf({ version, differences, problems, fresh }: Compared): ImportResult {
  const count = (change: Difference['change']) => differences.filter((d) => d.change === change).length;
  return {
    version,
    added: count('added'),
    changed: count('changed'),
    unchanged: count('unchanged'),
    measurements: fresh.length,
    rejected: problems.slice(0, mostRejections),
    rejectedTotal: problems.length,
    sample: differences.filter((d) => d.change !== 'unchanged').slice(0, 200),
  };
}
