import { Logger, runMigrations } from 'graphile-worker';
import pg from 'pg';
import { DataSource, type DataSourceOptions } from 'typeorm';
import { entities } from './entities.js';
import { Access1764100000000 } from './migrations/1764100000000-Access.js';
import { Beginning1764000000000 } from './migrations/1764000000000-Beginning.js';
import { Doors1764200000000 } from './migrations/1764200000000-Doors.js';
import { Exports1764400000000 } from './migrations/1764400000000-Exports.js';
import { WhereTo1764500000000 } from './migrations/1764500000000-WhereTo.js';
import { BootReports1764700000000 } from './migrations/1764700000000-BootReports.js';
import { FirmwareFiles1764800000000 } from './migrations/1764800000000-FirmwareFiles.js';
import { DraftsKept1764900000000 } from './migrations/1764900000000-DraftsKept.js';
import { Lists1765000000000 } from './migrations/1765000000000-Lists.js';
import { Sources1765100000000 } from './migrations/1765100000000-Sources.js';
import { Feeds1765200000000 } from './migrations/1765200000000-Feeds.js';
import { Enrolment1765300000000 } from './migrations/1765300000000-Enrolment.js';
import { Order1765400000000 } from './migrations/1765400000000-Order.js';
import { Views1764600000000 } from './migrations/1764600000000-Views.js';
import { OneChange1764300000000 } from './migrations/1764300000000-OneChange.js';

/** A connection that is ended by the database also while somebody holds it tells so to nobody but its user. */
class ListenedClient extends pg.Client {
  constructor(config?: pg.ClientConfig) {
    super(config);
    this.on('error', () => undefined);
  }
}

export const dataSourceOptions = (url: string): DataSourceOptions => ({
  type: 'postgres',
  url,
  entities,
  migrations: [
    Beginning1764000000000,
    Access1764100000000,
    Doors1764200000000,
    OneChange1764300000000,
    Exports1764400000000,
    WhereTo1764500000000,
    Views1764600000000,
    BootReports1764700000000,
    FirmwareFiles1764800000000,
    DraftsKept1764900000000,
    Lists1765000000000,
    Sources1765100000000,
    Feeds1765200000000,
    Enrolment1765300000000,
    Order1765400000000,
  ],
  uuidExtension: 'pgcrypto',
  installExtensions: false,
  extra: {
    max: 10,
    Client: ListenedClient,
    connectionTimeoutMillis: 5000,
    keepAlive: true,
    // no single statement may hold the others up without end
    statement_timeout: 120_000,
    idle_in_transaction_session_timeout: 120_000,
  },
});

/** Key of the lock under which one server at a time brings the database to its version. */
const migrating = 4602;

/** Opens a database and brings it to this version; several that start at the same moment wait for each other. */
export async function openDatabase(options: DataSourceOptions): Promise<DataSource> {
  const source = await new DataSource(options).initialize();
  const holder = source.createQueryRunner();
  try {
    // whoever waits here waits as long as the other one's work takes
    await holder.query('SET statement_timeout = 0');
    await holder.query('SELECT pg_advisory_lock($1)', [migrating]);
    await source.runMigrations();
    // the queue's own tables
    await runMigrations({ connectionString: (options as { url: string }).url, logger: new Logger(() => () => undefined) });
  } catch (error) {
    await holder.release();
    await source.destroy();
    throw error;
  }
  await holder.query('SELECT pg_advisory_unlock($1)', [migrating]);
  await holder.query('RESET statement_timeout');
  await holder.release();
  return source;
}

/** For the TypeORM command line: migration:generate and migration:run. */
export default new DataSource(dataSourceOptions(process.env.DATABASE_URL ?? 'postgres://127.0.0.1:4610/underpass'));
