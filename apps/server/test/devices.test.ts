import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { readFolder, type Applied, type BringupBoot, type BringupPlace, type Estate, type PublishPlan } from '@underpass/contracts';
import { placeOf, sumOf } from '@underpass/core';
import { openAddressServer, start, type AddressServer, type Device, type Started } from '@underpass/standins';
import { verify } from 'node:crypto';
import { demoFiles, deviceKey, makeDatabase, people, startServer, type TestServer } from './server.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
let server: TestServer;
let engineer = '';
let key = '';
let estate: Estate;
const addresses = new Map<string, AddressServer>();

beforeAll(async () => {
  database = await makeDatabase('demo');
  server = await startServer(database.url, 48_000);
  engineer = await server.signIn(people.engineer);
  key = await text('published/key');
  ({ estate } = readFolder(new Map(Object.entries(demoFiles()))));
  for (const { id } of estate.location) {
    const scopes = estate.scope.filter(({ location }) => location === id);
    if (scopes.length) addresses.set(id, await openAddressServer(scopes));
  }
}, 90_000);
afterAll(async () => {
  for (const each of addresses.values()) await each.close();
  await server.app.close();
  await database.drop();
});

const text = async (path: string) => (await fetch(`${server.base}/api/${path}`)).text();
const get = async <T>(path: string): Promise<T> => (await server.call(path, { cookie: engineer })).body as T;
/** A device of the demo as it is put on its desk. */
function device(id: string, more: Partial<Device> = {}): Device {
  const endpoint = estate.endpoint.find((each) => each.id === id)!;
  return {
    endpoint,
    location: estate.location.find((each) => each.id === endpoint.location)!,
    fleet: estate.deviceClass.find((each) => each.id === endpoint.deviceClass)!,
    addressPort: addresses.get(endpoint.location)?.port ?? 9,
    reach: (host) =>
      estate.configServer.some(({ address, reachable }) => reachable && placeOf(address)?.host === host) ? server.base : undefined,
    key,
    nowMs: Date.now(),
    patienceMs: 3000,
    ...more,
  };
}

describe('devices that really start, beside what is worked out for them', () => {
  test('every device of the demo stops where its simulation says, or nowhere: 176 of them at once', async () => {
    const described = estate.endpoint.filter(({ deviceClass }) => estate.deviceClass.some(({ id }) => id === deviceClass));
    expect(described.length).toBe(176);
    const places = new Map<string, BringupPlace>();
    for (const place of new Set(described.map(({ location }) => location)))
      places.set(place, await get<BringupPlace>(`bringup/places/${place}`));
    const started = await Promise.all(described.map(async ({ id }) => [id, await start(device(id))] as const));
    const really = Object.fromEntries(started.map(([id, { brokenStep }]) => [id, brokenStep]));
    const onPaper = Object.fromEntries(
      [...places.values()].flatMap(({ devices }) => devices.map(({ id, broken }) => [id, broken?.step ?? null])),
    );
    expect(really).toEqual(onPaper);
    expect(Object.values(really).filter((step) => step !== null).length).toBe(12);
    // and goes on with the same settings
    const one = await get<BringupBoot>('bringup/endpoints/MAR-TC-014');
    const own = started.find(([id]) => id === 'MAR-TC-014')?.[1] as Started;
    expect(own.values).toEqual(one.values);
  }, 60_000);

  test.each<[string, string, Partial<Device>, (at: AddressServer) => void, string]>([
    ['nobody answers', 'MAR-TC-014', { patienceMs: 100 }, (at) => (at.faults = { silent: true }), 'DHCP'],
    ['the option is left out', 'MAR-TC-014', {}, (at) => (at.faults = { without: [226] }), 'options found'],
    ['the option is of the other type', 'MAR-TC-014', {}, (at) => (at.faults = { otherType: [226] }), 'options found'],
    ['the settings server is off', 'MAR-TC-014', { reach: () => undefined }, () => undefined, 'configuration server reached'],
    ['nothing listens there', 'MAR-TC-014', { reach: () => 'http://127.0.0.1:9' }, () => undefined, 'configuration server reached'],
    [
      'the list is signed by another key',
      'MAR-TC-014',
      { key: '-----BEGIN PUBLIC KEY-----\nMCowBQYDK2VwAyEA11qYAYKxCrfVS/7TyWQHOg7hcvPapiMlrwIaaPcHURo=\n-----END PUBLIC KEY-----\n' },
      () => undefined,
      'configuration files fetched and merged',
    ],
  ])('%s', async (_, id, more, fault, step) => {
    const at = addresses.get('marram-point')!;
    fault(at);
    const { brokenStep } = await start(device(id, more));
    at.faults = {};
    expect(brokenStep).toBe(step);
    expect((await start(device(id))).brokenStep).toBeNull();
  });

  test('what a device tells of its start stands beside what is worked out; without its key nobody’s word is taken', async () => {
    const before = await get<BringupBoot>('bringup/endpoints/MAR-TC-020');
    expect(before.reported).toBeNull();
    await start(device('MAR-TC-020', { deviceKey: 'a key that is not that of the devices' }));
    await start(device('MAR-TC-020'));
    expect((await get<BringupBoot>('bringup/endpoints/MAR-TC-020')).reported).toBeNull();
    await start(device('MAR-TC-020', { deviceKey }));
    expect((await get<BringupBoot>('bringup/endpoints/MAR-TC-020')).reported).toMatchObject({
      brokenStep: 'configuration files fetched and merged',
      detail: 'MAR-TC-020, line 2: has no “=”: “frameCap 24”',
      firmware: '4.12.1',
    });
    const { devices } = await get<BringupPlace>('bringup/places/marram-point');
    expect(devices.filter(({ reported }) => reported).map(({ id }) => id)).toEqual(['MAR-TC-020']);
    const tell = (body: object, headers: Record<string, string> = { 'x-device-key': deviceKey }) =>
      server.call('published/reports', { method: 'POST', body, headers });
    const report = { endpoint: 'MAR-TC-014', brokenStep: null, detail: '', seconds: 1 };
    expect([(await tell(report, {})).status, (await tell({ ...report, endpoint: 'nobody' })).status]).toEqual([401, 404]);
    expect((await tell({ ...report, more: 1 })).status).toBe(400);
    expect((await tell({ ...report, detail: 'x'.repeat(301) })).status).toBe(400);
  });
});

