import { describe, expect, test } from '@jest/globals';
import {
  readFolder,
  type AccessPeople,
  type CrossingGroups,
  type CrossingPage,
  type JobStarted,
  type JobView,
  type KeptView,
  type ObjectPage,
} from '@underpass/contracts';
import { setTimeout as wait } from 'node:timers/promises';
import { withDemo } from './withDemo.js';

const demo = withDemo(47_300);

const get = async <T>(path: string, cookie = demo.engineer): Promise<T> => {
  const { status, body } = await demo.server.call(path, { cookie });
  expect([path, status]).toEqual([path, 200]);
  return body as T;
};
const refused = async (path: string) => (await demo.server.call(path, { cookie: demo.engineer })).status;

describe('the list of a kind', () => {
  const list = (query: string) => get<ObjectPage>(`estate/endpoint?limit=500&${query}`);

  test('in the order of any column, versions by their figures, what is not known last both ways', async () => {
    const versions = async (sort: string) =>
      (await list(`sort=${sort}`)).rows.map((row) => (row as { clientVersion?: string }).clientVersion);
    const up = await versions('clientVersion');
    const known = up.filter((version) => version !== undefined);
    // compared part by part, by hand
    const asNumbers = (version: string) => version.split(/[._]/).map(Number);
    const later = (a: string, b: string): boolean => {
      const [x, y] = [asNumbers(a), asNumbers(b)];
      const i = x.findIndex((part, at) => part !== (y[at] ?? 0));
      return i >= 0 && (x[i] as number) > (y[i] ?? 0);
    };
    for (const [i, version] of known.entries())
      if (i > 0) expect([known[i - 1], version, later(known[i - 1] as string, version)]).toEqual([known[i - 1], version, false]);
    expect(known).toContain('4.12.1');
    expect(up.slice(known.length).every((version) => version === undefined)).toBe(true);
    const down = await versions('-clientVersion');
    expect(down[0]).toBe(known.at(-1));
    expect(down.at(-1)).toBe(up.at(-1));
  });

  test('by the names of what they name, which come with them', async () => {
    const { rows, names } = await list('sort=location');
    const named = rows.map((row) => names.location?.[String(row.location)] as string);
    expect(named).toEqual([...named].sort((a, b) => (a.toLowerCase() < b.toLowerCase() ? -1 : 1)));
  });

  test('only what has a value in a field, holds all words, or is asked for by id', async () => {
    const here = await list('where=location:wexcombe&where=ownership:managed');
    expect(here.total).toBeGreaterThan(2);
    expect(here.rows).toEqual(here.rows.filter((row) => row.location === 'wexcombe' && row.ownership === 'managed'));
    expect((await list('search=wexcombe+ticket')).total).toBe((await list('where=location:wexcombe')).total);
    const [a, b] = here.rows.map(({ id }) => String(id));
    expect((await list(`ids=${a},${b},nobody`)).rows.map(({ id }) => id)).toEqual([a, b]);
    expect(await refused('estate/endpoint?where=location')).toBe(400);
    expect(await refused('estate/endpoint?sort=name;drop')).toBe(400);
    expect((await list('sort=noSuchField')).total).toBe((await list('')).total);
  });
});

describe('the list of crossings', () => {
  const list = (query: string) => get<CrossingPage>(`crossings?limit=500&${query}`);

  test('in the order of any column both ways, and worst first without one', async () => {
    const delays = (await list('sort=-delayMs')).rows.map(({ delayMs }) => delayMs);
    expect(delays).toEqual([...delays].sort((a, b) => b - a));
    const up = (await list('sort=timeToUsableS&verdict=limited')).rows;
    expect(up.map(({ timeToUsableS }) => timeToUsableS)).toEqual(up.map(({ timeToUsableS }) => timeToUsableS).sort((a, b) => a - b));
    expect(new Set(up.map(({ verdict }) => verdict))).toEqual(new Set(['limited']));
    expect((await list('')).rows[0]?.verdict).toBe('blocked');
    expect((await list('sort=-verdict')).rows[0]?.verdict).toBe('clear');
    expect(await refused('crossings?sort=colour')).toBe(400);
    const pages = await Promise.all([0, 200, 400].map((offset) => get<CrossingPage>(`crossings?sort=resource&limit=200&offset=${offset}`)));
    expect(new Set(pages.flatMap(({ rows }) => rows.map(({ id }) => id))).size).toBe(600);
  });

  test('in groups that count the people kept from, each as long as its list', async () => {
    for (const by of ['finding', 'location', 'resource'] as const) {
      const { groups, total } = await get<CrossingGroups>(`crossings-groups?by=${by}`);
      expect(groups.length).toBe(total);
      const [first] = groups as [CrossingGroups['groups'][number]];
      const { rows, total: crossings } = await list(`${by === 'finding' ? 'kind' : by}=${encodeURIComponent(first.key)}`);
      expect(first.crossings).toBe(crossings);
      expect(first.people).toBe(new Set(rows.map(({ person }) => person)).size);
      expect(first.notClear).toBe(new Set(rows.filter(({ verdict }) => verdict !== 'clear').map(({ person }) => person)).size);
      expect(groups.map(({ notClear }) => notClear)).toEqual(groups.map(({ notClear }) => notClear).sort((a, b) => b - a));
    }
    const blocked = await get<CrossingGroups>('crossings-groups?by=location&verdict=blocked');
    expect(blocked.groups.every(({ crossings, counts }) => crossings === counts.blocked)).toBe(true);
  });
});

