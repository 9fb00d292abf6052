import { demoLines } from './line/demoLines.js';
import { openLine, type Line } from './line/line.js';

/** Opens the demo's lines: node lineCommand.js SERVER_PORT FIRST_PORT FIRST_UDP SERVER_UDP COUNT. Runs until it is stopped. */
const [serverPort, firstPort, firstUdp, serverUdp, count] = process.argv.slice(2).map(Number) as [number, number, number, number, number];
const lines: Line[] = [];
try {
  for (const [i, { name: _name, ...profile }] of demoLines.entries())
    lines.push(
      await openLine({
        ...profile,
        port: firstPort + i,
        server: { host: '127.0.0.1', port: serverPort },
        udp: { first: firstUdp + i * 10, serverFirst: serverUdp, count },
        seed: 7 + i,
      }),
    );
} catch (error) {
  // another program took a port meanwhile: one line, and whoever started this says what it means
  process.stderr.write(`The simulated lines: ${(error as Error).message}\n`);
  process.exit(1);
}
process.send?.({ ready: true });
const end = () => process.exit(0);
const stop = () => {
  Promise.all(lines.map((line) => line.close())).then(end, end);
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
process.on('disconnect', stop);
