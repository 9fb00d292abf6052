import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Session } from '@underpass/contracts';
import { exportJWK, generateKeyPair, SignJWT, type CryptoKey, type JWK, type JWTPayload } from 'jose';
import { Provider } from 'oidc-provider';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import pg from 'pg';
import { makeDatabase, startServer, type TestServer } from './server.js';

/** An identity provider as organisations run one, from an independent library, on loopback; and what somebody on the way could do to it. */
let provider: Server;
let issuer = '';
let keys: { privateKey: CryptoKey; jwk: JWK };
let database: Awaited<ReturnType<typeof makeDatabase>>;
let server: TestServer;
let sql: pg.Client;
/** Who the provider would sign in, and what happens to its token on the way back. */
let account = { sub: 'u1', email: 'mara@saltmarsh.example', email_verified: true, name: 'Mara Quill', roles: ['access-team'] };
let tamper: (token: JWTPayload) => Promise<string | null> = () => Promise.resolve(null);

const clientId = 'underpass';
const clientSecret = 'a secret of the client, for tests only';
const listening = (handler: Parameters<typeof createServer>[1]) =>
  new Promise<{ made: Server; port: number }>((resolve) => {
    const made = createServer(handler as never);
    made.listen(0, '127.0.0.1', () => resolve({ made, port: (made.address() as AddressInfo).port }));
  });
const sign = (claims: JWTPayload, key = keys.privateKey, header: object = {}) =>
  new SignJWT(claims).setProtectedHeader({ alg: 'RS256', kid: keys.jwk.kid as string, ...header }).sign(key);

beforeAll(async () => {
  const pair = await generateKeyPair('RS256', { extractable: true });
  keys = { privateKey: pair.privateKey, jwk: { ...(await exportJWK(pair.privateKey)), kid: 'k1', alg: 'RS256', use: 'sig' } };
  database = await makeDatabase('demo');
  let inner: ((request: never, response: never) => void) | null = null;
  const { made, port } = await listening(((request: never, response: never) => inner?.(request, response)) as never);
  provider = made;
  issuer = `http://127.0.0.1:${port}`;
  server = await startServer(database.url, 46_900, true, {
    provider: {
      issuer,
      clientId,
      clientSecret,
      name: 'Saltmarsh sign-in',
      scope: 'openid email profile',
      roleClaim: 'roles',
      roles: { 'access-team': 'engineer', lookers: 'reader' },
    },
  });
  const oidc = new Provider(issuer, {
    clients: [
      {
        client_id: clientId,
        client_secret: clientSecret,
        redirect_uris: [`http://localhost:${server.port}/api/session/provider/back`],
        post_logout_redirect_uris: [`http://localhost:${server.port}/`],
      },
    ],
    jwks: { keys: [keys.jwk as never] },
    claims: { openid: ['sub', 'email', 'email_verified', 'name', 'roles'] },
    conformIdTokenClaims: false,
    features: { devInteractions: { enabled: false }, rpInitiatedLogout: { enabled: true } },
    findAccount: (_context: unknown, id: string) => ({ accountId: id, claims: () => ({ ...account, sub: id }) }),
    // whoever comes is signed in without being asked: people's own part is not what is tried here
    interactions: { url: (_context: unknown, interaction: { uid: string }) => `/interaction/${interaction.uid}` },
    cookies: { keys: ['of the tests'] },
    ttl: { Interaction: 600, Session: 600, Grant: 600, AccessToken: 600, IdToken: 600 },
  } as never);
  const callback = oidc.callback();
  inner = ((request: never, response: never) => {
    const { url, method } = request as unknown as { url: string; method: string };
    if (url.startsWith('/interaction/')) {
      void (async () => {
        await oidc.interactionDetails(request, response);
        const grant = new oidc.Grant({ accountId: account.sub, clientId });
        grant.addOIDCScope('openid email profile');
        await oidc.interactionFinished(
          request,
          response,
          { login: { accountId: account.sub }, consent: { grantId: await grant.save() } },
          { mergeWithLastSubmission: true },
        );
      })();
      return;
    }
    if (method === 'POST' && url.startsWith('/token')) {
      // somebody on the way, or a provider gone bad: the answer's token is changed
      const out = response as unknown as { end: (chunk?: unknown) => unknown; setHeader: (name: string, value: string | number) => void };
      const end = out.end.bind(out);
      out.end = (chunk?: unknown) => {
        const body = JSON.parse(String(chunk ?? '{}')) as { id_token?: string };
        const claims = body.id_token
          ? (JSON.parse(Buffer.from(body.id_token.split('.')[1] as string, 'base64url').toString()) as JWTPayload)
          : {};
        void tamper(claims).then((changed) => {
          const text = JSON.stringify(changed === null ? body : { ...body, id_token: changed });
          out.setHeader('content-length', Buffer.byteLength(text));
          end(text);
        });
        return out;
      };
    }
    void callback(request as never, response as never);
  }) as never;
  sql = new pg.Client({ connectionString: database.url });
  await sql.connect();
}, 60_000);
afterAll(async () => {
  await sql.end();
  await server.app.close();
  provider.closeAllConnections();
  await new Promise((resolve) => provider.close(resolve));
  await database.drop();
});

