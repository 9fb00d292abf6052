import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { completed, type AuditEntry, type CheckLinkView, type CrossingPage } from '@underpass/contracts';
import { readerOfSlice, type Board, type Evidence, type Slice } from '@underpass/core';
import { WebSocket } from 'ws';
import { makeDatabase, people, startServer, type TestServer } from './server.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
let one: TestServer;
let two: TestServer;
let engineer = '';
let reader = '';

beforeAll(async () => {
  database = await makeDatabase('demo');
  one = await startServer(database.url, 47_000);
  two = await startServer(database.url, 47_100);
  engineer = await one.signIn(people.engineer);
  reader = await one.signIn(people.reader);
}, 60_000);
afterAll(async () => {
  await Promise.all([one.app.close(), two.app.close()]);
  await database.drop();
});

const until = async <T>(read: () => Promise<T>, good: (value: T) => boolean): Promise<T> => {
  for (let i = 0; i < 200; i++) {
    const value = await read();
    if (good(value)) return value;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('it never came');
};
const board = async (server: TestServer) => (await server.call('board', { cookie: engineer })).body as { version: number; board: Board };

describe('doors', () => {
  test('every route is closed without a sign-in, and changes need the header and the role', async () => {
    const { body: document } = await one.call('docs-json', { cookie: engineer });
    const { paths } = document as { paths: Record<string, Record<string, object>> };
    // what people without a sign-in here may reach: signing in, a field check by its link, a link that leads to a portal; and what devices fetch
    const open = (path: string) =>
      /^\/(api\/session$|api\/session\/(options|provider)|api\/check\/|api\/(health|ready)$|api\/published\/(key$|\{endpoint\}\/)|go\/|enrol\/)/.test(
        path,
      ) && path !== '/api/session/provider/confirm';
    const closed = Object.entries(paths).flatMap(([path, methods]) =>
      open(path) ? [] : Object.keys(methods).map((method) => [method.toUpperCase(), path] as const),
    );
    expect(closed.length).toBeGreaterThan(45);
    // the key of a batch is in the address: one that is none opens nothing
    expect((await fetch(`${one.base}/enrol/${'x'.repeat(32)}/report.sh`)).status).toBe(404);
    for (const [method, path] of closed) {
      if (path.startsWith('/scim/')) {
        const { status } = await fetch(`${one.base}${path.replace(/\{[^}]+\}/g, 'x')}`, { method });
        expect([method, path, status]).toEqual([method, path, 401]);
        continue;
      }
      const address = path.replace(/^\/api\//, '').replace(/\{[^}]+\}/g, 'x');
      const { status } = await one.call(address, { method, ...(method === 'GET' || method === 'DELETE' ? {} : { body: {} }) });
      expect([method, path, status]).toEqual([method, path, 401]);
    }
    const change = {
      method: 'POST',
      body: {
        change: { patches: [{ do: 'setting', key: 'picture.frameCap', layer: 'organisation', target: '*', value: 24 }] },
        summary: 'x',
      },
    };
    expect((await one.call('changes', { ...change, cookie: engineer, headers: { 'x-underpass': '0' } })).status).toBe(403);
    expect((await one.call('changes', { ...change, cookie: reader })).status).toBe(403);
    expect((await one.call('estate/region/far', { method: 'DELETE', cookie: reader })).status).toBe(403);
    expect((await one.call('board', { cookie: reader })).status).toBe(200);
  });

  test('a wrong password tells nothing, a session ends with the sign-out, and the cookie is out of scripts’ reach', async () => {
    const wrong = await one.call('session', { method: 'POST', body: { email: people.engineer, password: 'no' } });
    const nobody = await one.call('session', { method: 'POST', body: { email: 'nobody@saltmarsh.example', password: 'no' } });
    expect(wrong.status).toBe(401);
    expect(nobody.body).toEqual(wrong.body);
    const right = await one.call('session', { method: 'POST', body: { email: people.reader, password: 'under-the-estuary' } });
    expect(right.headers.getSetCookie()[0]).toMatch(/HttpOnly; SameSite=Strict/);
    const cookie = right.headers.getSetCookie()[0]?.split(';')[0] ?? '';
    expect((await one.call('session', { method: 'DELETE', cookie })).status).toBe(204);
    expect((await one.call('session', { cookie })).status).toBe(401);
  });

  test('an administrator gives and takes sign-ins; taken away, what was open ends at once', async () => {
    const admin = await one.signIn(people.admin);
    expect((await one.call('users', { cookie: engineer })).status).toBe(403);
    const asked = { email: 'New.Person@saltmarsh.example', name: 'New Person', role: 'reader', password: 'long enough for this' };
    expect((await one.call('users', { method: 'POST', cookie: admin, body: { ...asked, password: 'short' } })).status).toBe(400);
    const users = (await one.call('users', { method: 'POST', cookie: admin, body: asked })).body as { id: string; email: string }[];
    const added = users.find(({ email }) => email === 'new.person@saltmarsh.example');
    expect(JSON.stringify(users)).not.toContain('argon2');
    expect((await one.call('users', { method: 'POST', cookie: admin, body: asked })).status).toBe(409);
    const { headers } = await one.call('session', { method: 'POST', body: { email: asked.email, password: asked.password } });
    const cookie = headers.getSetCookie()[0]?.split(';')[0] ?? '';
    expect((await one.call('board', { cookie })).status).toBe(200);
    expect((await one.call(`users/${added?.id}`, { method: 'DELETE', cookie: admin })).status).toBe(204);
    expect((await one.call('board', { cookie })).status).toBe(401);
    const own = users.find(({ email }) => email === people.admin);
    expect((await one.call(`users/${own?.id}`, { method: 'DELETE', cookie: admin })).status).toBe(409);
  });

  test('what is wrong is told as RFC 9457 with its field, and nothing inside leaks', async () => {
    const bad = await one.call('crossings?limit=100000', { cookie: engineer });
    expect(bad.status).toBe(400);
    expect(bad.headers.get('content-type')).toContain('application/problem+json');
    expect(bad.body).toMatchObject({ status: 400, fields: [{ field: 'limit', problem: expect.any(String) }] });
    const object = await one.call('estate/location/wexcombe', {
      method: 'PUT',
      headers: { 'if-match': '"1"' },
      cookie: engineer,
      body: { id: 'wexcombe', name: '', kind: 'castle' },
    });
    expect(object.status).toBe(422);
    expect((object.body as { fields: { field: string }[] }).fields.map(({ field }) => field)).toEqual(
      expect.arrayContaining(['name', 'kind']),
    );
    expect((await one.call('crossings/nobody~nothing~x', { cookie: engineer })).status).toBe(404);
    expect((await one.call('estate/castle', { cookie: engineer })).status).toBe(400);
    expect((await one.call('find?q=%27%3B%20DROP%20TABLE%20app_user', { cookie: engineer })).body).toEqual([]);
    const headers = (await fetch(`${one.base}/api/board`)).headers;
    expect(headers.get('content-security-policy')).toContain("script-src 'self';");
    expect(headers.get('x-powered-by')).toBeNull();
  });
});

describe('the estate', () => {
  test('an object in use cannot be removed; an edit is on the other server too, with who did it, and can be taken back', async () => {
    expect((await one.call('estate/region/estuary', { method: 'DELETE', cookie: engineer })).status).toBe(409);
    const read = await one.call('estate/location/tolmouth', { cookie: engineer });
    const { object } = read.body as { object: Record<string, unknown> };
    const headers = { 'if-match': read.headers.get('etag') ?? '' };
    // who saw another version removes nothing
    const made = await one.call('estate/group/spare', {
      method: 'PUT',
      cookie: engineer,
      body: { id: 'spare', name: 'Spare', rank: 990 },
      headers: { 'if-none-match': '*' },
    });
    expect([made.status, made.body]).toEqual([200, expect.anything()]);
    const drop = (etag: string) => one.call('estate/group/spare', { method: 'DELETE', cookie: engineer, headers: { 'if-match': etag } });
    const late = await drop('"1"');
    expect([late.status, late.body]).toEqual([
      409,
      expect.objectContaining({ conflict: expect.objectContaining({ now: expect.objectContaining({ id: 'spare', rank: 990 }) }) }),
    ]);
    expect((await drop('nonsense')).status).toBe(400);
    expect((await drop(made.headers.get('etag') ?? '')).status).toBe(200);
    expect((await one.call('estate/group/spare', { cookie: engineer })).status).toBe(404);
    const changed = { ...object, downMbps: 3, upMbps: 1 };
    const saved = (await one.call('estate/location/tolmouth', { method: 'PUT', body: changed, cookie: engineer, headers })).body as {
      changeId: string;
    };
    await until(
      async () => (await two.call('estate/location/tolmouth', { cookie: engineer })).body as { object: { downMbps: number } },
      ({ object: there }) => there.downMbps === 3,
    );
    const [entry] = (await two.call('changes', { cookie: engineer })).body as AuditEntry[];
    expect(entry).toMatchObject({
      changeId: saved.changeId,
      by: 'Ines Farrow',
      canUndo: true,
      objects: [{ id: 'tolmouth', before: object, after: changed }],
    });
    expect((await two.call(`changes/${saved.changeId}/undo`, { method: 'POST', cookie: engineer })).status).toBe(200);
    await until(
      async () => (await one.call('estate/location/tolmouth', { cookie: engineer })).body as { object: object },
      (back) => JSON.stringify(back.object) === JSON.stringify(object),
    );
    expect((await one.call(`changes/${saved.changeId}/undo`, { method: 'POST', cookie: engineer })).status).toBe(409);
  });
});

/** What a crossing's slice, read with the same core, holds as evidence. */
async function evidenceOf(row: CrossingPage['rows'][number] | undefined): Promise<Evidence> {
  const { body } = await one.call(`crossings/${encodeURIComponent(row?.id ?? '')}/slice`, { cookie: engineer });
  const { slice } = body as { slice: Slice };
  return readerOfSlice(slice, { complete: completed }).read(slice.ref)!.evidence;
}

describe('crossings', () => {
  test('a remedy applied at its layer changes the board on both servers, and taken back it is as before', async () => {
    const before = (await board(one)).board;
    const step = { do: 'setting', key: 'picture.heldHeight', layer: 'location', target: 'wexcombe', value: 1440 };
    const change = { patches: [step] };
    const impact = (await one.call('impact', { method: 'POST', body: { change }, cookie: reader })).body as {
      after: Record<string, number>;
    };
    const { changeId } = (
      await one.call('changes', { method: 'POST', body: { change, summary: 'Hold screens at 1440p' }, cookie: engineer })
    ).body as { changeId: string };
    const after = (
      await until(
        () => board(two),
        (there) => there.board.people.clear !== before.people.clear,
      )
    ).board;
    expect(after.people).toEqual(impact.after);
    const history = (await one.call(`crossings/${encodeURIComponent('P136~WEX-TC-020~timetable')}/history`, { cookie: engineer })).body as {
      verdict: string;
      cause: string;
    }[];
    expect(history.map(({ verdict }) => verdict)).toEqual(['limited', 'clear']);
    expect(history[1]?.cause).toBe('Hold screens at 1440p');
    await two.call(`changes/${changeId}/undo`, { method: 'POST', cookie: engineer });
    expect(
      (
        await until(
          () => board(one),
          (there) => there.board.people.clear === before.people.clear,
        )
      ).board,
    ).toEqual(before);
    expect(
      (
        await one.call('changes', {
          method: 'POST',
          body: { change: { patches: [{ ...step, value: 99_999 }] }, summary: 'too much' },
          cookie: engineer,
        })
      ).status,
    ).toBe(422);
  });

  test('the list filters, counts and pages', async () => {
    const { body } = await one.call('crossings?verdict=blocked&limit=5&search=crew%20log', { cookie: engineer });
    const page = body as CrossingPage;
    expect(page.rows).toHaveLength(5);
    expect(page.rows.every((row) => row.verdict === 'blocked' && row.resource === 'crew-log')).toBe(true);
    expect(page.counts.blocked).toBe(page.total);
    expect(page.counts.unknown).toBeGreaterThan(0);
  });

  test('an imported measurement counts by its vantage', async () => {
    const text = `rttMs\n${Array.from({ length: 40 }, (_, i) => 300 + i).join('\n')}\n`;
    const row = ((await one.call('crossings?location=sandry-quay&limit=1', { cookie: engineer })).body as CrossingPage).rows[0];
    const evidence = () => evidenceOf(row);
    const send = (vantage: string) =>
      one.call('measurements', {
        method: 'POST',
        body: { text, vantage, location: 'sandry-quay', endpoint: row?.endpoint },
        cookie: engineer,
      });
    expect((await send('host')).status).toBe(201);
    expect((await evidence()).roundTrips?.value.medianMs).toBeLessThan(20);
    expect((await send('desk')).status).toBe(201);
    await until(evidence, ({ roundTrips }) => roundTrips?.value.medianMs === 319.5);
    expect(
      (
        await one.call('measurements', {
          method: 'POST',
          body: { text: 'nothing', vantage: 'desk', location: 'sandry-quay' },
          cookie: engineer,
        })
      ).status,
    ).toBe(422);
  });
});

describe('field checks', () => {
  const link = async (body: object = {}): Promise<CheckLinkView & { token: string }> => {
    const made = (await one.call('check-links', { method: 'POST', body: { location: 'oldhithe', ...body }, cookie: engineer }))
      .body as CheckLinkView;
    return { ...made, token: made.url?.split('/').at(-1) ?? '' };
  };
  const open = (token: string, origin?: string) =>
    new WebSocket(`${one.base.replace('http', 'ws')}/api/check/${token}/ws`, origin ? { origin } : {});
  const messages = (socket: WebSocket) => {
    const all: Record<string, unknown>[] = [];
    socket.on('message', (data) => all.push(JSON.parse(String(data as Buffer)) as Record<string, unknown>));
    return { all, next: (type: string) => until(() => Promise.resolve(all.find((message) => message.type === type)), Boolean) };
  };
  const opened = (socket: WebSocket) =>
    new Promise<boolean>((resolve) => socket.on('open', () => resolve(true)).on('error', () => resolve(false)));

  test('links are unguessable, kept as hashes, and an expired, revoked or foreign one opens nothing', async () => {
    const made = await link();
    expect(made.token.length).toBeGreaterThanOrEqual(32);
    const kept = JSON.stringify((await one.call('check-links', { cookie: engineer })).body);
    expect(kept).not.toContain(made.token);
    expect((await one.call(`check/${made.token}`)).body).toMatchObject({
      organisation: 'Saltmarsh Ferries',
      place: 'Oldhithe ticket hall',
      gone: null,
    });
    expect((await one.call(`check/${'x'.repeat(32)}`)).status).toBe(404);
    expect(await opened(open('x'.repeat(32)))).toBe(false);
    expect(await opened(open(made.token, 'http://elsewhere.example'))).toBe(false);
    await one.call(`check-links/${made.id}`, { method: 'DELETE', cookie: engineer });
    expect((await one.call(`check/${made.token}`)).body).toMatchObject({ gone: 'revoked' });
    expect(await opened(open(made.token))).toBe(false);
    expect((await fetch(`${one.base}/api/check/${made.token}/down`)).status).toBe(409);
  });

  test('a check from the server’s own machine is kept, but is no evidence; a broken-off one keeps its parts', async () => {
    const made = await link({ endpoint: 'OLD-TC-003' });
    const socket = open(made.token);
    const { next } = messages(socket);
    expect(await opened(socket)).toBe(true);
    socket.send(JSON.stringify({ type: 'start' }));
    await next('go');
    socket.send(JSON.stringify({ type: 'ping', n: 7 }));
    expect(await next('pong')).toEqual({ type: 'pong', n: 7 });
    const download = await fetch(`${one.base}/api/check/${made.token}/down`);
    expect(((await download.body?.getReader().read())?.value as Uint8Array).length).toBeGreaterThan(1000);
    expect((await fetch(`${one.base}/api/check/${made.token}/up`, { method: 'POST', body: Buffer.alloc(100_000) })).status).toBe(204);
    socket.send(JSON.stringify({ type: 'count' }));
    expect(await next('counted')).toMatchObject({ bytes: 100_000 });
    const roundTrips = { samples: 30, lost: 0, minMs: 5, medianMs: 6, p95Ms: 8, medianLowMs: 5.5, medianHighMs: 6.5 };
    socket.send(JSON.stringify({ type: 'figures', figures: { roundTrips }, done: false }));
    await new Promise((resolve) => setTimeout(resolve, 200));
    socket.terminate();
    await until(
      async () => (await one.call(`check-links/${made.id}`, { cookie: engineer })).body as CheckLinkView,
      ({ state }) => state === 'stopped',
    );
    const row = ((await one.call('crossings?search=OLD-TC-003&limit=1', { cookie: engineer })).body as CrossingPage).rows[0];
    const evidence = await until(
      () => evidenceOf(row),
      ({ rejected }) => rejected.some(({ measurement }) => measurement.partial),
    );
    expect(evidence.roundTrips).toBeUndefined();
    expect(evidence.rejected.map(({ measurement }) => [measurement.partial, measurement.vantage])).toContainEqual([true, 'not the desk']);
  });

  test('only so many run at a time, the others wait and are told; nonsense ends a check', async () => {
    // each is listened to from the moment it is made: it may open while the next link is being made
    const pages = await Promise.all(
      [1, 2, 3].map(async () => {
        const socket = open((await link()).token);
        const page = { socket, heard: messages(socket) };
        expect(await opened(socket)).toBe(true);
        return page;
      }),
    );
    const sockets = pages.map(({ socket }) => socket);
    const heard = pages.map((page) => page.heard);
    for (const [i, socket] of sockets.entries()) {
      socket.send(JSON.stringify({ type: 'start' }));
      await (i < 2 ? heard[i]?.next('go') : heard[i]?.next('queued'));
    }
    expect(heard[2]?.all).toContainEqual({ type: 'queued', ahead: 1 });
    sockets[0]?.terminate();
    await heard[2]?.next('go');
    sockets[1]?.send('{"type":"figures","figures":{"downMbps":-5},"done":true}');
    expect(await heard[1]?.next('ended')).toBeDefined();
    sockets.forEach((socket) => socket.terminate());
  });
});
