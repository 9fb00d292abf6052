import { expect, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const root = new URL('../../..', import.meta.url).pathname;
const run = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'apps/cli/dist/main.js'), ...args], {
    cwd: root,
    encoding: 'utf8',
    env: { PATH: process.env.PATH },
    maxBuffer: 1 << 28,
  });
  return { status, stdout, stderr, json: () => JSON.parse(stdout) as Record<string, unknown> };
};

test('evaluate prints one JSON document with the public field names', () => {
  const all = run('evaluate', 'demo/saltmarsh', '--endpoint', 'WEX-TC-020', '--json').json() as {
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

test('the calculators answer with the standards’ figures', () => {
  expect(run('throughput', '--rtt', '100', '--loss', '1', '--window', '65535', '--json').json()).toEqual({
    rfc5348Mbps: expect.closeTo(1.31, 2),
    mathisMbps: expect.closeTo(1.43, 2),
    windowMbps: expect.closeTo(5.24, 2),
  });
  expect(run('voice', '--delay', '150', '--loss', '0', '--json').json()).toMatchObject({ idd: expect.closeTo(0.2, 1), ieEff: 0 });
  expect(run('wifi-rate', '--standard', 'he', '--width', '160', '--mcs', '11', '--streams', '2', '--gi', '800', '--json').json()).toEqual({
    mbps: 2402,
  });
  expect(
    run(
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
    ).json(),
  ).toMatchObject({ h264Level: '5.2', hevcLevel: '5.1', macroblocksPerS: 1_944_000 });
  expect(run('link', 'packages/core/src/link/fixtures/ping.txt', '--json').json()).toMatchObject({
    sent: 6,
    received: 6,
    downMbps: null,
    upMbps: null,
  });
});

test('a fault goes to standard error with its place, and the status is 2', () => {
  const folder = mkdtempSync(join(tmpdir(), 'underpass-'));
  writeFileSync(join(folder, 'people.csv'), 'id,name,kind,location\nP1,Ann,staff,nowhere\n');
  const settings = mkdtempSync(join(tmpdir(), 'underpass-'));
  writeFileSync(
    join(settings, 'settings.yaml'),
    '- id: s1\n  key: picture.frameCap\n  layer: organisation\n  target: "*"\n  value: fast\n',
  );
  for (const [args, place] of [
    [['evaluate', settings], 'settings.yaml:1: value'],
    [['evaluate', folder], 'people.csv:2: location'],
    [['evaluate', '/no/such/folder'], '/no/such/folder'],
    [['evaluate', 'demo/saltmarsh', '--person', 'nobody'], '--person'],
    [['voice', '--delay', 'long', '--loss', '1'], '--delay'],
    [['voice', '--delay', '1', '--loss', '101'], '--loss'],
    [['wifi-rate', '--standard', 'vht', '--width', '20', '--mcs', '9', '--streams', '1', '--gi', '400'], '--mcs'],
    [['nonsense'], 'nonsense'],
    [['voice', '--dealy', '1'], '--dealy'],
  ] as const) {
    const { status, stdout, stderr } = run(...args);
    expect([args, status, stdout]).toEqual([args, 2, '']);
    expect(stderr).toContain(place);
    expect(stderr).not.toMatch(/\n\s+at /);
  }
});
