import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { createSocket } from 'node:dgram';
import { connect, createServer, type AddressInfo, type Server } from 'node:net';
import { openLine, type Line } from './line.js';
import { seeded, Shaper } from './shaper.js';

test('a shaper sends at its rate, waits its delay, keeps the order and loses its share', async () => {
  let now = 0;
  const arrived: [number, number][] = [];
  const shaper = new Shaper({ delayMs: 10, rateMbps: 8 }, seeded(1), () => now);
  // 1000 bytes at 8 Mbit/s are 1 ms each
  for (let i = 0; i < 5; i++) shaper.pass({ bytes: 1000, deliver: () => arrived.push([i, now]) });
  expect(shaper.backlogMs).toBeCloseTo(5, 9);
  for (now = 0; now <= 20; now++) await new Promise((resolve) => setTimeout(resolve, 2));
  expect(arrived.map(([i]) => i)).toEqual([0, 1, 2, 3, 4]);
  for (const [i, at] of arrived) expect(Math.abs(at - (11 + i))).toBeLessThanOrEqual(3);
  const lossy = new Shaper({ delayMs: 0, lossPercent: 5 }, seeded(3));
  const lost = Array.from({ length: 4000 }, () => lossy.loses()).filter(Boolean).length;
  // the 99.9 % interval of 5 % in 4000 tries [SciPy binom.interval]
  expect(lost).toBeGreaterThan(155);
  expect(lost).toBeLessThan(247);
});

let server: Server;
let line: Line;
const echo = createSocket('udp4');
let linePort = 0;
beforeAll(async () => {
  server = createServer((socket) => socket.pipe(socket));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  echo.on('message', (message, from) => echo.send(message, from.port, from.address));
  await new Promise<void>((resolve) => echo.bind(0, '127.0.0.1', resolve));
  const probe = createServer();
  await new Promise<void>((resolve) => probe.listen(0, '127.0.0.1', resolve));
  linePort = (probe.address() as AddressInfo).port;
  await new Promise<void>((resolve) => probe.close(() => resolve()));
  line = await openLine({
    port: linePort,
    server: { host: '127.0.0.1', port: (server.address() as AddressInfo).port },
    up: { delayMs: 30, rateMbps: 40 },
    down: { delayMs: 20, rateMbps: 40 },
    udp: { first: linePort, serverFirst: echo.address().port, count: 1 },
  });
});
afterAll(async () => {
  await line.close();
  echo.close();
  server.close();
});

/** Sends bytes through the line, and takes them back: how many came, and after what time the first did, ms. */
const echoed = (payload: Buffer) =>
  new Promise<{ got: number; firstMs: number }>((resolve) => {
    const socket = connect(linePort, '127.0.0.1');
    const sent = performance.now();
    let [got, firstMs] = [0, 0];
    socket.on('data', (part) => {
      firstMs ||= performance.now() - sent;
      got += part.length;
      if (got < payload.length) return;
      socket.destroy();
      resolve({ got, firstMs });
    });
    socket.write(payload);
  });

test('TCP and UDP through a line take its delay, and bytes come whole', async () => {
  const payload = Buffer.alloc(300_000, 7);
  // whatever else the machine does makes one later: the quickest of some is the line's
  let quickestMs = Infinity;
  for (let n = 0; n < 10 && quickestMs > 70; n++) {
    const { got, firstMs } = await echoed(payload);
    expect(got).toBe(payload.length);
    expect(firstMs).toBeGreaterThan(49);
    quickestMs = Math.min(quickestMs, firstMs);
  }
  expect(quickestMs).toBeLessThan(120);
  const udp = createSocket('udp4');
  const sent = performance.now();
  const trip = await new Promise<number>((resolve) => {
    udp.on('message', () => resolve(performance.now() - sent));
    udp.send('x', linePort, '127.0.0.1');
  });
  udp.close();
  expect(trip).toBeGreaterThan(49);
  expect(line.datagrams).toEqual({ up: 1, upLost: 0, down: 1, downLost: 0 });
});
