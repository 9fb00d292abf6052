// npm run devices [PLACE…]: simulated devices of the demo are switched on beside a running server; they ask for addresses over UDP, fetch
// their files, and tell how they started, which stands on the screen Bring-up.
import { ensureBuilt, ensureModules, root, say } from './ready.mjs';
import { deviceKey } from './secretKey.mjs';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

ensureModules();
ensureBuilt();
const { switchOn } = await import('../packages/standins/dist/index.js');
const base = process.env.UNDERPASS_URL ?? `http://localhost:${process.env.PORT ?? 4600}`;
const folder = process.env.FOLDER ?? join(root, 'demo/saltmarsh');
const files = new Map(
  readdirSync(folder)
    .filter((name) => /\.(csv|ya?ml)$/.test(name))
    .map((name) => [name, readFileSync(join(folder, name), 'utf8')]),
);
// the portal that npm start opens beside the demo
const beside = new URL(base);
beside.port = String(Number(beside.port || 80) + 4);
const portals = (await fetch(beside.origin).catch(() => null))?.ok ? beside.origin : undefined;
const from = performance.now();
try {
  const started = await switchOn({
    base,
    files,
    places: process.argv.slice(2),
    deviceKey: deviceKey(),
    nowMs: Date.now(),
    withinMs: 8000,
    ...(portals && { portals }),
  });
  for (const { id, brokenStep, detail } of started) if (brokenStep) process.stdout.write(`${id} stops at ${brokenStep}: ${detail}\n`);
  const stopped = started.filter(({ brokenStep }) => brokenStep).length;
  const came = started.filter(({ signIn }) => signIn !== null).length;
  if (came) say(`${came} were given a page of the stand-in portal`);
  const bytes = started.reduce((sum, { fetched }) => sum + fetched.bytes, 0);
  if (bytes) say(`${(bytes / 1e6).toFixed(1)} MB of firmware fetched`);
  const seconds = (performance.now() - from) / 1000;
  const fetches = started.flatMap(({ fetchMs }) => fetchMs).sort((a, b) => a - b);
  say(`${started.length - stopped} of ${started.length} devices reached their sign-in screen, all within ${seconds.toFixed(1)} s`);
  if (fetches.length) say(`${fetches.length} files fetched, p95 ${fetches[Math.floor(fetches.length * 0.95)].toFixed(0)} ms`);
} catch (error) {
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
