import { afterAll, beforeAll, expect, test } from '@jest/globals';
import pg from 'pg';
import type { DataSource } from 'typeorm';
import { Patience } from '../src/signin/patience.service.js';
import { makeDatabase } from './server.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
const clients: pg.Client[] = [];
const patienceOn = async () => {
  const client = new pg.Client({ connectionString: database.url });
  clients.push(client);
  await client.connect();
  const data = { query: async (text: string, values?: unknown[]) => (await client.query(text, values)).rows as unknown };
  return { client, patience: new Patience(data as DataSource) };
};

beforeAll(async () => {
  database = await makeDatabase('demo');
}, 60_000);
afterAll(async () => {
  for (const client of clients) await client.end();
  await database.drop();
});

test('of two tries at the same moment the one that began first and comes second is judged too', async () => {
  const [one, other] = [await patienceOn(), await patienceOn()];
  // its moment is that of its beginning, however long it then waits for its turn
  await one.client.query('BEGIN');
  await one.client.query('SELECT now()');
  await new Promise((resolve) => setTimeout(resolve, 20));
  expect(await other.patience.take('account', 'somebody')).toBe(0);
  expect(await one.patience.take('account', 'somebody')).toBe(0);
  await one.client.query('COMMIT');
});

test('three tries are free; after the third, the next waits, and is told how long', async () => {
  const { patience } = await patienceOn();
  const waits = [];
  for (let i = 0; i < 4; i++) waits.push(await patience.take('account', 'another'));
  expect(waits).toEqual([0, 0, 0, 1]);
});
