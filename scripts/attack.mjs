// npm run attack: everything that once hurt, tried on a copy of one's own. Loopback only, bounded, stops by itself.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createServer } from 'node:net';
import { startCluster } from './cluster.mjs';
import { ensureBuilt, ensureModules, root, say } from './ready.mjs';
import { attacks } from './attack/doors.mjs';
import { Instance, percentile } from './attack/instance.mjs';
import { attackWithKills, killPostgres } from './attack/kills.mjs';
import { attackReaders } from './attack/readers.mjs';

ensureModules();
ensureBuilt();
const short = process.argv.includes('--short');
const only = process.argv.find((word) => word.startsWith('--only='))?.slice(7);
const limits = { longestMs: 1000, p99Ms: 200, memoryMB: 1024 };
const rows = [];
const wrong = [];
const tell = (name, what, figures = '') => {
  rows.push([name, what, figures]);
  process.stdout.write(`${name}: ${what}${figures ? `; ${figures}` : ''}\n`);
};
/** The first port from one on that nobody listens on. */
const freePort = (port) =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(freePort(port + 1)));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(port)));
  });
// what takes minutes or gigabytes is left to the long form
const heavy = new Set([
  'four bodies of 79 MB without a sign-in',
  'four bodies of 79 MB with one',
  'a file of 60 MB of YAML keys',
  '1 500 guesses at tokens by upgrade',
]);
const cluster = await startCluster(short ? 'test-postgres' : 'attack-postgres', short ? 4640 : 4680, say, short);
const name = `attack_${process.pid}`;
let instance = null;
try {
  const readers = await attackReaders(short ? 4000 : 100_000);
  tell(
    'readers',
    `${readers.inputs} bad inputs, ${readers.failed.length} failed`,
    `longest ${Math.round(readers.longestMs)} ms (${readers.slowest})`,
  );
  wrong.push(...readers.failed.slice(0, 20));
  if (readers.longestMs > limits.longestMs) wrong.push(`readers: ${readers.slowest} takes ${Math.round(readers.longestMs)} ms`);

  cluster.ensure(name);
  instance = new Instance(cluster.url(name), await freePort(4690));
  await instance.start();
  await instance.signIn();
  const before = (await instance.call('board')).body.version;
  for (const [attack, run] of Object.entries(attacks)) {
    if ((short && heavy.has(attack)) || (only && !only.split(',').some((word) => attack.includes(word)))) continue;
    const { told, count, p99Ms, longestMs, peakMB } = await instance.watched(() =>
      run(instance, short ? { many: 40, rounds: 1 } : { many: 500, rounds: 20 }),
    );
    const text = typeof told === 'string' ? told : told.text;
    tell(attack, text, `others wait p99 ${Math.round(p99Ms)} ms, longest ${Math.round(longestMs)} ms; memory ${Math.round(peakMB)} MB`);
    if (typeof told !== 'string') wrong.push(...told.bad.slice(0, 10));
    if (/NOT/.test(text)) wrong.push(`${attack}: ${text}`);
    // of a few dozen the 99th of a hundred is the longest, which has its own limit
    if (count >= 200 && p99Ms > limits.p99Ms) wrong.push(`${attack}: p99 of others ${Math.round(p99Ms)} ms`);
    if (longestMs > limits.longestMs) wrong.push(`${attack}: others waited ${Math.round(longestMs)} ms`);
    if (peakMB > limits.memoryMB) wrong.push(`${attack}: ${Math.round(peakMB)} MB`);
    if (instance.crashes) {
      wrong.push(`${attack}: the server ended: ${instance.errors.slice(-300)}`);
      instance.crashes = 0;
      await instance.start();
    }
  }
  const all = percentile(instance.waits, 0.99);
  tell(
    'all together',
    `${instance.waits.length} requests of others meanwhile`,
    `p99 ${Math.round(all)} ms, longest ${Math.round(Math.max(...instance.waits))} ms`,
  );
  if (all > limits.p99Ms) wrong.push(`p99 of others over all attacks ${Math.round(all)} ms`);
  if (!only && (await instance.call('board')).body.version < before) wrong.push('the estate went back in version');
  if (!only) {
    const killed = await attackWithKills(
      instance,
      { kill: () => killPostgres(cluster.data), restart: cluster.restart },
      { kills: short ? 3 : 100, killDatabase: !short },
    );
    tell(
      'kills in mid-write',
      `${killed.kills} kills${short ? '' : ', each fifth of the database'}, ${killed.acknowledged} edits acknowledged, ${killed.lost.length} lost`,
    );
    wrong.push(...killed.lost.slice(0, 10));
    if (instance.crashes) wrong.push(`the server ended by itself ${instance.crashes} times`);
  }
} catch (error) {
  wrong.push(`the bench itself failed: ${error.stack}`);
} finally {
  await instance?.kill();
  cluster.drop(name);
  cluster.stop();
}
if (process.argv.includes('--write')) {
  const file = join(root, 'docs/security.md');
  const table = [
    '| attack | what came of it | others and memory |',
    '| --- | --- | --- |',
    ...rows.map((row) => `| ${row.join(' | ')} |`),
  ].join('\n');
  writeFileSync(file, readFileSync(file, 'utf8').replace(/(<!-- figures -->\n)[^]*(\n<!-- end of figures -->)/, `$1${table}$2`));
}
process.stdout.write(
  wrong.length ? `\n${wrong.map((line) => `WRONG ${line}`).join('\n')}\n` : '\nNothing lost, nothing crashed, nobody held up.\n',
);
process.exit(wrong.length ? 1 : 0);
