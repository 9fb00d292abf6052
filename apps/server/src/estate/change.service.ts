import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { kindWords, objectSchemas, type Measurement, type Applied } from '@underpass/contracts';
import { inverseOf, made, rebase, type ObjectChange } from '@underpass/core';
import { DataSource, type EntityManager } from 'typeorm';
import { ownName, portalName, toldOf } from './changeHistory.service.js';
import { writeMeasurements, writeObjects } from './changeRows.js';
import { AuditEntryRow, ChangeSet } from '../database/entities.js';
import { uuidV7 } from '../database/uuid.js';
import { ProblemError } from '../problems/problem.js';
import { EstateStore } from './estate.store.js';
import { afterUndo, forgetSaid, saysOf, takeBack, writeSays, type Says } from './said.js';
import { assertReason, assertValid } from './validate.js';
import { Sealing } from '../secrets/sealing.service.js';
import { Channel } from '../events/channel.service.js';

/** The most a clock may be ahead of ours. */
export const mostAheadMs = 86_400_000;
/** Works out what to write from what is in the store. */
type Plan = () => readonly ObjectChange[];
interface ApplyOptions {
  /** The change it takes back. */
  undoes?: string | null;
  /** Version of the estate it was worked out on, where it replaces what was seen there. */
  seen?: number | undefined;
  /** Where what it writes is from, where nobody typed it. */
  source?: string;
  /** What sources say with it and say no more, where that is known already. */
  told?: Pick<Written, 'says' | 'unsaid'>;
  /** Objects that it only adds to or takes from, by `kind/id`: what was written beside it since stands. */
  beside?: (writes: readonly ObjectChange[]) => ReadonlySet<string>;
}
/** What is written as one change, beside the objects. */
export interface Written {
  changeId: string;
  by: string;
  summary: string;
  undoes?: string | null;
  measurements?: readonly Measurement[];
  onProgress?: (done: number) => void;
  /** What sources say of the objects, and what they say no more. */
  says?: readonly Says[];
  unsaid?: readonly Says[];
}
/** Writes changes of the estate: validated, in one transaction, with an audit trail, told to every server process. */
@Injectable()
export class ChangeService {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
    private readonly channel: Channel,
    private readonly sealing: Sealing,
  ) {}

  /** Writers of this process wait for each other before they take a connection: one who waits holds nothing. */
  private turn: Promise<unknown> = Promise.resolve();

  /**
   * Makes a change. What it writes is worked out from the estate as it stands when nobody else can write: read, checked and
   * written under one lock, so that of two changes that meet none is lost and none rests on what is gone.
   * @param plan the changes, from what is in the store when it is called
   */
  async apply(plan: Plan, by: string, summary: string, options: ApplyOptions = {}): Promise<Applied> {
    const changeId = uuidV7();
    const { undoes = null, seen, beside } = options;
    await this.locked(async (manager) => {
      const changes = plan();
      this.assertSeen(changes, seen, beside?.(changes));
      if (changes.length === 0) throw new ProblemError(422, 'Nothing to apply', 'This change writes nothing: it waits for work outside.');
      assertValid(
        changes,
        (kind, id) => this.store.find(kind, id),
        (kind) => this.store.all(kind),
      );
      // what is taken back stands again as it stood
      if (!undoes) for (const change of changes) assertReason(change, (kind) => this.store.all(kind));
      const parsed = changes.map((change) => ({
        ...change,
        after: change.after && objectSchemas[change.kind].parse(this.sealing.sealed(change.after)),
      }));
      const told = await this.told(manager, parsed, by, options);
      await this.write(manager, parsed, { changeId, by, summary, undoes, ...told });
    });
    const behind = await this.shown(summary);
    return { changeId, version: this.store.version, ...behind };
  }

  /** What sources say with a change: what somebody types they say, and what Underpass writes of itself nobody does. */
  private async told(
    manager: EntityManager,
    changes: readonly ObjectChange[],
    by: string,
    { source, told, undoes }: ApplyOptions,
  ): Promise<Pick<Written, 'says' | 'unsaid'>> {
    if (told) return told;
    if (!source && (by === ownName || by === portalName)) return {};
    const says = saysOf(changes, source ?? 'typed', new Date().toISOString(), by);
    return undoes ? afterUndo((sql, values) => manager.query(sql, values), says) : { says };
  }

  /** What was written since somebody looked is not overwritten unseen. */
  private assertSeen(changes: readonly ObjectChange[], seen: number | undefined, beside?: ReadonlySet<string>): void {
    if (seen === undefined) return;
    const newer = changes.find(({ kind, id }) => !beside?.has(`${kind}/${id}`) && Number(this.store.versionOf(kind, id) ?? 0) > seen);
    if (newer)
      throw new ProblemError(
        409,
        'Changed meanwhile',
        `${kindWords[newer.kind].one} ${newer.id} was changed since you saw it. Nothing was overwritten: look at it anew, then apply it again.`,
      );
  }

  /** Runs a write while nobody else writes, with everything that was written before in the store. */
  locked<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    const mine = this.turn.then(() =>
      this.data.transaction(async (manager) => {
        // one writer at a time, over all servers: a later version must never become visible before an earlier one
        // the last version that was given out is looked at once the lock is held
        const [given] = (await manager.query(
          `WITH held AS MATERIALIZED (SELECT pg_advisory_xact_lock(4600)) SELECT pg_sequence_last_value('estate_version_seq') AS last FROM held`,
        )) as [{ last: string | null }];
        await this.store.refresh('another server', Number(given.last ?? 0));
        return work(manager);
      }),
    );
    this.turn = mine.catch(() => undefined);
    return mine;
  }

  /** After a commit: it is written whatever happens now; where it cannot be read at once, that is said and made up for. */
  private async shown(cause: string): Promise<{ behind?: true }> {
    try {
      await this.store.refresh(cause);
      return {};
    } catch {
      this.store.catchUp(cause);
      return { behind: true };
    }
  }

  /** Writes within a transaction; the importer calls it with its own progress. */
  async write(
    manager: EntityManager,
    changes: readonly ObjectChange[],
    { changeId, by, summary, undoes = null, measurements = [], onProgress = () => undefined, says = [], unsaid = [] }: Written,
  ): Promise<void> {
    const [{ version }] = (await manager.query(`SELECT nextval('estate_version_seq') AS version`)) as [{ version: string }];
    // the clock, and not now(), which stood still while this one waited for another's turn
    await manager.query(
      'INSERT INTO change_set (id, at, by_name, summary, undoes, objects, version) VALUES ($1, clock_timestamp(), $2, $3, $4, $5, $6)',
      [changeId, by, summary, undoes, changes.length, version],
    );
    await writeObjects(manager, changes, { changeId, version, onProgress });
    await forgetSaid(
      manager,
      changes.filter(({ after }) => after === null),
    );
    for (const { source, kind, id, fields } of unsaid) await takeBack(manager, source, kind, id, Object.keys(fields));
    await writeSays(manager, says);
    await writeMeasurements(manager, measurements, version);
    await this.channel.tell({ type: 'estate', cause: summary.slice(0, 200), version: Number(version) }, manager);
  }

  /** Keeps measurements; they are never changed afterwards. The year's partition is made when its first row comes. */
  async keepMeasurements(measurements: readonly Measurement[], cause: string): Promise<void> {
    const late = measurements.find(({ at }) => Date.parse(at) > Date.now() + mostAheadMs);
    if (late)
      throw new ProblemError(422, 'Not valid', `A measurement of ${late.at} cannot be: that is more than a day from now.`, [
        { field: 'at', problem: 'must not be more than a day from now' },
      ]);
    await this.locked(async (manager) => {
      const [{ version }] = (await manager.query(`SELECT nextval('estate_version_seq') AS version`)) as [{ version: string }];
      await writeMeasurements(manager, measurements, version);
      await this.channel.tell({ type: 'estate', cause: cause.slice(0, 200), version: Number(version) }, manager);
    });
    await this.shown(cause);
  }

  /** Takes a change back, field by field: what others wrote beside it stands, and where something rests on it, that is told. */
  async undo(changeId: string, by: string): Promise<Applied> {
    const change = await this.data.getRepository(ChangeSet).findOneBy({ id: changeId });
    const rows = await this.data.getRepository(AuditEntryRow).findBy({ changeId });
    if (!change || rows.length === 0) throw new ProblemError(404, 'Not found', 'There is no such change.');
    const plan = () => {
      const writes = rows.map((row) => ({ kind: row.kind as 'host', id: row.objectId, before: row.before, after: row.after }));
      const { change: back, conflicts } = rebase(this.store.model, { patches: inverseOf(writes), hypotheses: [] });
      if (conflicts.length) throw new ProblemError(409, 'Changed since', `${toldOf(conflicts)} Take the later change back first.`);
      if (back.patches.length === 0)
        throw new ProblemError(409, 'Taken back already', 'Everything stands again as it was before this change.');
      return made(this.store.model, back, Date.now()).writes;
    };
    const taken = new ProblemError(409, 'Taken back already', 'This change was taken back already.');
    if (await this.data.getRepository(ChangeSet).findOneBy({ undoes: changeId })) throw taken;
    return this.apply(plan, by, `Taken back: ${change.summary}`, { undoes: changeId }).catch(
      (error: { driverError?: { constraint?: string } }) => {
        // of two at the same time the second finds the first one's entry
        throw error.driverError?.constraint === 'change_set_undoes' ? taken : error;
      },
    );
  }
}
