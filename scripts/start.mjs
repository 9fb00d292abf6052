// npm start: everything from a fresh clone to a served page. Only node: modules.
import { fork } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { startCluster } from './cluster.mjs';
import { ensureBuilt, ensureModules, root, say } from './ready.mjs';

const port = Number(process.env.PORT ?? 4600);
// ports of their own for every instance: two clones may run side by side
const udpBase = Number(process.env.CHECK_UDP_FIRST ?? 46_100 + (((port - 4600) * 50) % 15_000));
const simulated = { first: port + 1, udpFirst: udpBase + 10, serverUdp: udpBase, count: 8, lines: 3 };
const children = [];
let cluster = null;
let stopping = false;

const listens = (p, host) =>
  new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(p, host, () => server.close(() => resolve(true)));
  });

async function stop(status) {
  if (stopping) return;
  stopping = true;
  for (const child of children) if (child.exitCode === null) child.kill('SIGTERM');
  await Promise.all(
    children.map(
      (child) => new Promise((resolve) => (child.exitCode !== null || child.signalCode ? resolve() : child.once('exit', resolve))),
    ),
  );
  cluster?.stop();
  process.exit(status);
}

function start(file, args, env = {}) {
  // a process group of its own: Ctrl-C reaches this script alone, which then stops its parts in order
  const child = fork(join(root, file), args, {
    cwd: root,
    env: { ...process.env, ...env },
    detached: true,
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  children.push(child);
  return child;
}
const ready = (child, what) =>
  new Promise((resolve, reject) => {
    child.once('message', resolve);
    child.once('exit', (code) => reject(new Error(`${what} stopped (${code})`)));
  });

try {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) throw new Error(`Node.js 20.19 or newer is needed; this is ${process.version}.`);
  if (!(port > 0 && port < 65_536)) throw new Error(`PORT: “${process.env.PORT}” is not a port.`);
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));
  if (!(await listens(port))) throw new Error(`Port ${port} is in use. Stop what uses it, or choose another: PORT=4700 npm start`);
  ensureModules();
  ensureBuilt();
  let databaseUrl = process.env.DATABASE_URL;
  if (!databaseUrl) {
    cluster = await startCluster('postgres', 4610, say);
    cluster.ensure('underpass');
    databaseUrl = cluster.url('underpass');
  }
  const demo = process.env.DEMO !== 'no';
  const linesFree = demo && (await Promise.all([0, 1, 2].map((i) => listens(simulated.first + i, '127.0.0.1')))).every(Boolean);
  const lines = linesFree ? [0, 1, 2].map((i) => `${simulated.first + i}>${simulated.udpFirst + 10 * i}`).join(',') : '';
  const portalPort = port + 4;
  const portalFree = demo && (await listens(portalPort, '127.0.0.1'));
  const portalKey = randomBytes(24).toString('hex');
  say('Starting the server');
  const server = start('apps/server/dist/main.js', [], {
    DATABASE_URL: databaseUrl,
    PORT: String(port),
    SIMULATED_LINES: lines,
    ...(portalFree ? { PORTAL_URL: `http://localhost:${portalPort}`, PORTAL_KEY: portalKey } : {}),
    ...(demo ? { DEMO_FOLDER: join(root, 'demo/saltmarsh') } : {}),
  });
  server.once('exit', (code) => void stop(code ?? 1));
  await ready(server, 'The server');
  let linesOpen = linesFree;
  if (linesFree) {
    const relay = start(
      'packages/standins/dist/lineCommand.js',
      [port, simulated.first, simulated.udpFirst, simulated.serverUdp, simulated.count].map(String),
    );
    // the demo does without its lines rather than not starting at all
    linesOpen = await ready(relay, 'The simulated lines').then(
      () => true,
      () => false,
    );
  }
  if (demo && !linesOpen) say('The simulated lines could not be opened: their ports are in use. Everything else works.');
  let portalOpen = portalFree;
  if (portalFree) {
    const portal = start('packages/standins/dist/portalCommand.js', [String(portalPort), `http://127.0.0.1:${port}`], {
      PORTAL_KEY: portalKey,
    });
    portalOpen = await ready(portal, 'The stand-in portal').then(
      () => true,
      () => false,
    );
  }
  if (demo && !portalOpen) say('The stand-in portal could not be opened: its port is in use. Everything else works.');
  process.stdout.write(`\nUnderpass is ready at http://localhost:${port}\n`);
  if (demo) process.stdout.write('Demo sign-in: ines.farrow@saltmarsh.example, password under-the-estuary\n');
  if (linesOpen)
    process.stdout.write(
      `Simulated lines to open a field check through: http://localhost:${simulated.first} a ticket hall, ${simulated.first + 1} a vessel, ${simulated.first + 2} a home\n`,
    );
  if (portalOpen)
    process.stdout.write(`Stand-in portal to sign in at as anybody of the estate: http://localhost:${portalPort} (faults: /faults)\n`);
  process.stdout.write('Ctrl-C stops it.\n');
} catch (error) {
  process.stderr.write(`\n${error.message}\n`);
  await stop(1);
}
