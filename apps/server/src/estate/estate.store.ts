import { Inject, Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { emptyEstate, type Estate, type Measurement, type ObjectKind } from '@underpass/contracts';
import { modelOf, type EstateModel, type ObjectChange, type Over } from '@underpass/core';
import pg from 'pg';
import { Subject } from 'rxjs';
import { setImmediate, setTimeout as wait } from 'node:timers/promises';
import { DataSource } from 'typeorm';
import { CONFIG, type Config } from '../config.js';
import { inSlices } from '../crossing/wholeEstate.js';
import {
  emptyObjects,
  measurementOf,
  measurementsSince,
  modelFrom,
  objectsSince,
  type MeasurementRecord,
  type ObjectRow,
  type Query,
} from './load.js';

export const CHANNEL = 'underpass_estate';

/** What a refresh brought; null where everything was read anew. */
export interface StoreChange {
  version: number;
  cause: string;
  over: Over | null;
}

/** Waits between tries to read what was missed, ms. */
const firstWaitMs = 250;
const longestWaitMs = 5000;

/**
 * The estate in memory, at a version. State lives in PostgreSQL only; this is a read model that follows it by LISTEN/NOTIFY, so
 * that any number of server processes may run.
 */
@Injectable()
export class EstateStore implements OnModuleInit, OnApplicationShutdown {
  private readonly logger = new Logger('estate');
  /** Version each object was last written at; removed ones too, so that a form that is behind is noticed. */
  private readonly versions = new Map<string, string>();
  private seen = '0';
  private listener: pg.Client | null = null;
  private refreshing: Promise<void> = Promise.resolve();
  private catchingUp = false;
  /** Whether there was a time in which nothing was heard. */
  private missed = false;
  private closed = false;
  /** The estate as it was read last. It is never changed: whoever holds one goes on with it. */
  model: EstateModel = modelOf(emptyEstate(), []);
  readonly changes = new Subject<StoreChange>();
  /** Messages for the screens that are not changes of the estate, such as the progress of a field check. */
  readonly notices = new Subject<{ type: 'check' | 'sighting' | 'sessions' | 'job'; id: string }>();

  constructor(
    @InjectDataSource() private readonly data: DataSource,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  get version(): number {
    return Number(this.seen);
  }
  /** Whether changes of other servers are heard and everything known was read. */
  get follows(): boolean {
    return this.listener !== null && !this.catchingUp;
  }

  readonly query: Query = (sql, parameters) => this.data.query(sql, parameters as never[]);

  /** The first reading must succeed: an estate that could not be read is not an empty one. */
  async onModuleInit(): Promise<void> {
    await this.load('loaded');
    await this.listen();
  }

  async onApplicationShutdown(): Promise<void> {
    this.closed = true;
    await this.listener?.end().catch(() => undefined);
  }

  find(kind: ObjectKind, id: string): object | undefined {
    return this.model.find(kind, id);
  }
  versionOf(kind: ObjectKind, id: string): string | undefined {
    return this.versions.get(`${kind}/${id}`);
  }
  all(kind: ObjectKind): Iterable<object> {
    return this.model.all(kind).values();
  }
  count(kind: ObjectKind): number {
    return this.model.all(kind).size;
  }
  /** What was written, without what ships with the product. */
  written(): Estate {
    return this.model.estate;
  }
  /** Ids of everything that was measured. */
  measured(): Set<string> {
    const ids = new Set<string>();
    for (const list of this.model.measurementsAt.values()) for (const { id } of list) ids.add(id);
    return ids;
  }

  /** Brings the read model to the database's version; calls wait for each other. A failure is the caller's to tell. */
  refresh(cause: string): Promise<void> {
    const turn = this.refreshing.then(() => this.load(cause));
    this.refreshing = turn.catch(() => undefined);
    return turn;
  }

  /** Brings the read model up to date however long it takes: what was acknowledged appears as soon as it can be read. */
  catchUp(cause: string): void {
    if (this.catchingUp) return;
    this.catchingUp = true;
    this.retry(cause)
      .catch((error: Error) => this.logger.error(error.message))
      .finally(() => (this.catchingUp = false))
      .catch(() => undefined);
  }

  private async retry(cause: string): Promise<void> {
    for (let waitMs = firstWaitMs; !this.closed; waitMs = Math.min(2 * waitMs, longestWaitMs)) {
      try {
        await this.refresh(cause);
        break;
      } catch (error) {
        this.logger.warn(`the estate could not be read, trying again: ${(error as Error).message}`);
        await wait(waitMs, undefined, { ref: false });
      }
    }
  }

  /** Forgets everything and reads anew: for what no version tells, such as measurements that were erased. */
  reread(cause: string): Promise<void> {
    const turn = this.refreshing.then(() => this.loadAll(cause));
    this.refreshing = turn.catch(() => undefined);
    return turn;
  }

  /** Everything there is, built anew. */
  private async loadAll(cause: string): Promise<void> {
    await this.takeAll(cause, await objectsSince(this.query, '0'), await measurementsSince(this.query, '0'));
  }

  private async takeAll(cause: string, rows: readonly ObjectRow[], measured: readonly MeasurementRecord[]): Promise<void> {
    const objects = emptyObjects();
    for (const { kind, id, data, deleted } of rows) if (!deleted) objects.get(kind)?.set(id, data);
    this.see(rows, measured);
    this.model = await inSlices(modelFrom(objects, measured.map(measurementOf)));
    this.changes.next({ version: this.version, cause, over: null });
  }

  private async load(cause: string): Promise<void> {
    const [rows, measured] = await Promise.all([objectsSince(this.query, this.seen), measurementsSince(this.query, this.seen)]);
    if (rows.length === 0 && measured.length === 0) return;
    if (this.seen === '0') return this.takeAll(cause, rows, measured);
    const writes = rows.map(({ kind, id, data, deleted }): ObjectChange => ({
      kind,
      id,
      before: this.model.find(kind, id) ?? null,
      after: deleted ? null : data,
    }));
    // one that was made and removed since is of no account; one of no known kind is of another version's
    const known = writes.filter(({ kind, before, after }) => this.model.kinds.includes(kind) && (before ?? after) !== null);
    const measurements = measured.map(measurementOf);
    this.see(rows, measured);
    this.model = await laidOver(this.model, known, measurements);
    this.changes.next({ version: this.version, cause, over: { writes: known, measurements, supposed: [] } });
  }

  /** Notes the versions that were read. */
  private see(rows: readonly ObjectRow[], measured: readonly MeasurementRecord[]): void {
    let version = BigInt(this.seen);
    for (const row of [...rows, ...measured]) if (BigInt(row.version) > version) version = BigInt(row.version);
    for (const { kind, id, version: at } of rows) this.versions.set(`${kind}/${id}`, at);
    this.seen = String(version);
  }

  private async listen(): Promise<void> {
    if (this.closed) return;
    const client = new pg.Client({ connectionString: this.config.databaseUrl, connectionTimeoutMillis: 5000, keepAlive: true });
    // the database may be restarting: come back, and read what was missed
    const again = () => {
      client.removeAllListeners('end');
      if (this.closed) return;
      this.listener = null;
      this.missed = true;
      setTimeout(() => {
        this.listen().catch((error: Error) => this.logger.error(error.message));
      }, 1000).unref();
    };
    client.on('error', () => undefined);
    client.on('end', again);
    client.on('notification', (message) => this.hear(message.payload));
    try {
      await client.connect();
      await client.query(`LISTEN ${CHANNEL}`);
      if (this.closed) return void (await client.end());
      const back = this.missed;
      this.missed = false;
      this.listener = client;
      if (back) this.catchUp('reconnected');
    } catch (error) {
      this.logger.warn(`waiting for the database: ${(error as Error).message}`);
      again();
      await client.end().catch(() => undefined);
    }
  }

  private hear(payload: string | undefined): void {
    let notice: { cause?: string; check?: string; job?: string; sighting?: string; sessions?: string; reread?: string };
    try {
      notice = JSON.parse(payload ?? '{}') as typeof notice;
    } catch {
      return;
    }
    if (notice.check) this.notices.next({ type: 'check', id: notice.check });
    else if (notice.job) this.notices.next({ type: 'job', id: notice.job });
    else if (notice.sighting) this.notices.next({ type: 'sighting', id: notice.sighting });
    else if (notice.sessions) this.notices.next({ type: 'sessions', id: notice.sessions });
    else if (notice.reread)
      this.reread(notice.reread).catch((error: Error) => this.logger.error(`the estate could not be read: ${error.message}`));
    else this.catchUp(notice.cause ?? 'a change');
  }
}

/** Of more objects than this the model is built anew: what lies over most of an estate is no layer any more. */
const mostLaid = 4000;

async function laidOver(model: EstateModel, writes: readonly ObjectChange[], measurements: readonly Measurement[]): Promise<EstateModel> {
  if (writes.length <= mostLaid) return model.after({ writes, measurements }).settled();
  const objects = new Map(model.kinds.map((kind) => [kind, new Map<string, object>(model.all(kind).entries())]));
  await setImmediate();
  for (const { kind, id, after } of writes) {
    if (after) objects.get(kind)?.set(id, after);
    else objects.get(kind)?.delete(id);
  }
  await setImmediate();
  const measured = [...model.measurementsAt.values()].flatMap((list) => [...list]);
  return inSlices(modelFrom(objects, [...measured, ...measurements]));
}
