// How Node loads TypeScript while tests run: types and decorators are compiled away, and kept until a file changes.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { transform } from '@swc/core';
import { swcOptions } from './swc.mjs';

const cache = fileURLToPath(new URL('../../.cache/swc', import.meta.url));
mkdirSync(cache, { recursive: true });
const globals = new URL('./globals.mjs', import.meta.url).href;

/** Which loading of the project's own files a file belongs to. */
const loadingOf = (url) => /\?(alone=[\w~]+)$/.exec(url ?? '')?.[1];
const isOfTests = (url) => /\.test\.ts$|\/test\/|\/fixtures\//.test(url);
/** What a file is loaded as that is imported in a loading: of “alone=7~s1” what belongs to tests is loaded anew, and the rest is that of “alone=s1”. */
const loadedAs = (loading, url) => (isOfTests(url) ? loading : loading.replace(/\w+~/, ''));
/** Nothing is put into what core rests on: it is loaded once for all. */
const isBelow = (url) => url.includes('/packages/contracts/');
const isOwn = (url) => url.startsWith('file:') && !url.includes('/node_modules/') && url !== globals;

export async function resolve(specifier, context, next) {
  const { parentURL = '', conditions } = context;
  if (specifier === '@jest/globals') return { url: globals, format: 'module', shortCircuit: true };
  const loading = loadingOf(parentURL);
  const within = (url) => (loading && isOwn(url) && !isBelow(url) ? `${url}?${loadedAs(loading, url)}` : url);
  if (/^\.{1,2}\/.*\.js$/.test(specifier) && isOwn(parentURL)) {
    const { href } = new URL(specifier.replace(/\.js$/, '.ts'), parentURL);
    if (existsSync(fileURLToPath(href))) return { url: within(href), format: 'module', shortCircuit: true };
  }
  const found = await next(specifier, { ...context, conditions: ['@underpass/source', ...conditions] });
  return { ...found, url: within(found.url) };
}

export async function load(url, context, next) {
  const plain = url.replace(/\?.*$/, '');
  if (!plain.endsWith('.ts') || plain.includes('/node_modules/')) return next(url, context);
  const file = fileURLToPath(plain);
  const text = readFileSync(file, 'utf8');
  const kept = join(cache, `${createHash('sha256').update(`${file}\n${text}`).digest('hex')}.js`);
  if (!existsSync(kept)) {
    const { code } = await transform(text, { ...swcOptions, filename: file, sourceMaps: 'inline' });
    // whole at once: another worker may be reading
    writeFileSync(`${kept}.${process.pid}`, code);
    renameSync(`${kept}.${process.pid}`, kept);
  }
  return { format: 'module', source: readFileSync(kept, 'utf8'), shortCircuit: true };
}
