import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { randomBytes } from 'node:crypto';
import { runServer, visitor, type RunningServer } from './attack/process.js';
import { makeDatabase, people } from './server.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
let server: RunningServer;
let cookie = '';
const token = 'A'.repeat(32);
const upgrade = (origin: string | null, of = token) =>
  `GET /api/check/${of}/ws HTTP/1.1\r\nHost: 127.0.0.1:${server.port}\r\n${origin === null ? '' : `Origin: ${origin}\r\n`}Connection: Upgrade\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: ${randomBytes(16).toString('base64')}\r\n\r\n`;
const ask = (path: string, method = 'GET', body?: string, as = cookie, headers: Record<string, string> = {}) =>
  visitor(server.base, as).call(path, method, body, headers);
const lives = async () => {
  expect(server.alive()).toBe(true);
  expect((await ask('session')).status).toBe(200);
};

beforeAll(async () => {
  database = await makeDatabase('demo');
  server = await runServer(database.url, 45_000);
  ({ cookie } = await server.signIn(people.engineer));
}, 60_000);
afterAll(async () => {
  await server.stop();
  await database.drop();
});

describe('without a sign-in', () => {
  test('an upgrade with an origin that is no address is refused, and the server lives', async () => {
    for (const origin of ['null', 'http://', '::', 'https://evil.example', `http://127.0.0.1:${server.port}.evil.example`])
      expect([origin, (await server.raw(upgrade(origin), 500)).split('\r\n')[0]]).toEqual([origin, 'HTTP/1.1 403 Forbidden']);
    await lives();
  });

  test('an upgrade whose connection is torn at once does not end it', async () => {
    for (let i = 0; i < 40; i++) {
      const socket = await server.open();
      socket.on('error', () => undefined);
      socket.write(upgrade(null));
      if (i % 2) await new Promise((resolve) => setImmediate(resolve));
      socket.resetAndDestroy();
    }
    await new Promise((resolve) => setTimeout(resolve, 300));
    await lives();
  });

  test('guesses at tokens are slowed down, by upgrade as by address', async () => {
    const answers = [];
    for (let i = 0; i < 700; i++)
      answers.push((await server.raw(upgrade(null, randomBytes(24).toString('base64url')), 500)).split('\r\n')[0]);
    expect(answers.filter((line) => line?.includes('404')).length).toBeLessThan(650);
    expect(answers.at(-1)).toBe('HTTP/1.1 429 Too Many Requests');
    await lives();
  }, 60_000);

  test('nothing is read of a body before it is known whose it is', async () => {
    // the head alone, with a body announced that never comes: the answer does not wait for it
    for (const path of ['estate/import', 'measurements', 'impact', 'changes', 'drafts', 'portal/reports'])
      expect([
        path,
        (
          await server.raw(
            `POST /api/${path} HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Underpass: 1\r\nContent-Type: application/json\r\nContent-Length: 70000000\r\n\r\n[[],`,
            800,
          )
        ).split('\r\n')[0],
      ]).toEqual([path, 'HTTP/1.1 401 Unauthorized']);
  });
});

describe('with a sign-in', () => {
  test('bodies are bounded where no file is meant, in size, depth and number', async () => {
    expect((await ask('impact', 'POST', JSON.stringify({ change: 'x'.repeat(1_100_000) }))).status).toBe(413);
    const nested = await ask('impact', 'POST', `${'['.repeat(20_000)}${']'.repeat(20_000)}`);
    expect([nested.status, nested.body]).toEqual([400, expect.objectContaining({ detail: expect.stringContaining('deep') })]);
    expect((await ask('estate/import', 'POST', `[${'[],'.repeat(400_000)}[]]`)).status).toBe(400);
    const named = { change: { patches: [{ do: 'change', kind: 'host', id: 'H1', set: { ['x'.repeat(60_000)]: 1 } }] } };
    expect((await ask('impact', 'POST', JSON.stringify(named))).status).toBe(400);
    expect((await ask('drafts', 'POST', '{"name":"x"', undefined)).status).toBe(400);
    expect((await ask('drafts', 'POST', '{}', undefined, { 'content-type': 'text/plain' })).status).toBe(415);
    expect((await ask('drafts', 'POST', '{}', undefined, { 'content-encoding': 'gzip' })).status).toBe(415);
    await lives();
  });

  test('documents made to be slow are refused, and nobody waits for them', async () => {
    const keys = JSON.stringify({ text: `- id: x\n${Array.from({ length: 9000 }, (_, i) => `  k${i}: 1`).join('\n')}\n` });
    const { body } = await ask('access/requirements/try', 'POST', keys);
    expect((body as { problems: object[] }).problems.length).toBeGreaterThan(0);
    const aliases = `- &a [${'x,'.repeat(2000)}]\n${Array.from({ length: 2000 }, () => '- *a').join('\n')}`;
    expect((await ask('access/requirements/try', 'POST', JSON.stringify({ text: aliases }))).body).toMatchObject({
      problems: [{ problem: 'has an anchor or an alias' }],
    });
  });
});

