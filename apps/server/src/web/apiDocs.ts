import type { OpenAPIObject } from '@nestjs/swagger';
import { Problem } from '@underpass/contracts';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { z } from 'zod';

const page = `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Underpass: programming interface</title>
<link rel="stylesheet" href="/api/docs/assets/swagger-ui.css"></head>
<body><div id="interface"></div><script src="/api/docs/assets/swagger-ui-bundle.js"></script><script src="/api/docs/open.js"></script></body></html>`;
const script = `SwaggerUIBundle({ url: '/api/docs-json', dom_id: '#interface', deepLinking: true, requestInterceptor: (request) => { request.headers['x-underpass'] = '1'; return request; } });`;

/** The description of the programming interface and its page: for people who are signed in, without a line of script in the page. */
export function serveApiDocs(app: Express, text: () => string, signedIn: (request: Request) => Promise<boolean>): void {
  const closed = (request: Request, response: Response, next: NextFunction): void => {
    signedIn(request)
      .then((yes) => {
        if (yes) return next();
        response
          .status(401)
          .type('application/problem+json')
          .send(JSON.stringify({ type: 'about:blank', title: 'Not signed in', status: 401, detail: 'Sign in to read this.' }));
      })
      .catch(next);
  };
  app.get('/api/docs-json', closed, (_request, response) => void response.type('application/json').send(text()));
  app.get('/api/docs', closed, (_request, response) => void response.type('html').send(page));
  app.get('/api/docs/open.js', closed, (_request, response) => void response.type('text/javascript').send(script));
  const assets = dirname(fileURLToPath(import.meta.resolve('swagger-ui-dist/swagger-ui.css')));
  app.use('/api/docs/assets', closed, express.static(assets, { index: false, extensions: [] }));
}

/** Every route tells what is wrong in the same way [RFC 9457]. */
export function tellProblems(document: OpenAPIObject): void {
  const { $schema: _, ...schema } = z.toJSONSchema(Problem);
  document.components = { ...document.components, schemas: { ...document.components?.schemas, Problem: schema as object } };
  const told = {
    description: 'What is wrong, and what would be right',
    content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
  };
  for (const operations of Object.values(document.paths))
    for (const operation of Object.values(operations) as { responses?: Record<string, unknown> }[])
      if (operation?.responses) operation.responses.default ??= told;
}
