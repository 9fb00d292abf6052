import { fork, type ChildProcess } from 'node:child_process';
import { createServer, connect, type AddressInfo, type Socket } from 'node:net';
import { demoFolder } from '../server.js';

const main = new URL('../../dist/main.js', import.meta.url).pathname;

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
}

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
  return {
    base: `http://127.0.0.1:${port}`,
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

/** The longest a small request of somebody else waits while something goes on, ms. */
export async function longestWait(base: string, during: () => Promise<unknown>): Promise<{ longestMs: number; waitsMs: number[] }> {
  let on = true;
  const waits: number[] = [];
  const asking = (async () => {
    while (on) {
      const from = performance.now();
      await fetch(`${base}/api/session`).then((answer) => answer.arrayBuffer());
      waits.push(performance.now() - from);
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
  })();
  await during();
  on = false;
  await asking;
  return { longestMs: Math.max(...waits), waitsMs: waits };
}
