// Stops the database when whoever started it is gone without doing so. Only node: modules.
import { spawnSync } from 'node:child_process';
import { setTimeout as wait } from 'node:timers/promises';

const [tool, data] = process.argv.slice(2);
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => undefined);
process.on('message', (word) => word === 'stopped' && process.exit(0));
process.once('disconnect', () => {
  void (async () => {
    // the server ends too, and keeps what its field checks have measured
    await wait(2000);
    spawnSync(tool, ['stop', '-D', data, '-m', 'fast', '-w', '-t', '30'], { stdio: 'ignore', cwd: '/' });
    process.exit(0);
  })();
});
