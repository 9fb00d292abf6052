import { DataSource, type DataSourceOptions } from 'typeorm';
import { entities } from './entities.js';
import { Access1764100000000 } from './migrations/1764100000000-Access.js';
import { Beginning1764000000000 } from './migrations/1764000000000-Beginning.js';

export const dataSourceOptions = (url: string): DataSourceOptions => ({
  type: 'postgres',
  url,
  entities,
  migrations: [Beginning1764000000000, Access1764100000000],
  migrationsRun: true,
  uuidExtension: 'pgcrypto',
  installExtensions: false,
  extra: { max: 10 },
});

/** For the TypeORM command line: migration:generate and migration:run. */
export default new DataSource(dataSourceOptions(process.env.DATABASE_URL ?? 'postgres://127.0.0.1:4610/underpass'));
