import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { DifferencesAnswer, FirstStepsAnswer, Measurement, OnePersonAnswer } from '@underpass/contracts';
import { makeDatabase, startServer, type TestServer } from './server.js';
import { ChangeService } from '../src/estate/change.service.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
let server: TestServer;
let admin = '';
beforeAll(async () => {
  database = await makeDatabase('nothing');
  server = await startServer(database.url, 49_350, false, {
    firstAdmin: { email: 'new.admin@example.org', password: 'under-the-estuary' },
  });
  admin = await server.signIn('new.admin@example.org');
}, 60_000);
afterAll(async () => {
  await server.app.close();
  await database.drop();
});

const get = async <T>(path: string): Promise<T> => (await server.call(path, { cookie: admin })).body as T;
const one = (body: object) => server.call('intake/one', { method: 'POST', cookie: admin, body });
const object = async (kind: string, id: string) => (await get<{ object: Record<string, unknown> }>(`estate/${kind}/${id}`)).object;
const counts = async () =>
  Object.fromEntries(
    (await get<{ kind: string; count: number }[]>('estate')).filter(({ count }) => count > 0).map(({ kind, count }) => [kind, count]),
  );
const measured = (endpoint: string, location: string, figures: Measurement['figures'], minutesAgo = 1): Measurement => ({
  ...{
    id: `m-${endpoint}-${minutesAgo}`,
    at: new Date(Date.now() - minutesAgo * 60_000).toISOString(),
    by: 'field check',
    method: 'field check',
  },
  ...{ vantage: 'desk', endpoint, location, partial: false, figures },
});

