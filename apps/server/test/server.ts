import { lately } from '../src/demo/loader.js';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { readdirSync, readFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import type { JobStarted, JobView } from '@underpass/contracts';
import pg from 'pg';
import 'reflect-metadata';
import { createApplication } from '../src/application.js';
import { ResultsService } from '../src/crossing/results.service.js';
import type { VerdictHistory } from '../src/crossing/verdictHistory.js';
import type { Config } from '../src/config.js';
import { answersChecker } from './answers.js';

const admin = process.env.TEST_DATABASE;
export const demoFolder = new URL('../../../demo/saltmarsh', import.meta.url).pathname;
export const demoFiles = (): Record<string, string> =>
  Object.fromEntries(
    readdirSync(demoFolder).map((name) => {
      const text = readFileSync(join(demoFolder, name), 'utf8');
      return [name, name === 'measurements.csv' ? lately(text, Date.now()) : text];
    }),
  );

async function asAdmin<T>(work: (client: pg.Client) => Promise<T>): Promise<T> {
  if (!admin) throw new Error('TEST_DATABASE is not set; run npm test');
  const client = new pg.Client({ connectionString: admin });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}
const urlOf = (name: string): string => String(admin).replace(/\/[^/]*$/, `/${name}`);

/** Loading the demo takes seconds: it is done once for all tests of a run, and copied. */
const template = `template_demo_${process.env.TEST_RUN ?? process.ppid}`;
const templateLock = 4_217;
const ensureTemplate = (): Promise<void> =>
  asAdmin(async (client) => {
    // the first test that wants it makes it; those of other runs are gone
    await client.query('SELECT pg_advisory_lock($1)', [templateLock]);
    const { rows } = await client.query<{ name: string }>("SELECT datname AS name FROM pg_database WHERE datname LIKE 'template_demo_%'");
    if (rows.some(({ name }) => name === template)) return;
    for (const { name } of rows) await client.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
    const making = `making_${template}`;
    await client.query(`DROP DATABASE IF EXISTS ${making} WITH (FORCE)`);
    await client.query(`CREATE DATABASE ${making}`);
    const { app } = await startServer(urlOf(making), 49_900);
    await app.close();
    // only a whole one has the name
    await client.query(`ALTER DATABASE ${making} RENAME TO ${template}`);
  });

/** A database of its own for a test file: empty, or with the demo estate and its sign-ins. */
export async function makeDatabase(with_: 'nothing' | 'demo' = 'nothing'): Promise<{ url: string; drop: () => Promise<void> }> {
  const name = `test_${process.pid}_${Math.floor(performance.now() * 1000)}`;
  if (with_ === 'demo') await ensureTemplate();
  await asAdmin(async (client) => {
    // one copy at a time: while it is copied nobody may be in it
    await client.query('SELECT pg_advisory_lock($1)', [templateLock]);
    await client.query(`CREATE DATABASE ${name}${with_ === 'demo' ? ` TEMPLATE ${template}` : ''}`);
  });
  return {
    url: urlOf(name),
    drop: () => asAdmin(async (client) => void (await client.query(`DROP DATABASE ${name} WITH (FORCE)`))),
  };
}

export interface TestServer {
  app: NestExpressApplication;
  base: string;
  port: number;
  call: (
    path: string,
    options?: { method?: string; body?: unknown; cookie?: string; headers?: Record<string, string>; waits?: boolean },
  ) => Promise<{ status: number; body: never; headers: Headers }>;
  signIn: (email: string) => Promise<string>;
  /** Asks for a file that is made as long work, waits for it, and fetches it. */
  exported: (path: string, cookie: string, body?: object) => Promise<Buffer>;
}

/** Holds back what crossings come to, as an estate does that takes its time. @returns lets them come, and waits until they stand */
export function holdVerdicts({ app }: TestServer): () => Promise<void> {
  const results = app.get(ResultsService);
  const { history } = results as unknown as { history: VerdictHistory };
  const { keep } = history;
  let letCome = (): void => undefined;
  const later = new Promise<void>((done) => (letCome = done));
  history.keep = (...found) => later.then(() => keep.apply(history, found));
  return async () => {
    letCome();
    await results.settled();
  };
}

/** The same for all servers and workers of a database. */
export const secretKey = 'a key for the secrets of the tests, long enough';
export const deviceKey = 'a key for the devices of the tests';
export const portalKey = 'a key for the portals of the tests';

/** The whole application on a real PostgreSQL, listening on a port of its own. */
export async function startServer(databaseUrl: string, udpFirst: number, demo = true, config: Partial<Config> = {}): Promise<TestServer> {
  const app = await createApplication(
    {
      port: 0,
      host: '127.0.0.1',
      databaseUrl,
      publicUrl: null,
      secure: false,
      trustedProxy: '',
      secretKey,
      metricsToken: 'a token for the metrics of the tests',
      inbox: null,
      allowedTargets: '127.0.0.1',
      provider: null,
      lines: [],
      checkUdpFirst: udpFirst,
      checksAtOnce: 2,
      logLevel: 'silent',
      jobs: 'here',
      role: 'server',
      portalUrl: null,
      portalKey,
      deviceKey,
      demoPast: false,
      demoFolder: demo ? demoFolder : null,
      firstAdmin: null,
      ...config,
    },
    null,
  );
  await app.listen(0, '127.0.0.1');
  const { port } = app.getHttpServer().address() as AddressInfo;
  const base = `http://127.0.0.1:${port}`;
  const told = answersChecker(app);
  const call: TestServer['call'] = async (path, { method = 'GET', body, cookie = '', headers = {}, waits = true } = {}) => {
    const response = await fetch(`${base}/api/${path}`, {
      method,
      headers: { 'x-underpass': '1', cookie, ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const type = response.headers.get('content-type') ?? '';
    const answer: unknown = type.includes('json') ? await response.json() : await response.arrayBuffer();
    // whatever a test asks for is compared with what the served description says of it
    const wrong = response.ok && type.includes('json') ? told(method, path, answer) : null;
    if (wrong) throw new Error(wrong);
    // who wrote something asks next what comes of it
    if (method !== 'GET' && waits) await app.get(ResultsService).settled();
    return { status: response.status, body: answer as never, headers: response.headers };
  };
  const signIn = async (email: string) => {
    const { headers } = await call('session', { method: 'POST', body: { email, password: 'under-the-estuary' } });
    return headers.getSetCookie()[0]?.split(';')[0] ?? '';
  };
  const exported: TestServer['exported'] = async (path, cookie, body) => {
    const asked = await call(path, { method: 'POST', cookie, ...(body ? { body } : {}) });
    if (asked.status !== 202) throw new Error(`${path} answered ${asked.status}`);
    const { id } = (asked.body as JobStarted).job;
    for (;;) {
      const { state, message } = (await call(`jobs/${id}`, { cookie })).body as JobView;
      if (state === 'done') return Buffer.from(await (await fetch(`${base}/api/${path}/${id}`, { headers: { cookie } })).arrayBuffer());
      if (state === 'failed' || state === 'cancelled') throw new Error(message ?? state);
      await wait(50);
    }
  };
  return { app, base, port, call, signIn, exported };
}
export const people = { engineer: 'ines.farrow@saltmarsh.example', reader: 'reader@saltmarsh.example', admin: 'admin@saltmarsh.example' };
