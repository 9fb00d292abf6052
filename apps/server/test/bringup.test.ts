import { describe, expect, test } from '@jest/globals';
import {
  emptyEstate,
  type Applied,
  type BringupBoot,
  type BringupPlace,
  type BringupPlaces,
  type CardPlan,
  type Change,
  type DeviceOptions,
  type ImageList,
  type ImportJob,
  type RecipeList,
  type SecurityEvent,
  type TelephoneFacts,
  type TransferAnswer,
} from '@underpass/contracts';
import { modelOf } from '@underpass/core';
import { strFromU8, unzipSync } from 'fflate';
import { setTimeout as wait } from 'node:timers/promises';
import { readerOf } from '../src/bringup/readerOf.js';
import { demoFiles, people } from './server.js';
import { withDemo } from './withDemo.js';

const demo = withDemo(47_900);

const get = async <T>(path: string): Promise<T> => {
  const { status, body } = await demo.server.call(path, { cookie: demo.engineer });
  expect([path, status]).toEqual([path, 200]);
  return body as T;
};
const boot = (id: string) => get<BringupBoot>(`bringup/endpoints/${id}`);
type ObjectRead = { object: object; version: string };
/** Everything the database holds of the estate, its history, drafts and work, as text. */
const everythingKept = async (): Promise<string> => {
  const all: string[] = [];
  for (const table of ['estate_object', 'audit_entry', 'draft', 'job', 'security_event'])
    for (const { row } of (await demo.sql.query<{ row: string }>(`SELECT t::text AS row FROM ${table} t`)).rows) all.push(row);
  return all.join('\n');
};

describe('what is prepared before anybody comes', () => {
  test('images, with how many devices start from each, and who takes the password that everybody knows', async () => {
    const { images, delivered, deliveredCount } = await get<ImageList>('bringup/images');
    expect(images.map(({ id, devices, password }) => [id, devices, password])).toEqual([
      ['kiosk-2.4_95-arm64', { fits: 2, notKnown: 1, others: 0 }, 'delivered'],
      ['tc-4.12.1-arm64', { fits: 22, notKnown: 0, others: 175 }, 'asked'],
      ['tc-4.12.1-x86', { fits: 169, notKnown: 0, others: 28 }, 'asked'],
    ]);
    expect([delivered, deliveredCount]).toEqual([['BRK-K01'], 1]);
    const card = await get<CardPlan>('bringup/endpoints/GUL-K02/card');
    expect(card).toMatchObject({ endpoint: { processor: 'arm64', bootMode: 'board' }, location: { timeZone: 'Europe/London' } });
    expect(card.endpoint).not.toHaveProperty('model');
    expect((await demo.server.call('bringup/endpoints/nobody/card', { cookie: demo.engineer })).status).toBe(404);
  });

  test('recipes and devices to buy, to whoever is signed in', async () => {
    expect((await get<RecipeList>('bringup/recipes')).recipes.map(({ id, steps }) => [id, steps.length])).toEqual([['desktop-host', 10]]);
    expect((await get<DeviceOptions>('bringup/options')).options.map(({ id }) => id).sort()).toEqual([
      'converted',
      'small-board',
      'thin-client',
    ]);
    for (const path of [
      'images',
      'recipes',
      'options',
      'firmware',
      'endpoints/HO-001/telephone',
      'endpoints/HO-001/desk',
      'endpoints/HO-001/card',
    ])
      expect([path, (await demo.server.call(`bringup/${path}`)).status]).toEqual([path, 401]);
  });

  test('what is known before somebody is asked by telephone: what stops it, and no key', async () => {
    const facts = await get<TelephoneFacts>('bringup/endpoints/MAR-TC-019/telephone');
    expect(facts).toMatchObject({
      ...{ endpoint: 'MAR-TC-019', person: null, platform: 'thin', connection: 'wifi', cause: 'wifi key wrong' },
      location: { id: 'marram-point', home: false, wifi: true },
      words: { network: 'Saltmarsh-Hall', security: 'WPA2', code: '226', vendor: 'saltmarsh-tc', scope: 'marram-point-lan' },
    });
    expect(JSON.stringify(facts)).not.toMatch(/Ebb-at|sealed:/);
    // one of a class that nobody described is not simulated: nothing is said of what stops it
    expect(await get<TelephoneFacts>('bringup/endpoints/CD-002/telephone')).toMatchObject({
      cause: null,
      location: { home: true, wifi: false },
    });
    expect((await demo.server.call('bringup/endpoints/nobody/telephone', { cookie: demo.engineer })).status).toBe(404);
  });
});

