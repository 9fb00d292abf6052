import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { makeDatabase, people, startServer } from './server.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
let folder = '';
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'backup-test-'));
  database = await makeDatabase();
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await database.drop();
  // what a restore keeps of what was there before
  const client = new pg.Client({ connectionString: process.env.TEST_DATABASE });
  await client.connect();
  await client.query(`DROP DATABASE IF EXISTS ${new URL(database.url).pathname.slice(1, 31)}_before WITH (FORCE)`);
  await client.end();
});

const root = new URL('../../..', import.meta.url).pathname;
const run = (...args: string[]) =>
  new Promise<{ status: number; out: string; err: string }>((resolve) => {
    const child = spawn(process.execPath, ['scripts/underpass.mjs', ...args], {
      cwd: root,
      env: { PATH: process.env.PATH, HOME: process.env.HOME, DATABASE_URL: database.url, INIT_CWD: folder },
    });
    let [out, err] = ['', ''];
    child.stdout.on('data', (part: Buffer) => (out += String(part)));
    child.stderr.on('data', (part: Buffer) => (err += String(part)));
    child.on('close', (status) => resolve({ status: status ?? 1, out, err }));
  });
/** A hash over all that is kept, table by table. */
async function content(): Promise<Record<string, string>> {
  const client = new pg.Client({ connectionString: database.url });
  await client.connect();
  const { rows } = await client.query<{ name: string }>(
    // which workers live is of the moment
    `SELECT tablename AS name FROM pg_tables WHERE schemaname = 'public' AND tablename !~ '_\\d{4}$' AND tablename <> 'job_worker' ORDER BY 1`,
  );
  const all: Record<string, string> = {};
  for (const { name } of rows)
    all[name] =
      (await client.query<{ h: string }>(`SELECT coalesce(md5(string_agg(r::text, E'\\n' ORDER BY r::text)), '') AS h FROM "${name}" r`))
        .rows[0]?.h ?? '';
  all.sequence = String((await client.query<{ v: string }>('SELECT last_value AS v FROM estate_version_seq')).rows[0]?.v);
  await client.end();
  return all;
}
const change = async (sql: string) => {
  const client = new pg.Client({ connectionString: database.url });
  await client.connect();
  await client.query(sql);
  await client.end();
};

test('the demo is backed up while it is served, restored when it is stopped, and is the same', async () => {
  const server = await startServer(database.url, 46_500);
  await server.signIn(people.engineer);
  const made = await run('backup', 'demo.backup', '--json');
  expect([made.status, made.err]).toEqual([0, '']);
  expect(JSON.parse(made.out)).toMatchObject({
    migration: expect.stringMatching(/^[A-Z]\w+\d{13}$/),
    sha256: expect.stringMatching(/^[0-9a-f]{64}$/),
  });
  // readable by its owner alone: it holds everything
  expect(statSync(join(folder, 'demo.backup')).mode & 0o077).toBe(0);
  expect(await run('backup', 'demo.backup')).toMatchObject({ status: 2, err: expect.stringContaining('is there already') });
  expect(await run('restore', 'demo.backup')).toMatchObject({ status: 2, err: expect.stringContaining('Underpass is running') });
  await server.app.close();
  const before = await content();
  await change(`DELETE FROM estate_object WHERE kind = 'endpoint'; DELETE FROM app_user; SELECT nextval('estate_version_seq')`);
  expect(await content()).not.toEqual(before);
  const back = await run('restore', 'demo.backup', '--json');
  expect([back.status, back.err]).toEqual([0, expect.not.stringContaining('underpass:')]);
  expect(await content()).toEqual(before);
  // and it is served as before
  const again = await startServer(database.url, 46_500);
  const cookie = await again.signIn(people.engineer);
  expect((await again.call('board', { cookie })).status).toBe(200);
  await again.app.close();
}, 120_000);

