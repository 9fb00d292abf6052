import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { faultOfTexts, readFolder, type AcceptanceView } from '@underpass/contracts';
import fc from 'fast-check';
import pg from 'pg';
import { makeDatabase, people, startServer, type TestServer } from './server.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
let server: TestServer;
let admin = '';
let routes: { method: string; path: string; body: boolean }[] = [];

beforeAll(async () => {
  database = await makeDatabase('demo');
  server = await startServer(database.url, 47_400);
  admin = await server.signIn(people.admin);
  const { paths } = (await server.call('docs-json', { cookie: admin })).body as {
    paths: Record<string, Record<string, { requestBody?: object }>>;
  };
  routes = Object.entries(paths)
    .filter(([path]) => path.startsWith('/api/') && !/^\/api\/(session|events|portal|ready|metrics|check\/)/.test(path))
    .flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, { requestBody }]) => ({
        method: method.toUpperCase(),
        path: path.replace('/api/', ''),
        body: requestBody !== undefined,
      })),
    );
}, 60_000);
afterAll(async () => {
  await server.app.close();
  await database.drop();
});

/** What comes from outside must never be able to do: a fault of the server’s, or a word about its inside. */
function expectTold(route: string, answer: { status: number; body: unknown; headers: Headers }) {
  expect([route, answer.status < 500]).toEqual([route, true]);
  if (answer.status < 400) return;
  expect([route, answer.headers.get('content-type')]).toEqual([route, expect.stringContaining('application/problem+json')]);
  const text = JSON.stringify(answer.body);
  expect([route, (answer.body as { title?: string }).title]).toEqual([route, expect.stringMatching(/\S/)]);
  expect(text).not.toMatch(/node_modules|\.ts:|\.js:|QueryFailed|ENOENT|syntax error|invalid input syntax|SELECT |stack/);
}
const version = async () => ((await server.call('board', { cookie: admin })).body as { version: number }).version;

test('every route takes any body that is none of its own with a fault that is told, and nothing changes', async () => {
  expect(routes.filter(({ body }) => body).length).toBeGreaterThan(15);
  const before = await version();
  const nonsense = fc.oneof(
    fc.jsonValue({ maxDepth: 3 }),
    fc.record({ change: fc.jsonValue({ maxDepth: 2 }), summary: fc.string({ unit: 'binary' }), name: fc.jsonValue({ maxDepth: 2 }) }),
    fc.record({
      change: fc.record({ patches: fc.jsonValue({ maxDepth: 3 }), hypotheses: fc.jsonValue({ maxDepth: 3 }) }),
      summary: fc.string(),
    }),
    fc.record({
      people: fc.array(fc.string()),
      move: fc.constant(null),
      edits: fc.array(fc.constant({})),
      text: fc.string({ unit: 'binary' }),
    }),
    fc.constant({ constructor: { prototype: { admin: true } }, id: '../../etc/passwd', files: { '../x': 'y' } }),
  );
  for (const { method, path, body } of routes) {
    if (!body) continue;
    const address = path.replaceAll(/\{id\}|\{person\}/g, '019234aa-0000-7000-8000-000000000000').replace('{kind}', 'person');
    await fc.assert(
      fc.asyncProperty(nonsense, async (content) => {
        const answer = await server.call(address, { method, cookie: admin, body: content });
        expectTold(`${method} ${path}`, answer);
        expect([path, JSON.stringify(content), answer.status >= 400 || method === 'POST']).toEqual([path, JSON.stringify(content), true]);
      }),
      { numRuns: 8, endOnFailure: true },
    );
  }
  expect(await version()).toBe(before);
}, 120_000);

test('every route takes any address and query with a fault that is told', async () => {
  const words = ['%00', '%F0%9F%98%80', "'%3B--", '..%2F..%2Fetc', '%25', 'null', '1e999', 'P001', 'a'.repeat(300), '%E0%A4%A'];
  for (const { method, path } of routes) {
    if (method === 'DELETE') continue;
    for (const word of words) {
      const address = `${path.replaceAll(/\{[^}]+\}/g, word)}?search=${word}&limit=${word}&person=${word}&resource=${word}&group=${word}&ids=${word}&run=${word}`;
      expectTold(`${method} ${address}`, await server.call(address, { method, cookie: admin, ...(method === 'GET' ? {} : { body: [] }) }));
    }
  }
}, 120_000);