/** A browser's worth of the way: cookies kept for each host, redirects followed one by one. */
class Browser {
  private readonly jars = new Map<string, Map<string, string>>();
  visited: string[] = [];

  async go(address: string, most = 12): Promise<{ status: number; url: string; text: string }> {
    const url = new URL(address.replace('//localhost:', '//127.0.0.1:'));
    const jar = this.jars.get(url.host) ?? new Map<string, string>();
    this.jars.set(url.host, jar);
    this.visited.push(url.href);
    const response = await fetch(url, {
      redirect: 'manual',
      headers: { cookie: [...jar].map(([name, value]) => `${name}=${value}`).join('; ') },
    });
    for (const each of response.headers.getSetCookie()) {
      const [pair = ''] = each.split(';');
      const name = pair.slice(0, pair.indexOf('='));
      if (/expires=Thu, 01 Jan 1970/i.test(each)) jar.delete(name);
      else jar.set(name, pair.slice(name.length + 1));
    }
    const to = response.headers.get('location');
    if (to && most > 0 && !to.startsWith('/board') && !to.startsWith('/?') && !to.startsWith('/account'))
      return this.go(new URL(to, url).href, most - 1);
    return { status: response.status, url: to ?? url.href, text: await response.text() };
  }
  /** The provider does not know this browser any more. */
  forgetProvider(): void {
    this.jars.delete(new URL(issuer).host);
  }
  cookie(name: string): string | undefined {
    const value = this.jars.get(`127.0.0.1:${server.port}`)?.get(name);
    return value === undefined ? undefined : `${name}=${value}`;
  }
}
const start = () => `${server.base}/api/session/provider`;
const signIn = async (browser = new Browser()) => ({ browser, end: await browser.go(start()) });
const who = async (cookie: string | undefined) =>
  (await server.call('session', { cookie: cookie ?? '' })) as unknown as { status: number; body: Session };

