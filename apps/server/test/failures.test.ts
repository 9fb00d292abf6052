import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import pg from 'pg';
import { WebSocket } from 'ws';
import type { CheckLinkView } from '@underpass/contracts';
import { runServer, type RunningServer, type Visitor } from './attack/process.js';
import { until } from './attack/until.js';
import { makeDatabase, people } from './server.js';

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
  const name = () => new URL(database.url).pathname.slice(1);
  const admin = String(process.env.TEST_DATABASE);
  let call: Visitor['call'];
  /** The database is gone for this server: nobody may connect, and who is connected is cut off. */
  const cut = () =>
    asAdmin(admin, async (client) => {
      await client.query(`ALTER DATABASE ${name()} WITH ALLOW_CONNECTIONS false`);
      await client.query('SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1', [name()]);
    });
  const mend = () => asAdmin(admin, (client) => client.query(`ALTER DATABASE ${name()} WITH ALLOW_CONNECTIONS true`));

  beforeAll(async () => {
    database = await makeDatabase('demo');
    server = await runServer(database.url, 45_100);
    ({ call } = await server.signIn(people.engineer));
  }, 60_000);
  afterAll(async () => {
    await mend();
    await server.stop();
    await database.drop();
  });

  test('connections that are ended while they are used end a request, not the server', async () => {
    for (let i = 0; i < 12; i++) {
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
    expect(await until(() => heard.some((text) => text.includes('server cannot keep')))).toBe(true);
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
    await asAdmin(database.url, (client) => client.query(`SELECT pg_notify('underpass_estate', '{"type":"estate","cause":"x"}')`));
    expect(await until(async () => JSON.stringify((await call('estate/region/far')).body).includes('Written elsewhere'))).toBe(true);
  }, 60_000);

  test('a start that cannot read the estate stops with its reason, and the demo never replaces what is there', async () => {
    const own = await makeDatabase('demo');
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
    // what it read before is kept for some seconds
    let failed = await call('changes');
    expect(await until(async () => (failed = await call('changes')).status === 500, 10_000)).toBe(true);
    const { id, detail } = failed.body as { id: string; detail: string };
    expect([id, detail]).toEqual([expect.stringMatching(/^[0-9a-f]{8}$/), expect.stringContaining(id)]);
    // what it writes comes a moment after its answer
    expect(await until(() => server.output().includes(id))).toBe(true);
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
    expect(await until(async () => (await call('changes')).status === 200, 10_000)).toBe(true);
    expect(server.alive()).toBe(true);
  }, 60_000);
});
