// The built application for the browser tests: a database of its own, the demo estate, and lines of known delay, rate and loss.
import { fork } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { join } from 'node:path';
import { openLine, openPortal, underpassAt } from '@underpass/standins';
import pg from 'pg';
import { programs, root } from '../scripts/ready.mjs';
import { openProvider } from './provider.mjs';

const admin = process.env.TEST_DATABASE;
const port = Number(process.env.E2E_PORT);
const name = `browser_${process.pid}`;
/** Datagram ports of the server, and from a hundred above of the lines. */
const udp = 48_100 + 10 * (port - 4750);
const client = new pg.Client({ connectionString: admin });
await client.connect();
await client.query(`CREATE DATABASE ${name}`);
/** A second server with nothing in it and one administrator: what somebody new meets. */
const empty = { name: `${name}_empty`, port: port + 6, udp: udp + 60, line: { port: port + 7, udp: udp + 160 } };

const profiles = [
  // the line whose figures the check must find again
  { up: { delayMs: 20, rateMbps: 8, lossPercent: 2 }, down: { delayMs: 30, rateMbps: 30, lossPercent: 2 } },
  // a second one, without loss; wide enough for the ticket hall
  { up: { delayMs: 6, rateMbps: 20 }, down: { delayMs: 6, rateMbps: 60 } },
  // one that no datagram passes
  { up: { delayMs: 5, rateMbps: 20 }, down: { delayMs: 5, rateMbps: 20 }, udpBlocked: true },
];
// the organisation's own sign-in, from an independent library
const provider = await openProvider(port + 5, `http://localhost:${port}`);
const portalKey = randomBytes(24).toString('hex');
const server = fork(join(root, programs.server), [], {
  env: {
    ...process.env,
    DATABASE_URL: admin.replace(/\/[^/]*$/, `/${name}`),
    PORT: String(port),
    DEMO_FOLDER: join(root, 'demo/saltmarsh'),
    DEMO_PAST: process.env.DEMO_PAST ?? 'no',
    SIMULATED_LINES: profiles.map((_, i) => `${port + 1 + i}>${udp + 100 + 10 * i}`).join(','),
    CHECK_UDP_FIRST: String(udp),
    PORTAL_URL: `http://localhost:${port + 4}`,
    PORTAL_KEY: portalKey,
    SECRET_KEY: randomBytes(24).toString('hex'),
    // the tests switch devices on that come with it
    DEVICE_KEY: 'a key for the devices of the browser tests',
    ...provider.env,
  },
});
/** Its server and the line before it; null where no test asks for it. */
async function openFresh() {
  if (process.env.FRESH === 'no') return null;
  await client.query(`CREATE DATABASE ${empty.name}`);
  const own = fork(join(root, programs.server), [], {
    env: {
      ...process.env,
      DATABASE_URL: admin.replace(/\/[^/]*$/, `/${empty.name}`),
      PORT: String(empty.port),
      DEMO: 'no',
      FIRST_ADMIN: 'new.admin@example.org:under-the-estuary',
      ALLOWED_TARGETS: 'localhost',
      SIMULATED_LINES: `${empty.line.port}>${empty.line.udp}`,
      CHECK_UDP_FIRST: String(empty.udp),
      SECRET_KEY: randomBytes(24).toString('hex'),
    },
  });
  const line = await openLine({
    ...{ up: { delayMs: 9, rateMbps: 20 }, down: { delayMs: 9, rateMbps: 60 }, seed: 21 },
    port: empty.line.port,
    server: { host: '127.0.0.1', port: empty.port },
    udp: { first: empty.line.udp, serverFirst: empty.udp, count: 8 },
  });
  return { server: own, line };
}
const fresh = await openFresh();
const lines = await Promise.all(
  profiles.map((profile, i) =>
    openLine({
      ...profile,
      port: port + 1 + i,
      server: { host: '127.0.0.1', port },
      udp: { first: udp + 100 + 10 * i, serverFirst: udp, count: 8 },
      seed: 11 + i,
    }),
  ),
);
const portal = await openPortal({ port: port + 4, underpass: underpassAt(`http://127.0.0.1:${port}`, portalKey), wakeMs: 1500 });
async function stop() {
  await portal.close();
  provider.close();
  for (const each of [server, ...(fresh ? [fresh.server] : [])]) {
    each.kill('SIGTERM');
    await new Promise((resolve) => (each.exitCode === null ? each.once('exit', resolve) : resolve()));
  }
  await fresh?.line.close();
  await Promise.all(lines.map((line) => line.close()));
  await client.query(`DROP DATABASE ${name} WITH (FORCE)`).catch(() => undefined);
  await client.query(`DROP DATABASE IF EXISTS ${empty.name} WITH (FORCE)`).catch(() => undefined);
  await client.end();
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
