// npm test: types, lint, layers, unused code, format, unit and database tests, browser tests. Ends with "N passed, N failed".
import { spawn } from 'node:child_process';
import { existsSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { aptInstall } from './apt.mjs';
import { startCluster } from './cluster.mjs';
import { ensureBuilt, ensureModules, root, say } from './ready.mjs';
import { listed, ofBrowsers, ofUnits } from './test/reports.mjs';
import { ensureSlapd } from './test/slapd.mjs';

const only = process.argv.slice(2);
const wanted = (name) => only.length === 0 || only.includes(name);
let passed = 0;
let failed = 0;
let skipped = 0;
let cluster = null;

/** How long the browser tests of a file take, s, by what was measured last; one that is not named takes about half a minute. */
const takes = {
  ...{ reach: 130, flow: 100, hands: 75, intake: 70, doors: 70, access: 65, intakeSources: 65, bringup: 57, board: 45, settings: 44 },
  ...{ entry: 40, screens: 40, change: 33, desk: 28, assumed: 22, images: 12, telephone: 7, recipes: 2 },
};
/** Test files at a time: as many as there are cores; with more each only takes longer, and what waits for an answer gives up. */
const workers = 2;
/** Browsers at a time: more of them take as long together, and each waits longer for its pages. */
const browsers = 2;

/** Files in parts that take about as long: the longest first, each to the part that has least. */
function partsOf(files) {
  const seconds = (name) => takes[name.replace('.spec.ts', '')] ?? 30;
  const parts = Array.from({ length: browsers }, () => ({ names: [], total: 0 }));
  for (const name of [...files].sort((a, b) => seconds(b) - seconds(a) || (a < b ? -1 : 1))) {
    const part = parts.reduce((least, each) => (each.total < least.total ? each : least));
    part.names.push(name);
    part.total += seconds(name);
  }
  return parts.map(({ names }) => names);
}

function run(command, args, env = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd: root, env: { ...process.env, ...env }, stdio: ['ignore', 'pipe', 'pipe'] });
    let output = '';
    const take = (part) => (output += part);
    child.stdout.on('data', take);
    child.stderr.on('data', take);
    child.on('close', (code) => resolve({ code: code ?? 1, output }));
  });
}

/** One check that passes or fails as a whole. */
async function check(name, args) {
  const started = Date.now();
  const { code, output } = await run(process.execPath, args);
  if (code === 0) passed++;
  else failed++;
  process.stdout.write(
    `${code === 0 ? 'ok    ' : 'FAILED'} ${name} (${((Date.now() - started) / 1000).toFixed(1)} s)\n${code === 0 ? '' : `${output}\n`}`,
  );
}

const failures = [];
const unsteady = [];

/** Runs a runner that writes its results as JSON. */
async function report(args, env, file, read) {
  rmSync(file, { force: true });
  const { code, output } = await run(process.execPath, args, env);
  const counts = existsSync(file) ? read(JSON.parse(readFileSync(file, 'utf8'))) : null;
  const told = counts ?? {
    passed: 0,
    failed: 1,
    skipped: 0,
    failures: [{ file: args[0], test: 'nothing was written down', why: `ended with ${code}` }],
  };
  if (code !== 0 && told.failed === 0) told.failed = 1;
  return { ...told, output };
}

/**
 * A runner whose tests count one by one. Files of which a test failed are run once more, alone: what passes then is told as unsteady,
 * by name, and does not fail the whole, since other work on the machine decided and not the commit.
 */
async function suite(name, args, env, file, read) {
  const started = Date.now();
  const first = await report(args([]), env, file, read);
  const files = [...new Set(first.failures.map(({ file: of }) => of))];
  passed += first.passed;
  skipped += first.skipped;
  const seconds = () => ((Date.now() - started) / 1000).toFixed(1);
  process.stdout.write(
    `${first.failed ? 'FAILED' : 'ok    '} ${name}: ${first.passed} passed, ${first.failed} failed (${seconds()} s)\n${first.failed ? `${first.output}\n` : ''}`,
  );
  if (first.failed === 0) return;
  failed += first.failed;
  if (files.length > 4) return void failures.push(...first.failures);
  again.push(async () => {
    const second = await report(args(files), env, file, read);
    process.stdout.write(
      `${second.failed ? 'FAILED' : 'ok    '} ${name}, again and alone: ${second.passed} passed, ${second.failed} failed\n`,
    );
    if (second.failed) return void failures.push(...second.failures);
    failed -= first.failed;
    passed += first.failed;
    unsteady.push(...first.failures);
  });
}
const again = [];

