// Keeps parts of an instance running: starts them again when they end, waiting longer each time. Only node: modules.
import { fork } from 'node:child_process';
import { join } from 'node:path';
import { root, say } from './ready.mjs';

const firstWaitMs = 1000;
const longestWaitMs = 30_000;
/** One that ran this long was well: the next wait is short again. */
const wellAfterMs = 60_000;

export class Part {
  #child = null;
  #stopping = false;
  #waitMs = firstWaitMs;
  #timer = null;

  constructor(name, file, args, env = {}) {
    Object.assign(this, { name, file, args, env });
  }

  /** Starts it. @returns when it says it is ready; fails where it ends before */
  start() {
    const from = Date.now();
    // a process group of its own: Ctrl-C reaches the first script alone, which then stops its parts in order; it ends with that
    // script, since the channel between them ends
    const child = fork(join(root, this.file), this.args, {
      cwd: root,
      env: { ...process.env, ...this.env },
      detached: true,
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    });
    this.#child = child;
    return new Promise((resolve, reject) => {
      let ready = false;
      child.once('message', () => {
        ready = true;
        resolve();
      });
      child.once('error', reject);
      child.once('exit', (code, signal) => {
        if (!ready) reject(new Error(`${this.name} stopped (${signal ?? code})`));
        if (this.#stopping || (!ready && !this.again)) return;
        if (Date.now() - from > wellAfterMs) this.#waitMs = firstWaitMs;
        say(`${this.name} ended (${signal ?? code}); it is started again in ${this.#waitMs / 1000} s`);
        this.#timer = setTimeout(() => {
          this.again = true;
          this.start().then(
            () => say(`${this.name} runs again`),
            () => undefined,
          );
        }, this.#waitMs);
        this.#waitMs = Math.min(this.#waitMs * 2, longestWaitMs);
      });
    });
  }

  stop() {
    this.#stopping = true;
    clearTimeout(this.#timer);
    const child = this.#child;
    if (!child || child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
    return new Promise((resolve) => {
      child.once('exit', resolve);
      child.kill('SIGTERM');
      setTimeout(() => child.kill('SIGKILL'), 15_000).unref();
    });
  }
}

/** Looks after the database: where it does not answer it is started again. */
export function watchDatabase(cluster) {
  let waitMs = firstWaitMs;
  let missing = 0;
  let timer = null;
  const look = async () => {
    if (cluster.answers()) {
      missing = 0;
      waitMs = firstWaitMs;
    } else if (++missing >= 2) {
      say('The database does not answer; it is started again');
      try {
        await cluster.restart();
        say('The database answers again');
        missing = 0;
      } catch (error) {
        say(`${error.message} The next try is in ${waitMs / 1000} s.`);
        waitMs = Math.min(waitMs * 2, longestWaitMs);
      }
    }
    timer = setTimeout(() => void look(), missing ? waitMs : 2000);
  };
  timer = setTimeout(() => void look(), 2000);
  return () => clearTimeout(timer);
}
