// npm start: everything from a fresh clone to a served page. Only node: modules.
import { randomBytes } from 'node:crypto';
import { createSocket } from 'node:dgram';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { startCluster } from './cluster.mjs';
import { ensureBuilt, ensureModules, programs, root, say } from './ready.mjs';
import { deviceKey, secretKey } from './secretKey.mjs';
import { Part, watchDatabase } from './supervisor.mjs';

const port = Number(process.env.PORT ?? 4600);
const parts = [];
let cluster = null;
let unwatch = () => undefined;
let stopping = false;

const listens = (p, host) =>
  new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(p, host, () => server.close(() => resolve(true)));
  });
const bindsUdp = (p) =>
  new Promise((resolve) => {
    const socket = createSocket('udp4');
    socket.once('error', () => resolve(false));
    socket.bind(p, '127.0.0.1', () => socket.close(() => resolve(true)));
  });
/** The first port of a range of datagram ports that nobody else uses: two clones may run side by side. */
async function freeUdp(first, count) {
  for (let at = first; at < 64_000; at += 100) {
    const free = await Promise.all(Array.from({ length: count }, (_, i) => bindsUdp(at + i)));
    if (free.every(Boolean)) return at;
  }
  return null;
}

/** Settings that have no effect together with others, told instead of passed over. */
function tellIgnored(demo) {
  const ignored = [];
  if (!demo && process.env.DEMO_FOLDER) ignored.push('DEMO_FOLDER is ignored with DEMO=no.');
  if (process.env.DEMO && !['no', 'yes'].includes(process.env.DEMO))
    ignored.push(`DEMO=${process.env.DEMO} is read as yes; say DEMO=no to do without the demo.`);
  for (const name of ['SIMULATED_LINES', 'PORTAL_KEY'])
    if (process.env[name]) ignored.push(`${name} is ignored: npm start chooses it itself.`);
  for (const line of ignored) say(line);
}

async function stop(status) {
  if (stopping) return;
  stopping = true;
  unwatch();
  await Promise.all(parts.map((part) => part.stop()));
  cluster?.stop();
  process.exit(status);
}
const part = (...args) => {
  const made = new Part(...args);
  parts.push(made);
  return made;
};

try {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) throw new Error(`Node.js 20.19 or newer is needed; this is ${process.version}.`);
  if (!(port > 0 && port < 65_536)) throw new Error(`PORT: “${process.env.PORT}” is not a port.`);
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));
  if (!(await listens(port, process.env.HOST)))
    throw new Error(`Port ${port} is in use. Stop what uses it, or choose another: PORT=4700 npm start`);
  ensureModules();
  ensureBuilt();
  let databaseUrl = process.env.DATABASE_URL;
  if (!databaseUrl) {
    cluster = await startCluster('postgres', 4610, say);
    cluster.keep();
    cluster.ensure('underpass');
    databaseUrl = cluster.url('underpass');
    unwatch = watchDatabase(cluster);
  }
  const demo = process.env.DEMO !== 'no';
  tellIgnored(demo);
  const udpBase = process.env.CHECK_UDP_FIRST
    ? Number(process.env.CHECK_UDP_FIRST)
    : await freeUdp(46_100 + (((port - 4600) * 50) % 15_000), 50);
  if (udpBase === null)
    throw new Error('No 50 datagram ports in a row are free between 46100 and 64000. Name the first of them: CHECK_UDP_FIRST=… npm start');
  const simulated = { first: port + 1, udpFirst: udpBase + 10, serverUdp: udpBase, count: 8, lines: 3 };
  // without the demo they are there where somebody tries it alone: a check has to come from somewhere else
  const wantsLines = demo || process.env.LINES === 'yes';
  const linesFree = wantsLines && (await Promise.all([0, 1, 2].map((i) => listens(simulated.first + i, '127.0.0.1')))).every(Boolean);
  const lines = linesFree ? [0, 1, 2].map((i) => `${simulated.first + i}>${simulated.udpFirst + 10 * i}`).join(',') : '';
  const portalPort = port + 4;
  const portalFree = demo && (await listens(portalPort, '127.0.0.1'));
  const portalKey = randomBytes(24).toString('hex');
  say('Starting the server');
  const server = part('The server', programs.server, [], {
    DATABASE_URL: databaseUrl,
    PORT: String(port),
    SECRET_KEY: secretKey(),
    DEVICE_KEY: deviceKey(),
    CHECK_UDP_FIRST: String(udpBase),
    SIMULATED_LINES: lines,
    JOBS: 'elsewhere',
    ...(portalFree ? { PORTAL_URL: `http://localhost:${portalPort}`, PORTAL_KEY: portalKey } : {}),
    ...(demo ? { DEMO_FOLDER: join(root, 'demo/saltmarsh'), DEMO_PAST: 'yes' } : {}),
  });
  await server.start();
  // long work is done beside the server, so that nobody waits for it; where it cannot be started it stays in the queue until it can
  const workers = Number(process.env.WORKERS ?? 1);
  for (let i = 0; i < workers; i++)
    await part(workers > 1 ? `Worker ${i + 1}` : 'The worker', programs.worker, [], {
      DATABASE_URL: databaseUrl,
      SECRET_KEY: secretKey(),
    }).start();
  // the demo does without its lines and its portal rather than not starting at all
  const tried = (each) =>
    each.start().then(
      () => true,
      () => false,
    );
  const linesOpen =
    linesFree &&
    (await tried(
      part(
        'The simulated lines',
        'packages/standins/dist/lineCommand.js',
        [port, simulated.first, simulated.udpFirst, simulated.serverUdp, simulated.count].map(String),
      ),
    ));
  if (wantsLines && !linesOpen) say('The simulated lines could not be opened: their ports are in use. Everything else works.');
  const portalOpen =
    portalFree &&
    (await tried(
      part('The stand-in portal', 'packages/standins/dist/portalCommand.js', [String(portalPort), `http://127.0.0.1:${port}`], {
        PORTAL_KEY: portalKey,
      }),
    ));
  if (demo && !portalOpen) say('The stand-in portal could not be opened: its port is in use. Everything else works.');
  process.stdout.write(`\nUnderpass is ready at http://localhost:${port}\n`);
  const near = !process.env.HOST || /^(localhost|127\.|::1$)/.test(process.env.HOST);
  if (demo && near) {
    process.stdout.write('Demo sign-in: ines.farrow@saltmarsh.example, password under-the-estuary\n');
    process.stdout.write(
      'Only this machine reaches it, since these passwords are published. For others: HOST=0.0.0.0 PUBLIC_URL=… FIRST_ADMIN=address:password npm start\n',
    );
  }
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
