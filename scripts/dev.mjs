// npm run dev: both sides with hot reload. The server restarts on a change, the pages reload by themselves.
import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { join } from 'node:path';
import { deviceKey, secretKey } from './secretKey.mjs';
import { startCluster } from './cluster.mjs';
import { ensureBuilt, ensureModules, root, say } from './ready.mjs';

ensureModules();
ensureBuilt();
const cluster = process.env.DATABASE_URL ? null : await startCluster('postgres', 4610, say);
cluster?.ensure('underpass');
const apiPort = Number(process.env.API_PORT ?? 4600);
const env = {
  ...process.env,
  DATABASE_URL: process.env.DATABASE_URL ?? cluster.url('underpass'),
  SECRET_KEY: secretKey(),
  DEVICE_KEY: deviceKey(),
  PORT: String(apiPort),
  API_PORT: String(apiPort),
  DEMO_FOLDER: join(root, 'demo/saltmarsh'),
  DEMO_PAST: 'yes',
  PORTAL_URL: `http://localhost:${apiPort + 4}`,
  PORTAL_KEY: randomBytes(24).toString('hex'),
  LOG_LEVEL: 'warn',
};
// a group of its own each, since the compiler's wrapper leaves its watcher behind when it alone is stopped
const children = [
  spawn(
    process.execPath,
    [
      'node_modules/typescript-7/bin/tsc',
      '-b',
      '--watch',
      '--preserveWatchOutput',
      'apps/server/tsconfig.build.json',
      'apps/cli/tsconfig.build.json',
      'packages/standins/tsconfig.build.json',
    ],
    { cwd: root, env, stdio: 'inherit', detached: true },
  ),
  spawn(
    process.execPath,
    [
      '--watch-path=apps/server/dist',
      '--watch-path=packages/core/dist',
      '--watch-path=packages/contracts/dist',
      '--watch-preserve-output',
      'apps/server/dist/main.js',
    ],
    { cwd: root, env, stdio: 'inherit', detached: true },
  ),
  spawn(
    process.execPath,
    [
      '--watch-path=packages/standins/dist',
      '--watch-preserve-output',
      'packages/standins/dist/portalCommand.js',
      String(apiPort + 4),
      `http://127.0.0.1:${apiPort}`,
    ],
    { cwd: root, env, stdio: 'inherit', detached: true },
  ),
  spawn(process.execPath, ['../../node_modules/vite/bin/vite.js'], { cwd: join(root, 'apps/web'), env, stdio: 'inherit', detached: true }),
];
say(`The pages with hot reload stand at the address below; the server answers at port ${apiPort}, the stand-in portal at ${apiPort + 4}`);
const stop = () => {
  for (const child of children)
    try {
      process.kill(-child.pid, 'SIGTERM');
    } catch {
      // gone already
    }
  setTimeout(() => {
    cluster?.stop();
    process.exit(0);
  }, 1500);
};
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, stop);
