// Makes a checkout ready to run: packages installed, build fresh. Only node: modules, since it runs before any is installed.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));
const cache = join(root, '.cache');

/** Progress goes to standard error, so that commands keep standard output for their answer. */
export const say = (text) => process.stderr.write(`  ${text}\n`);

export function run(command, args, options = {}) {
  const done = spawnSync(command, args, { cwd: root, stdio: ['ignore', 2, 2], ...options });
  if (done.status !== 0) throw new Error(`${[command, ...args].join(' ')} failed`);
}

const hash = (...texts) => createHash('sha256').update(texts.join('\0')).digest('hex');
const stampIs = (name, value) => existsSync(join(cache, name)) && readFileSync(join(cache, name), 'utf8') === value;
function stamp(name, value) {
  mkdirSync(cache, { recursive: true });
  writeFileSync(join(cache, name), value);
}

export function ensureModules() {
  const lock = readFileSync(join(root, 'package-lock.json'), 'utf8');
  const wanted = hash(lock, process.version);
  if (existsSync(join(root, 'node_modules', 'typescript-7')) && stampIs('modules', wanted)) return;
  say('Installing packages (npm ci, about a minute)');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { stdio: ['ignore', 'ignore', 2] });
  stamp('modules', wanted);
}

function sourcesStamp() {
  const rows = [];
  const walk = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      if (['node_modules', 'dist', '.cache', '.tmp-test', 'test'].includes(entry.name)) continue;
      const path = join(folder, entry.name);
      if (entry.isDirectory()) walk(path);
      else if (/\.(ts|tsx|css|html|json)$/.test(entry.name) && !/\.test\.ts$/.test(entry.name)) {
        const { mtimeMs, size } = statSync(path);
        rows.push(`${path}|${mtimeMs}|${size}`);
      }
    }
  };
  walk(join(root, 'packages'));
  walk(join(root, 'apps'));
  // packages are part of what is written into one file
  for (const name of ['package-lock.json', 'scripts/bundle.mjs']) rows.push(readFileSync(join(root, name), 'utf8'));
  return hash(...rows.sort());
}

export const tsc = (...projects) => run(process.execPath, ['node_modules/typescript-7/bin/tsc', '-b', ...projects]);
const builds = ['packages/contracts', 'packages/core', 'packages/standins', 'apps/cli', 'apps/server'].map(
  (p) => `${p}/tsconfig.build.json`,
);

/** What is started as processes of their own, as scripts/bundle.mjs writes them. */
export const programs = {
  server: 'apps/server/dist/bundle/main.mjs',
  worker: 'apps/server/dist/bundle/worker.mjs',
};

export function build() {
  tsc(...builds);
  run(process.execPath, [join(root, 'scripts/bundle.mjs')]);
  run(process.execPath, [join(root, 'node_modules/vite/bin/vite.js'), 'build', '--logLevel', 'warn'], { cwd: join(root, 'apps/web') });
}

export function ensureBuilt({ clean = false } = {}) {
  const wanted = sourcesStamp();
  if (
    !clean &&
    stampIs('build', wanted) &&
    Object.values(programs).every((path) => existsSync(join(root, path))) &&
    existsSync(join(root, 'apps/web/dist/index.html'))
  )
    return;
  say('Building (half a minute)');
  if (clean)
    for (const folder of ['packages/contracts', 'packages/core', 'packages/standins', 'apps/cli', 'apps/server', 'apps/web'])
      rmSync(join(root, folder, 'dist'), { recursive: true, force: true });
  build();
  stamp('build', wanted);
}
