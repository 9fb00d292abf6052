import pg from 'pg';
import { DataSource, type DataSourceOptions } from 'typeorm';
import { entities } from './entities.js';
import { Access1764100000000 } from './migrations/1764100000000-Access.js';
import { Beginning1764000000000 } from './migrations/1764000000000-Beginning.js';
import { Doors1764200000000 } from './migrations/1764200000000-Doors.js';

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
  migrations: [Beginning1764000000000, Access1764100000000, Doors1764200000000],
  migrationsRun: true,
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

/** For the TypeORM command line: migration:generate and migration:run. */
export default new DataSource(dataSourceOptions(process.env.DATABASE_URL ?? 'postgres://127.0.0.1:4610/underpass'));
