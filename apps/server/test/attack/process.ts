import { fork, type ChildProcess } from 'node:child_process';
import { createServer, connect, type AddressInfo, type Socket } from 'node:net';
import { demoFolder } from '../server.js';

const main = new URL('../../dist/bundle/main.mjs', import.meta.url).pathname;

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => resolve(port));
    });
  });

/** The built server as a process of its own, so that what would end it can be seen to. */
export interface RunningServer {
  base: string;
  port: number;
  child: ChildProcess;
  output: () => string;
  alive: () => boolean;
  stop: () => Promise<void>;
  /** A line of bytes to the server, and what it answers until it closes or some time has passed. */
  raw: (bytes: string, forMs?: number) => Promise<string>;
  open: () => Promise<Socket>;
  signIn: (email: string) => Promise<Visitor>;
}

/** Somebody at that server: what they ask is sent as it is where it is a text, else as JSON. */
export interface Visitor {
  cookie: string;
  call: (
    path: string,
    method?: string,
    body?: unknown,
    headers?: Record<string, string>,
  ) => Promise<{ status: number; body: never; headers: Headers }>;
}
export const visitor = (base: string, cookie: string): Visitor => ({
  cookie,
  call: async (path, method = 'GET', body, headers = {}) => {
    const response = await fetch(`${base}/api/${path}`, {
      method,
      headers: { 'x-underpass': '1', cookie, ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
      ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    const text = await response.text();
    const isJson = text.startsWith('{') || text.startsWith('[');
    return { status: response.status, body: (isJson ? JSON.parse(text) : text) as never, headers: response.headers };
  },
});

export async function runServer(databaseUrl: string, udpFirst: number, env: Record<string, string> = {}): Promise<RunningServer> {
  const port = await freePort();
  let output = '';
  const child = fork(main, [], {
    env: {
      PATH: process.env.PATH,
      TZ: 'UTC',
      DATABASE_URL: databaseUrl,
      PORT: String(port),
      CHECK_UDP_FIRST: String(udpFirst),
      DEMO_FOLDER: demoFolder,
      SECRET_KEY: 'a key for the secrets of the tests, long enough',
      ...env,
    },
    // what the tests' own runner was started with is none of the server's business
    execArgv: [],
    stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
  });
  child.stdout?.on('data', (part: Buffer) => (output += String(part)));
  child.stderr?.on('data', (part: Buffer) => (output += String(part)));
  await new Promise<void>((resolve, reject) => {
    child.once('message', () => resolve());
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}: ${output}`)));
  });
  const open = () =>
    new Promise<Socket>((resolve, reject) => {
      const socket = connect(port, '127.0.0.1', () => resolve(socket));
      socket.on('error', reject);
    });
  const base = `http://127.0.0.1:${port}`;
  return {
    base,
    signIn: async (email) => {
      const { headers } = await visitor(base, '').call('session', 'POST', { email, password: 'under-the-estuary' });
      return visitor(base, headers.getSetCookie()[0]?.split(';')[0] ?? '');
    },
    port,
    child,
    output: () => output,
    alive: () => child.exitCode === null && child.signalCode === null,
    stop: () =>
      new Promise((resolve) => {
        if (child.exitCode !== null || child.signalCode !== null) return resolve();
        child.once('exit', () => resolve());
        child.kill('SIGKILL');
      }),
    open,
    raw: async (bytes, forMs = 1500) => {
      const socket = await open();
      socket.on('error', () => undefined);
      let answer = '';
      socket.on('data', (part) => (answer += String(part)));
      socket.write(bytes);
      await new Promise((resolve) => {
        socket.once('close', resolve);
        setTimeout(resolve, forMs);
      });
      socket.destroy();
      return answer;
    },
  };
}
