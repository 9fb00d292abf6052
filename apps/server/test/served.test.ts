import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { TrustedProxies } from '../src/edge/address.js';
import { cookieNames } from '../src/signin/cookies.js';
import { Secrets } from '../src/secrets/secrets.js';
import { makeDatabase, people, startServer } from './server.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
beforeAll(async () => {
  database = await makeDatabase('demo');
});
afterAll(() => database.drop());

describe('what is sealed, and behind a proxy', () => {
  test('sealed text opens with its key alone, unchanged', () => {
    const [one, two] = [new Secrets('one key that is long enough for it'), new Secrets('another key that is long enough')];
    const sealed = one.seal('the secret');
    expect([one.open(sealed), two.open(sealed), one.open(`${sealed.slice(0, -2)}AA`), one.open('')]).toEqual([
      'the secret',
      null,
      null,
      null,
    ]);
    expect(one.seal('the secret')).not.toBe(sealed);
  });

  test('bytes of any size open as they were, sealed and opened at once or in steps; one that is otherwise at its end opens nothing', () => {
    const secrets = new Secrets('one key that is long enough for it');
    for (const size of [0, 1, 2 ** 21 - 1, 2 ** 21, 2 ** 21 + 1, 5_000_000]) {
      const bytes = Buffer.alloc(size, 'of what was sent');
      const work = secrets.sealingBytes(bytes);
      let steps = 0;
      let step = work.next();
      for (; !step.done; step = work.next()) steps++;
      const sealed = step.value;
      expect([size, sealed.length, secrets.openBytes(sealed)?.equals(bytes)]).toEqual([size, size + 28, true]);
      // one for each part as it is sealed, and one as it is put to the others: nonce, sum, end
      expect([size, steps]).toEqual([size, 2 * Math.ceil(size / 2 ** 21) + 3]);
      sealed[sealed.length - 1] = 1 ^ (sealed.at(-1) as number);
      expect([size, secrets.openBytes(sealed)]).toEqual([size, null]);
    }
  });

  test('only a named proxy is believed about addresses and encryption', () => {
    const request = (remote: string, headers: Record<string, string>) => ({ socket: { remoteAddress: remote }, headers }) as never;
    const forwarded = { 'x-forwarded-for': '198.51.100.9, 203.0.113.5, 192.0.2.2', 'x-forwarded-proto': 'https' };
    const none = new TrustedProxies('');
    expect([none.addressOf(request('192.0.2.1', forwarded)), none.isSecure(request('192.0.2.1', forwarded))]).toEqual(['192.0.2.1', false]);
    const own = new TrustedProxies('192.0.2.0/24, 2001:db8::/32');
    // from the right, over one's own proxies, to the first that is none: what a client put before it does not count
    expect([own.addressOf(request('::ffff:192.0.2.1', forwarded)), own.isSecure(request('192.0.2.1', forwarded))]).toEqual([
      '203.0.113.5',
      true,
    ]);
    expect(own.addressOf(request('198.51.100.1', forwarded))).toBe('198.51.100.1');
    expect(own.addressOf(request('192.0.2.1', { 'x-forwarded-for': 'nonsense' }))).toBe('192.0.2.1');
    expect(() => new TrustedProxies('proxy.example')).toThrow('TRUSTED_PROXY');
  });

  test('cookies are bound to the host and to encryption where pages come encrypted', async () => {
    expect(cookieNames({ secure: true }).session).toMatch(/^__Host-/);
    const secure = await startServer(database.url, 47_800, true, { publicUrl: 'https://underpass.example', secure: true });
    const { headers } = await secure.call('session', { method: 'POST', body: { email: people.reader, password: 'under-the-estuary' } });
    expect(headers.getSetCookie()[0]).toMatch(
      /^__Host-underpass=[^;]+; Max-Age=43200; Path=\/; Expires=[^;]+; HttpOnly; Secure; SameSite=Strict$/,
    );
    expect(headers.get('cache-control')).toBe('no-store');
    expect(headers.get('content-security-policy')).toContain("connect-src 'self';");
    await secure.app.close();
  });

  test('health is told to anybody, figures to whoever comes with their token', async () => {
    const served = await startServer(database.url, 47_750);
    expect(await served.call('health')).toMatchObject({ status: 200, body: { state: 'lives' } });
    expect(await served.call('ready')).toMatchObject({
      status: 200,
      body: { state: 'ready', parts: { database: true, migrations: true, following: true, disk: true } },
    });
    for (const authorization of ['', 'Bearer ', 'Bearer wrong', 'Basic x'])
      expect((await served.call('metrics', { headers: { authorization } })).status).toBe(401);
    const { status, headers, body } = await served.call('metrics', {
      headers: { authorization: 'Bearer a token for the metrics of the tests' },
    });
    expect([status, headers.get('content-type')]).toEqual([200, expect.stringContaining('application/openmetrics-text')]);
    const lines = Buffer.from(body as ArrayBuffer)
      .toString()
      .trimEnd()
      .split('\n');
    // the form of OpenMetrics 1.0: every figure has a type, the last line says that all is there
    expect(lines.at(-1)).toBe('# EOF');
    const types = new Set(lines.flatMap((line) => /^# TYPE (\S+) /.exec(line)?.[1] ?? []));
    for (const line of lines.filter((each) => !each.startsWith('#'))) {
      expect(line).toMatch(/^[a-zA-Z_:][\w:]*(\{.*\})? (-?[\d.]+(e[-+]?\d+)?|\+Inf|NaN|Nan)/);
      const name = (/^[\w:]+/.exec(line) as RegExpExecArray)[0];
      expect([name, types.has(name) || types.has(name.replace(/_(total|count|sum|bucket|created)$/, ''))]).toEqual([name, true]);
    }
    for (const wanted of [
      'stall_seconds',
      'requests_seconds',
      'check_sockets',
      'check_queue',
      'database_up',
      'evaluations',
      'estate_version',
    ])
      expect([wanted, types.has(`underpass_${wanted}`)]).toEqual([wanted, true]);
    await served.app.close();
  });

  test('without the demo its published passwords open nothing', async () => {
    const own = await startServer(database.url, 47_900, false);
    expect((await own.call('session', { method: 'POST', body: { email: people.engineer, password: 'under-the-estuary' } })).status).toBe(
      401,
    );
    await own.app.close();
    // nor from other machines
    const wide = await startServer(database.url, 47_900, true, { host: '0.0.0.0' });
    expect((await wide.call('session', { method: 'POST', body: { email: people.engineer, password: 'under-the-estuary' } })).status).toBe(
      401,
    );
    await wide.app.close();
  });
});
