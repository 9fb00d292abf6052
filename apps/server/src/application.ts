import type { NestExpressApplication } from '@nestjs/platform-express';
import { NestFactory } from '@nestjs/core';
import { DocumentBuilder, SwaggerModule } from '@nestjs/swagger';
import type { Express, NextFunction, Request, Response } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import type { Server } from 'node:http';
import { pinoHttp } from 'pino-http';
import { AppModule } from './app.module.js';
import type { Config } from './config.js';
import { TrustedProxies } from './edge/address.js';
import { CheckGateway } from './evidence/check.gateway.js';
import { transfers } from './evidence/transfers.js';
import { MetricsService } from './health/metrics.service.js';
import { databaseProblem } from './problems/databaseProblem.js';
import { logFailure } from './problems/lastResort.js';
import { sendProblem } from './problems/problem.filter.js';
import { cookieNames, cookieOf } from './signin/cookies.js';
import { SessionService } from './signin/session.service.js';
import { serveApiDocs, tellProblems } from './web/apiDocs.js';
import { servePages } from './web/pages.js';

const directives = (config: Config) => ({
  defaultSrc: ["'self'"],
  scriptSrc: ["'self'"],
  styleSrc: ["'self'", "'unsafe-inline'"], // inline styles are set by the drawing and by Radix; scripts stay strict
  imgSrc: ["'self'", 'data:'],
  fontSrc: ["'self'"],
  connectSrc: ["'self'"],
  workerSrc: ["'self'"],
  objectSrc: ["'none'"],
  frameAncestors: ["'none'"],
  baseUri: ["'none'"],
  formAction: ["'self'"],
  upgradeInsecureRequests: config.secure ? [] : null,
});

/** The longest that a request's head and its whole body may take, ms: half requests do not hold a place for long. */
const headWithinMs = 10_000;
const requestWithinMs = 120_000;

/** What is logged of an address: nothing that opens something, such as the token of a field check, the key of a batch or a code of a provider. */
export const loggedAddress = (url: string): string => url.replace(/(check|enrol)\/[^/?]+/, '$1/…').replace(/\?.*/, '?…');

/** No connection or half request holds a place for long. */
function bound(server: Server): void {
  Object.assign(server, {
    headersTimeout: headWithinMs,
    requestTimeout: requestWithinMs,
    connectionsCheckingInterval: 5000,
    maxConnections: 5000,
  });
  server.on('clientError', (_error, socket) => {
    if (socket.writable) socket.end('HTTP/1.1 400 Bad Request\r\nconnection: close\r\ncontent-length: 0\r\n\r\n');
    else socket.destroy();
  });
}

/** What every answer carries, and how an address is read. */
function guard(raw: Express, config: Config): void {
  raw.disable('x-powered-by');
  // a single query parameter is a text: no objects are made of names with brackets
  raw.set('query parser', 'simple');
  raw.use(
    helmet({
      contentSecurityPolicy: { useDefaults: false, directives: directives(config) },
      crossOriginEmbedderPolicy: false,
      strictTransportSecurity: config.secure,
      referrerPolicy: { policy: 'no-referrer' },
    }),
  );
  raw.use(['/api', '/scim', '/enrol'], (_request, response, next) => {
    response.setHeader('cache-control', 'no-store');
    next();
  });
}

/** Counts and logs what was asked and answered. */
function watch(raw: Express, config: Config, metrics: MetricsService): void {
  raw.use((request, response, next) => {
    const from = performance.now();
    response.once('finish', () => metrics.took(request.method, response.statusCode, (performance.now() - from) / 1000));
    next();
  });
  if (config.logLevel !== 'silent')
    raw.use(
      pinoHttp({
        level: config.logLevel,
        // headers and bodies are never logged
        serializers: {
          req: (request: Request) => ({ method: request.method, url: loggedAddress(String(request.url)) }),
          res: (response: Response) => ({ statusCode: response.statusCode }),
        },
      }),
    );
}

