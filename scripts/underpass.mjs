// The command line: makes the checkout ready, then hands over. What it prints on standard output is the command's alone.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { existsSync } from 'node:fs';
import { backup, restore } from './backup.mjs';
import { ensureModules, root, say, tsc } from './ready.mjs';

/** Commands about the whole instance, which need its database and not its programs. */
const instance = { backup, restore };
try {
  ensureModules();
  const [name, file, ...more] = process.argv.slice(2).filter((word) => word !== '--json');
  if (Object.hasOwn(instance, name ?? '') && !process.argv.includes('--help')) {
    if (more.length) throw new Error(`${name}: “${more[0]}” is one word too many; give one file`);
    const result = await instance[name](file);
    const plain = Object.entries(result).map(([key, value]) => `${key}: ${value}`);
    process.stdout.write(`${process.argv.includes('--json') ? JSON.stringify(result) : plain.join('\n')}\n`);
    process.exit(0);
  }
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
  process.exit(2);
}
