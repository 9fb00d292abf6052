import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { until } from './attack/until.js';
import { makeDatabase } from './server.js';

const root = new URL('../../..', import.meta.url).pathname;
let database: Awaited<ReturnType<typeof makeDatabase>>;
const started: ChildProcess[] = [];
beforeAll(async () => {
  database = await makeDatabase('demo');
});
afterAll(async () => {
  for (const each of started) each.kill('SIGTERM');
  await until(() => started.every((each) => each.exitCode !== null || each.signalCode !== null), 10_000);
  await database.drop();
});

/** What npm start runs, on a database of its own. */
function start(port: number): { output: () => string; child: ChildProcess } {
  let output = '';
  const child = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: root,
    env: { PATH: process.env.PATH, HOME: process.env.HOME, PORT: String(port), DATABASE_URL: database.url, SECRET_KEY: 'k'.repeat(30) },
  });
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (part: Buffer) => (output += String(part)));
  started.push(child);
  return { output: () => output, child };
}
const serves = (port: number) => async () => (await fetch(`http://127.0.0.1:${port}/api/health`)).ok;
/** Processes that a process started. */
const childrenOf = (pid: number): number[] =>
  spawnSync('ps', ['-o', 'pid=', '--ppid', String(pid)], { encoding: 'utf8' })
    .stdout.split('\n')
    .map(Number)
    .filter((each) => each > 0);
const runs = (pid: number) =>
  spawnSync('ps', ['-o', 'stat=', '-p', String(pid)], { encoding: 'utf8' })
    .stdout.trim()
    .replace(/^Z.*/, '') !== '';

test('ended parts are started again, a second instance stands beside, and all end with who started them', async () => {
  const one = start(4860);
  expect(await until(() => one.output().includes('Underpass is ready'), 60_000)).toBe(true);
  expect(one.output()).toContain('Only this machine reaches it');
  const two = start(4880);
  expect(await until(() => two.output().includes('Underpass is ready'), 60_000)).toBe(true);
  // ports of their own, datagrams too: neither falls over the other
  expect(two.output()).not.toMatch(/ {4}at |could not be opened/);
  const parts = childrenOf(one.child.pid as number);
  expect(parts.length).toBeGreaterThanOrEqual(3);
  process.kill(parts[0] as number, 'SIGKILL');
  expect(await until(() => one.output().includes('The server ended (SIGKILL); it is started again in 1 s'))).toBe(true);
  expect(await until(() => one.output().includes('The server runs again'), 30_000)).toBe(true);
  expect(await serves(4860)()).toBe(true);
  const now = childrenOf(one.child.pid as number);
  one.child.kill('SIGKILL');
  expect(await until(() => !now.some(runs), 15_000)).toBe(true);
  expect(await serves(4880)()).toBe(true);
}, 180_000);

test('a database that does not answer is started again, with longer waits while that fails', async () => {
  const path = new URL('../../../scripts/supervisor.mjs', import.meta.url).href;
  const { watchDatabase } = (await import(path)) as { watchDatabase: (cluster: object) => () => void };
  let answers = false;
  let tries = 0;
  const from = Date.now();
  const at: number[] = [];
  const stop = watchDatabase({
    answers: () => answers,
    restart: () => {
      at.push(Date.now() - from);
      if (++tries < 2) throw new Error('It does not start.');
      answers = true;
      return Promise.resolve();
    },
  });
  expect(await until(() => answers, 15_000)).toBe(true);
  stop();
  // seen missing twice, tried, waited, tried again
  expect(at).toHaveLength(2);
  expect((at[1] as number) - (at[0] as number)).toBeGreaterThanOrEqual(1900);
}, 30_000);