test('what no database keeps is refused with its field, wherever it stands, and nothing changes', async () => {
  const before = await version();
  const half = 'half \ud83d';
  const zero = 'null \u0000';
  const read = await server.call('estate/person/P100', { cookie: admin });
  const person = (read.body as { object: object }).object;
  const run = ((await server.call('access/acceptance', { method: 'POST', cookie: admin })).body as AcceptanceView).run!;
  const move = { patches: [{ do: 'move', leave: 'posters', join: 'timetable' }] };
  const set = (name: string) =>
    `- id: own\n  name: "${name}"\n  purpose: p\n  appliesTo: { fact: visible, is: true }\n  givenUp: []\n  conditions:\n    - { id: c, name: c, bay: Host, when: { fact: visible, is: true }, remedy: r, who: w, at: host, effortH: 1 }\n`;
  const table = (name: string) => `id,name,kind,location,groups\nX1,"two\nlines",staff,head-office,\nX2,${name},staff,head-office,\n`;
  const attempts: [string, string, object, string][] = [half, zero].flatMap((bad): [string, string, object, string][] => [
    ['POST', 'drafts', { name: bad, change: move }, 'name'],
    [
      'POST',
      'drafts',
      { name: 'x', change: { patches: [{ do: 'change', kind: 'host', id: 'H', set: { name: { deep: [bad] } } }] } },
      'change.patches.0.set.name.deep.0',
    ],
    ['POST', 'changes', { summary: bad, change: move }, 'summary'],
    ['POST', 'access/links', { resource: 'timetable', targetKind: 'person', target: 'P002', caption: bad }, 'caption'],
    ['PUT', 'estate/person/P100', { ...person, name: bad }, 'name'],
    ['POST', 'signon/recordings', { location: 'head-office', startedAt: '2026-11-25T08:00:00Z', steps: { broker: 2 }, note: bad }, 'note'],
    ['PUT', 'signon/rules', { rules: [{ step: 'broker', host: bad }] }, 'rules.0.host'],
    ['PUT', `access/acceptance/${run.id}/testers/${run.testers[0]!.person}`, { saw: [], note: bad }, 'note'],
    ['POST', 'estate/import', { files: { 'people.csv': table(bad) }, apply: true }, 'files.people.csv'],
  ]);
  for (const [method, path, body, field] of attempts) {
    const answer = await server.call(path, { method, cookie: admin, body, headers: { 'if-match': read.headers.get('etag') ?? '' } });
    expect([path, answer.status, answer.body]).toEqual([
      path,
      400,
      expect.objectContaining({ fields: [expect.objectContaining({ field })] }),
    ]);
  }
  // written as an escape it is found where the file is read, at its line
  expect((await server.call('access/requirements', { method: 'PUT', cookie: admin, body: { text: set('a\\0b') } })).body).toMatchObject({
    status: 422,
    detail: 'Line 2: name holds the null character, which cannot be kept',
  });
  expect(readFolder(new Map([['people.csv', table(zero)]])).problems).toContainEqual(
    expect.objectContaining({ file: 'people.csv', line: 4, field: 'name', problem: 'holds the null character, which cannot be kept' }),
  );
  expect(await version()).toBe(before);
  // whole pairs are characters like others
  expect((await server.call('drafts', { method: 'POST', cookie: admin, body: { name: 'whole \u{1f6f6}', change: move } })).status).toBe(
    201,
  );
});

test('a text is refused exactly where the database would not give it back as it was', async () => {
  const client = new pg.Client({ connectionString: database.url });
  await client.connect();
  const comesBack = async (text: string): Promise<boolean> => {
    try {
      const { rows } = await client.query<{ t: string; j: string }>('SELECT $1::text AS t, $2::jsonb AS j', [text, JSON.stringify(text)]);
      return rows[0]?.t === text && rows[0].j === text;
    } catch {
      return false;
    }
  };
  // halves of pairs, whole pairs, controls and everything between
  const unit = fc.oneof(
    fc.string({ unit: 'binary', maxLength: 4 }),
    fc.integer({ min: 0xd7f0, max: 0xe00f }).map((code) => String.fromCharCode(code)),
    fc.constantFrom('\u0000', '\u0001', '\ufeff', '\uffff', '\u{1f6f6}', 'é', '\n'),
  );
  await fc.assert(
    fc.asyncProperty(fc.array(unit, { maxLength: 6 }), async (parts) => {
      const text = parts.join('');
      expect([text, faultOfTexts(text) === null]).toEqual([text, await comesBack(text)]);
    }),
    { numRuns: 400 },
  );
  await client.end();
}, 60_000);
