import { describe, expect, test } from '@jest/globals';
import type { BatchMade, BatchView, DeviceReport, Endpoint, OriginsAnswer, WaitingDevice } from '@underpass/contracts';
import { execFile } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { people } from './server.js';
import { withDemo } from './withDemo.js';

const demo = withDemo(49_500);

const ask = <T>(path: string, method = 'GET', body?: unknown, cookie = demo.engineer) =>
  demo.ask<T & { detail?: string }>(path, method, body, { cookie });
const batch = async (more: object = {}) => {
  const { status, body } = await ask<BatchMade>('intake/batches', 'POST', { name: 'Tills', ...more });
  expect(status).toBe(201);
  return { ...body, at: new URL(body.address).pathname };
};
const report = (name: string, more: Partial<DeviceReport> = {}): object => ({
  v: 1,
  key: Buffer.from(name.padEnd(16, '.')).toString('hex').slice(0, 64),
  name,
  machine: 'x86_64',
  memoryKB: 8_388_608,
  cpus: 4,
  ...more,
});
const send = async (at: string, body: unknown, headers: Record<string, string> = {}) => {
  const answer = await fetch(`${demo.server.base}${at}/report`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...headers },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  });
  const text = await answer.text();
  return { status: answer.status, text, body: (text.startsWith('{') ? JSON.parse(text) : {}) as { state?: string; detail?: string } };
};
const waiting = async () => (await ask<WaitingDevice[]>('intake/waiting')).body;
const endpoint = async (id: string) => (await ask<{ object: Endpoint }>(`estate/endpoint/${id}`)).body.object;

