import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { objectSchemas, type AuditEntry, type Measurement, type Applied } from '@underpass/contracts';
import { inverseOf, made, rebase, type Conflict, type ObjectChange } from '@underpass/core';
import { DataSource, type EntityManager } from 'typeorm';
import { AuditEntryRow, ChangeSet } from '../database/entities.js';
import { uuidV7 } from '../database/uuid.js';
import { ProblemError } from '../problems/problem.js';
import { EstateStore } from './estate.store.js';
import { afterUndo, forgetSaid, saysOf, takeBack, writeSays, type Says } from './said.js';
import { assertReason, assertValid } from './validate.js';
import { Sealing } from '../secrets/sealing.service.js';
import { Channel } from '../events/channel.service.js';

/** Rows of one statement; keeps parameters and memory bounded on large imports. */
const batch = 1000;
/** Larger changes are taken back by importing the earlier folder. */
const mostUndone = 20_000;
/** The most a clock may be ahead of ours. */
export const mostAheadMs = 86_400_000;
/** Name under which Underpass itself writes, such as the demo estate; nobody takes that back. */
export const ownName = 'Underpass';
/** Name under which sign-ins that portals report are written; they stand in nobody's way and are not taken back. */
export const portalName = 'Portal report';

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
interface ChangeRow {
  id: string;
  at: Date;
  by_name: string;
  summary: string;
  undoes: string | null;
  undone: boolean;
  n: number;
  objects: AuditEntry['objects'];
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
        `${newer.kind} ${newer.id} was changed since you saw it. Nothing was overwritten: look at it anew, then apply it again.`,
      );
  }

  /** Runs a write while nobody else writes, with everything that was written before in the store. */
  locked<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    const mine = this.turn.then(() =>
      this.data.transaction(async (manager) => {
        // one writer at a time, over all servers: a later version must never become visible before an earlier one
        await manager.query(`SELECT pg_advisory_xact_lock(4600)`);
        await this.store.refresh('another server');
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
    await manager.query('INSERT INTO change_set (id, at, by_name, summary, undoes, objects) VALUES ($1, now(), $2, $3, $4, $5)', [
      changeId,
      by,
      summary,
      undoes,
      changes.length,
    ]);
    for (let i = 0; i < changes.length; i += batch) {
      const part = changes.slice(i, i + batch);
      await manager.query(
        `INSERT INTO estate_object (kind, id, data, version, deleted)
         SELECT k, i, d::jsonb, $4, x FROM unnest($1::text[], $2::text[], $3::text[], $5::bool[]) AS t(k, i, d, x)
         ON CONFLICT (kind, id) DO UPDATE SET data = excluded.data, version = excluded.version, deleted = excluded.deleted`,
        [
          part.map((c) => c.kind),
          part.map((c) => c.id),
          part.map((c) => JSON.stringify(c.after ?? c.before)),
          version,
          part.map((c) => c.after === null),
        ],
      );
      await manager.query(
        `INSERT INTO audit_entry (id, change_id, kind, object_id, before, after)
         SELECT u, $2, k, i, b::jsonb, a::jsonb FROM unnest($1::uuid[], $3::text[], $4::text[], $5::text[], $6::text[]) AS t(u, k, i, b, a)`,
        [
          part.map(() => uuidV7()),
          changeId,
          part.map((c) => c.kind),
          part.map((c) => c.id),
          part.map((c) => (c.before ? JSON.stringify(c.before) : null)),
          part.map((c) => (c.after ? JSON.stringify(c.after) : null)),
        ],
      );
      onProgress(i + part.length);
    }
    await forgetSaid(
      manager,
      changes.filter(({ after }) => after === null),
    );
    for (const { source, kind, id, fields } of unsaid) await takeBack(manager, source, kind, id, Object.keys(fields));
    await writeSays(manager, says);
    await this.writeMeasurements(manager, measurements, version);
    await this.channel.tell({ type: 'estate', cause: summary.slice(0, 200) }, manager);
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
      await this.writeMeasurements(manager, measurements, version);
      await this.channel.tell({ type: 'estate', cause: cause.slice(0, 200) }, manager);
    });
    await this.shown(cause);
  }

  private async writeMeasurements(manager: EntityManager, measurements: readonly Measurement[], version: string): Promise<void> {
    for (const year of new Set(measurements.map((m) => Number(m.at.slice(0, 4)))))
      // the name and bounds are a number taken from a validated time, nothing a person can shape
      await manager.query(
        `CREATE TABLE IF NOT EXISTS measurement_${year} PARTITION OF measurement FOR VALUES FROM ('${year}-01-01') TO ('${year + 1}-01-01')`,
      );
    for (const m of measurements)
      await manager.query(
        `INSERT INTO measurement (id, at, by_name, method, vantage, person, endpoint, location, target, medium, partial, note, figures, version)
         VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14) ON CONFLICT DO NOTHING`,
        [
          m.id,
          m.at,
          m.by,
          m.method,
          m.vantage,
          m.person ?? null,
          m.endpoint ?? null,
          m.location,
          m.target ?? null,
          m.medium ?? null,
          m.partial,
          m.note ?? null,
          JSON.stringify(m.figures),
          version,
        ],
      );
  }

  /** The latest changes, newest first; large ones with their first objects only. */
  async latest(limit: number, object?: { kind: string; id: string }): Promise<AuditEntry[]> {
    const rows: ChangeRow[] = await this.data.query(
      `SELECT c.id, c.at, c.by_name, c.summary, c.undoes, c.objects AS n, EXISTS (SELECT 1 FROM change_set u WHERE u.undoes = c.id) AS undone,
              ARRAY(SELECT jsonb_build_object('kind', kind, 'id', object_id, 'before', before, 'after', after)
                    FROM audit_entry WHERE change_id = c.id AND ($2::text IS NULL OR (kind = $2 AND object_id = $3)) LIMIT 20) AS objects
       FROM change_set c WHERE $2::text IS NULL OR c.id IN (SELECT change_id FROM audit_entry WHERE kind = $2 AND object_id = $3)
       ORDER BY c.at DESC LIMIT $1`,
      [limit, object?.kind ?? null, object?.id ?? null],
    );
    return rows.map((row) => {
      const takeable =
        object === undefined &&
        !row.undoes &&
        !row.undone &&
        row.n > 0 &&
        row.n <= mostUndone &&
        ![ownName, portalName].includes(row.by_name);
      // of large ones that is found out when it is tried
      const rests = takeable && row.n <= row.objects.length ? this.restingOn(row.objects as ObjectChange[]) : null;
      return {
        changeId: row.id,
        at: row.at.toISOString(),
        by: row.by_name,
        summary: row.summary,
        objects: row.objects,
        undone: row.undone,
        canUndo: takeable && rests === null,
        restsOn: rests,
      };
    });
  }

  /** What was written since on the same fields, so that a change cannot be taken back; null where nothing was. */
  private restingOn(writes: readonly ObjectChange[]): string | null {
    const { conflicts } = rebase(this.store.model, { patches: inverseOf(writes), hypotheses: [] });
    return conflicts.length ? toldOf(conflicts) : null;
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

  /** Who wrote the version of an object that stands now, and what it was before. */
  async lastOf(kind: string, id: string): Promise<{ by: string; at: string; before: object | null } | null> {
    const [row] = (await this.data.query(
      `SELECT c.by_name, c.at, e.before FROM audit_entry e JOIN change_set c ON c.id = e.change_id
       WHERE e.kind = $1 AND e.object_id = $2 ORDER BY c.at DESC, e.id DESC LIMIT 1`,
      [kind, id],
    )) as { by_name: string; at: Date; before: object | null }[];
    return row ? { by: row.by_name, at: row.at.toISOString(), before: row.before } : null;
  }
}

/** What stands in the way of taking a change back, in words. */
function toldOf([first, ...more]: readonly Conflict[]): string {
  if (!first) return '';
  const what =
    first.because === 'gone'
      ? 'is there no more'
      : first.because === 'there already'
        ? 'is there again'
        : `was changed again since${first.field === null ? '' : ` (${first.field})`}`;
  return `${first.kind} ${first.id} ${what}${more.length ? `, and ${more.length} more` : ''}.`;
}