describe('one person in an estate with nothing in it', () => {
  let made: OnePersonAnswer;

  test('the first steps say what is missing', async () => {
    expect(await get<FirstStepsAnswer>('intake/first-steps')).toEqual([
      { text: 'No endpoints yet', to: '/estate/list', action: 'Take in a list of devices' },
      { text: 'No people yet', to: '/estate/list', action: 'Take in a list of people' },
    ]);
  });

  test('has a crossing at once, with what is not known marked, and a link', async () => {
    const { status, body } = await one({ name: 'Nova Newton', address: 'desk.example.org', clientKind: 'browser' });
    expect(status).toBe(201);
    made = body as OnePersonAnswer;
    expect(made.link.url).toMatch(/\/check\//);
    expect(await counts()).toMatchObject({
      region: 1,
      gateway: 1,
      pool: 1,
      host: 1,
      resource: 1,
      portal: 1,
      publication: 1,
      group: 1,
      location: 1,
      person: 1,
      endpoint: 1,
    });
    expect(await object('endpoint', made.endpoint)).toMatchObject({
      clientKind: 'browser',
      assumed: ['deviceClass', 'ownership', 'platform', 'processor'],
    });
    expect(await object('gateway', 'desk-example-org')).toMatchObject({ address: 'desk.example.org', assumed: ['securityModes'] });
    const crossing = await get<{ view: { verdict: string; findings: { text: string }[] } }>(
      `crossings/${encodeURIComponent(made.crossing)}`,
    );
    expect(crossing.view.verdict).toBe('unknown');
    expect(crossing.view.findings.map(({ text }) => text).join()).toMatch(/Nobody knows/);
    expect((await get<FirstStepsAnswer>('intake/first-steps')).map(({ text }) => text)).toEqual([
      'The line of 1 location is not known',
      'The certificate of 1 gateway is not known',
    ]);
  });

  test('a second one at the same address uses what is there; one without a name, and one to a resource that is there too', async () => {
    const second = (await one({ name: 'Nova Newton', address: 'DESK.example.org' })).body as OnePersonAnswer;
    expect([second.person, second.endpoint]).toEqual(['nova-newton-2', 'device-of-nova-newton-2']);
    expect(await counts()).toMatchObject({ gateway: 1, pool: 1, resource: 1, publication: 1, group: 1, person: 2, endpoint: 2 });
    const third = (await one({ resource: 'desktop', location: made.location })).body as OnePersonAnswer;
    expect(await object('person', third.person)).toMatchObject({ name: 'Somebody', location: made.location });
    // another thing at the same address stands beside the first
    expect((await one({ name: 'A', address: 'desk.example.org', what: 'Ledger', work: 'office' })).status).toBe(201);
    expect(await counts()).toMatchObject({ gateway: 1, pool: 1, resource: 2, publication: 2, group: 1 });
    expect(await object('group', 'checked-people')).toMatchObject({ publications: ['desktop', 'ledger'] });
  });

  test('what is wrong with it is told at its field, and makes nothing', async () => {
    const before = await counts();
    for (const [body, field] of [
      [{ name: 'B' }, 'address'],
      [{ name: 'B', address: 'desk.example.org', resource: 'desktop' }, 'address'],
      [{ name: 'B', address: 'https://desk.example.org' }, 'address'],
      [{ name: 'x'.repeat(121), address: 'desk.example.org' }, 'name'],
    ] as const) {
      const answer = await one(body);
      expect([answer.status, (answer.body as { fields: { field: string }[] }).fields.map((each) => each.field)]).toEqual([400, [field]]);
    }
    expect((await one({ resource: 'nothing' })).status).toBe(404);
    expect((await one({ address: 'desk.example.org', location: 'nowhere' })).status).toBe(404);
    expect(await counts()).toEqual(before);
  });

  test('the whole of it is taken back as one change', async () => {
    const last = (await one({ name: 'C', address: 'other.example.org' })).body as OnePersonAnswer;
    expect((await server.call(`changes/${last.changeId}/undo`, { method: 'POST', cookie: admin })).status).toBeLessThan(300);
    expect((await server.call(`estate/person/${last.person}`, { cookie: admin })).status).toBe(404);
    expect((await server.call('estate/gateway/other-example-org', { cookie: admin })).status).toBe(404);
  });
});

describe('what a field check says otherwise', () => {
  const figures: Measurement['figures'] = {
    browser: {
      kind: 'browser',
      version: '1',
      touch: false,
      can: {},
      device: { architecture: 'arm', bits: 64, cores: 4, connection: 'wifi' },
    },
    screens: [{ widthPx: 2560, heightPx: 1440, scale: 1 }],
  };

  test('is told by endpoint and field, and taken over as one change; what was assumed is known then', async () => {
    const changes = server.app.get(ChangeService);
    const version = async (id: string) => `"${(await get<{ version: string }>(`estate/endpoint/${id}`)).version}"`;
    const id = 'device-of-nova-newton';
    const known = await object('endpoint', id);
    const put = await server.call(`estate/endpoint/${id}`, {
      ...{ method: 'PUT', cookie: admin, headers: { 'if-match': await version(id) } },
      body: {
        ...known,
        connection: 'wired',
        cores: 4,
        screens: [{ widthPx: 1920, heightPx: 1080, scale: 1 }],
        assumed: ['ownership', 'platform', 'deviceClass'],
      },
    });
    expect(put.status).toBe(200);
    await changes.keepMeasurements(
      [measured(id, known.location as string, { ...figures, browser: undefined }, 5), measured(id, known.location as string, figures)],
      'a test',
    );
    const [told, ...others] = await get<DifferencesAnswer>('intake/differences');
    expect(others).toEqual([]);
    expect(told).toMatchObject({ endpoint: id, name: 'Device of Nova Newton' });
    expect(told?.fields).toEqual([
      { field: 'processor', now: 'x86-64', found: 'arm64' },
      { field: 'connection', now: 'wired', found: 'wifi' },
      { field: 'screens', now: '1920x1080', found: '2560x1440' },
    ]);
    const take = (field: string, now = 'x86-64', screens = '1920x1080') =>
      server.call('intake/differences', {
        method: 'POST',
        cookie: admin,
        body: {
          fields: [
            { endpoint: id, field, now },
            { endpoint: id, field: 'screens', now: screens },
          ],
        },
      });
    // what somebody has otherwise since it was shown is not overwritten, nor is what was chosen beside it
    const late = await take('processor', 'x86-64', '1280x1024');
    expect([late.status, (late.body as { detail: string }).detail]).toEqual([
      409,
      'Somebody has the screens of Device of Nova Newton otherwise since you saw it: 1920x1080. Nothing was taken over: look again.',
    ]);
    expect(await object('endpoint', id)).toMatchObject({ processor: 'x86-64', screens: [{ widthPx: 1920 }] });
    expect((await take('processor')).status).toBeLessThan(300);
    expect(await object('endpoint', id)).toMatchObject({ processor: 'arm64', screens: [{ widthPx: 2560 }], connection: 'wired' });
    // what the check does not say otherwise any more is not taken over a second time
    expect((await take('processor')).status).toBe(409);
    expect((await get<DifferencesAnswer>('intake/differences'))[0]?.fields.map(({ field }) => field)).toEqual(['connection']);
  });

  test('a check that was cut short, or made elsewhere, says nothing', async () => {
    const changes = server.app.get(ChangeService);
    const id = 'device-of-nova-newton-2';
    const { location } = await object('endpoint', id);
    await changes.keepMeasurements(
      [
        { ...measured(id, location as string, figures, 3), partial: true },
        { ...measured(id, location as string, figures, 2), vantage: 'not the desk' },
      ],
      'a test',
    );
    expect((await get<DifferencesAnswer>('intake/differences')).some(({ endpoint }) => endpoint === id)).toBe(false);
  });
});