describe('a device that reports', () => {
  test('and is not known waits, with the place of its address; taken in it is an endpoint as reported', async () => {
    const { at } = await batch();
    expect((await send(at, report('fresh-1', { addresses: ['192.0.2.44'], chassis: 3 }))).body.state).toBe('waiting');
    const [device] = await waiting();
    expect(device).toMatchObject({
      name: 'fresh-1',
      batch: 'Tills',
      location: 'wexcombe',
      why: 'its address 192.0.2.44 is in 192.0.2.32/28',
    });
    expect(device?.fields).toContainEqual({ field: 'memoryMB', value: '8192' });
    expect((await ask('estate/endpoint/fresh-1')).status).toBe(404);
    const taken = await ask('intake/waiting/take', 'POST', { devices: [{ id: device?.id, name: 'Fresh till', location: 'wexcombe' }] });
    expect(taken.status).toBe(200);
    const made = await endpoint('fresh-till');
    expect(made).toMatchObject({
      name: 'Fresh till',
      location: 'wexcombe',
      memoryMB: 8192,
      cores: 4,
      processor: 'x86-64',
      assumed: ['clientKind', 'deviceClass', 'ownership', 'platform'],
    });
    expect(made.reportedAt).toBeDefined();
    expect(await waiting()).toEqual([]);
    expect(
      (await ask('intake/waiting/take', 'POST', { devices: [{ id: device?.id, name: 'Fresh till', location: 'wexcombe' }] })).status,
    ).toBe(409);
    const origins = (await ask<OriginsAnswer>('intake/origins/endpoint/fresh-till')).body;
    expect(origins.find(({ field }) => field === 'memoryMB')).toMatchObject({ source: 'device', value: '8192' });

    // from then on it is told by its key, whatever it is called
    expect((await send(at, report('fresh-1', { name: 'renamed', memoryKB: 16_777_216 }))).body.state).toBe('updated');
    expect(await endpoint('fresh-till')).toMatchObject({ name: 'Fresh till', memoryMB: 16_384 });
    const before = (await demo.sql.query('SELECT count(*)::int AS n FROM change_set')).rows[0];
    expect((await send(at, report('fresh-1', { name: 'renamed', memoryKB: 16_777_216 }))).body.state).toBe('unchanged');
    expect((await demo.sql.query('SELECT count(*)::int AS n FROM change_set')).rows[0]).toEqual(before);
  });

  test('and is known by its name is brought up to date; what somebody typed of it holds', async () => {
    const { at } = await batch();
    const [known] = (await ask<{ rows: Endpoint[] }>('estate/endpoint?limit=1&where=deviceClass:laptop')).body.rows;
    const { body, headers } = await demo.server.call(`estate/endpoint/${known?.id}`, { cookie: demo.engineer });
    const typed = { ...(body as { object: object }).object, memoryMB: 4096 };
    await demo.server.call(`estate/endpoint/${known?.id}`, {
      method: 'PUT',
      cookie: demo.engineer,
      headers: { 'if-match': headers.get('etag') ?? '' },
      body: typed,
    });
    expect((await send(at, report('known', { name: known?.name.slice(0, 63) ?? '', cpus: 12 }))).body.state).toBe('updated');
    expect(await endpoint(known?.id ?? '')).toMatchObject({ cores: 12, memoryMB: 4096 });
    const origins = (await ask<OriginsAnswer>(`intake/origins/endpoint/${known?.id}`)).body;
    expect(origins.find(({ field }) => field === 'memoryMB')).toMatchObject({
      source: 'typed',
      others: [{ source: 'device', value: '8192' }],
    });
    // another device of the same name is not it
    expect((await send(at, report('impostor', { name: known?.name.slice(0, 63) ?? '', cpus: 64 }))).body.state).toBe('waiting');
    expect(await endpoint(known?.id ?? '')).toMatchObject({ cores: 12 });
    const [other] = await waiting();
    expect((await ask('intake/waiting/drop', 'POST', { ids: [other?.id] })).status).toBe(204);
    await send(at, report('impostor', { name: known?.name.slice(0, 63) ?? '', cpus: 64 }));
    expect(await waiting()).toEqual([]);
  });

  test('may be one that is there already, where somebody says so', async () => {
    const { at } = await batch({ location: 'head-office' });
    await send(at, report('odd-name'));
    const [device] = await waiting();
    expect(device).toMatchObject({ location: 'head-office', why: 'the batch is of this place' });
    const before = await endpoint('fresh-till');
    const taken = { devices: [{ id: device?.id, name: 'x', location: 'head-office', endpoint: 'fresh-till' }] };
    expect((await ask('intake/waiting/take', 'POST', taken)).status).toBe(200);
    expect(await endpoint('fresh-till')).toMatchObject({ name: before.name, location: before.location, memoryMB: 8192 });
  });

  test('reads the answer as text where it asks for it', async () => {
    const { at } = await batch();
    expect((await send(at, report('plain'), { accept: 'text/plain' })).text).toBe(
      'Thank you. plain is not known yet; it waits until somebody takes it in.',
    );
  });
});

