import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { createSocket } from 'node:dgram';
import pg from 'pg';
import { WebSocket } from 'ws';
import type { CheckLinkView } from '@underpass/contracts';
import { readConfig, remarksOn } from '../src/config.js';
import { ownCandidates } from '../src/evidence/datagrams.js';
import { Doorway } from '../src/evidence/doorway.js';
import { databaseProblem } from '../src/problems/databaseProblem.js';
import { loggedAddress } from '../src/application.js';
import { runServer, type RunningServer } from './attack/process.js';
import { makeDatabase, people } from './server.js';

const until = async (good: () => Promise<boolean> | boolean, withinMs = 10_000): Promise<boolean> => {
  for (const end = Date.now() + withinMs; Date.now() < end; await new Promise((resolve) => setTimeout(resolve, 60)))
    if (await Promise.resolve(good()).catch(() => false)) return true;
  return false;
};
const asAdmin = async <T>(url: string, work: (client: pg.Client) => Promise<T>): Promise<T> => {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
};

describe('a server whose database fails', () => {
  let database: Awaited<ReturnType<typeof makeDatabase>>;
  let server: RunningServer;
  let cookie = '';
  const name = () => new URL(database.url).pathname.slice(1);
  const admin = String(process.env.TEST_DATABASE);
  const call = async (path: string, method = 'GET', body?: unknown) => {
    const response = await fetch(`${server.base}/api/${path}`, {
      method,
      headers: { 'x-underpass': '1', cookie, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const text = await response.text();
    return {
      status: response.status,
      body: (text.startsWith('{') || text.startsWith('[') ? JSON.parse(text) : text) as never,
      headers: response.headers,
    };
  };
  /** The database is gone for this server: nobody may connect, and who is connected is cut off. */
  const cut = () =>
    asAdmin(admin, async (client) => {
      await client.query(`ALTER DATABASE ${name()} WITH ALLOW_CONNECTIONS false`);
      await client.query('SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1', [name()]);
    });
  const mend = () => asAdmin(admin, (client) => client.query(`ALTER DATABASE ${name()} WITH ALLOW_CONNECTIONS true`));

  beforeAll(async () => {
    database = await makeDatabase();
    server = await runServer(database.url, 45_100);
    const response = await fetch(`${server.base}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-underpass': '1' },
      body: JSON.stringify({ email: people.engineer, password: 'under-the-estuary' }),
    });
    cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? '';
  }, 60_000);
  afterAll(async () => {
    await mend();
    await server.stop();
    await database.drop();
  });

  test('connections that are ended while they are used end a request, not the server', async () => {
    for (let i = 0; i < 20; i++) {
      const asked = Promise.all(Array.from({ length: 8 }, () => call('changes')));
      await asAdmin(admin, (client) => client.query('SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1', [name()]));
      for (const { status } of await asked) expect([200, 503]).toContain(status);
    }
    expect(server.alive()).toBe(true);
    expect(await until(async () => (await call('ready')).status === 200)).toBe(true);
  }, 60_000);

  test('away, it is said with when to try again; field checks that are open are told; back, all goes on by itself', async () => {
    const link = (await call('check-links', 'POST', { location: 'wexcombe' })).body as CheckLinkView;
    const token = String(link.url).split('/check/')[1];
    const socket = new WebSocket(`ws://127.0.0.1:${server.port}/api/check/${token}/ws`);
    const heard: string[] = [];
    socket.on('message', (data) => heard.push(String(data as Buffer)));
    socket.on('error', () => undefined);
    await new Promise((resolve) => socket.once('open', resolve));
    socket.send(JSON.stringify({ type: 'start' }));
    expect(await until(() => heard.some((text) => text.includes('"go"')))).toBe(true);
    socket.send(JSON.stringify({ type: 'figures', figures: { downMbps: 12 }, done: false }));
    await cut();
    const away = await call('changes');
    expect([away.status, away.headers.get('retry-after'), away.headers.get('content-type')]).toEqual([
      503,
      '3',
      'application/problem+json; charset=utf-8',
    ]);
    expect((away.body as { detail: string }).detail).toMatch(/database.*does not answer.*3 seconds.*stays/);
    // however often it is asked, the database is asked once a second
    expect(await until(async () => (await call('ready')).status === 503, 3000)).toBe(true);
    expect(await call('ready')).toMatchObject({ body: { parts: { database: false } } });
    expect((await call('health')).status).toBe(200);
    // the step cannot be kept: the page is told, and a page that goes away meanwhile ends nothing
    socket.send(JSON.stringify({ type: 'step', step: 'down' }));
    expect(await until(() => heard.some((text) => text.includes('cannot keep anything')))).toBe(true);
    socket.terminate();
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect(server.alive()).toBe(true);
    await mend();
    expect(await until(async () => (await call('ready')).status === 200)).toBe(true);
    // what another server wrote meanwhile is read after it is back
    await asAdmin(database.url, (client) =>
      client.query(
        `UPDATE estate_object SET data = data || '{"name":"Written elsewhere"}', version = nextval('estate_version_seq') WHERE kind = 'region' AND id = 'far'`,
      ),
    );
    await asAdmin(database.url, (client) => client.query(`SELECT pg_notify('underpass_estate', '{"version":"9","cause":"x"}')`));
    expect(await until(async () => JSON.stringify((await call('estate/region/far')).body).includes('Written elsewhere'))).toBe(true);
  }, 60_000);

  test('a start that cannot read the estate stops with its reason, and the demo never replaces what is there', async () => {
    const own = await makeDatabase();
    const first = await runServer(own.url, 45_200);
    await first.stop();
    const count = () =>
      asAdmin(
        own.url,
        async (client) => (await client.query(`SELECT md5(string_agg(o::text, '' ORDER BY kind, id)) AS h FROM estate_object o`)).rows[0],
      );
    await asAdmin(own.url, (client) =>
      client.query(`UPDATE estate_object SET data = data || '{"name":"My own office"}' WHERE kind = 'location' AND id = 'head-office'`),
    );
    const before = await count();
    // the first reading fails, as a cancelled query does or one that finds no shared memory
    await asAdmin(own.url, (client) =>
      client.query(`ALTER TABLE estate_object RENAME TO estate_real;
        CREATE FUNCTION fails() RETURNS SETOF estate_real LANGUAGE plpgsql AS 'BEGIN RAISE ''out of shared memory'' USING ERRCODE = ''53200''; END';
        CREATE VIEW estate_object AS SELECT * FROM fails()`),
    );
    await expect(runServer(own.url, 45_200)).rejects.toThrow(/could not start: .*out of shared memory/);
    await asAdmin(own.url, (client) =>
      client.query('DROP VIEW estate_object; DROP FUNCTION fails; ALTER TABLE estate_real RENAME TO estate_object'),
    );
    expect(await count()).toEqual(before);
    const again = await runServer(own.url, 45_200);
    expect(await count()).toEqual(before);
    await again.stop();
    await own.drop();
  }, 60_000);

  test('what is thrown in any kind of handler is told with an id that the log has too, and the server lives', async () => {
    // a row no code of ours would write makes handlers of several kinds fail inside
    await asAdmin(database.url, (client) => client.query(`INSERT INTO rule (key, value) VALUES ('doors', '{"idleMinutes": "soon"}')`));
    await new Promise((resolve) => setTimeout(resolve, 6000));
    const failed = await call('changes');
    expect(failed.status).toBe(500);
    const { id, detail } = failed.body as { id: string; detail: string };
    expect([id, detail]).toEqual([expect.stringMatching(/^[0-9a-f]{8}$/), expect.stringContaining(id)]);
    expect(server.output()).toContain(id);
    expect(JSON.stringify(failed.body)).not.toMatch(/ZodError|idleMinutes|at /);
    // the documents, which are served outside of the routes; an event stream; an upgrade
    expect((await call('docs-json')).status).toBe(500);
    expect((await call('events')).status).toBe(500);
    await asAdmin(database.url, (client) => client.query(`ALTER TABLE check_link RENAME TO check_link_away`));
    expect(
      (
        await server.raw(
          `GET /api/check/${'B'.repeat(32)}/ws HTTP/1.1\r\nHost: x\r\nConnection: Upgrade\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: AAAAAAAAAAAAAAAAAAAAAA==\r\n\r\n`,
          800,
        )
      ).split('\r\n')[0],
    ).toBe('HTTP/1.1 500 Internal Server Error');
    await asAdmin(database.url, (client) => client.query(`ALTER TABLE check_link_away RENAME TO check_link; DELETE FROM rule`));
    await new Promise((resolve) => setTimeout(resolve, 5500));
    expect((await call('changes')).status).toBe(200);
    expect(server.alive()).toBe(true);
  }, 60_000);
});

describe('field checks made to hurt', () => {
  let database: Awaited<ReturnType<typeof makeDatabase>>;
  let server: RunningServer;
  let cookie = '';
  beforeAll(async () => {
    database = await makeDatabase();
    server = await runServer(database.url, 45_300, { CHECKS_AT_ONCE: '2' });
    const response = await fetch(`${server.base}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-underpass': '1' },
      body: JSON.stringify({ email: people.engineer, password: 'under-the-estuary' }),
    });
    cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? '';
  }, 60_000);
  afterAll(async () => {
    await server.stop();
    await database.drop();
  });
  const link = async (headers: Record<string, string> = {}) => {
    const response = await fetch(`${server.base}/api/check-links`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-underpass': '1', cookie, ...headers },
      body: JSON.stringify({ location: 'wexcombe' }),
    });
    return ((await response.json()) as CheckLinkView).url as string;
  };
  const open = async (url: string) => {
    const socket = new WebSocket(`ws://127.0.0.1:${server.port}/api/check/${url.split('/check/')[1]}/ws`);
    const heard: { type: string; sdp?: string }[] = [];
    socket.on('message', (data) => heard.push(JSON.parse(String(data as Buffer)) as { type: string }));
    socket.on('error', () => undefined);
    await new Promise((resolve) => socket.once('open', resolve));
    return { socket, heard, say: (message: object) => socket.send(JSON.stringify(message)) };
  };

  test('pages of one link that ignore their end hold no place', async () => {
    const url = await link();
    const deaf = [];
    for (let i = 0; i < 4; i++) {
      const page = await open(url);
      page.say({ type: 'start' });
      // a page that never answers the close
      (page.socket as unknown as { _receiver: { removeAllListeners: (event: string) => void } })._receiver.removeAllListeners('conclude');
      deaf.push(page);
    }
    const others = [await open(await link())];
    for (const page of others) page.say({ type: 'start' });
    expect(await until(() => others.every(({ heard }) => heard.some(({ type }) => type === 'go')), 2000)).toBe(true);
    for (const { socket } of [...deaf, ...others]) socket.terminate();
  });

  test('the first frame that is no message ends the page', async () => {
    for (const junk of [
      '[',
      '{"type":"start","more":1}',
      `${'['.repeat(30_000)}`,
      JSON.stringify({ type: 'ping', n: 'x' }),
      Buffer.alloc(20_000),
    ]) {
      const page = await open(await link());
      const closed = new Promise((resolve) => page.socket.once('close', () => resolve(true)));
      for (let i = 0; i < 50; i++) page.socket.send(junk);
      expect(await Promise.race([closed, new Promise((resolve) => setTimeout(() => resolve(false), 2000))])).toBe(true);
      expect(page.heard.filter(({ type }) => type === 'ended')).toHaveLength(1);
    }
  });

  test('an offer makes the server send to nobody but the page itself, a few datagrams at most', async () => {
    const third = createSocket('udp4');
    let got = 0;
    third.on('message', () => got++);
    await new Promise<void>((resolve) => third.bind(0, '127.0.0.2', resolve));
    const page = await open(await link());
    page.say({ type: 'start' });
    expect(await until(() => page.heard.some(({ type }) => type === 'go'))).toBe(true);
    const { port } = third.address();
    const candidates = Array.from(
      { length: 60 },
      (_, i) => `a=candidate:${i} 1 udp 2122260223 127.0.0.2 ${port} typ host\r\na=candidate:9${i} 1 udp 1 third.example ${port} typ host`,
    ).join('\r\n');
    page.say({
      type: 'offer',
      sdp: `v=0\r\no=- 1 2 IN IP4 127.0.0.1\r\ns=-\r\nt=0 0\r\na=group:BUNDLE 0\r\na=msid-semantic: WMS\r\nm=application 9 UDP/DTLS/SCTP webrtc-datachannel\r\nc=IN IP4 127.0.0.2\r\na=ice-ufrag:abcd\r\na=ice-pwd:abcdefghijklmnopqrstuvwx\r\na=fingerprint:sha-256 ${Array(32).fill('AA').join(':')}\r\na=setup:actpass\r\na=mid:0\r\na=sctp-port:5000\r\na=max-message-size:262144\r\n${candidates}\r\n`,
    });
    expect(await until(() => page.heard.some(({ type }) => type === 'answer'), 5000)).toBe(true);
    await new Promise((resolve) => setTimeout(resolve, 2500));
    expect(got).toBe(0);
    page.socket.terminate();
    third.close();
    const offer = `x\r\n${Array.from({ length: 20 }, (_, i) => `a=candidate:${i} 1 UDP 1 192.0.2.7 ${5000 + i} typ host`).join('\r\n')}\r\na=candidate:1 1 udp 1 192.0.2.8 5000 typ host\r\na=candidate:1 1 udp 1 192.0.2.7 53 typ host\r\ny`;
    expect(ownCandidates(offer, '192.0.2.7').match(/a=candidate/g)).toHaveLength(8);
    expect(ownCandidates(offer, null)).toBe('x\r\ny');
  });

  test('a link is made of the configured address, whatever the request says', async () => {
    expect(await link({ 'x-forwarded-host': 'evil.example', 'x-forwarded-proto': 'https' })).toMatch(
      new RegExp(`^http://localhost:${server.port}/check/`),
    );
    const raw = await server.raw(
      `POST /api/check-links HTTP/1.1\r\nHost: evil.example\r\nX-Underpass: 1\r\nCookie: ${cookie}\r\nContent-Type: application/json\r\nContent-Length: 23\r\nConnection: close\r\n\r\n{"location":"wexcombe"}`,
    );
    expect(raw).toContain(`http://localhost:${server.port}/check/`);
    expect(raw).not.toContain('evil.example');
  });
});

describe('small parts', () => {
  test('failures of the database as problems: PostgreSQL manual, appendix A', () => {
    for (const [error, status] of [
      [{ code: '53100' }, 507],
      [{ code: '53200' }, 503],
      [{ code: '57014' }, 503],
      [{ code: '57P01' }, 503],
      [{ code: '08006' }, 503],
      [{ code: 'ECONNREFUSED' }, 503],
      [{ message: 'Connection terminated unexpectedly' }, 503],
      [{ code: '23505' }, null],
      [new Error('anything else'), null],
    ] as const)
      expect([error, databaseProblem(error)?.problem.status ?? null]).toEqual([error, status]);
  });

  test('an address counts its tries, wrong ones apart, each window anew', () => {
    let now = 0;
    const doorway = new Doorway(60_000, 5, 2, () => now);
    expect(Array.from({ length: 6 }, () => doorway.tooMany('a'))).toEqual([false, false, false, false, false, true]);
    expect(doorway.tooMany('b')).toBe(false);
    doorway.wrong('b');
    expect(doorway.tooMany('b')).toBe(false);
    doorway.wrong('b');
    expect(doorway.tooMany('b')).toBe(true);
    now = 59_999;
    expect(doorway.tooMany('b')).toBe(true);
    now = 60_000;
    expect(doorway.tooMany('b')).toBe(false);
  });

  test('nothing that opens something stands in a logged address', () => {
    expect(loggedAddress('/api/check/SECRETSECRETSECRET12/ws')).toBe('/api/check/…/ws');
    expect(loggedAddress('/api/session/provider/back?code=SECRET&state=S')).toBe('/api/session/provider/back?…');
    expect(loggedAddress('/api/check/SECRET?x=1')).toBe('/api/check/…?…');
  });

  test('with the demo only this machine is served; what has no effect is told', () => {
    const base = { DATABASE_URL: 'postgres://x', SECRET_KEY: 'k'.repeat(30) };
    expect(readConfig({ ...base, DEMO_FOLDER: 'demo' }).host).toBe('127.0.0.1');
    expect(readConfig(base).host).toBe('::');
    const told = (environment: Record<string, string>) => remarksOn(readConfig(environment), environment).join('\n');
    expect(told({ ...base, PUBLIC_URL: 'https://underpass.example' })).toBe('');
    expect(told(base)).toContain('PUBLIC_URL is not set');
    expect(told({ ...base, DEMO_FOLDER: 'demo', HOST: '0.0.0.0', PUBLIC_URL: 'https://u.example' })).toContain(
      'are not taken from other machines',
    );
    expect(told({ DATABASE_URL: 'x', PUBLIC_URL: 'https://u.example' })).toContain('SECRET_KEY is not set');
    for (const [wrong, name] of [
      [{ OIDC_ISSUER: 'https://id.example' }, 'OIDC_CLIENT_ID'],
      [{ SECRET_KEY: 'short' }, 'SECRET_KEY'],
      [{ TRUSTED_PROXY: 'everybody' }, 'TRUSTED_PROXY'],
      [{ METRICS_TOKEN: 'x' }, 'METRICS_TOKEN'],
    ] as const)
      expect(() => readConfig({ ...base, ...wrong })).toThrow(name);
    expect(() =>
      readConfig({ ...base, OIDC_ISSUER: 'https://id.example', OIDC_CLIENT_ID: 'a', OIDC_CLIENT_SECRET: 'b', OIDC_ROLES: 'x=king' }),
    ).toThrow('OIDC_ROLES');
  });
});