describe('starts', () => {
  test('places are told with what stops their devices, the worst first', async () => {
    const { places, others } = await get<BringupPlaces>('bringup');
    expect(places[0]).toMatchObject({ id: 'marram-point', devices: 46, ready: 40 });
    expect(places[0]?.stops.map(({ code, devices }) => [code, devices]).sort()).toEqual([
      ['cable out', 1],
      ['clock wrong', 1],
      ['file sum differs', 1],
      ['firmware for another processor', 1],
      ['line without equals', 1],
      ['wifi key wrong', 1],
    ]);
    expect(places.find(({ id }) => id === 'gullsey')).toMatchObject({ devices: 2, ready: 2, downgrades: 2 });
    expect(places.find(({ id }) => id === 'brack')).toMatchObject({
      devices: 1,
      ready: 0,
      stops: [{ code: 'address where text is read' }],
    });
    // every device is counted once: those of classes that nobody described by themselves
    const [{ count }] = (await demo.sql.query(`SELECT count(*)::int AS count FROM estate_object WHERE kind = 'endpoint' AND NOT deleted`))
      .rows as [{ count: number }];
    expect(places.reduce((sum, { devices }) => sum + devices, others)).toBe(count);
  });

  test('of a place those that stop come first, the earliest step before', async () => {
    const { devices, steps, addresses } = await get<BringupPlace>('bringup/places/marram-point');
    expect(devices.slice(0, 7).map(({ id, done, broken }) => [id, done, broken?.step ?? null])).toEqual([
      ['MAR-TC-016', 1, 'link up'],
      ['MAR-TC-019', 1, 'link up'],
      ['MAR-TC-020', 5, 'configuration files fetched and merged'],
      ['MAR-TC-021', 5, 'configuration files fetched and merged'],
      ['MAR-TC-017', 6, 'firmware compared'],
      ['MAR-TC-018', 9, 'time set'],
      ['MAR-TC-001', 12, null],
    ]);
    expect(addresses).toEqual({ free: 20, wanted: 33 });
    // those that never reported are new, and what they install is told
    expect(devices.filter(({ isNew }) => isNew).length).toBe(33);
    expect(devices.flatMap(({ id, firmware }) => (firmware ? [[id, firmware.version]] : []))).toEqual([['MAR-TC-015', '4.12.1']]);
    expect(devices[0]?.broken?.mend).toBe('Plug the cable in at both ends.');
    expect([steps.length, steps[0], steps.at(-1)]).toEqual([12, 'power on', 'sign-in screen']);
    expect((await demo.server.call('bringup/places/nowhere', { cookie: demo.engineer })).status).toBe(404);
    expect((await demo.server.call('bringup/endpoints/nobody', { cookie: demo.engineer })).status).toBe(404);
    expect((await demo.server.call('bringup')).status).toBe(401);
  });

  test('one device: beside one of the place that starts, with what mends it and for how many; applied, they start', async () => {
    const before = await boot('BRK-K01');
    expect(before.broken).toMatchObject({
      code: 'address where text is read',
      alike: 0,
      shows: 'No settings server',
      remedy: { starts: 1 },
    });
    expect(before.like).toMatchObject({ endpoint: 'GUL-K01', samePlace: false });
    const { change, afterMs } = before.broken!.remedy!;
    const applied = await demo.server.call('changes', {
      method: 'POST',
      cookie: demo.engineer,
      body: { change: change satisfies Change, summary: 'Option 226 as text at Brack' },
    });
    expect(applied.status).toBe(201);
    const after = await boot('BRK-K01');
    expect([after.broken, after.totalMs]).toEqual([null, afterMs]);
    const { changeId } = applied.body as Applied;
    expect((await demo.server.call(`changes/${changeId}/undo`, { method: 'POST', cookie: demo.engineer })).status).toBe(200);
    expect((await boot('BRK-K01')).broken?.code).toBe('address where text is read');
    // a file that was changed after it was signed is published anew
    const file = (await boot('MAR-TC-021')).broken;
    expect([file?.code, file?.remedy?.starts]).toEqual(['file sum differs', 1]);
    // what no edit says has no remedy that could be applied
    expect((await boot('MAR-TC-017')).broken?.remedy).toBeNull();
  });
});

test('starts are those of now: what was read ten minutes ago is read anew, though nothing was edited', () => {
  const model = modelOf(emptyEstate(), []);
  const at = (minutes: number) => readerOf(model, minutes * 60_000);
  const first = at(0);
  expect(at(9) === first).toBe(true);
  expect(at(10) === first).toBe(false);
});