describe('what runs at the same time is bounded', () => {
  test('uploads and runs of impact: some wait, and say so', async () => {
    const change = { change: { patches: [{ do: 'setting', key: 'picture.frameCap', layer: 'organisation', target: '*', value: 24 }] } };
    for (const [path, method, body, most] of [
      ['impact', 'POST', JSON.stringify(change), 2],
      ['estate/import', 'POST', JSON.stringify({ files: { 'people.csv': 'x'.repeat(3_000_000) } }), 1],
    ] as const) {
      const answers = await Promise.all(Array.from({ length: 6 }, () => ask(path, method, body)));
      const waiting = answers.filter(({ status }) => status === 429);
      expect([path, waiting.length]).toEqual([path, 6 - most]);
      expect(waiting[0]?.headers.get('retry-after')).toBe('5');
      // and afterwards it is free again
      expect((await ask(path, method, body)).status).toBeLessThan(429);
    }
    await lives();
  }, 60_000);

  test('drafts of one person are bounded', async () => {
    const draft = JSON.stringify({
      name: 'x',
      change: { patches: [{ do: 'setting', key: 'picture.frameCap', layer: 'organisation', target: '*', value: 24 }] },
    });
    const answers = [];
    for (let i = 0; i < 205; i++) answers.push((await ask('drafts', 'POST', draft)).status);
    expect(answers.slice(0, 200).every((status) => status === 201)).toBe(true);
    expect(answers.slice(200)).toEqual([429, 429, 429, 429, 429]);
  }, 60_000);
});

