import dataSource from './dataSource.js';

/** Brings a database to this version: node migrate.js, with DATABASE_URL in the environment. Used after a restore. */
await dataSource.initialize();
await dataSource.destroy();
