import { afterAll, expect, test } from '@jest/globals';
import type { ImportJob, JobStarted, JobView } from '@underpass/contracts';
import { setTimeout as wait } from 'node:timers/promises';
import pg from 'pg';
import { withDemo } from './withDemo.js';
import { Workers } from './worker.js';

const demo = withDemo(47_900, { jobs: 'elsewhere' });

/** Enough people that moving them is long work, and that they are read in more than one part. */
const many = 1200;

const workers = new Workers();

const startWorker = () => workers.start(demo.databaseUrl);
async function endOf(id: string, withinMs = 60_000): Promise<JobView> {
  for (const from = Date.now(); Date.now() - from < withinMs; await wait(100)) {
    const job = (await demo.server.call(`jobs/${id}`, { cookie: demo.reader })).body as JobView;
    if (!['waiting', 'running'].includes(job.state)) return job;
  }
  throw new Error(`job ${id} did not end`);
}
const move = { patches: [{ do: 'move', leave: 'crowd', join: 'posters' }] };
const ask = (path: string, body: object, cookie = demo.reader) => demo.server.call(path, { method: 'POST', body, cookie });
const started = async (body: object = { change: move }): Promise<string> => {
  const answer = await ask('access/consequence', body);
  return (answer.body as JobStarted).job.id;
};

afterAll(async () => {
  workers.kill();
});

test('an import waits for a worker, is done by one, and what it came to is told as before', async () => {
  const rows = Array.from({ length: many }, (_, i) => `CW${i},Person ${i},staff,head-office,crowd`);
  const files = {
    'groups.csv': 'id,name,rank,publications\ncrowd,Crowd,9,documents\n',
    'people.csv': `id,name,kind,location,groups\n${rows.join('\n')}\n`,
  };
  const { id } = (await ask('estate/import', { files, apply: true }, demo.engineer)).body as ImportJob;
  await wait(400);
  // nobody takes it up while there is no worker; everybody sees that it waits
  expect((await demo.server.call('jobs', { cookie: demo.reader })).body).toMatchObject([
    { id, kind: 'import', state: 'waiting', by: 'Ines Farrow' },
  ]);
  await startWorker();
  expect(await endOf(id)).toMatchObject({ state: 'done', message: null });
  expect((await demo.server.call(`estate/import/${id}`, { cookie: demo.engineer })).body).toMatchObject({
    state: 'applied',
    result: { added: many + 1 },
  });
  // a folder that is wrong comes back with its rows, and nothing of what was sent is kept
  const wrong = (
    await ask('estate/import', { files: { 'people.csv': 'id,name,kind,location\nX,X,staff,nowhere\n' }, apply: true }, demo.engineer)
  ).body as ImportJob;
  await endOf(wrong.id);
  expect((await demo.server.call(`estate/import/${wrong.id}`, { cookie: demo.engineer })).body).toMatchObject({
    state: 'rejected',
    result: { rejectedTotal: 1 },
  });
  const client = new pg.Client({ connectionString: demo.databaseUrl });
  await client.connect();
  expect((await client.query('SELECT count(*)::int AS n FROM job WHERE input IS NOT NULL')).rows).toEqual([{ n: 0 }]);
  await client.end();
}, 60_000);

test('what comes of moving many people is worked out beside the server, as it would be at once for few', async () => {
  const job = await endOf(await started());
  expect(job).toMatchObject({ state: 'done', kind: 'consequence', result: { people: many, writes: many } });
  const few = (await ask('access/consequence', { change: { patches: [{ do: 'move', people: ['CW1'], leave: 'crowd', join: 'posters' }] } }))
    .body as {
    rows: object[];
  };
  expect((job.result as { rows: object[] }).rows).toContainEqual(few.rows[0]);
}, 60_000);

test('a worker killed over its work loses nothing: another one takes it up', async () => {
  workers.kill();
  const id = await started();
  const dying = await startWorker();
  // it dies as soon as it has begun
  for (;;) {
    const { state } = (await demo.server.call(`jobs/${id}`, { cookie: demo.reader })).body as JobView;
    if (state !== 'waiting') break;
    await wait(5);
  }
  dying.kill('SIGKILL');
  await startWorker();
  expect(await endOf(id)).toMatchObject({ state: 'done', result: { people: many } });
}, 90_000);

test('work is called off: what waits is never begun; nobody calls off what is not theirs, but an engineer may', async () => {
  workers.kill();
  // nobody fills the queue alone
  const many = await Promise.all(Array.from({ length: 9 }, () => ask('access/consequence', { change: move })));
  const taken = many.flatMap(({ body }) => ((body as Partial<JobStarted>).job ? [(body as JobStarted).job.id] : []));
  expect(many.some(({ status }) => status === 429)).toBe(true);
  for (const id of taken) await demo.server.call(`jobs/${id}/cancel`, { method: 'POST', cookie: demo.reader });
  const own = await started();
  expect((await demo.server.call(`jobs/${own}/cancel`, { method: 'POST', cookie: demo.reader })).body).toMatchObject({
    state: 'cancelled',
  });
  const others = ((await ask('access/consequence', { change: move }, demo.engineer)).body as JobStarted).job.id;
  expect((await demo.server.call(`jobs/${others}/cancel`, { method: 'POST', cookie: demo.reader })).status).toBe(403);
  expect((await demo.server.call(`jobs/${others}/cancel`, { method: 'POST', cookie: demo.engineer })).body).toMatchObject({
    state: 'cancelled',
  });
  await startWorker();
  await wait(2500);
  for (const id of [own, others])
    expect((await demo.server.call(`jobs/${id}`, { cookie: demo.reader })).body).toMatchObject({ state: 'cancelled', result: null });
  expect((await demo.server.call('jobs/00000000-0000-7000-8000-000000000000', { cookie: demo.reader })).status).toBe(404);
  expect((await demo.server.call('jobs/nonsense', { cookie: demo.reader })).status).toBe(400);
}, 60_000);

test('work that every worker died over is told as given up, and what was sent for it is not kept', async () => {
  const client = new pg.Client({ connectionString: demo.databaseUrl });
  await client.connect();
  workers.kill();
  const id = await started();
  // as the queue leaves it after the last attempt: nobody has it, and it is not given out again
  await client.query(
    'UPDATE graphile_worker._private_jobs SET attempts = max_attempts, locked_at = NULL, locked_by = NULL WHERE key = $1',
    [id],
  );
  await client.query("UPDATE job SET state = 'running', input = 'x' WHERE id = $1", [id]);
  await startWorker();
  const job = await endOf(id, 20_000);
  expect(job).toMatchObject({ state: 'failed', message: expect.stringContaining('given up') });
  expect((await client.query('SELECT input FROM job WHERE id = $1', [id])).rows).toEqual([{ input: null }]);
  await client.end();
}, 60_000);
