import { afterAll, beforeAll, beforeEach, expect, test } from '@jest/globals';
import pg from 'pg';
import { Subject } from 'rxjs';
import type { DataSource } from 'typeorm';
import type { Channel, Told } from '../src/events/channel.service.js';
import type { Config } from '../src/config.js';
import { ResultsService } from '../src/crossing/results.service.js';
import { EstateStore, type StoreChange } from '../src/estate/estate.store.js';
import { makeDatabase } from './server.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
let pool: pg.Pool;
let store: EstateStore;
let told: Subject<Told>;
let asked: string[] = [];
let changes: StoreChange[] = [];
/** What happens after a statement was answered and before the next one is put. */
let afterOne: (() => Promise<void>) | null = null;
let last: Promise<unknown> = Promise.resolve();

const rowsOf = async (sql: string, parameters?: unknown[]) => (await pool.query(sql, parameters)).rows as never;
/** One statement after the other, however many are put at a time: what comes between two of them can be set. */
const oneByOne = (sql: string, parameters?: unknown[]) => {
  const mine = last.then(async () => {
    asked.push(sql);
    const rows = await rowsOf(sql, parameters);
    const then = afterOne;
    afterOne = null;
    await then?.();
    return rows;
  });
  last = mine.catch(() => undefined);
  return mine;
};

/** A location's name and a measurement there, written at one version as an import writes them. */
async function bothWritten(name: string): Promise<string> {
  const client = await pool.connect();
  try {
    await client.query('BEGIN');
    const { version } = (await client.query(`SELECT nextval('estate_version_seq') AS version`)).rows[0] as { version: string };
    await client.query(
      `UPDATE estate_object SET data = data || jsonb_build_object('name', $1::text), version = $2 WHERE kind = 'location' AND id = 'wexcombe'`,
      [name, version],
    );
    await client.query(
      `INSERT INTO measurement (id, at, by_name, method, vantage, location, partial, figures, version)
       VALUES ($1, '2026-11-20 10:00:00.25+00', 'Ines Farrow', 'round trips', 'desk', 'wexcombe', false, '{"rttMs":[12.5]}', $2)`,
      [`of ${name}`, version],
    );
    await client.query('COMMIT');
    return version;
  } finally {
    client.release();
  }
}
const standing = () => {
  const { name } = store.find('location', 'wexcombe') as { name: string };
  const of = (store.model.measurementsAt.get('wexcombe') ?? []).map(({ id }) => id).filter((id) => id.startsWith('of '));
  return [name, ...of];
};

beforeAll(async () => {
  database = await makeDatabase('demo');
  pool = new pg.Pool({ connectionString: database.url, max: 4 });
}, 60_000);
afterAll(async () => {
  await pool.end();
  await database.drop();
});
beforeEach(async () => {
  told = new Subject();
  const transaction = async (_level: string, work: (manager: object) => Promise<unknown>) => {
    const client = await pool.connect();
    try {
      await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ');
      return await work({ query: async (sql: string, parameters?: unknown[]) => (await client.query(sql, parameters)).rows as unknown[] });
    } finally {
      await client.query('COMMIT');
      client.release();
    }
  };
  store = new EstateStore({ query: oneByOne, transaction } as unknown as DataSource, { told, isHeard: true } as unknown as Channel);
  await store.onModuleInit();
  changes = [];
  store.changes.subscribe((change) => changes.push(change));
  asked = [];
});

test('what is written while the estate is read is read whole the next time: objects and measurements are of one moment', async () => {
  afterOne = async () => void (await bothWritten('Wexcombe in between'));
  await store.refresh('first');
  await store.refresh('second');
  expect(standing()).toEqual(['Wexcombe in between', 'of Wexcombe in between']);
});

/** Until what was heard is read, however many statements that takes. */
const settled = async () => {
  while (!store.follows) await new Promise((resolve) => setTimeout(resolve, 5));
};

test('what is told while something told before is still being read is read too', async () => {
  told.next({ type: 'estate', cause: 'first', version: Number(await bothWritten('Wexcombe first')) });
  afterOne = async () => told.next({ type: 'estate', cause: 'second', version: Number(await bothWritten('Wexcombe second')) });
  await settled();
  expect(standing()).toEqual(['Wexcombe second', ...['first', 'in between', 'second'].map((each) => `of Wexcombe ${each}`)]);
  expect(changes.map(({ cause }) => cause)).toEqual(['first', 'second']);
});

test('what was read already is not read again when it is told; what tells no version is', async () => {
  const version = Number(await bothWritten('Wexcombe at once'));
  await store.refresh('own');
  expect([asked.length, store.version]).toEqual([1, version]);
  told.next({ type: 'estate', cause: 'own', version });
  await settled();
  expect(asked).toHaveLength(1);
  told.next({ type: 'connected' });
  await settled();
  expect(asked).toHaveLength(2);
  expect(changes.map(({ cause }) => cause)).toEqual(['own']);
});

test('more than is read at once is read whole, and the moment of a measurement is kept', async () => {
  const version = await bothWritten('Wexcombe of many');
  await pool.query('UPDATE estate_object SET version = $1', [version]);
  await store.refresh('many');
  expect(standing()[0]).toBe('Wexcombe of many');
  expect(changes).toHaveLength(1);
  expect(changes[0]!.over!.writes.length).toBeGreaterThan(1000);
  expect(store.model.measurementsAt.get('wexcombe')!.find(({ id }) => id === 'of Wexcombe of many')).toEqual({
    id: 'of Wexcombe of many',
    at: '2026-11-20T10:00:00.250Z',
    by: 'Ines Farrow',
    method: 'round trips',
    vantage: 'desk',
    location: 'wexcombe',
    partial: false,
    figures: { rttMs: [12.5] },
  });
});

test('long work knows what was written before it began, heard of or not', async () => {
  const results = new ResultsService(store, { query: oneByOne } as unknown as DataSource, { role: 'worker' } as Config);
  await results.onModuleInit();
  await results.standing();
  expect(results.version).toBe(store.version);
  const version = Number(await bothWritten('Wexcombe not heard of'));
  await results.standing();
  expect([results.version, results.reader.model.locations.get('wexcombe')!.name]).toEqual([version, 'Wexcombe not heard of']);
  await results.onApplicationShutdown();
});
