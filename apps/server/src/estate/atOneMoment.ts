import pg from 'pg';
import type { Query } from './load.js';

/** Reads on a connection of its own, all of one moment: for threads that read much, so that nobody waits for them. */
export async function atOneMoment<T>(databaseUrl: string, work: (query: Query, version: number) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    const query: Query = async <R>(sql: string, parameters?: unknown[]) => (await client.query(sql, parameters)).rows as R[];
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    const [row] = await query<{ version: string }>('SELECT coalesce(max(version), 0) AS version FROM estate_object');
    return await work(query, Number(row?.version ?? 0));
  } finally {
    await client.end();
  }
}