test('what is damaged, foreign or from a newer version is refused with the reason, and nothing changes', async () => {
  const before = await content();
  const good = readFileSync(join(folder, 'demo.backup'));
  const end = good.indexOf(10);
  const head = JSON.parse(good.subarray(0, end).toString()) as Record<string, unknown>;
  const file = (name: string, bytes: Buffer | string) => {
    writeFileSync(join(folder, name), bytes);
    return name;
  };
  const headed = (change: Record<string, unknown>) =>
    Buffer.concat([Buffer.from(`${JSON.stringify({ ...head, ...change })}\n`), good.subarray(end + 1)]);
  const flipped = Buffer.from(good);
  flipped[good.length - 2000] = (flipped[good.length - 2000] as number) ^ 1;
  for (const [name, said] of [
    [file('flipped', flipped), 'is damaged: its content does not fit its hash'],
    [file('short', good.subarray(0, good.length - 10)), 'is damaged'],
    [file('newer', headed({ migration: 'Later1999999999999' })), 'made by a newer Underpass (Later1999999999999)'],
    [file('layout', headed({ layout: 2 })), 'made by a newer Underpass'],
    [file('text', 'id,name\n1,x\n'), 'is not a backup of Underpass'],
    [file('empty', ''), 'is not a backup of Underpass'],
    [file('zeros', Buffer.alloc(10_000)), 'is not a backup of Underpass'],
    ['nothing', 'there is no such file'],
  ] as const) {
    const done = await run('restore', name);
    expect([name, done.status, done.out, done.err]).toEqual([name, 2, '', expect.stringContaining(said)]);
    expect(done.err).not.toContain('    at ');
  }
  expect(await run('restore')).toMatchObject({ status: 2, err: expect.stringContaining('give the backup file') });
  expect(await content()).toEqual(before);
}, 120_000);

test('a backup of an earlier version is brought to this one', async () => {
  const before = await makeDatabase();
  const { DataSource } = await import('typeorm');
  const { Access1764100000000 } = await import('../src/database/migrations/1764100000000-Access.js');
  const { Beginning1764000000000 } = await import('../src/database/migrations/1764000000000-Beginning.js');
  const old = await new DataSource({
    type: 'postgres',
    url: before.url,
    migrations: [Beginning1764000000000, Access1764100000000],
  }).initialize();
  await old.runMigrations();
  await old.query(
    `INSERT INTO estate_object (kind, id, data, version) VALUES ('region', 'r', '{"id":"r","name":"R","latitude":1,"longitude":2}', 1)`,
  );
  await old.query(`CREATE TABLE measurement_2026_11 PARTITION OF measurement FOR VALUES FROM ('2026-11-01') TO ('2026-12-01')`);
  await old.query(
    `INSERT INTO measurement VALUES ('m', '2026-11-03T10:00:00Z', 'x', 'ping', 'desk', NULL, NULL, 'l', false, NULL, '{}', 2), ('n', '0999-11-03T10:00:00Z', 'x', 'ping', 'desk', NULL, NULL, 'l', false, NULL, '{}', 2)`,
  );
  await old.destroy();
  const mine = database.url;
  database.url = before.url;
  expect((await run('backup', 'old.backup')).status).toBe(0);
  database.url = mine;
  const done = await run('restore', 'old.backup', '--json');
  expect([done.status, done.err]).toEqual([0, expect.not.stringContaining('underpass:')]);
  expect(JSON.parse(done.out)).toMatchObject({ from: 'Access1764100000000', to: 'Order1765400000000', objects: 1 });
  const client = new pg.Client({ connectionString: mine });
  await client.connect();
  expect((await client.query('SELECT tableoid::regclass::text AS part, id FROM measurement')).rows).toEqual([
    { part: 'measurement_2026', id: 'm' },
  ]);
  await client.end();
  await before.drop();
}, 120_000);

test('an estate of 50 000 endpoints goes through a backup and back', async () => {
  await change(
    `INSERT INTO estate_object (kind, id, data, version)
     SELECT 'endpoint', 'BIG-' || g, jsonb_build_object('id', 'BIG-' || g, 'name', 'Endpoint ' || g, 'location', 'l', 'users', '[]'::jsonb, 'peripherals', '["headset"]'::jsonb,
       'deviceClass', 'thin-client', 'ownership', 'managed', 'platform', 'thin', 'processor', 'x86-64', 'clientKind', 'browser', 'alwaysOn', false), 3
     FROM generate_series(1, 50000) g`,
  );
  const before = await content();
  expect((await run('backup', 'big.backup')).status).toBe(0);
  await change('TRUNCATE estate_object');
  expect(JSON.parse((await run('restore', 'big.backup', '--json')).out)).toMatchObject({ objects: 50_001 });
  expect(await content()).toEqual(before);
}, 120_000);
