// A served copy to attack: on loopback, on a database of its own, watched from outside.
import { fork } from 'node:child_process';
import { connect } from 'node:net';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { programs, root } from '../ready.mjs';

export const percentile = (values, p) => [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * p))] ?? 0;

export class Instance {
  constructor(databaseUrl, port) {
    Object.assign(this, { databaseUrl, port, base: `http://127.0.0.1:${port}`, cookie: '', crashes: 0, peakMB: 0, waits: [] });
  }

  async start() {
    this.child = fork(join(root, programs.server), [], {
      env: {
        PATH: process.env.PATH,
        TZ: 'UTC',
        DATABASE_URL: this.databaseUrl,
        PORT: String(this.port),
        CHECK_UDP_FIRST: '47000',
        LOG_LEVEL: 'error',
        DEMO_FOLDER: join(root, 'demo/saltmarsh'),
        SECRET_KEY: 'a key for the secrets of the bench, long enough',
      },
      stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
    });
    this.errors = '';
    this.child.stderr.on('data', (part) => (this.errors = (this.errors + part).slice(-4000)));
    this.stopping = false;
    this.child.once('exit', () => !this.stopping && this.crashes++);
    await new Promise((resolve, reject) => {
      this.child.once('message', resolve);
      this.child.once('exit', (code) => reject(new Error(`the server did not start (${code}): ${this.errors}`)));
    });
  }

  async signIn(email = 'ines.farrow@saltmarsh.example') {
    const response = await fetch(`${this.base}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-underpass': '1' },
      body: JSON.stringify({ email, password: 'under-the-estuary' }),
    });
    const cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? '';
    this.cookie ||= cookie;
    return cookie;
  }

  kill() {
    this.stopping = true;
    return new Promise((resolve) => {
      if (this.child.exitCode !== null || this.child.signalCode !== null) return resolve();
      this.child.once('exit', resolve);
      this.child.kill('SIGKILL');
    });
  }

  async call(path, method = 'GET', body, { cookie = this.cookie, headers = {}, raw = false } = {}) {
    const response = await fetch(`${this.base}/api/${path}`, {
      method,
      headers: { cookie, 'x-underpass': '1', ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
      ...(body === undefined ? {} : { body: raw ? body : JSON.stringify(body) }),
    });
    const text = await response.text();
    let content = text;
    try {
      content = JSON.parse(text);
    } catch {
      // told as text
    }
    return { status: response.status, body: content, headers: response.headers };
  }

  socket() {
    return new Promise((resolve, reject) => {
      const socket = connect(this.port, '127.0.0.1', () => resolve(socket));
      socket.on('error', reject);
    }).then((socket) => socket.removeAllListeners('error').on('error', () => undefined));
  }

  /** What others wait, and the memory, while something goes on. */
  async watched(work) {
    const watcher = new Worker(new URL('./watcher.mjs', import.meta.url), {
      workerData: { base: this.base, cookie: this.cookie, pid: this.child.pid },
    });
    await new Promise((resolve) => watcher.once('online', resolve));
    let told;
    let seen;
    try {
      told = await work();
    } finally {
      const answer = new Promise((resolve) => watcher.once('message', resolve));
      watcher.postMessage('stop');
      seen = await answer;
    }
    this.waits.push(...seen.waits);
    return { told, count: seen.waits.length, p99Ms: percentile(seen.waits, 0.99), longestMs: Math.max(...seen.waits), peakMB: seen.peakMB };
  }
}
