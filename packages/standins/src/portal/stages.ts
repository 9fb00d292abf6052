import type { PortalEstate } from '@underpass/contracts';
import { randomInt } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { go, show } from './http.js';
import * as pages from './pages.js';
import { asksSecondFactor, hostFor, leftBehind, leftBehindPolicy, offeredAt } from './reading.js';
import { took, type Running } from './running.js';
import type { Visit } from './visit.js';

/** How long the stand-in takes to make a session, ms. */
const createMs = 200;

/** One request at a portal, with what it is answered from. */
export interface Turn {
  running: Running;
  request: IncomingMessage;
  response: ServerResponse;
  url: URL;
  estate: PortalEstate;
  portal: PortalEstate['portal'][number];
  /** Path below which the portal's pages are. */
  base: string;
  /** Of the visit, as the browser sent it. */
  token: string;
  visit: Visit | undefined;
  /** The visit, where its sign-in is over. */
  inside: Visit | null;
}

/** The sign-in that was asked for, up to the next thing the person has to do. */
export async function signedIn({ running, response, estate, base }: Turn, visit: Visit): Promise<void> {
  if (!running.accepts(visit, estate)) {
    await running.report(visit, 'refused');
    show(response, pages.problemPage('Not signed in', 'You cannot be signed in here.', base), 403);
    return;
  }
  if (asksSecondFactor(estate, visit.portal) && visit.kiosk === null) {
    visit.stage = 'second factor';
    visit.code = String(randomInt(1_000_000)).padStart(6, '0');
    visit.shownAt = performance.now();
    show(response, pages.secondFactorPage(base, visit.code, running.codeS));
    return;
  }
  visit.stage = 'in';
  go(response, visit.next);
}

export async function list({ running, response, base }: Turn, visit: Visit): Promise<void> {
  const since = performance.now();
  const estate = await running.underpass.estate();
  if (running.faults.has('slow-list')) await new Promise((resolve) => setTimeout(resolve, 3000));
  let offered = offeredAt(estate, visit.portal, visit.person);
  if (running.faults.has('short-list')) offered = offered.slice(0, -1);
  visit.saw = offered.map(({ resource }) => resource.id);
  took(visit, 'list of resources', since);
  visit.shownAt = performance.now();
  await running.report(visit, 'list');
  const person = estate.person.find(({ id }) => id === visit.person);
  show(response, pages.listPage(base, person?.name ?? visit.person, offered));
}

/** The broker: finds a host for what is wanted, or asks what to do with sessions elsewhere. */
export async function broker({ running, response, base }: Turn, visit: Visit): Promise<void> {
  const since = performance.now();
  const estate = await running.underpass.estate();
  const wanted = offeredAt(estate, visit.portal, visit.person).find(({ resource }) => resource.id === visit.wanted?.resource);
  if (!wanted || running.faults.has('broker')) {
    await running.report(visit, 'no session');
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

export async function create({ running, response, estate, base }: Turn, visit: Visit): Promise<void> {
  const taken = estate.session.find((session) => session.id === visit.take && session.person === visit.person);
  const resource = estate.resource.find(({ id }) => id === (taken?.resource ?? visit.wanted?.resource));
  const person = estate.person.find(({ id }) => id === visit.person);
  const found = resource && hostFor(estate, resource.pool);
  if (!resource || !person || !found || running.faults.has('no-session') || (found.asleep && running.faults.has('no-wake'))) {
    await running.report(visit, 'no session');
    show(response, pages.problemPage('No session', 'No session could be made.', base), 503);
    return;
  }
  if (found.asleep && !taken && (visit.waking === null || performance.now() < visit.waking.since + running.wakeMs)) {
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
  await running.report(visit, 'session', resource.id);
  show(response, pages.sessionPage(base, resource.name, person.name, taken?.host ?? found.host.name, taken ? 'Taken up' : 'A new session'));
}
