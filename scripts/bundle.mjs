// Writes server and worker, which three thousand files make up, into a few: to read those took longer at a start than all else.
import { rolldown } from 'rolldown';
import { basename, dirname, isAbsolute, join, relative } from 'node:path';
import { programs, root } from './ready.mjs';

/** What stays a package: it is native, starts threads of its own from its files, or looks for what lies beside it. */
const packages = /^(node:|typeorm|typescript$|pg($|[/-])|@node-rs\/|pino|thread-stream|piscina|swagger-ui-dist|ldapts|tslib)/;
/** What Nest and its parts would use where it is there; it is not. */
const absent = /^(@nestjs\/(microservices|websockets|platform-(fastify|socket\.io|ws))|@fastify\/|class-(validator|transformer))/;
const own = (id) => !id.includes('node_modules');

const folder = join(root, dirname(programs.server));
const made = await rolldown({
  input: Object.fromEntries(
    Object.values(programs).map((path) => [basename(path, '.mjs'), join(folder, '..', `${basename(path, '.mjs')}.js`)]),
  ),
  platform: 'node',
  logLevel: 'silent',
  external: (id) => !id.startsWith('.') && !isAbsolute(id) && (packages.test(id) || absent.test(id)),
  plugins: [
    {
      // files that lie beside a module are looked for where the module was
      name: 'where-it-was',
      transform(code, id) {
        if (!own(id) || !code.includes('import.meta.url')) return null;
        return { code: code.replaceAll('import.meta.url', `new URL(${JSON.stringify(relative(folder, id))}, import.meta.url).href`) };
      },
    },
  ],
});
await made.write({
  ...{ dir: folder, format: 'esm', cleanDir: true, keepNames: true },
  ...{ entryFileNames: '[name].mjs', chunkFileNames: '[name]-[hash].mjs' },
});
await made.close();