try {
  ensureModules();
  // the browser that is driven, and independent readers of codes and print sheets
  const programs = [
    ['browser', '/usr/bin/chromium', 'chromium'],
    ['unit', '/usr/bin/zbarimg', 'zbar-tools'],
    ['unit', '/usr/bin/pdftotext', 'poppler-utils'],
    ['browser', '/usr/bin/zbarimg', 'zbar-tools'],
    ['browser', '/usr/bin/pdftoppm', 'poppler-utils'],
  ].filter(([part, path]) => wanted(part) && !existsSync(path));
  if (programs.length) {
    say('Installing from Debian’s packages what the tests ask');
    aptInstall([...new Set(programs.map(([, , name]) => name))], say);
  }
  // a real server and client of DHCP, and who reads what they say: without them, or without root, those tests are told as skipped
  const beyond = [
    ['/usr/sbin/dnsmasq', 'dnsmasq-base'],
    ['/usr/bin/tshark', 'tshark'],
    ['/usr/bin/busybox', 'busybox'],
    ['/usr/sbin/ip', 'iproute2'],
  ].filter(([path]) => !existsSync(path));
  if (wanted('unit') && beyond.length && process.getuid?.() === 0)
    try {
      aptInstall(
        beyond.map(([, name]) => name),
        say,
      );
    } catch (error) {
      say(`Left out: ${error.message}`);
    }
  // the same browser without windows that nobody sees needs a third less; without it the whole one is driven
  if (wanted('browser') && !existsSync('/usr/bin/chromium-headless-shell'))
    try {
      aptInstall(['chromium-headless-shell'], say);
    } catch (error) {
      say(`Left out: ${error.message}`);
    }
  if (wanted('unit')) ensureSlapd(root, say);
  ensureBuilt();
  const bin = (path) => join('node_modules', path);
  // what only reads the files runs one after the other beside everything up to the browser tests
  const reading = [
    ['lint', 'lint', [bin('oxlint/bin/oxlint'), '--type-aware', '--deny-warnings', '.']],
    ['format', 'format', [bin('oxfmt/bin/oxfmt'), '--check']],
    ['unused', 'unused code', [bin('knip/bin/knip.js'), '--no-progress']],
    [
      'layers',
      'layers',
      [
        bin('dependency-cruiser/bin/dependency-cruise.mjs'),
        '--config',
        '.dependency-cruiser.cjs',
        'packages',
        'apps',
        '--output-type',
        'err',
      ],
    ],
  ].filter(([part]) => wanted(part));
  const beside = (async () => {
    for (const [, name, args] of reading) await check(name, args);
  })();
  if (wanted('types')) await check('types', [bin('typescript-7/bin/tsc'), '-b']);
  if (wanted('packages')) {
    const { code, output } = await run(process.execPath, ['scripts/packages.mjs', 'check']);
    if (code === 0) passed++;
    else if (code === 3) skipped++;
    else failed++;
    process.stdout.write(`${code === 0 ? 'ok    ' : code === 3 ? 'SKIPPED' : 'FAILED'} packages\n${output}`);
  }
  if (wanted('attack')) await check('attacks, short form', ['scripts/attack.mjs', '--short']);
  if (wanted('unit') || wanted('browser')) cluster = await startCluster('test-postgres', 4640, say, true);
  const env = {
    TEST_DATABASE: cluster?.url('postgres') ?? '',
    TZ: 'UTC',
    TEST_RUN: String(process.pid),
  };
  if (wanted('unit')) {
    const file = join(root, '.cache', 'jest.json');
    await suite(
      'unit and database tests',
      (files) => [bin('jest/bin/jest.js'), '--json', `--outputFile=${file}`, `--maxWorkers=${files.length ? 1 : workers}`, ...files],
      env,
      file,
      (r) => ofUnits(r, root),
    );
  }
  await beside;
  if (wanted('browser')) {
    // each browser with a server and a database of its own
    await Promise.all(
      partsOf(readdirSync(join(root, 'e2e')).filter((name) => name.endsWith('.spec.ts'))).map((files, i) => {
        const part = i + 1;
        const file = join(root, '.cache', `browser-${part}.json`);
        return suite(
          `browser tests, part ${part} of ${browsers}`,
          (failing) => [
            bin('@playwright/test/cli.js'),
            'test',
            '--config',
            'e2e/playwright.config.ts',
            ...(failing.length ? failing : files),
          ],
          { ...env, NODE_OPTIONS: '', PLAYWRIGHT_JSON_OUTPUT_NAME: file, E2E_PORT: String(4720 + 30 * part) },
          file,
          ofBrowsers,
        );
      }),
    );
  }
  for (const once of again) await once();
} catch (error) {
  failed++;
  process.stdout.write(`FAILED ${error.message}\n`);
}
cluster?.stop();
process.stdout.write(listed('Unsteady: failed beside the others, passed alone', unsteady) + listed('Failed', failures));
process.stdout.write(`\n${passed} passed, ${failed} failed${skipped ? `, ${skipped} skipped` : ''}\n`);
process.exit(failed ? 1 : 0);
