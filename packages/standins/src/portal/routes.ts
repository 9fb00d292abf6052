import { formOf, go, show } from './http.js';
import * as pages from './pages.js';
import { took } from './running.js';
import { broker, create, list, signedIn, type Turn } from './stages.js';
import { safeNext, type Visit } from './visit.js';

type Route = (turn: Turn, rest: string[]) => Promise<void> | void;

/** The page to sign in on, which begins a visit. @param link the link somebody came by: a kiosk's needs no name */
async function signInPage({ running, response, estate, portal, base }: Turn, next: string, message?: string, link?: string | null) {
  const target = link ? await running.underpass.link(link) : null;
  const kiosk =
    target?.targetKind === 'endpoint'
      ? estate.endpoint.find(({ id, deviceClass }) => id === target.target && deviceClass === 'kiosk')
      : undefined;
  const page = pages.signInPage({
    base,
    portal: portal.name,
    organisation: estate.organisation[0]?.name ?? '',
    next,
    ...(message ? { message } : {}),
    ...(kiosk ? { kiosk: { endpoint: kiosk.id } } : {}),
  });
  show(response, page, 200, { 'set-cookie': running.begin(portal.id, next) });
}

/** For those who are signed in; others sign in first. */
const inside =
  (work: (turn: Turn, visit: Visit) => Promise<void> | void): Route =>
  (turn) =>
    turn.inside ? work(turn, turn.inside) : signInPage(turn, `${turn.base}/resources`);

async function signIn(turn: Turn): Promise<void> {
  const { request, response, estate, portal, base, visit } = turn;
  const form = await formOf(request);
  const kiosk = form.get('kiosk');
  const device = kiosk === null ? undefined : estate.endpoint.find(({ id, deviceClass }) => id === kiosk && deviceClass === 'kiosk');
  const person = device?.person ?? form.get('person')?.trim() ?? '';
  const next = safeNext(form.get('next'), base);
  const known = estate.person.find(({ id }) => id === person);
  if (!visit) return signInPage(turn, next, 'The page was open too long. Sign in again.');
  if (!known || (known.kind !== 'guest' && !device && !form.get('password')))
    return signInPage(turn, next, 'Number or password is not right.');
  Object.assign(visit, { portal: portal.id, person, kiosk: device?.id ?? null, next });
  if (!device) took(visit, 'password', visit.shownAt);
  if (known.kind !== 'guest') return signedIn(turn, visit);
  visit.stage = 'guest';
  show(response, pages.guestPage(base, known.guest?.organisation ?? 'the guest'));
}

async function secondFactor(turn: Turn): Promise<void> {
  const { running, request, response, base, token, visit } = turn;
  if (visit?.stage !== 'second factor') return signInPage(turn, `${base}/resources`);
  const given = ((await formOf(request)).get('code') ?? '').replace(/\s/g, '');
  took(visit, 'second factor', visit.shownAt);
  if (performance.now() - visit.shownAt > running.codeS * 1000) {
    await running.report(visit, 'second factor late');
    running.visits.delete(token);
    return show(response, pages.problemPage('Connection lost', 'The code came too late. Sign in again.', base), 403);
  }
  if (given !== visit.code) return show(response, pages.secondFactorPage(base, visit.code, running.codeS), 403);
  visit.stage = 'in';
  go(response, visit.next);
}

/** What a portal answers, by method and the part of the path after the portal's own. */
export const routes: Record<string, Route> = {
  'GET ': ({ response, base, inside: visit }) => go(response, visit ? `${base}/resources` : `${base}/sign-in`),
  'GET sign-in': (turn) => signInPage(turn, `${turn.base}/resources`),
  'GET resources': (turn) => (turn.inside ? list(turn, turn.inside) : go(turn.response, `${turn.base}/sign-in`)),
  'GET open': (turn, [publication = '', resource = '']) => {
    const here = `${turn.base}/open/${encodeURIComponent(publication)}/${encodeURIComponent(resource)}`;
    if (!turn.inside) return signInPage(turn, here, undefined, turn.url.searchParams.get('link'));
    turn.inside.wanted = { publication, resource };
    return broker(turn, turn.inside);
  },
  'POST sign-in': signIn,
  'POST guest': (turn) => (turn.visit?.stage === 'guest' ? signedIn(turn, turn.visit) : signInPage(turn, `${turn.base}/resources`)),
  'POST second-factor': secondFactor,
  'POST broker': inside(async (turn, visit) => {
    const form = await formOf(turn.request);
    took(visit, 'choose', visit.shownAt);
    visit.wanted = { resource: form.get('resource') ?? '', publication: form.get('publication') ?? '' };
    return broker(turn, visit);
  }),
  'POST session': inside(async ({ request, response, base }, visit) => {
    visit.take = (await formOf(request)).get('take');
    go(response, `${base}/session`);
  }),
  'GET session': (turn) => (turn.inside?.wanted ? create(turn, turn.inside) : go(turn.response, `${turn.base}/`)),
  'GET wake': ({ running, response, base, inside: visit }) => {
    if (!visit?.waking) return go(response, `${base}/`);
    if (performance.now() < visit.waking.since + running.wakeMs) return show(response, pages.wakePage(visit.waking.host));
    return go(response, `${base}/session`);
  },
  'GET picture.svg': ({ response }) => {
    response.writeHead(200, { 'content-type': 'image/svg+xml', 'cache-control': 'no-store' }).end(pages.picture);
  },
  'POST sign-out': ({ running, response, base, token }) => {
    running.visits.delete(token);
    go(response, `${base}/`);
  },
};
