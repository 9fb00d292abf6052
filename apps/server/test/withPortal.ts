import { afterAll, beforeAll } from '@jest/globals';
import type { PortalEstate } from '@underpass/contracts';
import { openPortal, underpassAt, type Portal } from '@underpass/standins';
import { makeDatabase, people, portalKey, startServer, type TestServer } from './server.js';

/** A server with the stand-in portal beside it, for a whole test file; sessions of the engineer and of the reader. */
export function withPortal(udpFirst: number, portalPort: number) {
  const at = { server: null as unknown as TestServer, databaseUrl: '', engineer: '', reader: '' };
  let database: Awaited<ReturnType<typeof makeDatabase>>;
  let portal: Portal;
  beforeAll(async () => {
    database = await makeDatabase('demo');
    at.databaseUrl = database.url;
    at.server = await startServer(database.url, udpFirst);
    portal = await openPortal({ port: portalPort, underpass: underpassAt(at.server.base, portalKey), wakeMs: 300 });
    at.engineer = await at.server.signIn(people.engineer);
    at.reader = await at.server.signIn(people.reader);
  }, 60_000);
  afterAll(async () => {
    await portal.close();
    await at.server.app.close();
    await database.drop();
  });
  const get = async <T>(path: string, cookie = at.engineer): Promise<T> => (await at.server.call(path, { cookie })).body as T;
  const send = async <T>(method: string, path: string, body?: unknown, cookie = at.engineer): Promise<{ status: number; body: T }> =>
    (await at.server.call(path, {
      method,
      body,
      cookie,
      headers: method === 'PUT' && path.startsWith('estate/') ? await basis(path) : {},
    })) as {
      status: number;
      body: T;
    };
  /** An object as it stands now, which is what a form that was just opened rests on. */
  const basis = async (path: string): Promise<Record<string, string>> => {
    const etag = (await at.server.call(path, { cookie: at.engineer })).headers.get('etag');
    return etag === null ? { 'if-none-match': '*' } : { 'if-match': etag };
  };
  const portalEstate = async (): Promise<PortalEstate> =>
    (await at.server.call('portal/estate', { headers: { authorization: `Bearer ${portalKey}` } })).body as PortalEstate;
  /** A browser's worth of the portal: cookies are kept, redirects followed by hand. */
  function visitor() {
    let cookie = '';
    const open = async (path: string, form?: Record<string, string>): Promise<{ status: number; text: string }> => {
      const response = await fetch(`http://127.0.0.1:${portalPort}${path}`, {
        redirect: 'manual',
        headers: { cookie, ...(form ? { 'content-type': 'application/x-www-form-urlencoded' } : {}) },
        ...(form ? { method: 'POST', body: new URLSearchParams(form).toString() } : {}),
      });
      cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? cookie;
      const onward = response.headers.get('location');
      return onward && response.status === 303 ? open(onward) : { status: response.status, text: await response.text() };
    };
    const signIn = async (portalId: string, person: string) => {
      await open(`/${portalId}/`);
      let page = await open(`/${portalId}/sign-in`, { person, password: 'x' });
      if (page.text.includes('Yes, it is me')) page = await open(`/${portalId}/guest`, {});
      const code = /shows <strong>(\d{3}) (\d{3})/.exec(page.text);
      return code ? open(`/${portalId}/second-factor`, { code: `${code[1]} ${code[2]}` }) : page;
    };
    return { open, signIn };
  }
  return { at, get, send, portalEstate, visitor };
}
/** What a list of the portal offers, by identifier. */
export const listed = (html: string) => [...html.matchAll(/data-resource="([^"]+)"/g)].map((match) => match[1]!).sort();
