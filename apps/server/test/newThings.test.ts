import { afterAll, expect, test } from '@jest/globals';
import { execFile, fork, type ChildProcess } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { makeDatabase, people } from './server.js';

const root = new URL('../../..', import.meta.url).pathname;
const copy = mkdtempSync(join(tmpdir(), 'underpass-kind-'));
let server: ChildProcess | null = null;
afterAll(() => {
  server?.kill('SIGKILL');
  rmSync(copy, { recursive: true, force: true });
});

/** The new kind’s own file. */
const badge = `import { z } from 'zod';
import { Key, Name } from '../estate/fields.js';
import { defineKind } from './defineKind.js';

const Badge = z.strictObject({ id: Key, name: Name, person: Key, colour: z.enum(['red', 'blue']).default('blue') });

/** A badge that somebody carries. */
export const badge = defineKind({
  schema: Badge,
  file: 'badges.csv',
  references: { person: 'person' },
  words: { one: 'Badge', many: 'Badges' },
  list: [['colour', 'Colour']],
  look: 99,
  touches: [{ field: 'person', as: 'person' }],
  silent: ['colour'],
  faults: ({ badge: badges = [] }) =>
    badges.length > 3 ? [{ id: badges[3]!.id, field: 'id', problem: 'is the fourth badge', expected: 'three at the most' }] : [],
});
`;

/** A new setting: its entry in the catalogue. */
const tray = `  'client.paperTray': figureOf({
    label: 'Paper tray',
    does: 'Sheets that a printer holds',
    unit: 'sheets',
    min: 1,
    max: 5000,
    default: 250,
  }),
`;
/** A new kind of finding, which uses it. */
const paperLow = `import { doing, settingTo } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** A printer whose tray holds fewer than 100 sheets. */
export const paperLow: FindingKind = {
  kind: 'the paper tray is small',
  bay: 'Desk',
  weight: 'risk',
  detect: ({ endpoint }, { settings }) =>
    !endpoint.peripherals.includes('printer') || settings['client.paperTray'] >= 100
      ? null
      : {
          text: \`The tray holds \${settings['client.paperTray']} sheets\`,
          cost: cost.risk,
          costText: 'paper',
          sure: 'sure',
          evidence: () => [{ source: 'declared', text: 'as it is set' }],
          remedies: () => [{ text: 'Fill it', change: doing(settingTo('client.paperTray', 'endpoint', endpoint.id, 500)), ask: 'by hand' }],
        },
};
`;
/** A new stage with its screen. */
const stage = `import type { Stage } from '../shell/stage.js';

export const paperStage: Stage = {
  menu: { name: 'Paper', to: '/paper', key: 'g z' },
  routes: [{ path: 'paper', lazy: async () => ({ Component: (await import('./PaperPage.js')).PaperPage }) }],
  shortcuts: [['z', 'Count the sheets']],
  live: { results: ['paper'] },
};
`;
const screen = `export function PaperPage() {
  return <h1>Paper</h1>;
}
`;

/** A copy of what is built, with the packages of this one. */
function makeCopy(): void {
  for (const part of ['packages/contracts', 'packages/core', 'apps/server', 'apps/web'])
    cpSync(join(root, part), join(copy, part), {
      recursive: true,
      filter: (path) => !/\/(node_modules|dist|\.cache|test)(\/|$)|\.test\.ts$|tsbuildinfo$/.test(path),
    });
  cpSync(join(root, 'tsconfig.base.json'), join(copy, 'tsconfig.base.json'));
  mkdirSync(join(copy, 'node_modules/@underpass'), { recursive: true });
  for (const name of readdirSync(join(root, 'node_modules')))
    if (!name.startsWith('.') && name !== '@underpass') symlinkSync(join(root, 'node_modules', name), join(copy, 'node_modules', name));
  if (existsSync(join(root, 'apps/web/node_modules')))
    symlinkSync(join(root, 'apps/web/node_modules'), join(copy, 'apps/web/node_modules'));
  symlinkSync(join(copy, 'packages/contracts'), join(copy, 'node_modules/@underpass/contracts'));
  symlinkSync(join(copy, 'packages/core'), join(copy, 'node_modules/@underpass/core'));
}