test('whatever is logged, nothing that opens anything stands in it', async () => {
  const own = await makeDatabase('demo');
  const talkative = await runServer(own.url, 45_400, { LOG_LEVEL: 'debug' });
  const secret = 'a password that must not be read in a log';
  const session = (password: string) =>
    fetch(`${talkative.base}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: people.engineer, password }),
    });
  await session(secret);
  const signed = await session('under-the-estuary');
  const cookies = signed.headers.getSetCookie().map((each) => each.split(';')[0] as string);
  const link = (await (
    await fetch(`${talkative.base}/api/check-links`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-underpass': '1', cookie: cookies.join('; ') },
      body: JSON.stringify({ location: 'wexcombe' }),
    })
  ).json()) as { url: string };
  const opened = link.url.split('/check/')[1] as string;
  await fetch(`${talkative.base}/api/check/${opened}?again=${opened}`);
  await fetch(`${talkative.base}/check/${opened}`);
  await fetch(`${talkative.base}/api/session/provider/back?code=${secret.replaceAll(' ', '+')}`);
  expect(talkative.output()).toMatch(/GET/);
  for (const hidden of [
    secret,
    secret.replaceAll(' ', '+'),
    'under-the-estuary',
    opened,
    ...cookies.map((each) => each.split('=')[1] as string),
  ])
    expect([hidden, talkative.output().includes(hidden)]).toEqual([hidden, false]);
  await talkative.stop();
  await own.drop();
}, 60_000);

test('the description of the interface is for those who are signed in, on a page without scripts of its own', async () => {
  for (const path of ['docs', 'docs-json', 'docs/open.js', 'docs/assets/swagger-ui-bundle.js']) {
    expect([path, (await ask(path, 'GET', undefined, '')).status]).toEqual([path, 401]);
    const { status, headers, body } = await ask(path);
    expect([path, status]).toEqual([path, 200]);
    expect(headers.get('content-security-policy')).toContain("script-src 'self';");
    if (path === 'docs') expect(body).not.toMatch(/<script>|onload=/);
  }
});

describe('edits that meet', () => {
  const object = async (id: string) => {
    const answer = await ask(`estate/host/${id}`);
    return { etag: answer.headers.get('etag') ?? '', host: (answer.body as { object: Record<string, unknown> }).object };
  };
  const put = (host: Record<string, unknown>, headers: Record<string, string>) =>
    ask(`estate/host/${String(host.id)}`, 'PUT', JSON.stringify(host), undefined, headers);
  const some = async () => ((await ask('estate/host?limit=1')).body as { rows: { id: string }[] }).rows[0]!.id;

  test('two changes of different fields at the same time are both there afterwards, every time', async () => {
    const id = await some();
    const edit = (field: string, value: unknown) =>
      ask(
        'changes',
        'POST',
        JSON.stringify({ change: { patches: [{ do: 'change', kind: 'host', id, set: { [field]: value } }] }, summary: field }),
      );
    for (let i = 0; i < 12; i++) {
      const [a, b] = await Promise.all([edit('name', `Name ${i}`), edit('drawMs', 5 + i)]);
      expect([a.status, b.status]).toEqual([201, 201]);
      expect((await object(id)).host).toMatchObject({ name: `Name ${i}`, drawMs: 5 + i });
    }
  });

  test('a form that is behind is told what stands there now, who wrote it and when; nothing is overwritten', async () => {
    const id = await some();
    const { etag, host } = await object(id);
    expect(etag).toMatch(/^"\d+"$/);
    expect((await put({ ...host, name: 'First' }, { 'if-match': etag })).status).toBe(200);
    const late = await put({ ...host, name: 'Second' }, { 'if-match': etag });
    expect(late.status).toBe(409);
    expect(late.body).toMatchObject({
      conflict: {
        now: { name: 'First' },
        before: { name: host.name },
        by: 'Ines Farrow',
        at: expect.stringMatching(/^20/),
        version: expect.any(String),
      },
    });
    expect((await object(id)).host.name).toBe('First');
    expect((await put({ ...host, name: 'x' }, {})).status).toBe(428);
    expect((await put({ ...host, name: 'x' }, { 'if-match': 'nonsense' })).status).toBe(400);
    expect((await put({ ...host, id: 'new-host', name: 'x' }, { 'if-match': etag })).status).toBe(409);
    // new is said, so that an object is not made anew by mistake
    expect((await put({ ...host, name: 'x' }, { 'if-none-match': '*' })).status).toBe(409);
    const misspelt = await put({ ...host, naem: 'x' }, { 'if-match': (await object(id)).etag });
    expect([misspelt.status, misspelt.body]).toEqual([
      422,
      expect.objectContaining({ fields: [{ field: 'naem', problem: 'is not a field here' }] }),
    ]);
  });

  test('a place that is removed while somebody is put there: one of the two is refused', async () => {
    const place = (id: string) => ({ id, name: 'Pier', kind: 'office', latitude: 50, longitude: 1, lineKind: 'fibre' });
    for (let i = 0; i < 8; i++) {
      const id = `pier-${i}`;
      expect((await ask(`estate/location/${id}`, 'PUT', JSON.stringify(place(id)), undefined, { 'if-none-match': '*' })).status).toBe(200);
      const [move, gone] = await Promise.all([
        ask(
          'changes',
          'POST',
          JSON.stringify({ change: { patches: [{ do: 'change', kind: 'person', id: 'P100', set: { location: id } }] }, summary: 'x' }),
        ),
        ask(`estate/location/${id}`, 'DELETE'),
      ]);
      expect([move.status === 201, gone.status === 200].filter(Boolean)).toHaveLength(1);
    }
  });

  test('impact and drafts refuse what a form would', async () => {
    for (const step of [
      { do: 'change', kind: 'host', id: await some(), set: { places: -7 } },
      { do: 'change', kind: 'host', id: 'nobody', set: { places: 7 } },
      { do: 'change', kind: 'location', id: 'wexcombe', set: { downMbps: 'fast' } },
      { do: 'setting', key: 'picture.frameCap', layer: 'location', target: 'atlantis', value: 24 },
      { do: 'setting', key: 'picture.flying', layer: 'organisation', target: '*', value: 24 },
      { do: 'create', kind: 'host', id: 'NEW', object: { name: 'Without a pool' } },
      { do: 'remove', kind: 'host', id: 'nobody' },
      { do: 'move', people: ['P101'], leave: null, join: 'nobody-knows' },
    ]) {
      const change = { patches: [step] };
      for (const [path, body] of [
        ['impact', { change }],
        ['drafts', { name: 'x', change }],
        ['changes', { change, summary: 'x' }],
        ['access/consequence', { change }],
      ] as const)
        expect([path, step, (await ask(path, 'POST', JSON.stringify(body))).status]).toEqual([path, step, 422]);
    }
    // what is supposed of an object is held to its schema too, and is not applied
    const suppose = (set: object) => ({ hypotheses: [{ suppose: 'object', kind: 'location', id: 'wexcombe', set }] });
    expect((await ask('impact', 'POST', JSON.stringify({ change: suppose({ downMbps: 'fast' }) }))).status).toBe(422);
    expect((await ask('impact', 'POST', JSON.stringify({ change: suppose({ downMbps: 900 }) }))).status).toBe(200);
    expect((await ask('changes', 'POST', JSON.stringify({ change: suppose({ downMbps: 900 }), summary: 'x' }))).status).toBe(422);
  });

  test('a change that was worked out on an earlier version is told, for single fields, lists and rules alike', async () => {
    const id = await some();
    const { version } = (await ask('board')).body as { version: number };
    const edit = (seen: number, value: string) =>
      ask(
        'changes',
        'POST',
        JSON.stringify({ change: { patches: [{ do: 'change', kind: 'host', id, set: { name: value } }] }, summary: 'x', seen }),
      );
    expect((await edit(version, 'Seen')).status).toBe(201);
    expect((await edit(version, 'Behind')).status).toBe(409);
    const groups = (value: string[], seen: number) =>
      ask(
        'changes',
        'POST',
        JSON.stringify({ change: { patches: [{ do: 'change', kind: 'person', id: 'P101', set: { groups: value } }] }, summary: 'x', seen }),
      );
    const { version: then } = (await ask('board')).body as { version: number };
    expect((await groups(['all-staff'], then)).status).toBe(201);
    expect((await groups([], then)).status).toBe(409);
    // what is only added to a list stands beside what others wrote to it
    const add = { patches: [{ do: 'change', kind: 'person', id: 'P101', add: { groups: ['posters'] } }] };
    expect((await ask('changes', 'POST', JSON.stringify({ change: add, summary: 'x', seen: then }))).status).toBe(201);
    expect((await ask('estate/person/P101')).body).toMatchObject({ object: { groups: ['all-staff', 'posters'] } });
    const { version: read } = (await ask('signon/rules')).body as { version: number };
    const rules = (seen: number) => ask('signon/rules', 'PUT', JSON.stringify({ rules: [{ step: 'broker', host: 'broker.*' }], seen }));
    expect((await rules(read)).status).toBe(200);
    expect((await rules(read)).status).toBe(409);
    // a setting that somebody wrote at the same place meanwhile; a list is added to, whatever else came to stand in it
    const setTo = (value: unknown, seen?: number, more: object = {}) => {
      const key = Array.isArray(value) ? 'redirection.devices' : 'picture.frameCap';
      const patch = { do: 'setting', key, layer: 'location', target: 'wexcombe', value, ...more };
      return ask('changes', 'POST', JSON.stringify({ change: { patches: [patch] }, summary: 'x', seen }));
    };
    const { version: before } = (await ask('board')).body as { version: number };
    expect((await setTo(24, before)).status).toBe(201);
    expect((await setTo(12, before)).status).toBe(409);
    expect((await setTo(['scanner'], before)).status).toBe(201);
    expect((await setTo(['printer'], before)).status).toBe(201);
    // what it was made from, where that stands beside it
    expect((await setTo(12, undefined, { was: 30 })).status).toBe(409);
    expect((await setTo(12, undefined, { was: 24 })).status).toBe(201);
    const named = (value: string, was: string) => {
      const patch = { do: 'change', kind: 'host', id, set: { name: value }, was: { name: was } };
      return ask('changes', 'POST', JSON.stringify({ change: { patches: [patch] }, summary: 'x' }));
    };
    const late = await named('Late', 'Something else');
    expect([late.status, (late.body as { detail: string }).detail]).toEqual([
      409,
      `Host ${id}: name was "Something else" and is "Seen" now. Nothing was overwritten: look at it anew, then apply it again.`,
    ]);
    expect((await named('In time', 'Seen')).status).toBe(201);
    // lists of what is not there are refused on paper as they are in a form
    const change = { patches: [{ do: 'change', kind: 'person', id: 'P101', set: { groups: ['nobody-knows'] } }] };
    expect((await ask('access/consequence', 'POST', JSON.stringify({ change }))).status).toBe(422);
    expect((await ask('drafts', 'POST', JSON.stringify({ name: 'x', change }))).status).toBe(422);
  });

  test('of two who take the same change back, the second is told', async () => {
    const id = await some();
    const { body } = await ask(
      'changes',
      'POST',
      JSON.stringify({ change: { patches: [{ do: 'change', kind: 'host', id, set: { name: 'Twice' } }] }, summary: 'x' }),
    );
    const undo = () => ask(`changes/${(body as { changeId: string }).changeId}/undo`, 'POST');
    expect((await Promise.all([undo(), undo()])).map(({ status }) => status).sort()).toEqual([200, 409]);
  });
});
