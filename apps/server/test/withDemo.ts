import { afterAll, beforeAll } from '@jest/globals';
import pg from 'pg';
import type { Config } from '../src/config.js';
import { makeDatabase, people, startServer, type TestServer } from './server.js';

/** What an answer is, for those who know what to expect. */
export interface Answer<T> {
  status: number;
  body: T;
  headers: Headers;
}

/** A server with the demo on a database of its own, and who is signed in there: from before the first test of a file until after its last. */
export interface WithDemo {
  databaseUrl: string;
  server: TestServer;
  /** Straight to the database. */
  sql: pg.Client;
  engineer: string;
  reader: string;
  admin: string;
  /** Asks as the engineer, or as somebody else. */
  ask: <T>(
    path: string,
    method?: string,
    body?: unknown,
    more?: { cookie?: string; headers?: Record<string, string> },
  ) => Promise<Answer<T>>;
}

/** @param udpFirst the first of its datagram ports, which no other test file has */
export function withDemo(udpFirst: number, config: Partial<Config> = {}): WithDemo {
  const demo: Partial<WithDemo> = {
    ask: async (path, method = 'GET', body, { cookie = demo.engineer ?? '', headers = {} } = {}) =>
      (await demo.server?.call(path, { method, cookie, headers, ...(body === undefined ? {} : { body }) })) as never,
  };
  let drop: (() => Promise<void>) | undefined;
  beforeAll(async () => {
    const database = await makeDatabase('demo');
    drop = database.drop;
    demo.databaseUrl = database.url;
    demo.server = await startServer(database.url, udpFirst, true, config);
    demo.sql = new pg.Client({ connectionString: database.url });
    await demo.sql.connect();
    for (const who of ['engineer', 'reader', 'admin'] as const) demo[who] = await demo.server.signIn(people[who]);
  }, 60_000);
  afterAll(async () => {
    await demo.sql?.end();
    await demo.server?.app.close();
    await drop?.();
  });
  return demo as WithDemo;
}