describe('a key', () => {
  test('is good for as many devices as were said, and as often as each likes', async () => {
    const { at } = await batch({ most: 2 });
    expect([(await send(at, report('k1'))).status, (await send(at, report('k2'))).status]).toEqual([200, 200]);
    const third = await send(at, report('k3'));
    expect([third.status, third.body.detail]).toEqual([429, expect.stringContaining('was for 2 devices')]);
    expect((await send(at, report('k1'))).status).toBe(200);
    expect((await ask<BatchView[]>('intake/batches')).body[0]).toMatchObject({ used: 2, most: 2, state: 'full' });
  });
  test('is good for its time, until it is revoked, and in no database or log', async () => {
    const { at, batch: made } = await batch({ hours: 1 });
    const key = at.split('/').at(-1) ?? '';
    await demo.sql.query(`UPDATE enrol_batch SET expires_at = now() - interval '1 second' WHERE id = $1`, [made.id]);
    expect((await send(at, report('late'))).status).toBe(404);
    await demo.sql.query(`UPDATE enrol_batch SET expires_at = now() + interval '1 minute' WHERE id = $1`, [made.id]);
    expect((await send(at, report('late'))).status).toBe(200);
    expect((await ask(`intake/batches/${made.id}`, 'DELETE')).status).toBe(204);
    expect((await send(at, report('late'))).status).toBe(404);
    expect((await fetch(`${demo.server.base}${at}/report.sh`)).status).toBe(404);
    expect(JSON.stringify((await demo.sql.query('SELECT * FROM enrol_batch')).rows)).not.toContain(key);
    expect((await ask<BatchView[]>('intake/batches')).body[0]?.state).toBe('revoked');
  });
  test('is made by engineers alone, and guessed by nobody', async () => {
    const reader = await demo.server.signIn(people.reader);
    expect((await ask('intake/batches', 'POST', { name: 'x' }, reader)).status).toBe(403);
    expect((await ask('intake/waiting', 'GET', undefined, reader)).status).toBe(403);
    for (const key of ['x', 'A'.repeat(32), '..%2f..%2fapi']) expect((await send(`/enrol/${key}`, report('x'))).status).toBe(404);
  });
  test('does not let in what cannot be read, and nothing of it is kept', async () => {
    const { at } = await batch();
    for (const wrong of [
      '{',
      '[]',
      { v: 2 },
      report('x', { cpus: -1 }),
      { ...report('x'), files: ['a'] },
      report('x', { screens: [{ port: 'a', edid: 'zz' }] }),
      report('nul\u0000'),
    ])
      expect([JSON.stringify(wrong), (await send(at, wrong)).status]).toEqual([JSON.stringify(wrong), 400]);
    expect((await send(at, report('x', { system: 'y'.repeat(200_000) }))).status).toBe(413);
    expect((await demo.sql.query(`SELECT count(*)::int AS n FROM enrol_device WHERE name = 'x'`)).rows).toEqual([{ n: 0 }]);
  });
});

test('the script, run on this machine as a start script would, makes an endpoint with its screens', async () => {
  const { shell } = await batch({ name: 'This machine', location: 'head-office' });
  const folder = mkdtempSync(join(tmpdir(), 'machine-'));
  try {
    const [screen] = JSON.parse(
      readFileSync(new URL('../../../packages/core/src/screens/fixtures/edids.json', import.meta.url), 'utf8'),
    ) as { hex: string; preferred: number[] }[];
    // what this machine has no screen to show stands beneath a folder; processor and memory are its own
    mkdirSync(join(folder, 'proc'), { recursive: true });
    for (const name of ['cpuinfo', 'meminfo']) writeFileSync(join(folder, 'proc', name), readFileSync(`/proc/${name}`));
    mkdirSync(join(folder, 'etc'));
    writeFileSync(join(folder, 'etc', 'hostname'), 'this-machine\n');
    const drm = join(folder, 'sys/class/drm/card0-HDMI-A-1');
    mkdirSync(drm, { recursive: true });
    writeFileSync(join(drm, 'status'), 'connected\n');
    writeFileSync(join(drm, 'edid'), Buffer.from(screen?.hex ?? '', 'hex'));
    const { stdout } = await promisify(execFile)('/bin/sh', [
      '-c',
      `${shell.replace('localhost', '127.0.0.1').replace(/\| sh$/, '| sh -s --')} --root ${folder}`,
    ]);
    expect(stdout).toContain('This is told, and nothing else:');
    expect(stdout).toContain('it waits until somebody takes it in');
    const device = (await waiting()).find(({ name }) => name === 'this-machine');
    await ask('intake/waiting/take', 'POST', { devices: [{ id: device?.id, name: 'This machine', location: 'head-office' }] });
    const made = await endpoint('this-machine');
    const [widthPx, heightPx] = screen?.preferred ?? [];
    expect(made.screens).toMatchObject([{ widthPx, heightPx }]);
    expect(made.memoryMB).toBe(Math.round(Number(/MemTotal:\s+(\d+)/.exec(readFileSync('/proc/meminfo', 'utf8'))?.[1]) / 1024));
    expect(made.clock).toBe('right');
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
