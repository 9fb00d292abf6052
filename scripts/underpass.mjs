// The command line: makes the checkout ready, then hands over. What it prints on standard output is the command's alone.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { existsSync } from 'node:fs';
import { ensureModules, root, say, tsc } from './ready.mjs';

try {
  ensureModules();
  const entry = join(root, 'apps/cli/dist/main.js');
  if (!existsSync(entry)) say('Building the command line');
  tsc('apps/cli/tsconfig.build.json');
  const done = spawnSync(process.execPath, [entry, ...process.argv.slice(2)], {
    stdio: 'inherit',
    cwd: process.env.INIT_CWD ?? process.cwd(),
  });
  process.exit(done.status ?? 1);
} catch (error) {
  process.stderr.write(`underpass: ${error.message}\n`);
  process.exit(1);
}
