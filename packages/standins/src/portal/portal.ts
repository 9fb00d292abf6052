import type { PortalEstate, PortalReport, SignonStep } from '@underpass/contracts';
import { randomBytes, randomInt } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { Underpass } from './client.js';
import { isFault, type Fault } from './faults.js';
import * as pages from './pages.js';
import { emptyVisit, safeNext, type Visit } from './visit.js';
import { asksSecondFactor, directoryAccepts, hostFor, leftBehind, leftBehindPolicy, offeredAt } from './reading.js';

export interface PortalOptions {
  port: number;
  underpass: Underpass;
  /** How long a sleeping host takes to wake, ms. */
  wakeMs?: number;
  /** How long the second factor is good for, s. */
  secondFactorS?: number;
}
export interface Portal {
  close: () => Promise<void>;
}

/** How long the stand-in takes to make a session, ms. */
const createMs = 200;
/** Visits kept at once; the oldest is forgotten first. */
const mostVisits = 2000;

const pageHeaders = {
  'content-type': 'text/html; charset=utf-8',
  'cache-control': 'no-store',
  'content-security-policy':
    "default-src 'none'; style-src 'unsafe-inline'; img-src 'self'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'",
  'x-content-type-options': 'nosniff',
};

async function bodyOf(request: IncomingMessage): Promise<URLSearchParams> {
  let text = '';
  for await (const chunk of request) {
    text += String(chunk);
    if (text.length > 10_000) throw new Error('the form is too large');
  }
  return new URLSearchParams(text);
}

