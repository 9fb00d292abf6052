import { expect, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CommandError } from './commandError.js';
import { commandLine } from './commandLine.js';
import { commands } from './commands.js';

const root = new URL('../../..', import.meta.url).pathname;
interface Ran {
  status: number | null;
  stdout: string;
  stderr: string;
  json: () => Record<string, unknown>;
}
const ran = (status: number | null, stdout: string, stderr: string): Ran => ({
  status,
  stdout,
  stderr,
  json: () => JSON.parse(stdout) as Record<string, unknown>,
});
/** A command, carried out here as the program does it. */
const run = async (...args: string[]): Promise<Ran> => {
  const before = process.cwd();
  process.chdir(root);
  try {
    return ran(0, await commandLine(args), '');
  } catch (error) {
    if (!(error instanceof CommandError)) throw error;
    return ran(2, '', `underpass: ${error.message}\n`);
  } finally {
    process.chdir(before);
  }
};

/** The program itself. */
const program = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'apps/cli/dist/main.js'), ...args], {
    cwd: root,
    encoding: 'utf8',
    env: { PATH: process.env.PATH },
  });
  return { status, stdout, stderr };
};

test('the program prints what a command answers, and tells a fault apart from it', async () => {
  for (const args of [['voice', '--delay', '150', '--loss', '0', '--json'], ['throughput', '--rtt', 'fast'], []]) {
    const { status, stdout, stderr } = await run(...args);
    expect(program(...args)).toEqual({ status, stdout, stderr });
  }
});

test('help of all and of each command, the version, and the nearest right option', async () => {
  const { version } = JSON.parse(readFileSync(join(root, 'apps/cli/package.json'), 'utf8')) as { version: string };
  expect((await run('--version')).stdout).toBe(`${version}\n`);
  const all = (await run('--help')).stdout;
  expect(all).toMatch(/^Usage: underpass COMMAND/);
  const names = [...commands.map(({ name }) => name), 'backup', 'restore'];
  for (const name of names) expect(all).toMatch(new RegExp(`\\n {2}${name} `));
  expect(all.split('\n').filter((line) => line.length > 120)).toEqual([]);
  for (const { name, does, options, takes = [], examples } of commands) {
    const { status, stdout } = await run(name, '--help');
    expect([name, status]).toEqual([name, 0]);
    expect(stdout.replaceAll(/\s+/g, ' ')).toContain(does);
    for (const option of options) expect(stdout).toContain(`--${option.name} <${option.takes}>`);
    for (const [argument] of takes) expect(stdout).toContain(`<${argument}>`);
    expect(examples.length).toBeGreaterThan(0);
    for (const example of examples) expect(stdout).toContain(`npm run -s underpass -- ${example}`);
  }
  expect((await run('voice', '--dealy', '1')).stderr).toBe(
    'underpass: --dealy: is not an option here; did you mean --delay?\nSee: voice --help\n',
  );
  expect((await run('evalute')).stderr).toBe('underpass: “evalute” is not a command; did you mean evaluate?\nSee: --help\n');
  expect((await run('voice', '--delay')).stderr).toContain('--delay: is missing its value');
  expect((await run('evaluate')).stderr).toContain('evaluate: FOLDER is missing');
  expect((await run('backup', 'x')).stderr).toContain('run it as');
});

test('the examples of the help that need no file of one’s own work', async () => {
  for (const { examples } of commands)
    for (const example of examples.filter((each) => !/\.(txt|json|har|svg)\b|^import/.test(each)))
      expect([example, (await run(...example.split(' '))).status]).toEqual([example, 0]);
});

test('figures are told as far as they are known, and a picture has what is usual where nothing else is said', async () => {
  const usual = await run('picture', '--width', '1920', '--height', '1080', '--json');
  for (const [, figure] of usual.stdout.matchAll(/:([\d.]+)/g)) expect((figure as string).replace(/\D/g, '').length).toBeLessThanOrEqual(7);
  const said = ['--fps', '30', '--codec', 'h264', '--chroma', '4:2:0'];
  expect((await run('picture', '--width', '1920', '--height', '1080', ...said, '--json')).json()).toEqual(usual.json());
  const text = (await run('voice', '--delay', '177', '--loss', '1.3')).stdout;
  for (const [, figure] of text.matchAll(/: ([\d.]+)\n/g))
    expect((figure as string).replace(/^0\.0*|\D/g, '').length).toBeLessThanOrEqual(4);
});

