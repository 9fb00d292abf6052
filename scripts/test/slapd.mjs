// A directory server for the tests, from Debian's packages but not installed: what is installed starts by itself. Only node: modules.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';

/** Where the server, its modules and its schemas are: installed, or unpacked beneath a folder. @returns {string | null} */
export const slapdRoot = (root) => ['/', join(root, '.cache', 'slapd')].find((at) => existsSync(join(at, 'usr', 'sbin', 'slapd'))) ?? null;

const run = (command, args, cwd) => spawnSync(command, args, { cwd, encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });

/** Fetches and unpacks it with what it needs and the machine lacks. Without packages to fetch, or without apt, nothing is done. */
export function ensureSlapd(root, say) {
  if (slapdRoot(root)) return;
  if (process.getuid?.() === 0) run('apt-get', ['update', '-qq']);
  const asked = run('apt-cache', [
    'depends',
    '--recurse',
    '--no-recommends',
    '--no-suggests',
    '--no-conflicts',
    '--no-breaks',
    '--no-replaces',
    '--no-enhances',
    'slapd',
  ]);
  if (asked.status !== 0) return say('Left out: a directory server could not be fetched, so what reads one is not tested');
  const named = [
    ...new Set(
      asked.stdout
        .split('\n')
        .filter((line) => /^[a-z0-9]/.test(line))
        .map((line) => line.trim()),
    ),
  ];
  const lacking = named.filter(
    (name) =>
      name === 'slapd' ||
      (/^lib/.test(name) && !/-perl$/.test(name) && run('dpkg-query', ['-W', '-f=${Status}', name]).stdout !== 'install ok installed'),
  );
  const making = join(root, '.cache', 'slapd.making');
  rmSync(making, { recursive: true, force: true });
  mkdirSync(making, { recursive: true });
  say('Fetching a directory server from Debian’s packages');
  const fetched = run('apt-get', ['download', '-qq', ...lacking], making);
  for (const name of readdirSync(making).filter((each) => each.endsWith('.deb'))) run('dpkg-deb', ['-x', name, '.'], making);
  if (!existsSync(join(making, 'usr', 'sbin', 'slapd')))
    return say(`Left out: a directory server could not be fetched. ${fetched.stderr.slice(0, 200)}`);
  renameSync(making, join(root, '.cache', 'slapd'));
}
