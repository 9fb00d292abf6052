// npm run bench: what docs/performance.md tells, measured again. Figures are medians or 95th percentiles; nothing here passes or fails.
import { fork } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { startCluster } from './cluster.mjs';
import { ensureBuilt, ensureModules, programs, root, say } from './ready.mjs';

ensureModules();
ensureBuilt();
const { benchCore, demo } = await import('./bench-core.mjs');
const { benchSettings } = await import('./bench-settings.mjs');
const { benchBringup } = await import('./bench-bringup.mjs');
const { benchAccess } = await import('./bench-access.mjs');
const { largeEstate } = await import('./bench-estate.mjs');
const { benchBrowser } = await import('./bench-browser.mjs');
const { benchLarge, memoryOf, watched } = await import('./bench-large.mjs');
const { benchDirectory, benchLists } = await import('./bench-intake.mjs');
const port = 4790;
const percentile = (values, share) => [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))];
const rows = [];
const tell = (name, value, wanted = '') => {
  rows.push([name, value, wanted]);
  process.stdout.write(`${name}: ${value}${wanted ? `   (wanted ${wanted})` : ''}\n`);
};

async function withServer(databaseUrl, demo, work, who = 'ines.farrow@saltmarsh.example') {
  const env = {
    ...process.env,
    DATABASE_URL: databaseUrl,
    PORT: String(port),
    LOG_LEVEL: 'error',
    SECRET_KEY: 'a key of the benchmark, long enough',
    JOBS: 'elsewhere',
    // the directory that is read is on this machine
    ALLOWED_TARGETS: '127.0.0.1',
    DEMO_FOLDER: demo ? join(root, 'demo/saltmarsh') : '',
  };
  const part = async (file) => {
    const child = fork(join(root, file), [], { env });
    await new Promise((resolve, reject) => {
      child.once('message', resolve);
      child.once('exit', (code) => reject(new Error(`${file} stopped (${code})`)));
    });
    return child;
  };
  const from = performance.now();
  const server = await part(programs.server);
  const startedMs = performance.now() - from;
  const worker = await part(programs.worker);
  let cookie = '';
  const call = async (path, method = 'GET', body = undefined) => {
    const response = await fetch(`http://127.0.0.1:${port}/api/${path}`, {
      method,
      headers: { cookie, 'x-underpass': '1', 'content-type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    const set = response.headers.getSetCookie()[0];
    if (set) cookie = set.split(';')[0];
    const text = await response.text();
    if (!response.ok) throw new Error(`${path}: ${response.status} ${text.slice(0, 200)}`);
    return text ? JSON.parse(text) : null;
  };
  call.as = () => ({ url: `http://127.0.0.1:${port}`, cookie });
  try {
    await call('session', 'POST', { email: who, password: 'under-the-estuary' });
    await work(call, server.pid, startedMs, () => cookie);
  } finally {
    for (const child of [worker, server]) {
      child.kill('SIGTERM');
      await new Promise((resolve) => child.once('exit', resolve));
    }
  }
}

async function latencies(call, paths, rounds) {
  const all = [];
  for (const path of paths) await call(path); // once to warm up
  for (let i = 0; i < rounds; i++)
    for (const path of paths) {
      const start = performance.now();
      await call(path);
      all.push(performance.now() - start);
    }
  return all;
}
const reads = (endpoint, crossing) => [
  'board',
  'crossings?limit=200',
  'crossings?search=hall&verdict=limited&limit=200',
  `crossings/${encodeURIComponent(crossing)}`,
  'estate',
  'estate/endpoint?limit=200',
  `estate/endpoint?search=${endpoint}`,
  `find?q=${endpoint}`,
  'changes',
  'drafts',
  'check-links',
  'session',
  'access/people?limit=200',
  'access/people/P002',
  'access/publications',
  'access/guests',
  'access/why?person=P001&resource=hull',
];

/** The large estate brought in and evaluated. */
async function withLarge(call) {
  const { files } = largeEstate(50_000);
  let job = await call('estate/import', 'POST', { files, apply: true });
  while (job.state === 'running') {
    await new Promise((resolve) => setTimeout(resolve, 300));
    job = await call(`estate/import/${job.id}`);
  }
  if (job.state !== 'applied') throw new Error(JSON.stringify(job).slice(0, 600));
  while ((await call('crossings?limit=1')).total < 100_000) await new Promise((resolve) => setTimeout(resolve, 300));
}

/** One part by itself, on a database of its own, where it is asked for. */
async function alone(option, work) {
  if (!process.argv.includes(option)) return;
  const cluster = await startCluster('test-postgres', 4640, say);
  try {
    cluster.drop('bench');
    cluster.ensure('bench');
    await work(cluster);
  } finally {
    cluster.drop('bench');
    cluster.stop();
  }
  process.exit(0);
}

// what a hand waits for: npm run bench -- --hands
await alone('--hands', (cluster) =>
  withServer(cluster.url('bench'), true, async (call) => {
    await withLarge(call);
    // what an import leaves to do is measured elsewhere
    await new Promise((resolve) => setTimeout(resolve, 30_000));
    await benchBrowser(`http://localhost:${port}`, tell);
  }),
);

/** What edits cost on the large estate, begun from the start: what an import leaves the database to do is done before. */
async function edits(cluster) {
  cluster.tidy('bench');
  await withServer(cluster.url('bench'), true, async (call, pid, startedMs) => {
    tell('50 000 endpoints: start until the Board is right, s', (startedMs / 1000).toFixed(1), '10');
    await benchLarge(call, pid, tell);
  });
}

// edits: npm run bench -- --edits
await alone('--edits', async (cluster) => {
  await withServer(cluster.url('bench'), true, async (call) => {
    const { longestMs } = await watched(call, () => withLarge(call));
    tell('50 000 endpoints: others wait at the longest while they are imported and evaluated, ms', Math.round(longestMs), '100');
  });
  await edits(cluster);
});

/** Lists and directories, each over the demo. */
async function intake(cluster) {
  cluster.drop('bench');
  cluster.ensure('bench');
  const admin = 'admin@saltmarsh.example';
  await withServer(
    cluster.url('bench'),
    true,
    async (call, pid, startedMs, cookie) => {
      const send = async (path, text) => {
        const headers = { cookie: cookie(), 'x-underpass': '1', 'content-type': 'application/octet-stream' };
        const answer = await fetch(`http://127.0.0.1:${port}/api/${path}`, { method: 'POST', headers, body: text });
        if (!answer.ok) throw new Error(await answer.text());
        return answer.json();
      };
      await benchDirectory(call, tell);
      await benchLists(call, send, tell);
      tell('the server’s memory after lists and a directory, MB: now and at the most', JSON.stringify(memoryOf(pid)));
    },
    admin,
  );
}

// lists and directories: npm run bench -- --intake
await alone('--intake', intake);

for (const [name, value] of Object.entries(benchCore()))
  tell(
    `core: ${name}`,
    value,
    name.startsWith('crossings a second, with') ? '15000 and more' : name.startsWith('whole') ? 'well under 100' : '',
  );

for (const [name, value] of Object.entries(benchSettings())) tell(name, value, 'under 2000');

benchBringup(tell);

for (const [name, value] of Object.entries(benchAccess(demo))) tell(name, value, name.includes('10 000') ? 'under 1000' : '');

const assets = join(root, 'apps/web/dist/assets');
/** A piece of script with everything it imports before it runs. */
function withImports(name, known = new Set()) {
  if (known.has(name)) return known;
  known.add(name);
  const text = readFileSync(join(assets, name), 'utf8');
  for (const [, other] of text.matchAll(/(?:from|import)\s*["']\.\/([^"']+\.js)["']/g)) withImports(other, known);
  return known;
}
const first = [...readFileSync(join(root, 'apps/web/dist/index.html'), 'utf8').matchAll(/assets\/([^"]+\.js)/g)].map((match) => match[1]);
const board = readdirSync(assets).filter((name) => /^BoardPage-.*\.js$/.test(name));
const needed = new Set();
for (const name of [...first, ...board]) withImports(name, needed);
const size = [...needed].reduce((sum, name) => sum + gzipSync(readFileSync(join(assets, name))).length, 0);
tell('web: compressed script until the Board stands, kB', Math.round(size / 1000), 'at most 160');

const cluster = await startCluster('test-postgres', 4640, say);
try {
  cluster.drop('bench');
  cluster.ensure('bench');
  await withServer(cluster.url('bench'), true, async (call, pid) => {
    const crossing = 'P136~WEX-TC-020~timetable';
    tell(
      'demo estate: API reads, p95 ms',
      percentile(await latencies(call, reads('WEX-TC-020', crossing), 30), 0.95).toFixed(1),
      'under 50',
    );
    const changed = [];
    for (let i = 0; i < 6; i++) {
      const start = performance.now();
      await call('changes', 'POST', {
        change: { patches: [{ do: 'setting', key: 'picture.frameCap', layer: 'location', target: 'wexcombe', value: 20 + i }] },
        summary: 'bench',
      });
      await call('board');
      changed.push(performance.now() - start);
    }
    tell('demo estate: a setting applied until the Board shows it, median ms', Math.round(percentile(changed, 0.5)));
    if (process.argv.includes('--browser') || !process.argv.includes('--quick')) await browser();

    const { files, endpoint, crossing: large } = largeEstate(50_000);
    const start = performance.now();
    let job = await call('estate/import', 'POST', { files, apply: true });
    const during = [];
    while (job.state === 'running') {
      const asked = performance.now();
      job = await call(`estate/import/${job.id}`);
      during.push(performance.now() - asked);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    if (job.state !== 'applied') throw new Error(JSON.stringify(job).slice(0, 600));
    tell('50 000 endpoints: import until it is written, s', ((performance.now() - start) / 1000).toFixed(1));
    const evaluating = performance.now();
    let page = await call('crossings?limit=1');
    while (page.total < 100_000) {
      const asked = performance.now();
      page = await call('crossings?limit=1');
      during.push(performance.now() - asked);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    tell('50 000 endpoints: crossings', page.total);
    tell('50 000 endpoints: all of them evaluated after that, s', ((performance.now() - evaluating) / 1000).toFixed(1));
    tell(
      '50 000 endpoints: answers during import and evaluation, median and longest ms',
      `${Math.round(percentile(during, 0.5))}, ${Math.round(Math.max(...during))}`,
    );
    tell(
      '50 000 endpoints: API reads, p95 ms',
      percentile(await latencies(call, reads(endpoint, large), 20), 0.95).toFixed(1),
      'under 200',
    );
    // answers over the whole estate: what they take, and how long others wait meanwhile
    for (const path of ['access/requirements', 'access/acceptance', 'signon/savings']) {
      let done = false;
      const waits = [];
      const start = performance.now();
      const whole = call(path).finally(() => (done = true));
      while (!done) {
        const asked = performance.now();
        await call('session');
        waits.push(performance.now() - asked);
        await new Promise((resolve) => setTimeout(resolve, 10));
      }
      await whole;
      const first = performance.now() - start;
      const again = performance.now();
      await call(path);
      tell(
        `50 000 endpoints: ${path}, first and again, others wait at the longest, ms`,
        `${Math.round(first)}, ${Math.round(performance.now() - again)}, ${Math.round(Math.max(...waits))}`,
      );
    }
    tell('50 000 endpoints: the server’s memory after all that, MB', memoryOf(pid).now);
    await benchBrowser(`http://localhost:${port}`, tell);
  });
  await edits(cluster);
  await intake(cluster);
} finally {
  cluster.drop('bench');
  cluster.stop();
}

async function browser() {
  const { chromium } = await import('@playwright/test');
  const chrome = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'],
  });
  const page = await chrome.newPage({ baseURL: `http://localhost:${port}`, viewport: { width: 1280, height: 800 } });
  await page.goto('/board');
  await page.getByLabel('Address').fill('ines.farrow@saltmarsh.example');
  await page.getByLabel('Password').fill('under-the-estuary');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByText('Leading findings').waitFor();
  const usable = [];
  for (let i = 0; i < 7; i++) {
    const start = performance.now();
    await page.goto('/board', { waitUntil: 'commit' });
    await page.getByText('Leading findings').waitFor();
    usable.push(performance.now() - start);
  }
  tell('browser: the Board usable after, median ms', Math.round(percentile(usable, 0.5)), 'under 1000');
  await page.goto(`/crossings/${encodeURIComponent('P136~WEX-TC-020~timetable')}`);
  const strip = page.getByRole('radiogroup', { name: 'Frame rate' });
  await strip.waitFor();
  const react = [];
  for (const option of ['15', '20', '24', '60', '15', '24', '20', '60', '15']) {
    react.push(
      await strip.getByRole('radio', { name: option }).evaluate(
        (button) =>
          new Promise((resolve) => {
            const table = document.querySelector('#try-a-change table');
            const start = performance.now();
            const watch = new MutationObserver(() => {
              watch.disconnect();
              requestAnimationFrame(() => resolve(performance.now() - start));
            });
            watch.observe(table, { childList: true, subtree: true, characterData: true, attributes: true });
            button.click();
          }),
      ),
    );
  }
  tell('browser: a changed control until the figures stand, median ms', Math.round(percentile(react, 0.5)), 'under 50');
  await chrome.close();
}
