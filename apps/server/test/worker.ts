import { fork, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { secretKey } from './server.js';

const root = new URL('../../..', import.meta.url).pathname;

/** Worker processes of their own on a database, for long work; those that still run are ended together. */
export class Workers {
  private readonly running: ChildProcess[] = [];

  async start(databaseUrl: string): Promise<ChildProcess> {
    const worker = fork(join(root, 'apps/server/dist/bundle/worker.mjs'), [], {
      env: { ...process.env, NODE_OPTIONS: '', DATABASE_URL: databaseUrl, SECRET_KEY: secretKey, LOG_LEVEL: 'error' },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    this.running.push(worker);
    await new Promise((resolve) => worker.once('message', resolve));
    return worker;
  }

  kill(): void {
    for (const worker of this.running.splice(0)) worker.kill('SIGKILL');
  }
}