/** Opens the stand-in portal: one service that plays every portal of the estate, each below its own path. */
export async function openPortal({ port, underpass, wakeMs = 3000, secondFactorS = 60 }: PortalOptions): Promise<Portal> {
  const visits = new Map<string, Visit>();
  let on: ReadonlySet<Fault> = new Set();

  const visitOf = (request: IncomingMessage): { token: string; visit: Visit | undefined } => {
    const token = /(?:^|;\s*)portal_visit=([a-f0-9]{32})/.exec(request.headers.cookie ?? '')?.[1] ?? '';
    return { token, visit: visits.get(token) };
  };
  const show = (response: ServerResponse, html: string, status = 200, headers: Record<string, string> = {}) =>
    response.writeHead(status, { ...pageHeaders, ...headers }).end(html);
  const go = (response: ServerResponse, location: string, headers: Record<string, string> = {}) =>
    response.writeHead(303, { location, 'cache-control': 'no-store', ...headers }).end();
  const took = (visit: Visit, step: SignonStep, sinceMs: number) => {
    visit.steps[step] = Math.round(performance.now() - sinceMs) / 1000;
  };
  const report = (visit: Visit, outcome: PortalReport['outcome'], opened: string | null = null) =>
    underpass.report({
      person: visit.person,
      portal: visit.portal,
      at: new Date().toISOString(),
      outcome,
      saw: visit.saw,
      opened,
      steps: visit.steps,
    });
  const accepted = (visit: Visit, estate: PortalEstate) =>
    on.has('refuse') ? false : directoryAccepts(estate, visit.portal, visit.person, new Date().toISOString().slice(0, 10));

  /** The sign-in that was asked for, up to the next thing the person has to do. */
  async function signedIn(response: ServerResponse, estate: PortalEstate, visit: Visit, base: string): Promise<void> {
    if (!accepted(visit, estate)) {
      await report(visit, 'refused');
      show(response, pages.problemPage('Not signed in', 'You cannot be signed in here.', base), 403);
      return;
    }
    if (asksSecondFactor(estate, visit.portal) && visit.kiosk === null) {
      visit.stage = 'second factor';
      visit.code = String(randomInt(1_000_000)).padStart(6, '0');
      visit.shownAt = performance.now();
      show(response, pages.secondFactorPage(base, visit.code, on.has('late') ? 1 : secondFactorS));
      return;
    }
    visit.stage = 'in';
    go(response, visit.next);
  }

  async function list(response: ServerResponse, visit: Visit, base: string): Promise<void> {
    const since = performance.now();
    const estate = await underpass.estate();
    if (on.has('slow-list')) await new Promise((resolve) => setTimeout(resolve, 3000));
    let offered = offeredAt(estate, visit.portal, visit.person);
    if (on.has('short-list')) offered = offered.slice(0, -1);
    visit.saw = offered.map(({ resource }) => resource.id);
    took(visit, 'list of resources', since);
    visit.shownAt = performance.now();
    await report(visit, 'list');
    const person = estate.person.find(({ id }) => id === visit.person);
    show(response, pages.listPage(base, person?.name ?? visit.person, offered));
  }

  /** The broker: finds a host for what is wanted, or asks what to do with sessions elsewhere. */
  async function broker(response: ServerResponse, visit: Visit, base: string): Promise<void> {
    const since = performance.now();
    const estate = await underpass.estate();
    const wanted = offeredAt(estate, visit.portal, visit.person).find(({ resource }) => resource.id === visit.wanted?.resource);
    if (!wanted || on.has('broker')) {
      await report(visit, 'no session');
      show(
        response,
        pages.problemPage('Not available', wanted ? 'The broker gave no host.' : 'This resource is not in your list.', base),
        403,
      );
      return;
    }
    took(visit, 'broker', since);
    const sessions = leftBehind(estate, visit.person, visit.kiosk);
    const policy = leftBehindPolicy(estate, visit.person, visit.kiosk);
    const nameOf = (id: string) => estate.resource.find((resource) => resource.id === id)?.name ?? id;
    if (sessions.length && policy === 'ask') show(response, pages.choosePage(base, sessions, wanted.resource.id, nameOf));
    else {
      visit.take = policy === 'most recent' ? (sessions[0]?.id ?? null) : null;
      go(response, `${base}/session`);
    }
  }

  async function create(response: ServerResponse, visit: Visit, base: string, estate: PortalEstate): Promise<void> {
    const taken = estate.session.find((session) => session.id === visit.take && session.person === visit.person);
    const resource = estate.resource.find(({ id }) => id === (taken?.resource ?? visit.wanted?.resource));
    const person = estate.person.find(({ id }) => id === visit.person);
    const found = resource && hostFor(estate, resource.pool);
    if (!resource || !person || !found || on.has('no-session') || (found.asleep && on.has('no-wake'))) {
      await report(visit, 'no session');
      show(response, pages.problemPage('No session', 'No session could be made.', base), 503);
      return;
    }
    if (found.asleep && !taken && (visit.waking === null || performance.now() < visit.waking.since + wakeMs)) {
      visit.waking ??= { host: found.host.name, since: performance.now() };
      go(response, `${base}/wake`);
      return;
    }
    if (visit.waking) took(visit, 'wake', visit.waking.since);
    visit.waking = null;
    const since = performance.now();
    await new Promise((resolve) => setTimeout(resolve, createMs));
    took(visit, 'session create', since);
    visit.shownAt = performance.now();
    await report(visit, 'session', resource.id);
    show(
      response,
      pages.sessionPage(base, resource.name, person.name, taken?.host ?? found.host.name, taken ? 'Taken up' : 'A new session'),
    );
  }

  async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const url = new URL(request.url ?? '/', 'http://portal');
    const { method } = request;
    if (method === 'POST' && request.headers.origin !== undefined && new URL(request.headers.origin).host !== request.headers.host) {
      show(response, pages.problemPage('Refused', 'The form does not come from this portal.', ''), 403);
      return;
    }
    if (url.pathname === '/faults') {
      if (method === 'POST') {
        on = new Set((await bodyOf(request)).getAll('fault').filter(isFault));
        return void go(response, '/faults');
      }
      return void show(response, pages.faultsPage(on));
    }
    const [, portalId = '', action = '', ...rest] = url.pathname.split('/').map((part) => decodeURIComponent(part));
    const estate = await underpass.estate();
    if (portalId === '') return void show(response, pages.frontPage(estate.portal));
    const portal = estate.portal.find(({ id }) => id === portalId);
    if (!portal) return void show(response, pages.problemPage('Not found', 'There is no such portal.', ''), 404);
    const base = `/${portal.id}`;
    const { token, visit } = visitOf(request);
    const inside = visit?.portal === portal.id && visit.stage === 'in' ? visit : null;
    const organisation = estate.organisation[0]?.name ?? '';
    const signIn = async (next: string, message?: string, link?: string | null) => {
      const target = link ? await underpass.link(link) : null;
      const kiosk =
        target?.targetKind === 'endpoint'
          ? estate.endpoint.find(({ id, deviceClass }) => id === target.target && deviceClass === 'kiosk')
          : undefined;
      const fresh = randomBytes(16).toString('hex');
      const [oldest] = visits.keys();
      if (visits.size >= mostVisits && oldest !== undefined) visits.delete(oldest);
      visits.set(fresh, emptyVisit(portal.id, next));
      show(
        response,
        pages.signInPage({
          base,
          portal: portal.name,
          organisation,
          next,
          ...(message ? { message } : {}),
          ...(kiosk ? { kiosk: { endpoint: kiosk.id } } : {}),
        }),
        200,
        { 'set-cookie': `portal_visit=${fresh}; HttpOnly; SameSite=Lax; Path=/` },
      );
    };

    switch (`${method} ${action}`) {
      case 'GET ':
        return void go(response, inside ? `${base}/resources` : `${base}/sign-in`);
      case 'GET sign-in':
        return signIn(`${base}/resources`);
      case 'GET resources':
        return inside ? list(response, inside, base) : void go(response, `${base}/sign-in`);
      case 'GET open': {
        const [publication = '', resource = ''] = rest;
        const here = `${base}/open/${encodeURIComponent(publication)}/${encodeURIComponent(resource)}`;
        if (!inside) return signIn(here, undefined, url.searchParams.get('link'));
        inside.wanted = { publication, resource };
        return broker(response, inside, base);
      }
      case 'POST sign-in': {
        const form = await bodyOf(request);
        const kiosk = form.get('kiosk');
        const device = kiosk === null ? undefined : estate.endpoint.find(({ id, deviceClass }) => id === kiosk && deviceClass === 'kiosk');
        const person = device?.person ?? form.get('person')?.trim() ?? '';
        const next = safeNext(form.get('next'), base);
        const known = estate.person.find(({ id }) => id === person);
        if (!visit) return signIn(next, 'The page was open too long. Sign in again.');
        if (!known || (known.kind !== 'guest' && !device && !form.get('password'))) return signIn(next, 'Number or password is not right.');
        Object.assign(visit, { portal: portal.id, person, kiosk: device?.id ?? null, next });
        if (!device) took(visit, 'password', visit.shownAt);
        if (known.kind !== 'guest') return signedIn(response, estate, visit, base);
        visit.stage = 'guest';
        return void show(response, pages.guestPage(base, known.guest?.organisation ?? 'the guest'));
      }
      case 'POST guest':
        return visit?.stage === 'guest' ? signedIn(response, estate, visit, base) : signIn(`${base}/resources`);
      case 'POST second-factor': {
        if (visit?.stage !== 'second factor') return signIn(`${base}/resources`);
        const given = ((await bodyOf(request)).get('code') ?? '').replace(/\s/g, '');
        took(visit, 'second factor', visit.shownAt);
        const limitMs = (on.has('late') ? 1 : secondFactorS) * 1000;
        if (performance.now() - visit.shownAt > limitMs) {
          await report(visit, 'second factor late');
          visits.delete(token);
          return void show(response, pages.problemPage('Connection lost', 'The code came too late. Sign in again.', base), 403);
        }
        if (given !== visit.code) return void show(response, pages.secondFactorPage(base, visit.code, limitMs / 1000), 403);
        visit.stage = 'in';
        return void go(response, visit.next);
      }
      case 'POST broker': {
        if (!inside) return signIn(`${base}/resources`);
        const form = await bodyOf(request);
        took(inside, 'choose', inside.shownAt);
        inside.wanted = { resource: form.get('resource') ?? '', publication: form.get('publication') ?? '' };
        return broker(response, inside, base);
      }
      case 'POST session':
        if (!inside) return signIn(`${base}/resources`);
        inside.take = (await bodyOf(request)).get('take');
        return void go(response, `${base}/session`);
      case 'GET session':
        return inside?.wanted ? create(response, inside, base, estate) : void go(response, `${base}/`);
      case 'GET wake':
        if (!inside?.waking) return void go(response, `${base}/`);
        if (performance.now() < inside.waking.since + wakeMs) return void show(response, pages.wakePage(inside.waking.host));
        return void go(response, `${base}/session`);
      case 'GET picture.svg':
        response.writeHead(200, { 'content-type': 'image/svg+xml', 'cache-control': 'no-store' }).end(pages.picture);
        return;
      case 'POST sign-out':
        visits.delete(token);
        return void go(response, `${base}/`);
      default:
        show(response, pages.problemPage('Not found', 'There is no such page.', base), 404);
    }
  }

  const server = createServer((request, response) => {
    answer(request, response).catch((error: Error) => {
      process.stderr.write(`portal: ${error.message}\n`);
      if (!response.headersSent)
        show(response, pages.problemPage('Out of order', 'Underpass cannot be reached. Try again in a moment.', ''), 502);
      else response.end();
    });
  });
  await new Promise<void>((resolve, reject) => server.once('error', reject).listen(port, '127.0.0.1', resolve));
  return {
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}
