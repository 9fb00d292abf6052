import { Inject, Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import pg from 'pg';
import { Subject } from 'rxjs';
import type { DataSource, EntityManager } from 'typeorm';
import { CONFIG, type Config } from '../config.js';

const channel = 'underpass_estate';
/** After the connection broke it is tried again this often, ms. */
const againAfterMs = 1000;

/** What servers and workers on one database tell each other. */
export type Told =
  | { type: 'check' | 'sighting' | 'sessions' | 'job' | 'boot'; id: string }
  /** The estate is at another version. */
  | { type: 'estate'; cause: string; version: number }
  /** What no version tells was changed, such as measurements that were erased. */
  | { type: 'reread'; cause: string }
  /** Heard again, or for the first time: what was told before is not known. */
  | { type: 'connected' };

const types = ['check', 'sighting', 'sessions', 'job', 'boot', 'estate', 'reread'];

/** LISTEN/NOTIFY: every process on the database hears what any of them tells, also itself. */
@Injectable()
export class Channel implements OnModuleInit, OnApplicationShutdown {
  private readonly logger = new Logger('channel');
  private listener: pg.Client | null = null;
  private closed = false;
  readonly told = new Subject<Told>();

  constructor(
    @InjectDataSource() private readonly data: DataSource,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  get isHeard(): boolean {
    return this.listener !== null;
  }

  async onModuleInit(): Promise<void> {
    await this.listen();
  }

  async onApplicationShutdown(): Promise<void> {
    this.closed = true;
    await this.listener?.end().catch(() => undefined);
  }

  /** Tells everybody. @param within the transaction with whose end it is told; without one at once */
  async tell(message: Exclude<Told, { type: 'connected' }>, within: EntityManager | DataSource = this.data): Promise<void> {
    await within.query('SELECT pg_notify($1, $2)', [channel, JSON.stringify(message)]);
  }

  private async listen(): Promise<void> {
    if (this.closed) return;
    const client = new pg.Client({ connectionString: this.config.databaseUrl, connectionTimeoutMillis: 5000, keepAlive: true });
    // the database may be restarting: come back
    const again = () => {
      client.removeAllListeners('end');
      if (this.closed) return;
      this.listener = null;
      setTimeout(() => {
        this.listen().catch((error: Error) => this.logger.error(error.message));
      }, againAfterMs).unref();
    };
    client.on('error', () => undefined);
    client.on('end', again);
    client.on('notification', (message) => this.hear(message.payload));
    try {
      await client.connect();
      await client.query(`LISTEN ${channel}`);
      if (this.closed) return void (await client.end());
      this.listener = client;
      this.told.next({ type: 'connected' });
    } catch (error) {
      this.logger.warn(`waiting for the database: ${(error as Error).message}`);
      again();
      await client.end().catch(() => undefined);
    }
  }

  private hear(payload = ''): void {
    try {
      const message = JSON.parse(payload) as Exclude<Told, { type: 'connected' }>;
      if (types.includes(message.type)) this.told.next(message);
    } catch {
      // not ours
    }
  }
}