test('evaluate prints one JSON document with the public field names', async () => {
  const all = (await run('evaluate', 'demo/saltmarsh', '--endpoint', 'WEX-TC-020', '--json')).json() as {
    crossings: Record<string, unknown>[];
    counts: Record<string, number>;
  };
  expect(Object.keys(all.counts).sort()).toEqual(['blocked', 'clear', 'limited', 'unknown']);
  const crossing = all.crossings.find((each) => each.resource === 'timetable');
  expect(Object.keys(crossing ?? {})).toEqual([
    'person',
    'endpoint',
    'location',
    'resource',
    'verdict',
    'firstBroken',
    'delayMs',
    'frameRate',
    'frameLimiter',
    'demandMbps',
    'availableMbps',
    'timeToUsableS',
    'voice',
    'findings',
  ]);
  expect(crossing).toMatchObject({
    verdict: 'limited',
    frameLimiter: 'line',
    firstBroken: null,
    voice: { hostMos: null, endpointMos: null },
  });
  expect((crossing?.findings as { remedies: object[] }[])[0]?.remedies[0]).toEqual({
    text: expect.any(String),
    effect: expect.any(String),
  });
});

test('the calculators answer with the standards’ figures', async () => {
  expect((await run('throughput', '--rtt', '100', '--loss', '1', '--window', '65535', '--json')).json()).toEqual({
    rfc5348Mbps: expect.closeTo(1.31, 2),
    mathisMbps: expect.closeTo(1.43, 2),
    windowMbps: expect.closeTo(5.24, 2),
  });
  expect((await run('voice', '--delay', '150', '--loss', '0', '--json')).json()).toMatchObject({ idd: expect.closeTo(0.2, 1), ieEff: 0 });
  expect(
    (await run('wifi-rate', '--standard', 'he', '--width', '160', '--mcs', '11', '--streams', '2', '--gi', '800', '--json')).json(),
  ).toEqual({
    mbps: 2402,
  });
  expect(
    (
      await run(
        'picture',
        '--width',
        '3840',
        '--height',
        '2160',
        '--fps',
        '60',
        '--codec',
        'h264',
        '--chroma',
        '420',
        '--content',
        'motion',
        '--json',
      )
    ).json(),
  ).toMatchObject({ h264Level: '5.2', hevcLevel: '5.1', macroblocksPerS: 1_944_000 });
  expect((await run('link', 'packages/core/src/link/fixtures/ping.txt', '--json')).json()).toMatchObject({
    sent: 6,
    received: 6,
    downMbps: null,
    upMbps: null,
  });
});

test('a fault goes to standard error with its place, and the status is 2', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'underpass-'));
  writeFileSync(join(folder, 'people.csv'), 'id,name,kind,location\nP1,Ann,staff,nowhere\n');
  const settings = mkdtempSync(join(tmpdir(), 'underpass-'));
  writeFileSync(
    join(settings, 'settings.yaml'),
    '- id: s1\n  key: picture.frameCap\n  layer: organisation\n  target: "*"\n  value: fast\n',
  );
  for (const [args, place] of [
    [['evaluate', settings], 'settings.yaml:5: value'],
    [['evaluate', folder], 'people.csv:2: location'],
    [['evaluate', '/no/such/folder'], '/no/such/folder'],
    [['evaluate', 'demo/saltmarsh', '--person', 'nobody'], '--person'],
    [['voice', '--delay', 'long', '--loss', '1'], '--delay'],
    [['voice', '--delay', '1', '--loss', '101'], '--loss'],
    [['wifi-rate', '--standard', 'vht', '--width', '20', '--mcs', '9', '--streams', '1', '--gi', '400'], '--mcs'],
    [['nonsense'], 'nonsense'],
    [['voice', '--dealy', '1'], '--dealy'],
  ] as const) {
    const { status, stdout, stderr } = await run(...args);
    expect([args, status, stdout]).toEqual([args, 2, '']);
    expect(stderr).toContain(place);
    expect(stderr).not.toMatch(/\n\s+at /);
  }
});

test('sees and why tell the chains, the one that starts at once, and the first missing link', async () => {
  const person = (await run('sees', 'demo/saltmarsh', '--person', 'P007', '--json')).json();
  expect(Object.keys(person)).toEqual(['now', 'afterNextSignIn', 'startsAtOnce']);
  expect(person).toMatchObject({
    now: [{ resource: 'documents' }, { resource: 'posters', chain: ['P007', 'posters', 'posters', 'main', 'posters'] }],
    afterNextSignIn: [{ resource: 'documents' }, { resource: 'timetable' }],
    startsAtOnce: null,
  });
  expect((await run('sees', 'demo/saltmarsh', '--person', 'K01', '--json')).json()).toMatchObject({ startsAtOnce: 'workshop' });
  const why = async (resource: string) => (await run('why', 'demo/saltmarsh', '--person', 'P081', '--resource', resource, '--json')).json();
  expect(await why('safety')).toEqual({
    seen: false,
    missing: {
      step: 'publication attached to portal',
      object: 'safety',
      remedy: 'Attach the publication Safety handbook to Main portal',
      alsoOpensTo: 5,
    },
  });
  expect(await why('documents')).toEqual({ seen: true, missing: null });
  expect(await why('hull')).toMatchObject({ seen: false, missing: { step: 'person in group', object: 'P081', alsoOpensTo: 0 } });
});