describe('firmware on its way to a place', () => {
  const transfer = (place: string, query = '') =>
    get<TransferAnswer>(`bringup/places/${place}/transfer?begin=2026-11-27T20:00:00Z${query}`);

  test('what will be installed, and three ways over the line; a downgrade is told', async () => {
    const docks = await transfer('gullsey');
    // two kiosks go back to 210 MB; the dock has 1000 Mbit/s of fibre less 5 %
    expect(docks.files).toEqual([{ id: 'kiosk-2.4_95-arm64', version: '2.4_95', sizeMB: 210, devices: 2, down: 2 }]);
    expect(docks.lineMbps).toBe(950);
    const end = Object.fromEntries(docks.ways.map(({ way, endS }) => [way, endS]));
    expect(end['all at once']).toBeCloseTo((2 * 210 * 8) / 950, 6);
    // the evening is outside of its working hours: nine tenths of the line
    expect(end['one after the other']).toBeCloseTo((2 * 210 * 8) / (950 * 0.9), 6);
    expect(end['once, then from a copy at the place']).toBeCloseTo((210 * 8) / (950 * 0.9) + (2 * 210 * 8) / 1000, 6);
    const none = await transfer('control-room');
    expect([none.devices, none.files, none.ways]).toEqual([0, [], []]);
  });

  test('older firmware is put up for a reason or not at all', async () => {
    const put = (id: string, object: object) =>
      demo.server.call(`estate/firmware/${id}`, {
        method: 'PUT',
        cookie: demo.engineer,
        headers: { 'if-none-match': '*' },
        body: { id, ...object },
      });
    const file = { deviceClass: 'thin-client', version: '4.10.0', processor: 'armhf', sizeMB: 500 };
    const refused = await put('tc-old', file);
    expect([refused.status, refused.body]).toEqual([
      422,
      expect.objectContaining({ fields: [{ field: 'reason', problem: 'must be given: 6 devices have something newer than 4.10.0' }] }),
    ]);
    expect((await put('tc-old', { ...file, reason: '  ' })).status).toBe(422);
    const taken = await put('tc-old', { ...file, reason: 'The newer one does not start on these' });
    expect(taken.status).toBe(200);
    // now they are offered one, and told as put back
    expect((await boot('MAR-TC-017')).notes.map(({ code }) => code)).toContain('downgrade');
    expect((await put('tc-new', { ...file, version: '4.12.1' })).status).toBe(200);
  });

  test('where nothing may go outside of working hours it waits for them, and shares are bounded', async () => {
    const waits = await transfer('gullsey', '&outside=0&working=50');
    const turn = waits.ways.find(({ way }) => way === 'one after the other')!;
    // from 20:00 on a Friday to Monday 07:00, when the dock begins
    expect(turn.endS).toBeGreaterThan(10 * 3600);
    expect(turn.hours[0]).toMatchObject({ usedMbps: 0, allowedMbps: 0, works: false });
    for (const wrong of ['&working=101', '&outside=-1', '&working=x', '&begin=yesterday'])
      expect([
        wrong,
        (await demo.server.call(`bringup/places/gullsey/transfer?${wrong.slice(1)}`, { cookie: demo.engineer })).status,
      ]).toEqual([wrong, 400]);
    expect((await demo.server.call('bringup/places/nowhere/transfer', { cookie: demo.engineer })).status).toBe(404);
  });
});

