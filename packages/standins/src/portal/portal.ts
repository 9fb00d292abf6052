import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { Underpass } from './client.js';
import { isFault } from './faults.js';
import { formOf, go, show } from './http.js';
import * as pages from './pages.js';
import { routes } from './routes.js';
import { Running } from './running.js';

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

/** Which faults are switched on, shown and changed. */
async function faults(running: Running, request: IncomingMessage, response: ServerResponse): Promise<void> {
  if (request.method !== 'POST') return show(response, pages.faultsPage(running.faults));
  running.faults = new Set((await formOf(request)).getAll('fault').filter(isFault));
  go(response, '/faults');
}

async function answer(running: Running, request: IncomingMessage, response: ServerResponse): Promise<void> {
  const url = new URL(request.url ?? '/', 'http://portal');
  const { method = 'GET' } = request;
  const { origin, host } = request.headers;
  if (method === 'POST' && origin !== undefined && new URL(origin).host !== host)
    return show(response, pages.problemPage('Refused', 'The form does not come from this portal.', ''), 403);
  if (url.pathname === '/faults') return faults(running, request, response);
  const [, portalId = '', action = '', ...rest] = url.pathname.split('/').map((part) => decodeURIComponent(part));
  const estate = await running.underpass.estate();
  if (portalId === '') return show(response, pages.frontPage(estate.portal));
  const portal = estate.portal.find(({ id }) => id === portalId);
  if (!portal) return show(response, pages.problemPage('Not found', 'There is no such portal.', ''), 404);
  const base = `/${portal.id}`;
  const asked = `${method} ${action}`;
  const route = Object.hasOwn(routes, asked) ? routes[asked] : undefined;
  if (!route) return show(response, pages.problemPage('Not found', 'There is no such page.', base), 404);
  const { token, visit } = running.visitOf(request);
  const inside = visit?.portal === portal.id && visit.stage === 'in' ? visit : null;
  return route({ running, request, response, url, estate, portal, base, token, visit, inside }, rest);
}

/** Opens the stand-in portal: one service that plays every portal of the estate, each below its own path. */
export async function openPortal({ port, underpass, wakeMs = 3000, secondFactorS = 60 }: PortalOptions): Promise<Portal> {
  const running = new Running(underpass, wakeMs, secondFactorS);
  const server = createServer((request, response) => {
    answer(running, request, response).catch((error: Error) => {
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
