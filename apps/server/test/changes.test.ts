import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { AuditEntry, DraftView, SettingsOf } from '@underpass/contracts';
import pg from 'pg';
import { makeDatabase, people, startServer, type TestServer } from './server.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
let one: TestServer;
let two: TestServer;
let engineer = '';
let reader = '';

beforeAll(async () => {
  database = await makeDatabase('demo');
  one = await startServer(database.url, 48_000);
  two = await startServer(database.url, 48_100);
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

test('any past change can be taken back while nothing later rests on it, and what others wrote beside it stands', async () => {
  const write = async (set: Record<string, unknown>, summary: string): Promise<string> => {
    const change = { patches: [{ do: 'change', kind: 'host', id: 'SM-H05', set }] };
    const answer = await one.call('changes', { method: 'POST', body: { change, summary }, cookie: engineer });
    expect([answer.status, answer.body]).toEqual([201, expect.objectContaining({ changeId: expect.any(String) })]);
    return (answer.body as { changeId: string }).changeId;
  };
  const host = async () =>
    ((await two.call('estate/host/SM-H05', { cookie: engineer })).body as { object: Record<string, unknown> }).object;
  const undo = (id: string) => one.call(`changes/${id}/undo`, { method: 'POST', cookie: engineer });
  const was = await host();
  const first = await write({ drawMs: 14 }, 'Draws quicker');
  await write({ name: 'Kittiwake the second' }, 'Another name');
  expect((await undo(first)).status).toBe(200);
  expect(await until(host, ({ drawMs }) => drawMs === was.drawMs)).toEqual({ ...was, name: 'Kittiwake the second' });
  const early = await write({ drawMs: 15 }, 'Again quicker');
  await write({ drawMs: 16 }, 'And slower');
  expect(await undo(early)).toMatchObject({
    status: 409,
    body: { detail: expect.stringContaining('Host SM-H05 was changed again since (drawMs)') },
  });
  const listed = (await two.call('changes', { cookie: engineer })).body as AuditEntry[];
  expect(listed.find(({ changeId }) => changeId === early)).toMatchObject({ canUndo: false, restsOn: expect.stringContaining('drawMs') });
  // an object that others name by now cannot be taken away again
  const region = { do: 'create', kind: 'region', id: 'undo-test', object: { name: 'Undo', latitude: 1, longitude: 1 } };
  const { changeId: made } = (
    await one.call('changes', { method: 'POST', body: { change: { patches: [region] }, summary: 'A region' }, cookie: engineer })
  ).body as { changeId: string };
  const last = await write({ region: 'undo-test' }, 'Moved there');
  expect(await undo(made)).toMatchObject({ status: 409, body: { detail: expect.stringContaining('is named by host SM-H05') } });
  for (const id of [last, made]) expect((await undo(id)).status).toBe(200);
});

test('a draft tells what was changed since it was kept, and what stands so already', async () => {
  const change = { patches: [{ do: 'change', kind: 'host', id: 'SM-H06', set: { drawMs: 21 } }] };
  const { id } = (await one.call('drafts', { method: 'POST', body: { name: 'Kept', change }, cookie: engineer })).body as { id: string };
  const draft = async () => ((await one.call('drafts', { cookie: engineer })).body as DraftView[]).find((each) => each.id === id);
  const write = (drawMs: number) =>
    one.call('changes', {
      method: 'POST',
      body: { change: { patches: [{ do: 'change', kind: 'host', id: 'SM-H06', set: { drawMs } }] }, summary: 'x' },
      cookie: engineer,
    });
  expect(await draft()).toMatchObject({ conflicts: [], done: false });
  await write(33);
  expect(await draft()).toMatchObject({
    conflicts: [{ kind: 'host', id: 'SM-H06', field: 'drawMs', text: expect.stringContaining('33') }],
    done: false,
  });
  await write(21);
  expect(await draft()).toMatchObject({ conflicts: [], done: true });
});

test('what goes beyond a slice is tried on the whole estate, and comes to what is then so', async () => {
  const id = encodeURIComponent('P001~HO-001~timetable');
  const change = { patches: [{ do: 'change', kind: 'endpoint', id: 'HO-001', set: { location: 'wexcombe' } }] };
  const tried = ((await one.call(`crossings/${id}/try`, { method: 'POST', body: { change }, cookie: reader })).body as { view: object })
    .view;
  const { changeId } = (await one.call('changes', { method: 'POST', body: { change, summary: 'Moved' }, cookie: engineer })).body as {
    changeId: string;
  };
  const { view } = (await one.call(`crossings/${id}`, { cookie: engineer })).body as { view: object };
  expect(view).toEqual(tried);
  await one.call(`changes/${changeId}/undo`, { method: 'POST', cookie: engineer });
});

test('screens typed in a form count from when they are typed; a form that leaves them alone does not say so', async () => {
  const path = 'estate/endpoint/SAN-TC-001';
  const read = async () => (await one.call(path, { cookie: engineer })).body as { object: Record<string, unknown>; version: string };
  const put = async (set: object) => {
    const { object, version } = await read();
    const body = { ...object, ...set };
    const { status } = await one.call(path, { method: 'PUT', body, cookie: engineer, headers: { 'if-match': `"${version}"` } });
    expect(status).toBe(200);
    return (await read()).object;
  };
  const was = (await read()).object;
  // the screens are left out where there are none, and nothing is said of them
  expect((await put({ name: 'Counter, at the door' })).screensAt).toBe(was.screensAt);
  const from = Date.now() - 1000;
  const now = await put({ screens: [{ widthPx: 2560, heightPx: 1440, refreshHz: 60, scale: 1 }] });
  expect(Date.parse(String(now.screensAt))).toBeGreaterThanOrEqual(from);
  expect(now.decodersAt).toBe(was.decodersAt);
});

describe('the order of changes', () => {
  const client = () => new pg.Client({ connectionString: database.url });
  const path = 'settings/of?endpoint=WEX-TC-001';
  const cap = async (value: number) => {
    const patch = { do: 'setting', key: 'picture.frameCap', layer: 'endpoint', target: 'WEX-TC-001', value };
    const answer = await one.call('changes', {
      method: 'POST',
      body: { change: { patches: [patch] }, summary: `Frames ${value}` },
      cookie: engineer,
    });
    expect(answer.status).toBe(201);
    return (answer.body as { changeId: string }).changeId;
  };
  const changes = async () => (await two.call('changes', { cookie: engineer })).body as AuditEntry[];

  test('a change is of the moment it was written, not of when it began to wait for another’s', async () => {
    const other = client();
    await other.connect();
    await other.query('SELECT pg_advisory_lock(4600)');
    const waiting = cap(41);
    await new Promise((resolve) => setTimeout(resolve, 600));
    const { rows } = await other.query<{ t: Date }>('SELECT clock_timestamp() AS t');
    await other.query('SELECT pg_advisory_unlock(4600)');
    const id = await waiting;
    await other.end();
    const at = Date.parse((await changes()).find(({ changeId }) => changeId === id)?.at ?? '');
    expect(at).toBeGreaterThanOrEqual(rows[0]!.t.getTime());
  });

  test('is the one they were written in, also where a clock was set back between them', async () => {
    await cap(42);
    const from = new Date();
    await new Promise((resolve) => setTimeout(resolve, 20));
    const [earlier, later] = [await cap(43), await cap(44)];
    const db = client();
    await db.connect();
    // as if the second were written a moment before the first
    await db.query(
      `UPDATE change_set SET at = (SELECT at FROM change_set WHERE id = $2) - interval '1 ms', by_name = 'The second' WHERE id = $1`,
      [later, earlier],
    );
    await db.end();
    expect((await changes()).slice(0, 2).map(({ changeId }) => changeId)).toEqual([later, earlier]);
    const of = async (at?: string) =>
      (await one.call(at === undefined ? path : `${path}&at=${encodeURIComponent(at)}`, { cookie: engineer })).body as SettingsOf;
    const entry = ({ entries }: SettingsOf) =>
      entries.find(({ entry: { key, layer } }) => key === 'picture.frameCap' && layer === 'endpoint')!;
    // who wrote what stands, and what stood before both
    expect(entry(await of())).toMatchObject({ entry: { value: 44 }, written: { by: 'The second' } });
    expect(entry(await of(from.toISOString()))).toMatchObject({ entry: { value: 42 } });
    const { id } = entry(await of()).entry;
    const answer = await one.call(`estate/setting/${encodeURIComponent(id)}`, {
      method: 'PUT',
      body: { ...entry(await of()).entry, value: 45 },
      cookie: engineer,
      headers: { 'if-match': '"1"' },
    });
    expect(answer).toMatchObject({ status: 409, body: { conflict: { now: { value: 44 }, before: { value: 43 }, by: 'The second' } } });
  });
});

test('requirement sets and the plan of acceptance on paper are what they are once the change is made', async () => {
  const ask = async <T>(path: string, body?: unknown): Promise<T> => {
    const answer = await one.call(path, { cookie: engineer, ...(body ? { method: 'POST', body } : {}) });
    expect([path, answer.status]).toEqual([path, body && !path.includes('on-paper') ? 201 : 200]);
    return answer.body as T;
  };
  type Sets = { id: string; ready: number; notReady: number; people: { id: string }[] }[];
  type Plan = { sets: unknown[]; testers: unknown[]; publications: number; unseen: unknown[] };
  // a guest’s end date is past: they are not ready any more
  const guest = (await ask<{ id: string; state: string; unmet: unknown[] }[]>('access/guests')).find(({ state }) => state === 'current');
  const { object } = await ask<{ object: { id: string; guest: object } }>(`estate/person/${guest?.id}`);
  const change = {
    patches: [{ do: 'change', kind: 'person', id: object.id, set: { guest: { ...object.guest, endsOn: '2020-01-01' } } }],
    hypotheses: [],
  };
  const before = await ask<Sets>('access/requirements');
  const [sets, plan] = [
    await ask<Sets>('access/requirements/on-paper', { change }),
    await ask<Plan>('access/acceptance/on-paper', { change }),
  ];
  expect(sets).not.toEqual(before);
  // nothing was applied by looking
  expect(await ask<Sets>('access/requirements')).toEqual(before);
  await ask('changes', { change, summary: 'The guest has gone' });
  expect(await ask<Sets>('access/requirements')).toEqual(sets);
  expect(await ask<Plan>('access/acceptance')).toMatchObject(plan);
  const wrong = {
    patches: [{ do: 'change', kind: 'person', id: object.id, set: { guest: { ...object.guest, endsOn: 'never' } } }],
    hypotheses: [],
  };
  expect((await one.call('access/requirements/on-paper', { method: 'POST', body: { change: wrong }, cookie: reader })).status).toBe(422);
});