describe('what is secret', () => {
  const key = 'Ebb-at-seven';
  const sealed = async (path = 'endpoint/MAR-TC-019') =>
    ((await get<ObjectRead>(`estate/${path}`)).object as { wifi: { key: string } }).wifi.key;

  test('is sealed wherever it is kept: the demo, an edit, a draft, a change, an import', async () => {
    expect(await sealed()).toMatch(/^sealed:[\w-]{40,}$/);
    const secrets = [
      'Mudflat-and-Marsh',
      'Ebb-at-eleven',
      'Keel-and-cradle',
      key,
      'Another-key-one',
      'Another-key-two',
      'Another-key-three',
    ];
    const { object, version } = await get<ObjectRead>('estate/endpoint/MAR-TC-019');
    const wifi = (object as { wifi: object }).wifi;
    const put = await demo.server.call('estate/endpoint/MAR-TC-019', {
      method: 'PUT',
      cookie: demo.engineer,
      headers: { 'if-match': `"${version}"` },
      body: { ...object, wifi: { ...wifi, key: 'Another-key-one' } },
    });
    expect(put.status).toBe(200);
    const patch = (set: object): Change => ({
      patches: [{ do: 'change', kind: 'endpoint', id: 'MAR-TC-019', set: set as never }],
      hypotheses: [],
    });
    const draft = await demo.server.call('drafts', {
      method: 'POST',
      cookie: demo.engineer,
      body: { name: 'Key', change: patch({ 'wifi.key': 'Another-key-two' }) },
    });
    expect(draft.status).toBe(201);
    const changed = await demo.server.call('changes', {
      method: 'POST',
      cookie: demo.engineer,
      body: { change: patch({ wifi: { ...wifi, key: 'Another-key-three' } }), summary: 'Key' },
    });
    expect(changed.status).toBe(201);
    const kept = await everythingKept();
    for (const secret of secrets) expect([secret, kept.includes(secret)]).toEqual([secret, false]);
    expect((await boot('MAR-TC-019')).broken?.code).toBe('wifi key wrong');
    // the key of the place, typed by hand: sealed to the same text, so that the device joins
    const right = await demo.server.call('changes', {
      method: 'POST',
      cookie: demo.engineer,
      body: { change: patch({ 'wifi.key': 'Ebb-at-eleven' }), summary: 'Key' },
    });
    expect(right.status).toBe(201);
    expect([await sealed(), (await boot('MAR-TC-019')).broken]).toEqual([await sealed('location/marram-point'), null]);
  });

  test('what is imported a second time changes nothing, and what is waited for is sealed too', async () => {
    const files = { 'locations.csv': demoFiles()['locations.csv'] };
    const { id } = (await demo.server.call('estate/import', { method: 'POST', cookie: demo.engineer, body: { files, apply: true } }))
      .body as ImportJob;
    for (;;) {
      const { state, result } = await get<ImportJob>(`estate/import/${id}`);
      if (state === 'applied') {
        expect(result?.changed).toBe(0);
        break;
      }
      expect(['waiting', 'running']).toContain(state);
      await wait(50);
    }
    expect(await everythingKept()).not.toContain(Buffer.from('Ebb-at-eleven').toString('hex'));
  });

  test('is not in an export', async () => {
    const zip = unzipSync(new Uint8Array(await demo.server.exported('estate/exports', demo.engineer, {})));
    const all = Object.values(zip)
      .map((bytes) => strFromU8(bytes))
      .join('\n');
    expect(all).toContain('sealed:');
    expect(all).not.toContain('Keel-and-cradle');
  });

  test('is opened on demand alone, by an engineer, and that is logged', async () => {
    const show = (path: string, field: string, cookie = demo.engineer) =>
      demo.server.call(`estate/${path}/shown`, { method: 'POST', cookie, body: { field } });
    expect((await show('location/gullsey', 'wifi.key')).body).toEqual({ value: 'Keel-and-cradle' });
    const events = (await demo.server.call('security-log', { cookie: await demo.server.signIn(people.admin) })).body as SecurityEvent[];
    const [event] = events.filter(({ kind }) => kind === 'secret shown');
    expect(event).toMatchObject({ who: people.engineer, about: 'wifi.key of location gullsey' });
    expect(JSON.stringify(events)).not.toContain('Keel-and-cradle');
    expect((await show('location/gullsey', 'wifi.key', demo.reader)).status).toBe(403);
    expect((await show('location/gullsey', 'wifi.key', '')).status).toBe(401);
    for (const [path, field] of [
      ['location/gullsey', 'name'],
      ['location/brack', 'wifi.key'],
      ['person/P001', 'wifi.key'],
      ['location/nowhere', 'wifi.key'],
    ] as const)
      expect([path, field, (await show(path, field)).status]).toEqual([path, field, 404]);
  });

  test('a card to join by has it, for engineers, and that is logged; without a network that is said', async () => {
    const card = (place: string, cookie = demo.engineer) => demo.server.call(`bringup/places/${place}/joining`, { method: 'POST', cookie });
    const { status, body } = await card('head-office');
    expect([status, body]).toEqual([
      200,
      expect.objectContaining({
        name: 'Saltmarsh-Office',
        key: 'Mudflat-and-Marsh',
        payload: 'WIFI:T:SAE;S:Saltmarsh-Office;P:Mudflat-and-Marsh;;',
      }),
    ]);
    const events = (await demo.server.call('security-log', { cookie: await demo.server.signIn(people.admin) })).body as SecurityEvent[];
    expect(events.filter(({ about }) => about === 'joining card of location head-office')).toHaveLength(1);
    expect([(await card('head-office', demo.reader)).status, (await card('head-office', '')).status]).toEqual([403, 401]);
    expect([(await card('oldhithe')).status, (await card('nowhere')).status]).toEqual([422, 404]);
  });

  test('one sealed elsewhere is told as such, and one that is too long is refused and not sealed', async () => {
    const change = (key: string) =>
      demo.server.call('changes', {
        method: 'POST',
        cookie: demo.engineer,
        body: {
          change: { patches: [{ do: 'change', kind: 'location', id: 'brack', set: { wifi: { name: 'Dock', key } } }], hypotheses: [] },
          summary: 'Key',
        },
      });
    expect((await change('k'.repeat(64))).status).toBe(422);
    expect((await change(`sealed:${'A'.repeat(60)}`)).status).toBe(201);
    const shown = await demo.server.call('estate/location/brack/shown', {
      method: 'POST',
      cookie: demo.engineer,
      body: { field: 'wifi.key' },
    });
    expect([shown.status, shown.body]).toEqual([422, expect.objectContaining({ title: 'Sealed elsewhere' })]);
  });
});
