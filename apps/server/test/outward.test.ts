import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Gateway, GatewayLooked, OriginsAnswer } from '@underpass/contracts';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createServer, type Server } from 'node:tls';
import { readConfig } from '../src/config.js';
import { AllowedTargets } from '../src/outward/targets.js';
import { makeDatabase, people, startServer, type TestServer } from './server.js';

describe('machines this server may connect to', () => {
  const allowed = async (written: string, host: string) =>
    (await new AllowedTargets(written).of(host, 636).catch((error: { problem: { status: number } }) => error.problem.status)) as unknown;
  test('are those that are named, by name, ending, address or range, and no others', async () => {
    expect(await allowed('127.0.0.1', '127.0.0.1')).toEqual({ host: '127.0.0.1', address: '127.0.0.1', port: 636 });
    expect(await allowed('127.0.0.0/30', '127.0.0.3')).toMatchObject({ address: '127.0.0.3' });
    expect(await allowed('127.0.0.0/30', '127.0.0.4')).toBe(403);
    expect(await allowed('::1', '[::1]')).toMatchObject({ address: '::1' });
    expect(await allowed('127.0.0.1', '::ffff:127.0.0.1')).toMatchObject({ address: '::ffff:127.0.0.1' });
    expect(await allowed('LOCALHOST', 'localhost.')).toMatchObject({ host: 'localhost' });
    // a name whose address is in a range
    expect(await allowed('127.0.0.0/8, ::1', 'localhost')).toMatchObject({ host: 'localhost' });
    expect(await allowed('192.0.2.0/24', 'localhost')).toBe(403);
    expect(await allowed('', 'localhost')).toBe(403);
    expect(await allowed('', '127.0.0.1')).toBe(403);
    expect(await allowed('*.example.org', 'example.org')).toBe(403);
    expect(await allowed('*.example.org', 'evilexample.org')).toBe(403);
    // allowed, and known to nobody
    expect(await allowed('*.invalid', 'directory.invalid')).toBe(422);
    // not allowed, and not even looked up
    expect(await allowed('other.invalid', 'directory.invalid')).toBe(403);
  });
  test.each(['http://x', '10.0.0.0/x', 'a b', '*'])('are told apart from what is none: %s', (written) => {
    expect(() => new AllowedTargets(written)).toThrow('ALLOWED_TARGETS');
    expect(() => readConfig({ DATABASE_URL: 'postgres://x', ALLOWED_TARGETS: written })).toThrow('ALLOWED_TARGETS');
  });
});

describe('a gateway that is looked at', () => {
  const folder = mkdtempSync(join(tmpdir(), 'gateway-'));
  let database: Awaited<ReturnType<typeof makeDatabase>>;
  let server: TestServer;
  let engineer = '';
  let tls: Server;
  let older: Server;
  beforeAll(async () => {
    const made = spawnSync(
      'openssl',
      [
        'req',
        '-x509',
        '-newkey',
        'rsa:2048',
        '-nodes',
        '-keyout',
        'key.pem',
        '-out',
        'own.pem',
        '-days',
        '30',
        '-subj',
        '/CN=Own issuer',
        '-addext',
        'subjectAltName=DNS:localhost,DNS:*.gateway.example,IP:127.0.0.1',
      ],
      { cwd: folder, encoding: 'utf8' },
    );
    if (made.status !== 0) throw new Error(made.stderr);
    const keys = { key: readFileSync(join(folder, 'key.pem')), cert: readFileSync(join(folder, 'own.pem')) };
    const listening = (options: object) =>
      new Promise<Server>((resolve) => {
        const each = createServer({ ...keys, ...options }, (socket) => socket.end()).on('tlsClientError', () => undefined);
        each.listen(0, '127.0.0.1', () => resolve(each));
      });
    tls = await listening({ minVersion: 'TLSv1.3' });
    older = await listening({ maxVersion: 'TLSv1.2' });
    database = await makeDatabase('demo');
    server = await startServer(database.url, 49_550, true, { allowedTargets: 'localhost' });
    engineer = await server.signIn(people.engineer);
  }, 60_000);
  afterAll(async () => {
    tls.close();
    older.close();
    await server.app.close();
    await database.drop();
    rmSync(folder, { recursive: true, force: true });
  });
  const ask = async <T>(path: string, method = 'GET', body?: unknown, headers: Record<string, string> = {}) =>
    (await server.call(path, { method, cookie: engineer, headers, ...(body === undefined ? {} : { body }) })) as unknown as {
      status: number;
      body: T & { detail?: string };
      headers: Headers;
    };
  const portOf = (each: Server) => (each.address() as AddressInfo).port;
  test('shows its certificate and the TLS it speaks; taken over it stands as told by itself', async () => {
    const [gateway] = (await ask<{ rows: Gateway[] }>('estate/gateway?limit=1')).body.rows;
    const id = gateway?.id ?? '';
    const set = async (address: string) => {
      const { body, headers } = await ask<{ object: Gateway }>(`estate/gateway/${id}`);
      expect(
        (await ask(`estate/gateway/${id}`, 'PUT', { ...body.object, address }, { 'if-match': headers.get('etag') ?? '' })).status,
      ).toBe(200);
    };
    const look = (body: object) => ask<GatewayLooked>(`intake/gateways/${id}/look`, 'POST', body);
    expect(await look({})).toMatchObject({ status: 403, body: { detail: expect.stringContaining('may not connect') } });
    await set('localhost');
    const { seen, applied } = (await look({ port: portOf(tls) })).body;
    expect([seen.names, seen.public, seen.fault, seen.issuer, seen.tlsHighest, seen.tlsMinimum, applied]).toEqual([
      ...[['localhost', '*.gateway.example', '127.0.0.1'], false, 'DEPTH_ZERO_SELF_SIGNED_CERT', 'Own issuer', '1.3', '1.3', null],
    ]);
    expect(Date.parse(seen.notAfter) - Date.parse(seen.notBefore)).toBe(30 * 86_400_000);
    expect((await look({ port: portOf(older) })).body.seen).toMatchObject({ tlsHighest: '1.2', tlsMinimum: '1.2' });
    expect((await look({ port: portOf(tls), take: true })).status).toBe(422);
    const taken = await look({ port: portOf(tls), take: true, trust: 'organisation' });
    expect(taken.body.applied?.changeId).toBeDefined();
    const now = (await ask<{ object: Gateway }>(`estate/gateway/${id}`)).body.object;
    expect(now).toMatchObject({
      certificate: { names: seen.names, notAfter: seen.notAfter, trust: 'organisation' },
      tlsHighest: '1.3',
      tlsMinimum: '1.3',
    });
    const origins = (await ask<OriginsAnswer>(`intake/origins/gateway/${id}`)).body;
    expect(origins.find(({ field }) => field === 'certificate')).toMatchObject({ source: 'device' });
    tls.close();
    expect((await look({ port: 9 })).body.detail).toBe('localhost:9: nobody answers there.');
    expect((await ask('intake/gateways/none/look', 'POST', {})).status).toBe(404);
    const reader = await server.signIn(people.reader);
    expect((await server.call(`intake/gateways/${id}/look`, { method: 'POST', cookie: reader, body: {} })).status).toBe(403);
  });
});
