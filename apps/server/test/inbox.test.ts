import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { InboxService } from '../src/intake/inbox.service.js';
import { makeDatabase, people, startServer, type TestServer } from './server.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
let server: TestServer;
let engineer = '';
const inbox = mkdtempSync(join(tmpdir(), 'underpass-inbox-'));
const devices = join(inbox, 'Device inventory');
beforeAll(async () => {
  mkdirSync(devices);
  mkdirSync(join(inbox, 'Nobody knows'));
  database = await makeDatabase('demo');
  server = await startServer(database.url, 49_380, true, { inbox });
  engineer = await server.signIn(people.engineer);
  // the tests look by themselves: a look by the clock in between would see a file once more often
  const service = server.app.get(InboxService);
  await service['looking'];
  clearTimeout(service['timer'] as NodeJS.Timeout);
  const map = {
    kind: 'endpoint',
    columns: ['id', 'name', 'location', 'cores'].map((to) => ({ from: to, to })),
    constants: { deviceClass: 'kiosk' },
  };
  const kept = await server.call('intake/maps', { method: 'PUT', cookie: engineer, body: { name: 'device INVENTORY', map } });
  if (kept.status !== 200) throw new Error(JSON.stringify(kept.body));
}, 60_000);
afterAll(async () => {
  await server.app.close();
  await database.drop();
  rmSync(inbox, { recursive: true });
});

/** Two looks: the first sees a file, the second takes it where it stayed as it is. */
const look = async () => {
  const service = server.app.get(InboxService);
  await service.look();
  await service.look();
};
const endpoint = async (id: string) =>
  (await server.call(`estate/endpoint/${id}`, { cookie: engineer })) as { status: number; body: { object: object } };
const names = (folder: string, where: string) => readdirSync(join(folder, where)).map((name) => name.replace(/^\S+ /, ''));

test('a file is one list: taken in by the mapping of its folder, and moved with what came of it', async () => {
  writeFileSync(
    join(devices, 'nightly.json'),
    JSON.stringify([
      { id: 'K-1', name: 'Kiosk 1', location: 'wexcombe', cores: 4 },
      { id: 'K-2', name: 'Kiosk 2', location: 'nowhere', cores: 4 },
    ]),
  );
  await look();
  expect((await endpoint('K-1')).body.object).toMatchObject({ name: 'Kiosk 1', cores: 4, deviceClass: 'kiosk' });
  expect((await endpoint('K-2')).status).toBe(404);
  expect(names(devices, 'done').sort()).toEqual(['nightly.json', 'nightly.json.not-taken.csv', 'nightly.json.result.txt']);
  const file = (tail: string) =>
    readFileSync(join(devices, 'done', readdirSync(join(devices, 'done')).find((name) => name.endsWith(tail)) as string), 'utf8');
  expect(file('result.txt')).toMatch(/^Taken in\.\nnew: 1\nchanged: 0\nas they were: 0\nnot taken: 1\n/);
  expect(file('not-taken.csv')).toMatch(/no location is called “nowhere”.*,2,K-2,Kiosk 2,nowhere,4/);
  const [change] = (await server.call('changes', { cookie: engineer })).body as { by: string; summary: string }[];
  expect(change).toMatchObject({ by: 'Inbox', summary: 'List nightly.json' });
});

test('one that is no list, or for which no mapping is kept, is refused beside its reason', async () => {
  writeFileSync(join(devices, 'broken.json'), '[{');
  writeFileSync(join(inbox, 'Nobody knows', 'a.csv'), 'id,name\n1,a\n');
  await look();
  expect(names(devices, 'refused').sort()).toEqual(['broken.json', 'broken.json.reason.txt']);
  const reason = readdirSync(join(devices, 'refused')).find((name) => name.endsWith('reason.txt')) as string;
  expect(readFileSync(join(devices, 'refused', reason), 'utf8')).toBe('Row 1: is not valid JSON.\n');
  const other = join(inbox, 'Nobody knows', 'refused');
  expect(readFileSync(join(other, readdirSync(other).find((name) => name.endsWith('reason.txt')) as string), 'utf8')).toContain(
    'No mapping is kept by the name “Nobody knows”',
  );
});

test('a file that is still being written waits, and a link is not followed', async () => {
  const service = server.app.get(InboxService);
  const path = join(devices, 'growing.csv');
  writeFileSync(path, 'id,name,location,cores\n');
  await service.look();
  writeFileSync(path, 'id,name,location,cores\nK-3,Kiosk 3,wexcombe,2\n');
  await service.look();
  expect((await endpoint('K-3')).status).toBe(404);
  symlinkSync('/etc/passwd', join(devices, 'link.csv'));
  await service.look();
  expect((await endpoint('K-3')).body.object).toMatchObject({ cores: 2 });
  await service.look();
  expect(readdirSync(devices)).toContain('link.csv');
});