describe('sign-in through the organisation’s provider', () => {
  test('makes the person at the first time, with the role of the claim, and follows it afterwards', async () => {
    const { browser, end } = await signIn();
    expect(end.url).toBe('/board');
    const session = await who(browser.cookie('underpass_session'));
    expect(session.body).toMatchObject({
      name: 'Mara Quill',
      email: 'mara@saltmarsh.example',
      role: 'engineer',
      throughProvider: true,
      mustSetUpFactor: false,
    });
    // the way is by code with PKCE, state and nonce
    const asked = new URL(browser.visited.find((address) => address.includes('code_challenge=')) as string).searchParams;
    expect(Object.fromEntries(asked)).toMatchObject({
      response_type: 'code',
      code_challenge_method: 'S256',
      state: expect.stringMatching(/.{20}/),
      nonce: expect.stringMatching(/.{20}/),
    });
    account = { ...account, roles: ['lookers'], name: 'Mara Q. Quill' };
    const again = await signIn();
    expect((await who(again.browser.cookie('underpass_session'))).body).toMatchObject({ role: 'reader', name: 'Mara Q. Quill' });
    expect((await sql.query(`SELECT count(*)::int AS n FROM app_user WHERE provider IS NOT NULL`)).rows[0]).toEqual({ n: 1 });
    account = { ...account, roles: ['access-team'] };
  });

  test('without a role, a verified address, or with an address that has a password here, nobody gets in', async () => {
    const good = account;
    for (const [changed, said] of [
      [{ sub: 'u2', email: 'else@saltmarsh.example', roles: ['strangers'] }, '/?sign-in=no-role'],
      [{ sub: 'u3', email: 'else@saltmarsh.example', email_verified: false }, '/?sign-in=no-role'],
      [{ sub: 'u4', email: 'not an address' }, '/?sign-in=no-role'],
      [{ sub: 'u5', email: 'admin@saltmarsh.example' }, '/?sign-in=in-use'],
    ] as const) {
      account = { ...good, ...changed } as typeof good;
      const { browser, end } = await signIn();
      expect([changed, end.url, browser.cookie('underpass_session')]).toEqual([changed, said, undefined]);
    }
    account = good;
  });

  test('a token that is expired, for somebody else, from somebody else, changed, unsigned or replayed is refused', async () => {
    const stranger = await generateKeyPair('RS256');
    const now = Math.floor(Date.now() / 1000);
    const none = (claims: JWTPayload) =>
      `${Buffer.from('{"alg":"none"}').toString('base64url')}.${Buffer.from(JSON.stringify(claims)).toString('base64url')}.`;
    const cases: [string, typeof tamper][] = [
      ['expired', (claims) => sign({ ...claims, iat: now - 7200, exp: now - 3600 })],
      ['wrong audience', (claims) => sign({ ...claims, aud: 'another program' })],
      ['wrong issuer', (claims) => sign({ ...claims, iss: 'https://evil.example' })],
      ['nonce of another sign-in', (claims) => sign({ ...claims, nonce: 'of another sign-in altogether' })],
      ['another key', (claims) => sign(claims, stranger.privateKey)],
      [
        'tampered',
        async (claims) => {
          const [head, , signature] = (await sign(claims)).split('.');
          return `${head}.${Buffer.from(JSON.stringify({ ...claims, sub: 'u9', roles: ['access-team'] })).toString('base64url')}.${signature}`;
        },
      ],
      ['unsigned', (claims) => Promise.resolve(none(claims))],
      ['not a token', () => Promise.resolve('nonsense')],
    ];
    for (const [name, change] of cases) {
      tamper = change;
      const { browser, end } = await signIn();
      expect([name, end.url, browser.cookie('underpass_session')]).toEqual([name, '/?sign-in=refused', undefined]);
    }
    tamper = () => Promise.resolve(null);
    // the control: the same way without a change leads in
    expect((await signIn()).end.url).toBe('/board');
  });

  test('an answer is good once, in the browser that began, with its own state', async () => {
    const { browser } = await signIn();
    const back = browser.visited.find((address) => address.includes('/provider/back?')) as string;
    // played again by whoever saw the address, in this browser or another
    expect((await browser.go(back)).url).toBe('/?sign-in=refused');
    expect((await new Browser().go(back)).url).toBe('/?sign-in=refused');
    const victim = new Browser();
    await victim.go(start(), 0);
    expect((await victim.go(back)).url).toBe('/?sign-in=refused');
    expect(victim.cookie('underpass_session')).toBeUndefined();
    for (const odd of ['', '?error=access_denied&state=x', '?code=x', '?code=x&state=y', '?code=x&code=y&state[]=z'])
      expect([odd, (await new Browser().go(`${start()}/back${odd}`)).url]).toEqual([odd, '/?sign-in=refused']);
    const { rows } = await sql.query<{ n: number }>(`SELECT count(*)::int AS n FROM security_event WHERE kind = 'provider refused'`);
    expect(rows[0]?.n).toBeGreaterThan(5);
  });

  test('what is weighty is confirmed by the provider, for those who have no password here', async () => {
    const { browser } = await signIn();
    const cookie = browser.cookie('underpass_session') as string;
    await sql.query(`UPDATE app_session SET confirmed_at = now() - interval '11 minutes'`);
    const weighty = () => server.call('estate/exports', { cookie, method: 'POST' });
    // known for a few seconds
    await new Promise((resolve) => setTimeout(resolve, 5100));
    expect(await weighty()).toMatchObject({ status: 403, body: { needs: 'confirmation' } });
    expect((await browser.go(`${start()}/confirm`)).url).toBe('/account?confirmed=yes');
    expect((await weighty()).status).toBe(202);
    expect(browser.visited.some((address) => address.includes('prompt=login') && address.includes('max_age=0'))).toBe(true);
    // and nobody else can answer for them
    await sql.query(`UPDATE app_session SET confirmed_at = now() - interval '11 minutes'`);
    await new Promise((resolve) => setTimeout(resolve, 5100));
    account = { ...account, sub: 'u7', email: 'other@saltmarsh.example' };
    browser.forgetProvider();
    expect((await browser.go(`${start()}/confirm`)).url).toBe('/?sign-in=no-role');
    account = { ...account, sub: 'u1', email: 'mara@saltmarsh.example' };
    expect((await weighty()).status).toBe(403);
  });

  test('signing out here leads to signing out there; signed out there, it is over here too', async () => {
    const { browser } = await signIn();
    const cookie = browser.cookie('underpass_session') as string;
    const out = await server.call('session', { method: 'DELETE', cookie });
    expect([out.status, (out.body as { leadsTo: string }).leadsTo]).toEqual([200, expect.stringContaining(`${issuer}/session/end?`)]);
    expect((await who(cookie)).status).toBe(401);
    const second = (await signIn()).browser.cookie('underpass_session') as string;
    const logout = async (claims: JWTPayload, key?: CryptoKey) =>
      fetch(`${server.base}/api/session/provider/logout`, {
        method: 'POST',
        headers: { 'content-type': 'application/x-www-form-urlencoded' },
        body: new URLSearchParams({ logout_token: await sign(claims, key) }),
      });
    const now = Math.floor(Date.now() / 1000);
    const good = {
      iss: issuer,
      aud: clientId,
      sub: 'u1',
      iat: now,
      exp: now + 100,
      jti: 'j1',
      events: { 'http://schemas.openid.net/event/backchannel-logout': {} },
    };
    const stranger = await generateKeyPair('RS256');
    for (const [claims, key] of [
      [{ ...good, aud: 'another' }, undefined],
      [{ ...good, iat: now - 3600, exp: now - 1800 }, undefined],
      [{ ...good, events: {} }, undefined],
      [{ ...good, nonce: 'x' }, undefined],
      [good, stranger.privateKey],
    ] as const)
      expect((await logout(claims as JWTPayload, key)).status).toBe(400);
    expect((await who(second)).status).toBe(200);
    expect((await logout(good)).status).toBe(200);
    expect((await who(second)).status).toBe(401);
  });

  test('where the provider does not answer that is said', async () => {
    const alone = await startServer(database.url, 46_950, true, {
      provider: { issuer: 'http://127.0.0.1:9', clientId, clientSecret, name: 'x', scope: 'openid', roleClaim: 'roles', roles: {} },
    });
    const answer = await alone.call('session/provider');
    expect([answer.status, (answer.body as { detail: string }).detail]).toEqual([503, expect.stringContaining('does not answer')]);
    await alone.app.close();
  });
});
