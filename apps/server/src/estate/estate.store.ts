import { Inject, Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { objectKinds, type Estate, type Measurement, type ObjectKind, type Setting } from '@underpass/contracts';
import { modelOf, type EstateModel } from '@underpass/core';
import pg from 'pg';
import { Subject } from 'rxjs';
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

/**
 * The estate in memory, at a version. State lives in PostgreSQL only; this is a read model that follows it by LISTEN/NOTIFY, so
 * that any number of server processes may run.
 */
@Injectable()
export class EstateStore implements OnModuleInit, OnApplicationShutdown {
  private readonly logger = new Logger('estate');
  private readonly objects = new Map<ObjectKind, Map<string, object>>(objectKinds.map((kind) => [kind, new Map()]));
  private measurements: Measurement[] = [];
  private seen = '0';
  private listener: pg.Client | null = null;
  private refreshing: Promise<void> = Promise.resolve();
  private closed = false;
  model: EstateModel = modelOf(estateOf(this.objects), []);
  readonly changes = new Subject<StoreChange>();
  /** Messages for the screens that are not changes of the estate, such as the progress of a field check. */
  readonly notices = new Subject<{ type: 'check' | 'sighting'; id: string }>();

  constructor(
    @InjectDataSource() private readonly data: DataSource,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  get version(): number {
    return Number(this.seen);
  }

  readonly query: Query = (sql, parameters) => this.data.query(sql, parameters as never[]);

  async onModuleInit(): Promise<void> {
    await this.listen();
    await this.refresh('loaded');
  }

  async onApplicationShutdown(): Promise<void> {
    this.closed = true;
    await this.listener?.end().catch(() => undefined);
  }

  find(kind: ObjectKind, id: string): object | undefined {
    return this.objects.get(kind)?.get(id);
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

  /** Brings the read model to the database's version; calls wait for each other. */
  refresh(cause: string): Promise<void> {
    this.refreshing = this.refreshing
      .then(() => this.load(cause))
      .catch((error: Error) => this.logger.error(`refresh failed: ${error.message}`));
    return this.refreshing;
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
    const client = new pg.Client({ connectionString: this.config.databaseUrl });
    client.on('error', () => undefined);
    client.on('end', () => {
      // the database may be restarting: come back, and read what was missed
      if (!this.closed) setTimeout(() => void this.listen().then(() => this.refresh('reconnected')), 1000).unref();
    });
    client.on('notification', (message) => {
      const notice = JSON.parse(message.payload ?? '{}') as { cause?: string; check?: string; sighting?: string };
      if (notice.check) this.notices.next({ type: 'check', id: notice.check });
      else if (notice.sighting) this.notices.next({ type: 'sighting', id: notice.sighting });
      else void this.refresh(notice.cause ?? 'a change');
    });
    try {
      await client.connect();
      await client.query(`LISTEN ${CHANNEL}`);
      this.listener = client;
    } catch (error) {
      if (!this.closed) this.logger.warn(`waiting for the database: ${(error as Error).message}`);
      await client.end().catch(() => undefined);
    }
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