/** How many requests a minute an address may send where nobody is signed in. */
const slowlyFrom = (proxies: TrustedProxies) => (limit: number) =>
  rateLimit({
    windowMs: 60_000,
    limit,
    standardHeaders: true,
    legacyHeaders: false,
    keyGenerator: (request) => proxies.addressOf(request),
    validate: false,
    handler: (_request, response) =>
      sendProblem(response, { type: 'about:blank', title: 'Too many tries', status: 429, detail: 'Wait a minute, then try again.' }),
  });

/** The description of the interface. To write it takes half a second, in which nobody else is served. */
function described(app: NestExpressApplication): string {
  const document = SwaggerModule.createDocument(
    app,
    new DocumentBuilder()
      .setTitle('Underpass')
      .setDescription(
        'The programming interface of Underpass. Sign in with POST /api/session; requests that change something carry the header X-Underpass: 1.',
      )
      .setVersion('1')
      .build(),
  );
  tellProblems(document);
  return JSON.stringify(document);
}

/** Serves the description, for those who are signed in; written at once where there are people to serve, else when it is asked for. */
function serveDescription(app: NestExpressApplication, raw: Express, config: Config, atOnce: boolean): void {
  const sessions = app.get(SessionService);
  let text: string | null = atOnce ? described(app) : null;
  serveApiDocs(
    raw,
    () => (text ??= described(app)),
    async (request) => {
      const token = cookieOf(request.headers.cookie, cookieNames(config).session);
      return token !== undefined && (await sessions.who(token, true)) !== null;
    },
  );
}

/** What fails outside the routes, such as the database while the documents are asked for, is told like everything else */
function tellFailure(error: unknown, request: Request, response: Response, next: NextFunction): void {
  if (response.headersSent) return next(error);
  const known = databaseProblem(error);
  if (known) return sendProblem(response, known.problem, known.headers);
  const { status } = (error ?? {}) as { status?: number };
  if (typeof status === 'number' && status >= 400 && status < 500)
    return sendProblem(response, { type: 'about:blank', title: 'Not valid', status, detail: 'The address is not valid.' });
  const id = logFailure(`${request.method} ${loggedAddress(request.url)}`, error);
  sendProblem(response, {
    type: 'about:blank',
    title: 'Something failed here',
    status: 500,
    detail: `The server could not finish this (${id}).`,
    id,
  });
}

/** Makes the application: security headers, limits, routes, documents and pages, ready to listen. */
export async function createApplication(config: Config, pages: string | null): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(config), {
    // bodies are read after it is known whose they are (edge/body.interceptor.ts)
    bodyParser: false,
    // open event streams and kept-alive connections must not hold up a stop
    forceCloseConnections: true,
    abortOnError: false,
    logger: config.logLevel === 'silent' ? false : ['error', 'warn', ...(config.logLevel === 'info' ? (['log'] as const) : [])],
  });
  app.enableShutdownHooks();
  // links are read by people and printed as codes: the shorter the better
  app.setGlobalPrefix('api', { exclude: ['go/:id', 'scim/v2/*path', 'enrol/*path'] });
  const server = app.getHttpServer() as Server;
  bound(server);
  const raw = app.getHttpAdapter().getInstance() as Express;
  guard(raw, config);
  watch(raw, config, app.get(MetricsService));
  const gateway = app.get(CheckGateway);
  const slowly = slowlyFrom(app.get(TrustedProxies));
  raw.use('/api/check', slowly(600));
  raw.use('/api/check', transfers(gateway.running));
  raw.use('/go', slowly(300));
  // a directory sends thousands of people when it begins
  raw.use('/scim', slowly(6000));
  raw.use('/enrol', slowly(600));
  raw.use('/api/session/provider', slowly(120));
  serveDescription(app, raw, config, pages !== null);
  await app.init(); // the API's routes come before the pages' catch-all
  if (pages) servePages(raw, pages);
  raw.use(tellFailure);
  gateway.attach(server);
  return app;
}