async function fileOf(path: string, body: object): Promise<string> {
  const { status, body: started } = await demo.server.call(path, { method: 'POST', cookie: demo.engineer, body });
  expect([path, status]).toEqual([path, 202]);
  const { id } = (started as JobStarted).job;
  for (let i = 0; i < 300; i++, await wait(50))
    if ((await get<JobView>(`jobs/${id}`)).state === 'done')
      return new TextDecoder().decode((await demo.server.call(`${path}/${id}`, { cookie: demo.engineer })).body as ArrayBuffer);
  throw new Error('the file was not made');
}

describe('a list as a file', () => {
  test('is what is filtered, in its order, and read again it is the same objects', async () => {
    const query = 'where=location:wexcombe&sort=-name';
    const { rows } = await get<ObjectPage>(`estate/endpoint?limit=500&${query}`);
    const text = await fileOf('estate/exports', { kind: 'endpoint', where: 'location:wexcombe', sort: '-name' });
    const [head = '', ...lines] = text.trim().split('\n');
    expect(head).toMatch(/^id,name,location/);
    expect(lines.map((line) => line.split(',')[0])).toEqual(rows.map(({ id }) => id));
    // what its rows name is missing in a file alone, and that is all that is
    const { problems } = readFolder(new Map([['endpoints.csv', text]]));
    expect(problems.filter(({ problem }) => !/^no (location|person) has the id/.test(problem))).toEqual([]);
    const tried = await demo.server.call('estate/import', {
      method: 'POST',
      cookie: demo.engineer,
      body: { files: { 'endpoints.csv': text }, apply: false },
    });
    const job = (tried.body as { id: string }).id;
    let told: { state: string; result?: { changed: number; added: number; unchanged: number; rejected: unknown[] } } = { state: 'running' };
    for (let i = 0; told.state === 'running' && i < 300; i++, await wait(50)) told = await get(`estate/import/${job}`);
    expect(told.result).toMatchObject({ added: 0, changed: 0, unchanged: rows.length, rejected: [] });
  });

  test('of crossings is a table with its findings, harmless in a spreadsheet', async () => {
    const { body } = await demo.server.call('estate/person/P100', { cookie: demo.engineer });
    const { object, version } = body as { object: { name: string }; version: string };
    const rename = (name: string, match: string) =>
      demo.server.call('estate/person/P100', {
        method: 'PUT',
        cookie: demo.engineer,
        body: { ...object, name },
        headers: { 'if-match': `"${match}"` },
      });
    const named = await rename('=HYPERLINK("x")', version);
    expect(named.status).toBe(200);
    await wait(600);
    const lines = (await fileOf('crossings-exports', { person: 'P100', sort: 'resource' })).trim().split('\n');
    expect(lines[0]).toMatch(/^verdict,person,/);
    expect(lines.length).toBeGreaterThan(1);
    for (const line of lines.slice(1)) expect(line).toContain(`"'=HYPERLINK(""x"")"`);
    await rename(object.name, (named.body as { version: string }).version);
  });

  test('of who sees what is as long as the list, by its filter and order', async () => {
    const { rows, total } = await get<AccessPeople>('access/people?show=guests&sort=-name&limit=500');
    const lines = (await fileOf('access/people-exports', { show: 'guests', sort: '-name' })).trim().split('\n');
    expect(lines.length - 1).toBe(total);
    expect(lines.slice(1).map((line) => line.split(',')[0])).toEqual(rows.map(({ name }) => name));
    const names = rows.map(({ name }) => name.toLowerCase());
    expect(names).toEqual([...names].sort().reverse());
  });

  test('is for engineers, and a filter without a kind is refused', async () => {
    expect((await demo.server.call('crossings-exports', { method: 'POST', cookie: demo.reader, body: {} })).status).toBe(403);
    expect((await demo.server.call('estate/exports', { method: 'POST', cookie: demo.engineer, body: { search: 'x' } })).status).toBe(400);
  });
});

describe('views', () => {
  const keep = (body: object, cookie = demo.engineer) => demo.server.call('views', { method: 'POST', cookie, body });
  const views = (cookie: string) => get<KeptView[]>('views', cookie);
  const view = { name: 'Old clients', path: '/estate/endpoint', search: '?sort=clientVersion' };

  test('one’s own are seen by oneself, those for all by everybody; by its link by whoever has it', async () => {
    const own = (await keep(view)).body as { id: string };
    const all = (await keep({ ...view, name: 'For us', forAll: true })).body as { id: string };
    expect((await views(demo.engineer)).map(({ name, own: mine }) => [name, mine])).toEqual([
      ['For us', true],
      ['Old clients', true],
    ]);
    expect((await views(demo.reader)).map(({ name, own: mine }) => [name, mine])).toEqual([['For us', false]]);
    expect(await get<KeptView>(`views/${own.id}`, demo.reader)).toMatchObject({ search: '?sort=clientVersion', own: false });
    // one name on a screen is one view
    expect(((await keep({ ...view, name: 'OLD clients', search: '?sort=name' })).body as { id: string }).id).toBe(own.id);
    const drop = (id: string, cookie: string) => demo.server.call(`views/${id}`, { method: 'DELETE', cookie });
    expect((await drop(own.id, demo.reader)).status).toBe(404);
    expect((await drop(all.id, demo.admin)).status).toBe(204);
    expect((await drop(own.id, demo.engineer)).status).toBe(204);
    expect(await views(demo.engineer)).toEqual([]);
  });

  test('lead nowhere but to a screen here, and a reader keeps none for others', async () => {
    for (const path of ['//elsewhere.example', 'https://elsewhere.example', '/a b', '/x?y'])
      expect([path, (await keep({ ...view, path })).status]).toEqual([path, 400]);
    expect((await keep({ ...view, search: 'javascript:x' })).status).toBe(400);
    expect((await keep({ ...view, forAll: true }, demo.reader)).status).toBe(403);
    expect((await keep({ ...view, name: 'Mine' }, demo.reader)).status).toBe(201);
  });
});
