import { Inject, Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import {
  emptyEstate,
  sourceOf,
  type JobView,
  type ListLook,
  type ListOutcome,
  type ListRequest,
  type ObjectKind,
} from '@underpass/contracts';
import type { Intake, ObjectChange, ReadAs } from '@underpass/core';
import { DataSource } from 'typeorm';
import { MessageChannel } from 'node:worker_threads';
import { CONFIG, type Config } from '../config.js';
import type { JobRow } from '../database/entities.js';
import { largeBytes } from '../database/largeBytes.js';
import { uuidV7 } from '../database/uuid.js';
import { Reading } from '../edge/reading.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { ImportService } from '../estate/import.service.js';
import { JobsService } from '../jobs/jobs.service.js';
import type { Progress } from '../jobs/progress.js';
import { ProblemError } from '../problems/problem.js';
import { leavingOf } from '../estate/leaving.js';
import { Sealing } from '../secrets/sealing.service.js';
import type { ListRead } from './reading.js';

/** A list is kept for a day: long enough to be mapped and mended. */
const keptHours = 24;
/** Lists of one person that are kept at the same time; the oldest go. */
const mostOfOne = 10;
/** Fifty thousand rows take a few seconds. */
const readWithinMs = 90_000;
const most = { rejected: 5000, told: 2000, listed: 500 };

interface Kept {
  id: string;
  name: string;
  by: string;
  at: Date;
  bytes: Buffer;
}

/** Lists of others on their way into the estate: kept for a while, looked at, checked, taken in. */
@Injectable()
export class ListsService {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    @Inject(CONFIG) private readonly config: Config,
    private readonly reading: Reading,
    private readonly sealing: Sealing,
    private readonly jobs: JobsService,
    private readonly imports: ImportService,
    private readonly store: EstateStore,
  ) {
    jobs.takes('list', (job, progress) => this.work(job, progress));
  }

  /** Keeps a list, and looks at it. What cannot be read is not kept. */
  async keep(name: string, bytes: Uint8Array, by: string): Promise<ListLook> {
    if (bytes.length === 0) throw new ProblemError(422, 'Not a list', 'The file is empty.');
    const looked = await this.lookAt(bytes, {});
    const id = uuidV7();
    const at = new Date();
    await this.data.query('INSERT INTO taken_list (id, name, by_name, at, bytes) VALUES ($1, $2, $3, $4, $5)', [
      ...[id, name, by, at],
      await this.sealing.sealedBytes(bytes),
    ]);
    await this.data.query(
      `DELETE FROM taken_list WHERE at < now() - $1 * interval '1 hour'
         OR (by_name = $2 AND id NOT IN (SELECT id FROM taken_list WHERE by_name = $2 ORDER BY at DESC LIMIT $3))`,
      [keptHours, by, mostOfOne],
    );
    return { id, name, by, at: at.toISOString(), ...looked } as ListLook;
  }

  /** A list that is kept, read as somebody says. */
  async look(id: string, by: string, options: ReadAs): Promise<ListLook> {
    const { bytes, ...kept } = await this.kept(id, by);
    return { ...kept, at: kept.at.toISOString(), ...(await this.lookAt(bytes, options)) } as ListLook;
  }

  private lookAt(bytes: Uint8Array, options: ReadAs) {
    return this.reading.run('lookAtList', { bytes, databaseUrl: this.config.databaseUrl, options }, { withinMs: readWithinMs });
  }

  private async kept(id: string, by: string): Promise<Kept> {
    const [row] = (await this.data.query('SELECT id, name, by_name AS by, at FROM taken_list WHERE id = $1 AND by_name = $2', [
      id,
      by,
    ])) as Omit<Kept, 'bytes'>[];
    const sealed = row && (await largeBytes(this.data, 'taken_list', id));
    const bytes = sealed && (await this.sealing.openedBytes(sealed));
    if (!row || !bytes) throw new ProblemError(404, 'Not here', 'This list is not kept any more. Send it again.');
    return { ...row, bytes };
  }

  /** Starts the check of a list, or taking it in. */
  async start(id: string, request: ListRequest, apply: boolean, by: string): Promise<JobView> {
    const { name } = await this.kept(id, by);
    return this.jobs.start({ kind: 'list', name: `List ${name}`, by, request: { id, apply, ...request }, atMost: { own: 2, all: 3 } });
  }

  private async work({ request, byName, name }: JobRow, progress: Progress): Promise<ListOutcome> {
    const { id, apply, map, mends, source, over, remove } = request as ListRequest & { id: string; apply: boolean };
    const { bytes } = await this.kept(id, byName);
    const { port1, port2 } = new MessageChannel();
    let fault: unknown = null;
    port1.on('message', ({ done, total }: { done: number; total: number }) => {
      try {
        progress.at('reading rows', done, total);
      } catch (error) {
        fault = error;
      }
    });
    try {
      const read = await this.reading.run(
        'takeList',
        { bytes, databaseUrl: this.config.databaseUrl, map, mends, source: sourceOf('list', source), over, port: port2 },
        { withinMs: readWithinMs, transfer: [port2] },
      );
      if (fault) throw fault;
      const { intake, version, says } = read;
      const estate = emptyEstate();
      const lines: Partial<Record<ObjectKind, Map<string, number>>> = {};
      const put = (kind: ObjectKind, object: { id: string }, row: number) => {
        (estate[kind] as { id: string }[]).push(object);
        (lines[kind] ??= new Map()).set(object.id, row);
      };
      for (const { kind, object } of intake.made) put(kind, object, 1);
      for (const { row, change, object } of intake.taken) if (change !== 'unchanged') put(map.kind, object, row);
      const present = Object.keys(lines) as ObjectKind[];
      const gone = leaving(remove, map.kind, intake, this.store);
      const done = await this.imports.put(
        { estate, measurements: [], problems: [], lines, present },
        { ...{ apply, by: byName, summary: name, seen: version, says, gone }, told: (step, at, total) => progress.at(step, at, total) },
      );
      if (done.state === 'rejected') return refused(outcomeOf(read, false), done.message, done.result?.rejected ?? []);
      return { ...outcomeOf(read, apply), removed: apply ? remove.length : 0, sample: done.result?.sample ?? [] };
    } finally {
      port1.close();
    }
  }
}