test('acceptance and ready answer with the public field names', async () => {
  const plan = (await run('acceptance', 'demo/saltmarsh', '--json')).json() as {
    sets: { people: string[]; resources: string[] }[];
    testers: string[];
    optimal: boolean;
  };
  expect(Object.keys(plan)).toEqual(['sets', 'testers', 'optimal']);
  expect([plan.optimal, plan.testers.length, plan.sets.flatMap(({ people }) => people).length]).toEqual([true, 12, 393]);
  const ready = (await run('ready', 'demo/saltmarsh', '--feature', 'kiosk-single-resource', '--json')).json();
  expect(ready).toEqual({
    ready: 2,
    fallback: 0,
    notReady: 1,
    notKnown: 0,
    blockers: [
      { condition: 'stays-on', bay: 'Endpoint', people: 1 },
      { condition: 'one-resource', bay: 'Workspace', people: 1 },
    ],
  });
  expect((await run('ready', 'demo/saltmarsh', '--feature', 'kiosk-single-resource', '--person', 'K01', '--json')).json()).toMatchObject({
    ready: 1,
    notReady: 0,
  });
});

test('har reads a recording; code is read back by an independent reader', async () => {
  const har = (await run('har', 'packages/core/src/signon/fixtures/signin.har', '--json')).json() as { steps: { name: string }[] };
  expect(Object.keys(har)).toEqual(['totalMs', 'steps', 'criticalPath', 'redirects', 'failed']);
  expect(Object.keys(har.steps[0] ?? {})).toEqual(['name', 'startMs', 'durationMs', 'requests']);
  const folder = mkdtempSync(join(tmpdir(), 'code-'));
  for (const text of ['https://portal.example/open/yard/orders', 'Grüße, 水', 'x'.repeat(900)]) {
    const file = join(folder, 'code.png');
    expect(program('code', text, '--out', file).status).toBe(0);
    // zbarimg of Debian's zbar-tools
    expect(spawnSync('zbarimg', ['-q', '--raw', '--oneshot', '-Sbinary', file], { encoding: 'utf8' }).stdout.trimEnd()).toBe(text);
  }
  expect(program('code', 'hello', '--out', join(folder, 'code.svg')).status).toBe(0);
  expect(readFileSync(join(folder, 'code.svg'), 'utf8')).toMatch(/^<svg[^]*viewBox="0 0 29 29"/);
});

test('a fault of the access commands names what is wrong, with status 2', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'loop-'));
  writeFileSync(join(folder, 'groups.csv'), 'id,name,rank,memberOf,publications\na,A,1,b,\nb,B,2,c,\nc,C,3,a,\n');
  const broken = join(folder, 'broken.har');
  writeFileSync(broken, '{"log":{"entries":[{"startedDateTime":"noon"}]}}');
  const cases: [string[], string][] = [
    [['sees', 'demo/saltmarsh'], '--person: is missing'],
    [['sees', 'demo/saltmarsh', '--person', 'P999'], 'no person has the id “P999”'],
    [['why', 'demo/saltmarsh', '--person', 'P001', '--resource', 'nothing'], 'no resource has the id “nothing”'],
    [['ready', 'demo/saltmarsh', '--feature', 'flying'], 'no set is called “flying”; there are app-file-sync'],
    [['acceptance', folder], 'groups.csv:2: memberOf the groups go round in a loop: a in b in c in a'],
    [['har', broken], 'log.entries.0.startedDateTime: must be a time'],
    [['har', '/no/such.har'], '/no/such.har: cannot be read'],
    [['code', 'x', '--out', 'code.gif'], '--out: give a file that ends in .svg or .png'],
    [['code', 'x', '--out', '/no/such/folder/code.png'], '--out: /no/such/folder/code.png cannot be written'],
    [['code', 'x'.repeat(5000), '--out', join(folder, 'c.png')], 'code: '],
  ];
  for (const [args, said] of cases) {
    const { status, stderr, stdout } = await run(...args);
    expect([args[0], status, stdout, stderr]).toEqual([args[0], 2, '', expect.stringContaining(said)]);
    expect(stderr).not.toContain('    at ');
  }
});
