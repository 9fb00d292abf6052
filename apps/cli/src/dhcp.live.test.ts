import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { optionValue, readDhcp, type DhcpEntry } from '@underpass/core';
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/*
 * A real server (dnsmasq) gives a real client (busybox) a lease, in two network namespaces of this test's own; what is captured is read
 * here and by an independent analyser (tshark). Needs root and Debian's packages; where that is not so, the tests are told as skipped.
 */
const programs = ['/usr/sbin/dnsmasq', '/usr/bin/busybox', '/usr/bin/tshark', '/usr/bin/dumpcap', '/usr/sbin/ip'];
const [server, client] = [`underpass-s${process.pid}`, `underpass-c${process.pid}`];
const run = (...words: string[]) => spawnSync(words[0]!, words.slice(1), { encoding: 'utf8', timeout: 30_000 });
const inside = (space: string, ...words: string[]) => run('ip', 'netns', 'exec', space, ...words);
const missing = programs.filter((path) => !existsSync(path));
const why =
  process.getuid?.() !== 0
    ? 'it needs root'
    : missing.length
      ? `not installed: ${missing.join(', ')}`
      : run('unshare', '-n', 'true').status !== 0
        ? 'no network namespaces here'
        : null;

const later = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const folder = mkdtempSync(join(tmpdir(), 'dhcp-'));
const capture = join(folder, 'lease.pcapng');
const started: ChildProcess[] = [];
const begin = (space: string, ...words: string[]) => {
  const child = spawn('ip', ['netns', 'exec', space, ...words], { stdio: 'ignore' });
  started.push(child);
  return child;
};

async function lease(): Promise<void> {
  for (const space of [server, client]) run('ip', 'netns', 'add', space);
  run('ip', 'link', 'add', 'lan', 'netns', server, 'type', 'veth', 'peer', 'name', 'lan', 'netns', client);
  inside(server, 'ip', 'addr', 'add', '192.0.2.1/24', 'dev', 'lan');
  for (const space of [server, client]) inside(space, 'ip', 'link', 'set', 'lan', 'up');
  const captured = begin(server, 'dumpcap', '-q', '-i', 'lan', '-f', 'udp port 67 or udp port 68', '-w', capture);
  begin(
    server,
    ...[
      'dnsmasq',
      '-d',
      '-C',
      '/dev/null',
      '--port=0',
      '--interface=lan',
      '--bind-interfaces',
      `--dhcp-leasefile=${join(folder, 'leases')}`,
    ],
    ...['--dhcp-range=192.0.2.50,192.0.2.90,255.255.255.0,2m', '--dhcp-option=3,192.0.2.1', '--dhcp-option=42,192.0.2.4,192.0.2.5'],
    ...['--dhcp-option=119,saltmarsh.example,ferries.saltmarsh.example', '--dhcp-option=121,198.51.100.0/24,192.0.2.1'],
    ...['--dhcp-option-force=224,http://192.0.2.10/config', '--dhcp-option-force=225,192.0.2.11', `--dhcp-option=66,192.0.2.12`],
  );
  await later(2500);
  const asked = [224, 225, 119, 121, 42, 66].flatMap((code) => ['-O', String(code)]);
  inside(
    client,
    'busybox',
    'udhcpc',
    '-f',
    '-q',
    '-n',
    '-i',
    'lan',
    '-s',
    '/bin/true',
    ...asked,
    '-V',
    'thin-client:one',
    '-x',
    'hostname:gul-k01',
  );
  await later(1500);
  captured.kill('SIGINT');
  await later(800);
}

const told = why === null ? describe : describe.skip;
told(`a lease between a real server and a real client${why === null ? '' : ` (skipped: ${why})`}`, () => {
  let messages: DhcpEntry[] = [];
  let rows: string[][] = [];
  beforeAll(async () => {
    await lease();
    const reading = readDhcp(new Uint8Array(readFileSync(capture)));
    if (reading.ok) messages = reading.value.messages;
    const fields = ['dhcp.option.dhcp', 'dhcp.id', 'dhcp.hw.mac_addr', 'dhcp.ip.your', 'dhcp.option.type', 'dhcp.option.value'];
    const { stdout } = run(
      'tshark',
      '-r',
      capture,
      '-Y',
      'dhcp',
      '-T',
      'fields',
      '-E',
      'separator=|',
      ...fields.flatMap((field) => ['-e', field]),
    );
    rows = stdout
      .trim()
      .split('\n')
      .map((line) => line.split('|'));
  }, 60_000);
  afterAll(() => {
    for (const child of started) child.kill('SIGKILL');
    for (const space of [server, client]) {
      const { stdout } = run('ip', 'netns', 'pids', space);
      for (const pid of stdout.split('\n').filter(Boolean)) process.kill(Number(pid), 'SIGKILL');
      run('ip', 'netns', 'del', space);
    }
    rmSync(folder, { recursive: true, force: true });
  });

  test('is asked for, offered, taken and given', () => {
    expect([...new Set(messages.map(({ type }) => type))]).toEqual(['DISCOVER', 'OFFER', 'REQUEST', 'ACK']);
  });

  test('is read message by message as the analyser reads it', () => {
    const types = ['', 'DISCOVER', 'OFFER', 'REQUEST', 'DECLINE', 'ACK'];
    expect(messages.length).toBe(rows.length);
    for (const [i, message] of messages.entries()) {
      const [type, xid, mac, your, codes, values] = rows[i] as [string, string, string, string, string, string];
      expect([message.type, message.xid, message.clientMac, message.yourAddress]).toEqual([
        types[Number(type)],
        xid,
        mac.split(',')[0],
        your,
      ]);
      expect(message.options.map(({ code }) => code).join()).toBe(codes.replace(/,0$/, ''));
      for (const [n, value] of values.split(',').entries()) {
        const { code, value: own } = message.options[n]!;
        expect([code, own]).toEqual([code, optionValue(code, Uint8Array.from(Buffer.from(value, 'hex'))).value]);
      }
    }
  });

  test('has the fleet’s own numbers as they were given, and a lease that is told as too short', () => {
    const given = messages.find(({ type }) => type === 'OFFER' || type === 'ACK')!;
    const all = messages.flatMap(({ options }) => options);
    expect(all.find(({ code }) => code === 224)?.value).toBe('http://192.0.2.10/config');
    expect(all.find(({ code }) => code === 225)?.value).toBe('192.0.2.11');
    expect(all.find(({ code }) => code === 121)?.value).toBe('198.51.100.0/24 via 192.0.2.1');
    expect(given.problems.map(({ text }) => text)).toEqual([
      'gives a lease of 120 s; below 300 s devices ask again and again',
      // as this server really sends a text of option 66
      'option 66 (boot server name) ends in a NUL byte, which some clients take for a part of the text',
    ]);
  });
});
