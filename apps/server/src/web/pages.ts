import express, { type Express } from 'express';
import { existsSync } from 'node:fs';
import { join } from 'node:path';

/** Serves the built pages: assets for ever, the page itself never from a cache, unknown assets as 404. */
export function servePages(app: Express, folder: string): void {
  const page = join(folder, 'index.html');
  app.use('/assets', express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y', index: false }), (_request, response) => {
    response.status(404).end();
  });
  app.use(express.static(folder, { index: false, maxAge: '1h' }));
  app.get(/^\/(?!api\/|go\/|scim\/|enrol\/).*/, (_request, response) => {
    if (!existsSync(page)) return void response.status(503).type('text/plain').send('The pages are not built yet. Run npm run build.');
    response.setHeader('cache-control', 'no-cache');
    response.sendFile(page);
  });
}