/** Puts something into a file of the copy, where what it is put in the place of stands once. */
function addLine(file: string, where: string, what: string, first = ''): void {
  const path = join(copy, file);
  const text = readFileSync(path, 'utf8');
  if (text.split(where).length !== 2) throw new Error(`${file} has not one “${where}”`);
  writeFileSync(path, `${first && `${first}\n`}${text.replace(where, () => what)}`);
}

/** Runs a program of Node in a folder; what it told goes into the failure. */
const node = (args: string[], cwd: string) =>
  promisify(execFile)(process.execPath, args, { cwd, env: { ...process.env, NODE_OPTIONS: '' } }).catch((failure: { stdout: string }) => {
    throw new Error(failure.stdout);
  });

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });

test('a kind of object, a setting, a finding and a stage are what the page on architecture says, and everything has them then', async () => {
  makeCopy();
  writeFileSync(join(copy, 'packages/contracts/src/kinds/badge.ts'), badge);
  addLine(
    'packages/contracts/src/kinds/index.ts',
    '  setting,\n  deviceClass,',
    '  badge,\n  setting,\n  deviceClass,',
    "import { badge } from './badge.js';",
  );
  // a setting is an entry and its use, a finding a file and a line
  addLine(
    'packages/core/src/settings/catalogue/client.ts',
    'export const clientSettings = {\n',
    `export const clientSettings = {\n${tray}`,
    "import { figureOf } from './definition.js';",
  );
  writeFileSync(join(copy, 'packages/core/src/crossing/findings/desk/paperLow.ts'), paperLow);
  addLine(
    'packages/core/src/crossing/findings/index.ts',
    '  peripheralNoWay,\n',
    '  peripheralNoWay,\n  paperLow,\n',
    "import { paperLow } from './desk/paperLow.js';",
  );
  // a screen is a stage's own folder and its line
  mkdirSync(join(copy, 'apps/web/src/paper'));
  writeFileSync(join(copy, 'apps/web/src/paper/stage.ts'), stage);
  writeFileSync(join(copy, 'apps/web/src/paper/PaperPage.tsx'), screen);
  addLine(
    'apps/web/src/shell/stages.ts',
    '  signinStage,\n]',
    '  signinStage,\n  paperStage,\n]',
    "import { paperStage } from '../paper/stage.js';",
  );
  // nothing else has to be said for the whole to be right in its types
  const tsc = join(root, 'node_modules/typescript-7/bin/tsc');
  const projects = ['packages/contracts', 'packages/core', 'apps/server'].map((part) => join(copy, part, 'tsconfig.build.json'));
  await node([tsc, '-b', ...projects, join(copy, 'apps/web')], copy);
  // menu, shortcuts, router and live queries have the stage
  const vite = join(root, 'node_modules/vite/bin/vite.js');
  await node(
    [vite, 'build', '--ssr', 'src/shell/stages.ts', '--outDir', join(copy, 'stages'), '--logLevel', 'error'],
    join(copy, 'apps/web'),
  );
  const asked =
    "const { menu, stages, livesOn } = await import('./stages.js'); const { routes, shortcuts } = stages.at(-1); \
    const { Component } = await routes[0].lazy(); \
    console.log(JSON.stringify([menu.at(-1).name, shortcuts, livesOn('results').includes('paper'), Component().type]))";
  const { stdout } = await node(['--input-type=module', '-e', asked], join(copy, 'stages'));
  expect(JSON.parse(stdout)).toEqual(['Paper', [['z', 'Count the sheets']], true, 'h1']);

  const database = await makeDatabase('demo');
  const port = await freePort();
  server = fork(join(copy, 'apps/server/dist/main.js'), [], {
    env: {
      ...process.env,
      NODE_OPTIONS: '',
      DATABASE_URL: database.url,
      PORT: String(port),
      LOG_LEVEL: 'error',
      DEMO_FOLDER: join(root, 'demo/saltmarsh'),
    },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  await new Promise((resolve, reject) => {
    server?.once('message', resolve);
    server?.once('exit', () => reject(new Error('the server did not start')));
  });
  let cookie = '';
  const call = async (path: string, method = 'GET', body?: object, headers: Record<string, string> = {}) => {
    const response = await fetch(`http://127.0.0.1:${port}/api/${path}`, {
      method,
      headers: { cookie, 'x-underpass': '1', 'content-type': 'application/json', ...headers },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? cookie;
    return { status: response.status, body: (await response.json()) as Record<string, unknown> };
  };
  await call('session', 'POST', { email: people.engineer, password: 'under-the-estuary' });
  const fresh = { 'if-none-match': '*' };
  expect((await call('estate/badge/B1', 'PUT', { id: 'B1', name: 'First badge', person: 'P001' }, fresh)).status).toBe(200);
  expect((await call('estate/badge/B2', 'PUT', { id: 'B2', name: 'x', person: 'nobody' }, fresh)).body).toMatchObject({
    status: 422,
    fields: [{ field: 'person', problem: 'no person has the id “nobody”' }],
  });
  expect((await call('estate/badge/B2', 'PUT', { id: 'B2', name: 'x', person: 'P001', colour: 'green' }, fresh)).status).toBe(422);
  expect((await call('estate/badge')).body).toMatchObject({ total: 1, rows: [{ id: 'B1', colour: 'blue' }] });
  expect((await call('find?q=first%20badge')).body).toMatchObject([{ kind: 'badge', id: 'B1' }]);
  expect((await call('estate/schemas')).body).toHaveProperty(['badges.csv']);
  // it keeps the person it names from being taken away, and goes through a change like every other kind
  expect((await call('estate/person/P001', 'DELETE')).status).toBe(409);
  const change = { patches: [{ do: 'change', kind: 'badge', id: 'B1', set: { colour: 'red' } }], hypotheses: [] };
  expect((await call('changes', 'POST', { change, summary: 'Red' })).status).toBe(201);
  // impact looks at the crossings of the person it names, and at none for a field that says nothing of them
  const impact = async (set: object) =>
    (await call('impact', 'POST', { change: { patches: [{ do: 'change', kind: 'badge', id: 'B1', set }], hypotheses: [] } })).body
      .crossings as number;
  const own = ((await call('crossings?person=P001')).body as { total: number }).total;
  expect([await impact({ name: 'Another' }), await impact({ colour: 'blue' })]).toEqual([own, 0]);
  // files, both ways, with what is wrong told by line
  const files = { 'badges.csv': 'id,name,person,colour\nB5,Fifth,P002,red\nB6,Sixth,P003,pink\n' };
  const { body: started } = await call('estate/import', 'POST', { files, apply: true });
  let job = started;
  while (job.state === 'running') {
    await new Promise((resolve) => setTimeout(resolve, 100));
    job = (await call(`estate/import/${String(started.id)}`)).body;
  }
  expect(job).toMatchObject({ state: 'rejected', result: { rejected: [{ file: 'badges.csv', line: 3, field: 'colour' }] } });
  for (const id of ['B3', 'B4']) await call(`estate/badge/${id}`, 'PUT', { id, name: id, person: 'P002' }, fresh);
  // the setting is one like all others: known by the interface, faults told, and the finding computes with it
  const trayOf = (value: number) => ({
    change: { patches: [{ do: 'setting', key: 'client.paperTray', layer: 'organisation', target: '*', value }], hypotheses: [] },
    summary: 'Trays',
  });
  expect((await call('changes', 'POST', trayOf(0))).status).toBe(422);
  expect((await call('changes', 'POST', trayOf(20))).status).toBe(201);
  const found = async () =>
    (await call('crossings?kind=the%20paper%20tray%20is%20small')).body as { total: number; rows: { id: string }[] };
  for (let i = 0; i < 100 && (await found()).total === 0; i++) await new Promise((resolve) => setTimeout(resolve, 100));
  const { total, rows } = await found();
  expect(total).toBeGreaterThan(0);
  const { view } = (await call(`crossings/${encodeURIComponent(String(rows[0]?.id))}`)).body as {
    view: { findings: { kind: string; text: string }[] };
  };
  expect(view.findings.find(({ kind }) => kind === 'the paper tray is small')?.text).toBe('The tray holds 20 sheets');
  // what it finds wrong in the whole
  expect((await call('estate/badge/B9', 'PUT', { id: 'B9', name: 'x', person: 'P002' }, fresh)).body).toMatchObject({
    detail: expect.stringContaining('is the fourth badge'),
  });
  server.kill('SIGTERM');
  await new Promise((resolve) => server?.once('exit', resolve));
  await database.drop();
}, 180_000);
