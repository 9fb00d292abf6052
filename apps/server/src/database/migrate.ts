import { dataSourceOptions, openDatabase } from './dataSource.js';

/** Brings a database to this version: node migrate.js, with DATABASE_URL in the environment. Used after a restore. */
const source = await openDatabase(dataSourceOptions(process.env.DATABASE_URL ?? ''));
await source.destroy();
