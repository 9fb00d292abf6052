import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import {
  readFolder,
  type Applied,
  type BringupBoot,
  type BringupPlace,
  type Estate,
  type FirmwareList,
  type FirmwareWho,
  type PublishPlan,
} from '@underpass/contracts';
import { placeOf, sumOf } from '@underpass/core';
import {
  openAddressServer,
  openPortal,
  start,
  underpassAt,
  type AddressServer,
  type Device,
  type Portal,
  type Started,
} from '@underpass/standins';
import { createHash, randomBytes, verify } from 'node:crypto';
import { demoFiles, deviceKey, makeDatabase, people, portalKey, startServer, type TestServer } from './server.js';

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
  test('every device of the demo stops where its simulation says, or nowhere: 200 of them at once', async () => {
    const described = estate.endpoint.filter(({ deviceClass }) => estate.deviceClass.some(({ id }) => id === deviceClass));
    expect(described.length).toBe(200);
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

describe('signing in at the stand-in portal', () => {
  // below those that the system gives to whoever connects
  const port = 4798;
  let portal: Portal;
  beforeAll(async () => {
    portal = await openPortal({ port, underpass: underpassAt(server.base, portalKey), wakeMs: 300 });
  });
  afterAll(() => portal.close());
  const at = (id: string, more: Partial<Device> = {}) =>
    start(
      device(id, {
        portal: (broker) => {
          const gateway = estate.gateway.find(({ address }) => address === broker)?.id;
          return `http://127.0.0.1:${port}/${estate.portal.find((each) => each.gateway === gateway)?.id}`;
        },
        ...more,
      }),
    );

  test('its person comes to their list; without one the page to sign in on comes', async () => {
    const person = await at('MAR-TC-001');
    expect([person.brokenStep, person.signIn]).toEqual([null, 'Your resources']);
    const nobody = await at('MAR-TC-014');
    expect([nobody.brokenStep, nobody.signIn]).toEqual([null, estate.portal[0]!.name]);
    expect((await start(device('MAR-TC-014'))).signIn).toBeNull();
  });

  test('where no page comes it stops at its sign-in screen', async () => {
    const started = await at('MAR-TC-014', { portal: () => 'http://127.0.0.1:9/staff' });
    expect([started.brokenStep, started.detail]).toEqual(['sign-in screen', 'access.saltmarsh.example does not answer']);
    const other = await at('MAR-TC-014', { portal: () => `http://127.0.0.1:${port}/nothing` });
    expect([other.brokenStep, other.detail]).toEqual(['sign-in screen', 'access.saltmarsh.example: Not found']);
  });
});

describe('firmware that is fetched', () => {
  const bytes = randomBytes(5_000_000);
  const sum = createHash('sha256').update(bytes).digest('hex');
  const file = { id: 'tc-5', deviceClass: 'thin-client', version: '5.0', processor: 'x86-64', sizeMB: 5 };
  const put = async (at: number, of: number, part: Uint8Array, id = file.id, headers: Record<string, string> = {}) => {
    const response = await fetch(`${server.base}/api/bringup/firmware/${id}/bytes?at=${at}&of=${of}`, {
      method: 'PUT',
      headers: { cookie: engineer, 'x-underpass': '1', 'content-type': 'application/octet-stream', ...headers },
      body: part,
    });
    return { status: response.status, body: (await response.json()) as Record<string, unknown> };
  };
  const image = (range?: string, more: Record<string, string> = {}, id = file.id) =>
    fetch(`${server.base}/api/published/MAR-TC-001/firmware/${id}`, { headers: { ...(range ? { range } : {}), ...more } });
  const list = async () => (await get<FirmwareList>('bringup/firmware')).files;

  test('its bytes come in pieces, go on where they broke off, and are held against their sum', async () => {
    expect((await put(0, 10, bytes.subarray(0, 10))).status).toBe(404);
    await server.call('estate/firmware/tc-5', { method: 'PUT', cookie: engineer, body: file, headers: { 'if-none-match': '*' } });
    const half = 2 * 1024 * 1024;
    expect((await put(half, bytes.length, bytes.subarray(half, half + 100))).body.detail).toBe('Nothing of it is here yet. Begin at 0.');
    expect((await put(0, bytes.length, bytes.subarray(0, half))).body).toEqual({ here: half, total: bytes.length, sha256: null });
    expect((await list()).find(({ id }) => id === 'tc-5')!.stored).toMatchObject({ here: half, whole: false });
    // nothing of what is not whole is offered
    expect(await text('published/MAR-TC-001/list')).toMatch(/^# firmware tc-5 5\.0 x86-64 5$/m);
    expect((await image()).status).toBe(404);
    expect((await put(10, bytes.length, bytes.subarray(10, 20))).body).toMatchObject({
      status: 409,
      detail: `${half} of 5000000 bytes are here. Go on from there, or from 0.`,
    });
    expect((await put(half, bytes.length, bytes.subarray(half, 2 * half + 1))).status).toBe(413);
    expect((await put(half, half + 5, bytes.subarray(half, half + 100))).status).toBe(422);
    await put(half, bytes.length, bytes.subarray(half, 2 * half));
    expect((await put(2 * half, bytes.length, bytes.subarray(2 * half))).body).toEqual({ here: 5e6, total: 5e6, sha256: sum });
    const kept = (await list()).find(({ id }) => id === 'tc-5')!;
    expect(kept).toMatchObject({ sha256: sum, sizeMB: 5, stored: { whole: true } });
    expect(kept.devices).toMatchObject({ down: 0, nothing: 0 });
    expect(kept.devices.up).toBeGreaterThan(100);
    expect(await text('published/MAR-TC-001/list')).toMatch(new RegExp(`^# firmware tc-5 5\\.0 x86-64 5 ${sum}$`, 'm'));
  });

  test.each<[string, number, string | null, number]>([
    ['bytes=0-9', 206, 'bytes 0-9/5000000', 10],
    ['bytes=4999990-', 206, 'bytes 4999990-4999999/5000000', 10],
    ['bytes=-3', 206, 'bytes 4999997-4999999/5000000', 3],
    ['bytes=4999999-9999999', 206, 'bytes 4999999-4999999/5000000', 1],
    ['bytes=2097150-2097153', 206, 'bytes 2097150-2097153/5000000', 4],
    ['bytes=5000000-', 416, 'bytes */5000000', -1],
    ['bytes=-0', 416, 'bytes */5000000', -1],
    ['bytes=9-3', 200, null, 5e6],
    ['bytes=0-1,4-5', 200, null, 5e6],
    ['lines=0-1', 200, null, 5e6],
  ])('the part %s of it', async (range, status, says, length) => {
    const response = await image(range);
    const came = Buffer.from(await response.arrayBuffer());
    expect([response.status, response.headers.get('content-range')]).toEqual([status, says]);
    if (length < 0) return;
    const from = says ? Number(/\d+/.exec(says)![0]) : 0;
    expect(came.length).toBe(length);
    expect(came.equals(bytes.subarray(from, from + length))).toBe(true);
  });

  test('a part of another state is not given, but the whole; a file that is not offered to it is not', async () => {
    expect((await image('bytes=5-9', { 'if-range': `"${sum}"` })).status).toBe(206);
    expect((await image('bytes=5-9', { 'if-range': '"another"' })).status).toBe(200);
    expect((await image('bytes=5-9', {}, 'kiosk-2.4_95-arm64')).status).toBe(404);
  });

  test('a device whose line breaks again and again has all of it in the end', async () => {
    const whole = await start(device('MAR-TC-001'));
    expect([whole.brokenStep, whole.fetched, whole.firmware]).toEqual([null, { bytes: 5e6, parts: 1 }, '5.0']);
    const broken = await start(device('MAR-TC-001', { breaksAfterBytes: 700_000 }));
    expect([broken.brokenStep, broken.fetched, broken.firmware]).toEqual([null, { bytes: 5e6, parts: 8 }, '5.0']);
    // what it has already is not fetched
    const has = device('MAR-TC-001');
    expect((await start({ ...has, endpoint: { ...has.endpoint, firmware: '5.0' } })).fetched).toEqual({ bytes: 0, parts: 0 });
  });

  test('another file than the catalogue says is refused, and nothing of it kept', async () => {
    const other = randomBytes(1000);
    const basis = (await server.call('estate/firmware/tc-5', { cookie: engineer })).headers.get('etag') ?? '';
    const said = { ...file, sha256: sum.toUpperCase() };
    await server.call('estate/firmware/tc-5', { method: 'PUT', cookie: engineer, body: said, headers: { 'if-match': basis } });
    expect((await image()).status).toBe(200);
    const refused = await put(0, 1000, other);
    expect(refused.status).toBe(422);
    expect(refused.body.detail).toContain(`the catalogue says ${sum}`);
    expect((await list()).find(({ id }) => id === 'tc-5')!.stored).toBeNull();
    expect((await image()).status).toBe(404);
  });

  test('who may: an engineer, with octets', async () => {
    const reader = await server.signIn(people.reader);
    expect((await put(0, 10, bytes.subarray(0, 10), 'tc-5', { cookie: reader })).status).toBe(403);
    expect((await put(0, 10, bytes.subarray(0, 10), 'tc-5', { cookie: '' })).status).toBe(401);
    expect((await put(0, 10, bytes.subarray(0, 10), 'tc-5', { 'content-type': 'text/plain' })).status).toBe(415);
    expect((await put(-1, 10, bytes.subarray(0, 10))).status).toBe(400);
    await server.call('estate/firmware/tc-5', { method: 'DELETE', cookie: engineer });
  });

  test('who would be put back by a file that is about to be put up', async () => {
    const who = await get<FirmwareWho>('bringup/firmware/who?id=tc-new&deviceClass=thin-client&version=4.9&processor=x86-64');
    // the one that is there is higher
    expect(who.devices).toMatchObject({ down: 0, up: 0 });
    expect(who.devices.passed).toBeGreaterThan(100);
    const instead = await get<FirmwareWho>('bringup/firmware/who?id=tc-4.12.1-x86&deviceClass=thin-client&version=4.9&processor=x86-64');
    expect(instead.devices.down).toBeGreaterThan(100);
    expect(instead.back.length).toBe(5);
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
