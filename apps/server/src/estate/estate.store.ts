import { Inject, Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { objectKinds, type Estate, type Measurement, type ObjectKind, type Setting } from '@underpass/contracts';
import { modelOf, type EstateModel } from '@underpass/core';
import pg from 'pg';
import { Subject } from 'rxjs';
import { setTimeout as wait } from 'node:timers/promises';
import { DataSource } from 'typeorm';
import { CONFIG, type Config } from '../config.js';
import { estateOf, writtenEstate, measurementOf, measurementsSince, objectsSince, type Query } from './load.js';

export const CHANNEL = 'underpass_estate';

/** What a refresh brought: the locations it may touch, or everything. */
export interface StoreChange {
  version: string;
  cause: string;
  locations: ReadonlySet<string> | 'all';
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
  private readonly objects = new Map<ObjectKind, Map<string, object>>(objectKinds.map((kind) => [kind, new Map()]));
  /** Version each object was last written at; removed ones too, so that a form that is behind is noticed. */
  private readonly versions = new Map<string, string>();
  private measurements: Measurement[] = [];
  private seen = '0';
  private listener: pg.Client | null = null;
  private refreshing: Promise<void> = Promise.resolve();
  private catchingUp = false;
  /** Whether there was a time in which nothing was heard. */
  private missed = false;
  private closed = false;
  model: EstateModel = modelOf(estateOf(this.objects), []);
  readonly changes = new Subject<StoreChange>();
  /** Messages for the screens that are not changes of the estate, such as the progress of a field check. */
  readonly notices = new Subject<{ type: 'check' | 'sighting' | 'sessions'; id: string }>();

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
    return this.objects.get(kind)?.get(id);
  }
  versionOf(kind: ObjectKind, id: string): string | undefined {
    return this.versions.get(`${kind}/${id}`);
  }
  all(kind: ObjectKind): Iterable<object> {
    return this.objects.get(kind)?.values() ?? [];
  }
  count(kind: ObjectKind): number {
    return this.objects.get(kind)?.size ?? 0;
  }
  /** What was written, without what ships with the product. */
  written(): Estate {
    return writtenEstate(this.objects);
  }
  allMeasurements(): readonly Measurement[] {
    return this.measurements;
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
    const turn = this.refreshing.then(async () => {
      const query = this.query;
      const measured = await measurementsSince(query, '0');
      this.measurements = measured.map(measurementOf);
      await this.load(cause);
      this.model = modelOf(estateOf(this.objects), this.measurements);
      this.changes.next({ version: this.seen, cause, locations: 'all' });
    });
    this.refreshing = turn.catch(() => undefined);
    return turn;
  }

  private async load(cause: string): Promise<void> {
    const [rows, measured] = await Promise.all([objectsSince(this.query, this.seen), measurementsSince(this.query, this.seen)]);
    if (rows.length === 0 && measured.length === 0) return;
    const first = this.seen === '0';
    let version = BigInt(this.seen);
    const locations = new Set<string>();
    let all = first;
    for (const row of rows) {
      if (BigInt(row.version) > version) version = BigInt(row.version);
      const byId = this.objects.get(row.kind);
      if (!byId) continue;
      for (const object of [byId.get(row.id), row.deleted ? undefined : row.data]) {
        if (!object || all) continue;
        const touched = touchedLocation(row.kind, object as { location?: string }, (kind, id) => this.find(kind, id));
        if (touched === 'all') all = true;
        else if (touched !== null) locations.add(touched);
      }
      if (row.deleted) byId.delete(row.id);
      else byId.set(row.id, row.data);
      this.versions.set(`${row.kind}/${row.id}`, row.version);
    }
    for (const row of measured) {
      if (BigInt(row.version) > version) version = BigInt(row.version);
      locations.add(row.location);
    }
    if (measured.length) this.measurements = [...this.measurements, ...measured.map(measurementOf)];
    this.seen = String(version);
    this.model = modelOf(estateOf(this.objects), this.measurements);
    this.changes.next({ version: this.seen, cause, locations: all ? 'all' : locations });
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
    let notice: { cause?: string; check?: string; sighting?: string; sessions?: string; reread?: string };
    try {
      notice = JSON.parse(payload ?? '{}') as typeof notice;
    } catch {
      return;
    }
    if (notice.check) this.notices.next({ type: 'check', id: notice.check });
    else if (notice.sighting) this.notices.next({ type: 'sighting', id: notice.sighting });
    else if (notice.sessions) this.notices.next({ type: 'sessions', id: notice.sessions });
    else if (notice.reread)
      this.reread(notice.reread).catch((error: Error) => this.logger.error(`the estate could not be read: ${error.message}`));
    else this.catchUp(notice.cause ?? 'a change');
  }
}

function touchedLocation(
  kind: ObjectKind,
  object: { location?: string },
  find: (kind: ObjectKind, id: string) => object | undefined,
): string | 'all' | null {
  if (kind === 'endpoint' && object.location) return object.location;
  if (kind === 'location') return (object as { id: string }).id;
  // a sign-in changes what a person sees now, not what happens on their crossings
  if (kind === 'signedIn') return null;
  if (kind !== 'setting') return 'all';
  const { layer, target } = object as Setting;
  if (layer === 'location') return target;
  if (layer === 'endpoint') return (find('endpoint', target) as { location?: string } | undefined)?.location ?? 'all';
  return 'all';
}
