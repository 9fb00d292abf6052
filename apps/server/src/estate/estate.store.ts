import { Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { emptyEstate, type Estate, type Measurement, type ObjectKind } from '@underpass/contracts';
import { modelOf, type EstateModel, type ObjectChange, type Over } from '@underpass/core';
import { Subject, type Subscription } from 'rxjs';
import { setImmediate, setTimeout as wait } from 'node:timers/promises';
import { DataSource } from 'typeorm';
import { Channel } from '../events/channel.service.js';
import { eachInSlices, inSlices } from '../jobs/slices.js';
import {
  emptyObjects,
  measurementOf,
  measurementsSince,
  modelFrom,
  objectsSince,
  writtenSince,
  type MeasurementRecord,
  type ObjectRow,
  type Query,
  type Written,
} from './load.js';

/** What a refresh brought; null where everything was read anew. */
export interface StoreChange {
  version: number;
  cause: string;
  over: Over | null;
}

/** What was told and is not read yet: up to a version, or all of it anew. */
interface Missed {
  cause: string;
  upTo: number;
  anew: boolean;
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
  private versions: Map<string, string> = new Map();
  private seen = '0';
  private readonly heard: Subscription;
  private refreshing: Promise<void> = Promise.resolve();
  private catchingUp = false;
  private missed: Missed | null = null;
  private closed = false;
  /** The estate as it was read last. It is never changed: whoever holds one goes on with it. */
  model: EstateModel = modelOf(emptyEstate(), []);
  readonly changes = new Subject<StoreChange>();

  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly channel: Channel,
  ) {
    this.heard = channel.told.subscribe((message) => {
      if (message.type === 'estate') this.catchUp(message.cause, { upTo: message.version });
      // what was told while nothing was heard is read now
      else if (message.type === 'connected') this.catchUp('reconnected');
      else if (message.type === 'reread') this.catchUp(message.cause, { anew: true });
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

  /**
   * Brings the read model to the database's version; calls wait for each other. A failure is the caller's to tell.
   * @param upTo what is known already when its turn comes is not read again
   */
  refresh(cause: string, upTo = Infinity): Promise<void> {
    const turn = this.refreshing.then(() => (upTo <= this.version ? undefined : this.load(cause)));
    this.refreshing = turn.catch(() => undefined);
    return turn;
  }

  /**
   * Brings the read model up to date however long it takes: what was acknowledged appears as soon as it can be read. What is told
   * while something told before is being read is read after it.
   */
  catchUp(cause: string, { upTo = Infinity, anew = false }: Partial<Omit<Missed, 'cause'>> = {}): void {
    if (upTo <= this.version) return;
    this.missed = { cause, upTo: Math.max(upTo, this.missed?.upTo ?? 0), anew: anew || (this.missed?.anew ?? false) };
    if (this.catchingUp) return;
    this.catchingUp = true;
    this.retry().catch((error: Error) => this.logger.error(error.message));
  }

  private async retry(): Promise<void> {
    try {
      for (let next = this.missed; next && !this.closed; next = this.missed) {
        this.missed = null;
        await this.readAtLast(next);
      }
    } finally {
      this.catchingUp = false;
    }
  }

  private async readAtLast({ cause, upTo, anew }: Missed): Promise<void> {
    for (let waitMs = firstWaitMs; !this.closed; waitMs = Math.min(2 * waitMs, longestWaitMs)) {
      try {
        return await (anew ? this.reread(cause) : this.refresh(cause, upTo));
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
    const { rows, measured } = await this.since('0');
    const objects = emptyObjects();
    await eachInSlices(rows, ({ kind, id, data, deleted }) => {
      if (!deleted) objects.get(kind)?.set(id, data);
    });
    const seen = await this.seenWith(rows, measured);
    const model = await inSlices(modelFrom(objects, measured.map(measurementOf)));
    this.take(model, seen, { cause, over: null });
  }

  private async load(cause: string): Promise<void> {
    if (this.seen === '0') return this.loadAll(cause);
    const { rows, measured } = await this.since(this.seen);
    if (rows.length === 0 && measured.length === 0) return;
    const known: ObjectChange[] = [];
    await eachInSlices(rows, ({ kind, id, data, deleted }) => {
      const write = { kind, id, before: this.model.find(kind, id) ?? null, after: deleted ? null : data };
      // one that was made and removed since is of no account; one of no known kind is of another version's
      if (this.model.kinds.includes(kind) && (write.before ?? write.after) !== null) known.push(write);
    });
    const measurements = measured.map(measurementOf);
    const seen = await this.seenWith(rows, measured);
    const model = await laidOver(this.model, known, measurements);
    this.take(model, seen, { cause, over: { writes: known, measurements, supposed: [] } });
  }

  /** What was written after a version, all of it of one moment. */
  private async since(version: string): Promise<Written> {
    const few = version === '0' ? null : await writtenSince(this.query, version);
    if (few) return few;
    return this.data.transaction('REPEATABLE READ', async (manager) => {
      const query: Query = (sql, parameters) => manager.query(sql, parameters as never[]);
      const rows: ObjectRow[] = [];
      for await (const part of objectsSince(query, version)) rows.push(...part);
      return { rows, measured: await measurementsSince(query, version) };
    });
  }

  /** The versions with what was read. They are told together with the model: who sees a version sees its content. */
  private async seenWith(rows: readonly ObjectRow[], measured: readonly MeasurementRecord[]): Promise<Seen> {
    let version = BigInt(this.seen);
    const later = (row: { version: string }) => {
      const at = BigInt(row.version);
      if (at > version) version = at;
    };
    // of few the map that is shown is written to in the turn in which the model is
    const many = rows.length > mostLaid;
    const versions = many ? new Map(this.versions) : new Map<string, string>();
    await eachInSlices(measured, later);
    await eachInSlices(rows, (row) => {
      later(row);
      versions.set(`${row.kind}/${row.id}`, row.version);
    });
    return { version: String(version), versions, many };
  }

  private take(model: EstateModel, { version, versions, many }: Seen, told: Omit<StoreChange, 'version'>): void {
    if (many) this.versions = versions;
    else for (const [key, at] of versions) this.versions.set(key, at);
    this.seen = version;
    this.model = model;
    this.changes.next({ version: this.version, ...told });
  }
}

/** The version that was read up to, and that of each object: all of them, or those that were read. */
interface Seen {
  version: string;
  versions: Map<string, string>;
  many: boolean;
}

/** Of more objects than this the model is built anew: what lies over most of an estate is no layer any more. */
const mostLaid = 4000;

async function laidOver(model: EstateModel, writes: readonly ObjectChange[], measurements: readonly Measurement[]): Promise<EstateModel> {
  if (writes.length <= mostLaid) return model.after({ writes, measurements }).settled();
  const objects = new Map(model.kinds.map((kind) => [kind, new Map<string, object>(model.all(kind).entries())]));
  await setImmediate();
  await eachInSlices(writes, ({ kind, id, after }) => {
    if (after) objects.get(kind)?.set(id, after);
    else objects.get(kind)?.delete(id);
  });
  const measured = [...model.measurementsAt.values()].flatMap((list) => [...list]);
  return inSlices(modelFrom(objects, [...measured, ...measurements]));
}