/**
 * What is taken away because it is not in the list any more and somebody asked for it. Of people, what is theirs alone goes with them.
 * @throws ProblemError where something is in the list after all
 */
function leaving(remove: readonly string[], kind: ObjectKind, { missing }: Intake, store: EstateStore): () => ObjectChange[] {
  const absent = new Set(missing.map(({ id }) => id));
  const there = remove.find((id) => !absent.has(id));
  if (there !== undefined)
    throw new ProblemError(409, 'Changed meanwhile', `${kind} ${there} is in the list, or not there any more. See what it comes to again.`);
  return () => {
    if (remove.length === 0) return [];
    const { estate } = store.model;
    const gone = remove.flatMap((id) => {
      const before = store.find(kind, id);
      return before ? [{ kind, id, before, after: null }] : [];
    });
    return kind === 'person' ? leavingOf(estate, new Set(gone.map(({ id }) => id))) : gone;
  };
}

function outcomeOf({ intake, sheet, rejectedRows, held, heldTotal }: ListRead, applied: boolean): ListOutcome {
  const count = (change: string) => intake.taken.filter((each) => each.change === change).length;
  return {
    applied,
    ...{ added: count('added'), changed: count('changed'), unchanged: count('unchanged') },
    rejected: intake.rejected.slice(0, most.rejected),
    rejectedRows,
    rejectedTotal: new Set(intake.rejected.map(({ row }) => row)).size,
    translated: intake.translated.slice(0, most.told),
    made: intake.made.slice(0, most.told).map(({ kind, object, name, rows }) => ({ kind, id: object.id, name, rows })),
    missing: intake.missing.slice(0, most.listed).map(({ id, name }) => ({ id, ...(name ? { name } : {}) })),
    missingTotal: intake.missing.length,
    removed: 0,
    ...{ held, heldTotal },
    alike: intake.alike.slice(0, most.listed),
    notes: [...sheet.notes.map(({ row, text }) => `Row ${row}: ${text}.`), ...intake.notes],
    sample: [],
  };
}

/** What shows only in the whole keeps all of it out: told at its row. */
const refused = (
  outcome: ListOutcome,
  message: string | null,
  problems: readonly { line: number; field: string; problem: string; expected: string }[],
): ListOutcome => ({
  ...outcome,
  rejected: [
    ...problems.map(({ line, field, problem, expected }) => ({ row: line, column: '', field, value: '', text: problem, wanted: expected })),
    ...outcome.rejected,
  ],
  rejectedTotal: outcome.rejectedTotal + problems.length,
  notes: [
    ...(message && problems.length === 0 ? [message] : ['Nothing was written: what is wrong shows only in the whole.']),
    ...outcome.notes,
  ],
});
