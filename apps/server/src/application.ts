import type { NestExpressApplication } from '@nestjs/platform-express';
import { NestFactory } from '@nestjs/core';
import { DocumentBuilder, SwaggerModule } from '@nestjs/swagger';
import express, { type Express, type Request } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import type { Server } from 'node:http';
import { pinoHttp } from 'pino-http';
import { signInLimit } from './session/session.controller.js';
import { AppModule } from './app.module.js';
import type { Config } from './config.js';
import { CheckGateway } from './evidence/check.gateway.js';
import { transfers } from './evidence/transfers.js';
import { servePages } from './web/pages.js';

const directives = {
  defaultSrc: ["'self'"],
  scriptSrc: ["'self'"],
  styleSrc: ["'self'", "'unsafe-inline'"], // inline styles are set by the drawing and by Radix; scripts stay strict
  imgSrc: ["'self'", 'data:'],
  fontSrc: ["'self'"],
  connectSrc: ["'self'", 'ws:', 'wss:'],
  workerSrc: ["'self'"],
  objectSrc: ["'none'"],
  frameAncestors: ["'none'"],
  baseUri: ["'none'"],
  formAction: ["'self'"],
  upgradeInsecureRequests: null,
};

/** Makes the application: security headers, limits, routes, documents and pages, ready to listen. */
export async function createApplication(config: Config, pages: string | null): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(config), {
    bodyParser: false,
    // open event streams and kept-alive connections must not hold up a stop
    forceCloseConnections: true,
    logger: config.logLevel === 'silent' ? false : ['error', 'warn', ...(config.logLevel === 'info' ? (['log'] as const) : [])],
  });
  app.enableShutdownHooks();
  // links are read by people and printed as codes: the shorter the better
  app.setGlobalPrefix('api', { exclude: ['go/:id'] });
  const raw = app.getHttpAdapter().getInstance() as Express;
  raw.disable('x-powered-by');
  const strict = helmet({
    contentSecurityPolicy: { useDefaults: false, directives },
    crossOriginEmbedderPolicy: false,
    strictTransportSecurity: false,
  });
  // the documents' own page carries inline scripts
  const documents = helmet({
    contentSecurityPolicy: { useDefaults: false, directives: { ...directives, scriptSrc: ["'self'", "'unsafe-inline'"] } },
    crossOriginEmbedderPolicy: false,
    strictTransportSecurity: false,
  });
  raw.use((request, response, next) => (request.path.startsWith('/api/docs') ? documents : strict)(request, response, next));
  // links of field checks are secrets of their own, so addresses are logged without them; headers and bodies never
  if (config.logLevel !== 'silent')
    raw.use(
      pinoHttp({
        level: config.logLevel,
        serializers: {
          req: (request: Request) => ({ method: request.method, url: String(request.url).replace(/check\/[^/]+/, 'check/…') }),
        },
      }),
    );
  const gateway = app.get(CheckGateway);
  raw.use('/api/check', rateLimit({ windowMs: 60_000, limit: 600, standardHeaders: true, legacyHeaders: false }));
  raw.use('/api/check', transfers(gateway.running));
  raw.post('/api/session', signInLimit);
  raw.use('/go', rateLimit({ windowMs: 60_000, limit: 300, standardHeaders: true, legacyHeaders: false }));
  raw.use('/api/estate/import', express.json({ limit: '80mb' }));
  raw.use('/api/measurements', express.json({ limit: '21mb' }));
  raw.use(express.json({ limit: '1mb' }));
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
  SwaggerModule.setup('api/docs', app, document);
  if (pages) {
    await app.init(); // the API's routes come before the pages' catch-all
    servePages(raw, pages);
  }
  gateway.attach(app.getHttpServer() as Server);
  return app;
}