describe('publishing', () => {
  const plan = () => get<PublishPlan>('bringup/published');
  const publish = (body: object, cookie = engineer) => server.call('bringup/published', { method: 'POST', cookie, body });

  test('what the settings come to is published as one change, seen by devices as a whole, and taken back in one step', async () => {
    const before = await plan();
    expect(before.broker).toBe('access.saltmarsh.example');
    expect(before.files.length).toBeGreaterThan(3);
    expect(new Set(before.files.map(({ does }) => does))).toEqual(new Set(['added']));
    const old = await text('published/MAR-TC-014/list');
    const applied = await publish({ seen: before.version });
    expect(applied.status).toBe(201);
    const after = await plan();
    expect(new Set(after.files.map(({ does }) => does))).toEqual(new Set(['same']));
    expect((await publish({})).status).toBe(422);
    const list = await text('published/MAR-TC-014/list');
    expect(list).toContain('  set-organisation\n');
    expect(old).not.toContain('set-organisation');
    // a device that began with the old list ends with its files, whatever was published meanwhile
    const version = /^# list (\d+)/.exec(old)![1];
    for (const [, sum, name] of old.matchAll(/^([0-9a-f]{64}) {2}(\S+)$/gm)) {
      const content = await text(`published/MAR-TC-014/files/${name}?version=${version}`);
      expect([name, sumOf({ id: name!, layer: 'organisation', target: '*', text: content })]).toEqual([name, sum]);
    }
    expect((await start(device('MAR-TC-014'))).brokenStep).toBeNull();
    const undone = await server.call(`changes/${(applied.body as Applied).changeId}/undo`, { method: 'POST', cookie: engineer });
    expect(undone.status).toBe(200);
    expect(await text('published/MAR-TC-014/list')).not.toContain('set-organisation');
  });

  test('a list is signed as a whole; one that was changed is not', async () => {
    const list = await text('published/MAR-TC-014/list');
    const [, signed, signature] = /^([\s\S]*\n)# signed (\S+)\n$/.exec(list)!;
    const holds = (content: string) => verify(null, Buffer.from(content), key, Buffer.from(signature!, 'base64'));
    expect([holds(signed!), holds(signed!.replace('all', 'al1')), holds(`${signed}x`)]).toEqual([true, false, false]);
  });

  test('only an engineer publishes, on what was seen; nobody fetches what is not of the device', async () => {
    expect((await publish({}, await server.signIn(people.reader))).status).toBe(403);
    expect((await publish({}, '')).status).toBe(401);
    expect((await publish({ gateway: 'GW-NONE' })).status).toBe(404);
    const { version } = await plan();
    const status = async (path: string) => (await fetch(`${server.base}/api/published/${path}`)).status;
    await text('published/MAR-TC-014/list');
    expect(await status(`MAR-TC-014/files/MAR-TC-020?version=${version}`)).toBe(404);
    expect(await status(`MAR-TC-014/files/all?version=999999`)).toBe(410);
    expect(await status(`MAR-TC-014/files/all`)).toBe(400);
    expect(await status('nobody/list')).toBe(404);
    // nothing secret is in what anybody may fetch
    for (const { id } of estate.configFile)
      expect(await text(`published/MAR-TC-020/files/${id}?version=${version}`)).not.toMatch(/sealed:|Ebb-at/);
  });
});
