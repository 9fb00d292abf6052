import { Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { emptyEstate, type Estate, type Measurement, type ObjectKind } from '@underpass/contracts';
import { modelOf, type EstateModel, type ObjectChange, type Over } from '@underpass/core';
import { Subject, type Subscription } from 'rxjs';
import { setImmediate, setTimeout as wait } from 'node:timers/promises';
import { DataSource } from 'typeorm';
import { Channel } from '../events/channel.service.js';
import { inSlices } from '../jobs/slices.js';
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
  private readonly heard: Subscription;
  private refreshing: Promise<void> = Promise.resolve();
  private catchingUp = false;
  private closed = false;
  /** The estate as it was read last. It is never changed: whoever holds one goes on with it. */
  model: EstateModel = modelOf(emptyEstate(), []);
  readonly changes = new Subject<StoreChange>();

  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly channel: Channel,
  ) {
    this.heard = channel.told.subscribe((message) => {
      if (message.type === 'estate') this.catchUp(message.cause);
      // what was told while nothing was heard is read now
      else if (message.type === 'connected') this.catchUp('reconnected');
      else if (message.type === 'reread')
        this.reread(message.cause).catch((error: Error) => this.logger.error(`the estate could not be read: ${error.message}`));
    });
  }

  get version(): number {
    return Number(this.seen);
  }
  /** Whether changes of other servers are heard and everything known was read. */
  get follows(): boolean {
    return this.channel.isHeard && !this.catchingUp;
  }

  readonly query: Query = (sql, parameters) => this.data.query(sql, parameters as never[]);

  /** The first reading must succeed: an estate that could not be read is not an empty one. */
  async onModuleInit(): Promise<void> {
    await this.refresh('loaded');
  }

  onApplicationShutdown(): void {
    this.closed = true;
    this.heard.unsubscribe();
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
