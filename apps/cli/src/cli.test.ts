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
    for (const option of options) expect(stdout).toContain(option.takes ? `--${option.name} <${option.takes}>` : `--${option.name} `);
    for (const [argument] of takes) expect(stdout).toMatch(new RegExp(`<${argument}(\\.\\.\\.)?>`));
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
    for (const example of examples.filter((each) => !/\.(txt|json|har|svg|pcapng|ini|bin|img|csv|xlsx)\b|^import|^template/.test(each)))
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

test('bring-up: messages of DHCP, versions, codes of networks, files merged, timings and ports', async () => {
  const lease = 'packages/core/src/bringup/dhcp/fixtures/lease.pcapng';
  const { messages } = (await run('dhcp', lease, '--json')).json() as {
    messages: { type: string; options: object[]; problems: object[] }[];
  };
  expect(messages.map(({ type }) => type).slice(0, 6)).toEqual(['DISCOVER', 'OFFER', 'DISCOVER', 'OFFER', 'REQUEST', 'ACK']);
  expect(messages[0]).toMatchObject({ xid: '0xcdaae447', clientMac: '56:b5:d3:db:49:8b', yourAddress: '0.0.0.0', problems: [] });
  expect(messages[0]?.options[3]).toEqual({ code: 12, name: 'host name', value: 'gul-k01', offset: 261 });
  const folder = mkdtempSync(join(tmpdir(), 'bringup-'));
  const file = (name: string, text: string): string => {
    writeFileSync(join(folder, name), text);
    return join(folder, name);
  };
  expect((await run('dhcp', file('m.txt', '01 02 0g'), '--hex')).stderr).toMatch(/m\.txt: line 1: has “g”/);
  expect((await run('dhcp', file('cut.pcap', '\u00d4\u00c3'))).json).toBeDefined();
  expect((await run('dhcp', join(folder, 'none'))).stderr).toContain('none: cannot be read');

  expect((await run('version', '3.4_118', '3.4_95', '--json')).json()).toEqual({ order: 1 });
  expect((await run('version', '3.4', 'v3')).stderr).toContain('“v3”: is no version');
  expect((await run('wifi', '--ssid', 'Quayside', '--key', 'tide table', '--hidden', '--json')).json()).toEqual({
    payload: 'WIFI:T:WPA;S:Quayside;P:tide table;H:true;;',
  });
  expect((await run('wifi', '--key', 'tide table')).stderr).toContain('--ssid: is missing');
  const merged = await run('merge', file('a.ini', '[picture]\nframeCap! = 30\n'), file('b.ini', '[picture]\nframeCap = 20\n'), '--json');
  expect(merged.json()).toEqual({
    values: [{ section: 'picture', key: 'frameCap', value: '30', file: join(folder, 'a.ini'), line: 2 }],
    problems: [{ file: join(folder, 'b.ini'), line: 2, text: expect.stringContaining('is locked by') }],
  });
  expect((await run('merge')).stderr).toContain('merge: FILES is missing');

  const [screen] = JSON.parse(readFileSync(join(root, 'packages/core/src/screens/fixtures/edids.json'), 'utf8')) as {
    hex: string;
    product: number;
  }[];
  const described = (await run('edid', file('screen.hex', screen!.hex), '--json')).json();
  expect(described).toMatchObject({
    manufacturer: expect.stringMatching(/^[A-Z]{3}$/),
    product: screen!.product,
    problems: expect.any(Array),
  });
  expect((await run('edid', file('none.bin', 'nothing'))).stderr).toContain('is no description of a screen');
  expect((await run('cvt', '1920', '1080', '60', '--reduced', '--json')).json()).toEqual({
    ...{
      clockMHz: 138.5,
      htotal: 2080,
      vtotal: 1111,
      hsyncStart: 1968,
      hsyncEnd: 2000,
      vsyncStart: 1083,
      vsyncEnd: 1088,
      refreshHz: 59.934,
    },
  });
  expect((await run('cvt', '1920.5', '1080', '60')).stderr).toContain('WIDTH: “1920.5” is not a whole number');
  expect((await run('cvt', '1920', '1080', '5')).stderr).toContain('REFRESH: “5” is not a number from 10 to 500');
});

// the figures of the ports are those of the HDMI 1.4b and 2.0 and VESA DisplayPort 1.4 specifications; clocks by VESA CVT reduced blanking
test.each<[string, object]>([
  ['--port hdmi-1.4 --width 3840 --height 2160 --refresh 60', { passes: false, neededGbps: 12.798, availableGbps: 8.16, clockMHz: 533.25 }],
  ['--port hdmi-1.4 --width 3840 --height 2160 --refresh 30', { passes: true, availableGbps: 8.16 }],
  ['--port hdmi-1.4 --width 3840 --height 2160 --refresh 60 --chroma 420', { passes: true, neededGbps: 6.399 }],
  ['--port dp-hbr2 --width 3840 --height 2160 --refresh 60', { passes: true, availableGbps: 17.28 }],
  ['--port dp-hbr2 --width 3840 --height 2160 --refresh 60 --lanes 2', { passes: false, availableGbps: 8.64 }],
  ['--port hdmi-2.0 --width 3840 --height 2160 --refresh 60 --lanes 2', { passes: true, availableGbps: 14.4 }],
  ['--port dvi --width 1920 --height 1200 --refresh 60', { passes: true, neededGbps: 3.696, availableGbps: 3.96 }],
])('passes %s', async (options, expected) => {
  expect((await run('passes', ...options.split(' '), '--json')).json()).toMatchObject(expected);
});

test('bring-up: a start is simulated from a folder, with the step that breaks and why', async () => {
  const demo = new URL('../../../demo/saltmarsh', import.meta.url).pathname;
  const start = async (endpoint: string) => {
    const { json, status } = await run('boot', demo, '--endpoint', endpoint, '--json');
    const { steps, brokenStep, cause } = json() as {
      steps: { name: string; status: string; durationMs: number; detail: string }[];
      brokenStep: string | null;
      cause: string | null;
    };
    expect(status).toBe(0);
    expect(steps.length).toBeGreaterThanOrEqual(8);
    for (const step of steps) expect(Object.keys(step)).toEqual(['name', 'status', 'durationMs', 'detail']);
    return [brokenStep, cause, steps.filter((step) => step.status === 'broken').length];
  };
  expect(await start('MAR-TC-014')).toEqual([null, null, 0]);
  expect(await start('MAR-TC-016')).toEqual(['link up', 'The network cable is not plugged in.', 1]);
  expect(await start('MAR-TC-017')).toEqual([
    'firmware compared',
    'The firmware that is offered to a thin-client, tc-4.12.1-x86, is for x86-64; this one has armhf.',
    1,
  ]);
  expect((await start('MAR-TC-018'))[0]).toBe('time set');
  expect(await start('MAR-TC-020')).toEqual(['configuration files fetched and merged', 'Line 2 of MAR-TC-020 has no “=”.', 1]);
  expect((await start('BRK-K01'))[1]).toBe('brack-lan gives option 226 as an address; a kiosk reads text.');
  expect((await run('boot', demo, '--endpoint', 'nobody')).stderr).toContain('--endpoint: no endpoint has the id “nobody”');
  expect((await run('boot', demo)).stderr).toContain('--endpoint: is missing');
});
