import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { readFolder, type JobStarted, type JobView } from '@underpass/contracts';
import { strFromU8, unzipSync } from 'fflate';
import { setTimeout as wait } from 'node:timers/promises';
import pg from 'pg';
import { makeDatabase, people, startServer, type TestServer } from './server.js';
import { Workers } from './worker.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
let server: TestServer;
let sql: pg.Client;
let engineer = '';
let admin = '';
const workers = new Workers();

const startWorker = () => workers.start(database.url);
const ask = async () => await server.call('estate/exports', { method: 'POST', cookie: engineer });
const jobOf = async () => ((await ask()).body as JobStarted).job.id;
const erased = async (id: string) => (await server.call(`people/${id}/data`, { method: 'DELETE', cookie: admin })).status;
const fetched = (id: string, cookie = engineer, path = 'estate/exports') => server.call(`${path}/${id}`, { cookie });
async function endOf(id: string): Promise<JobView> {
  for (let i = 0; i < 600; i++, await wait(100)) {
    const job = (await server.call(`jobs/${id}`, { cookie: engineer })).body as JobView;
    if (!['waiting', 'running'].includes(job.state)) return job;
  }
  throw new Error(`export ${id} did not end`);
}

beforeAll(async () => {
  database = await makeDatabase('demo');
  server = await startServer(database.url, 47_700, true, { jobs: 'elsewhere' });
  engineer = await server.signIn(people.engineer);
  admin = await server.signIn(people.admin);
  sql = new pg.Client({ connectionString: database.url });
  await sql.connect();
}, 60_000);
afterAll(async () => {
  workers.kill();
  await sql.end();
  await server.app.close();
  await database.drop();
});

test('called off before a worker takes it up, or with somebody erased while it is made, there is no file', async () => {
  const off = await jobOf();
  await server.call(`jobs/${off}/cancel`, { method: 'POST', cookie: engineer });
  const making = await jobOf();
  // as it stands while a worker writes the folder
  await sql.query(`UPDATE job SET state = 'running' WHERE id = $1`, [making]);
  expect(await erased('P200')).toBe(204);
  await startWorker();
  expect((await endOf(off)).state).toBe('cancelled');
  expect((await endOf(making)).state).not.toBe('done');
  expect([(await fetched(off)).status, (await fetched(making)).status]).toEqual([404, 404]);
}, 60_000);

test('one of each person at a time, however many ask at once; then the file is there, until somebody is erased who stands in it', async () => {
  const answers = await Promise.all(Array.from({ length: 6 }, ask));
  expect(answers.map(({ status }) => status).sort()).toEqual([202, 429, 429, 429, 429, 429]);
  expect(answers.find(({ status }) => status === 429)?.headers.get('retry-after')).toBe('5');
  // a second person may, a third may not
  expect((await server.call('estate/exports', { method: 'POST', cookie: admin })).status).toBe(202);
  const { job } = answers.find(({ status }) => status === 202)!.body as JobStarted;
  expect(await endOf(job.id)).toMatchObject({ state: 'done', kind: 'export', by: 'Ines Farrow', result: { name: 'estate.zip' } });
  const file = await fetched(job.id);
  expect([file.status, file.headers.get('content-disposition'), file.headers.get('content-type')]).toEqual([
    200,
    'attachment; filename=estate.zip',
    'application/zip',
  ]);
  const files = Object.entries(unzipSync(new Uint8Array(file.body))).map(([name, bytes]) => [name, strFromU8(bytes)] as const);
  expect(readFolder(new Map(files)).problems).toEqual([]);
  expect(await erased('P201')).toBe(204);
  expect((await fetched(job.id)).status).toBe(404);
}, 60_000);

test('a reader gets no file, nor anybody the file of another kind by its number', async () => {
  const estate = await jobOf();
  await endOf(estate);
  const reader = await server.signIn(people.reader);
  expect((await server.call('estate/exports', { method: 'POST', cookie: reader })).status).toBe(403);
  expect((await fetched(estate, reader)).status).toBe(403);
  expect((await server.call(`estate/exports/${estate}`)).status).toBe(401);
  expect((await fetched(estate, engineer, 'security-log/exports')).status).toBe(403);
  expect((await fetched(estate, admin, 'security-log/exports')).status).toBe(404);
  const asked = await server.call('security-log/exports', { method: 'POST', cookie: admin, body: { format: 'json' } });
  const { id } = (asked.body as JobStarted).job;
  await endOf(id);
  expect((await fetched(id, engineer)).status).toBe(404);
  expect((await fetched(id, admin, 'security-log/exports')).status).toBe(200);
  const wrong = await server.call('security-log/exports', { method: 'POST', cookie: admin, body: { format: 'pdf' } });
  expect([wrong.status, wrong.body]).toEqual([400, expect.objectContaining({ fields: [expect.objectContaining({ field: 'format' })] })]);
}, 60_000);

test('a file is kept for an hour', async () => {
  const young = await jobOf();
  await endOf(young);
  const at = (minutes: number) => sql.query(`UPDATE job_file SET at = now() - $1 * interval '1 minute' WHERE job = $2`, [minutes, young]);
  await at(59);
  await endOf(await jobOf());
  expect((await fetched(young)).status).toBe(200);
  await at(61);
  await endOf(await jobOf());
  expect((await fetched(young)).status).toBe(404);
}, 60_000);
