// Installs Debian packages, as root or through sudo. Only node: modules.
import { spawnSync } from 'node:child_process';

export function aptInstall(packages, say) {
  const sudo = process.getuid?.() === 0 ? [] : ['sudo', '-n'];
  const apt = (args) => {
    const [command, ...rest] = [...sudo, 'apt-get', ...args];
    return spawnSync(command, rest, {
      stdio: ['ignore', 'ignore', 'pipe'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
      encoding: 'utf8',
    });
  };
  say(`apt-get install ${packages.join(' ')} (a minute or two)`);
  apt(['update', '-qq']);
  const done = apt(['install', '-y', '-qq', '--no-install-recommends', ...packages]);
  if (done.status !== 0)
    throw new Error(
      `Installing ${packages.join(', ')} failed. As root run: apt-get install ${packages.join(' ')}\n${done.stderr ?? done.error ?? ''}`,
    );
}
