import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { DeviceReport } from '@underpass/contracts';
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { reportedFields } from './device.js';
import { objectScript } from './objectScript.js';
import { shellScript } from './shellScript.js';

const shells = ['/bin/sh', '/bin/bash', '/usr/bin/busybox'].filter((path) => existsSync(path));
const folder = mkdtempSync(join(tmpdir(), 'enrol-'));
const script = join(folder, 'report.sh');
const root = join(folder, 'root');
const put = (path: string, content: string | Uint8Array) => {
  mkdirSync(dirname(join(root, path)), { recursive: true });
  writeFileSync(join(root, path), content);
};
const [screen] = JSON.parse(readFileSync(new URL('../../screens/fixtures/edids.json', import.meta.url), 'utf8')) as {
  hex: string;
  preferred: number[];
}[];

/** A system as it shows itself beneath a folder: the kernel's documented files [Documentation/ABI of Linux, from memory]. */
beforeAll(() => {
  writeFileSync(script, shellScript("http://127.0.0.1:1/enrol/it's/report"));
  put('etc/hostname', 'till-7\n');
  put('etc/machine-id', '0123456789abcdef0123456789abcdef\n');
  put('etc/os-release', 'NAME="Example"\nPRETTY_NAME="Example "quoted" \\\\ system 12"\n');
  put('etc/timezone', 'Europe/Lisbon\n');
  put('proc/cpuinfo', 'processor\t: 0\nmodel name\t: x\nprocessor\t: 1\n');
  put('proc/meminfo', 'MemTotal:        8052340 kB\nMemFree: 1 kB\n');
  put('proc/net/route', 'Iface\tDestination\tGateway\nwlan0\t00000000\t0102A8C0\nwlan0\t0002A8C0\t00000000\n');
  put('proc/net/wireless', 'Inter-| sta-|\n face | tus |\n wlan0: 0000   58.  -52.  -256        0\n');
  put('sys/class/net/wlan0/wireless/x', '');
  put('sys/class/dmi/id/chassis_type', '10\n');
  put('sys/class/dmi/id/product_name', 'Notebook\t5\n');
  put('sys/class/drm/card0/device/vendor', '0x8086\n');
  put('sys/class/drm/card0/device/device', '0x9a49\n');
  put('sys/class/drm/card0-eDP-1/status', 'connected\n');
  put('sys/class/drm/card0-eDP-1/edid', Buffer.from(screen?.hex ?? '', 'hex'));
  put('sys/class/drm/card0-DP-1/status', 'disconnected\n');
  put('sys/class/drm/card0-DP-1/edid', '');
  put('sys/bus/usb/devices/1-2/idVendor', '046d\n');
  put('sys/bus/usb/devices/1-2/idProduct', '0825\n');
  for (const [name, value] of [
    ['bInterfaceClass', '0e'],
    ['bInterfaceSubClass', '01'],
    ['bInterfaceProtocol', '00'],
  ] as const)
    put(`sys/bus/usb/devices/1-2:1.0/${name}`, `${value}\n`);
  put('sys/bus/usb/devices/usb1/idVendor', 'not hex\n');
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const run = (shell: string, ...args: string[]) =>
  spawnSync(shell, [...(shell.endsWith('busybox') ? ['sh'] : []), script, ...args], { encoding: 'utf8' });
const toldOf = (output: string): DeviceReport => DeviceReport.parse(JSON.parse(output.split('\n')[1] ?? ''));

describe.each(shells)('the script in %s', (shell) => {
  it('tells what the system shows', () => {
    const { stdout, stderr, status } = run(
      shell,
      '--root',
      root,
      '--print',
      '--class',
      'laptop',
      '--client',
      'native client',
      '--client-version',
      '4.12.1',
    );
    expect([status, stderr]).toEqual([0, '']);
    const { time, machine, ...told } = toldOf(stdout);
    expect(Math.abs(Date.parse(time ?? '') - Date.now())).toBeLessThan(60_000);
    expect(machine).toBe(execFileSync('uname', ['-m'], { encoding: 'utf8' }).trim());
    expect(told).toEqual({
      ...{
        v: 1,
        key: expect.stringMatching(/^[0-9a-f]{32}$/),
        name: 'till-7',
        cpus: 2,
        memoryKB: 8_052_340,
        chassis: 10,
        model: 'Notebook5',
      },
      ...{
        system: 'Example quoted  system 12',
        addresses: [],
        connection: 'wifi',
        signalDbm: -52,
        graphics: ['8086:9a49'],
        zone: 'Europe/Lisbon',
      },
      screens: [{ port: 'card0-eDP-1', edid: screen?.hex }],
      usb: [{ vendor: '046d', product: '0825', classes: ['0e/01/00'] }],
      ...{ class: 'laptop', client: { kind: 'native client', version: '4.12.1' } },
    });
    const [widthPx, heightPx] = screen?.preferred ?? [];
    expect(reportedFields(toldOf(stdout), Date.now())).toMatchObject({
      ...{
        deviceClass: 'laptop',
        memoryMB: 7864,
        cores: 2,
        connection: 'wifi',
        wifiSignalDbm: -52,
        peripherals: ['camera'],
        clock: 'right',
      },
      screens: [{ widthPx, heightPx, port: 'internal' }],
    });
  });
  it('tells of this machine too, and of its own number a sum alone', () => {
    const { stdout, status } = run(shell, '--print');
    expect(status).toBe(0);
    const told = toldOf(stdout);
    expect(told.name).toBe(execFileSync('uname', ['-n'], { encoding: 'utf8' }).trim().slice(0, 63));
    expect(told.memoryKB).toBe(Number(/MemTotal:\s+(\d+)/.exec(readFileSync('/proc/meminfo', 'utf8'))?.[1]));
    expect(told.cpus).toBe((readFileSync('/proc/cpuinfo', 'utf8').match(/^processor/gm) ?? []).length);
    expect(told.addresses.every((address) => !/^(127\.|::1$|fe80:)/.test(address))).toBe(true);
    if (existsSync('/etc/machine-id')) {
      const own = readFileSync('/etc/machine-id', 'utf8').trim();
      if (own) expect(stdout).not.toContain(own);
    }
  });
  it('is read as it is by what shows nothing', () => {
    const { stdout, status } = run(shell, '--print', '--root', join(folder, 'nothing'));
    expect(status).toBe(0);
    expect(toldOf(stdout)).toMatchObject({ name: '', screens: [], usb: [], addresses: [] });
  });
  it('says how it is used, and that it could not be sent', () => {
    expect(run(shell, '--odd')).toMatchObject({ status: 2, stderr: expect.stringContaining('usage:') });
    expect(run(shell, '--root', root)).toMatchObject({ status: 1, stderr: expect.stringContaining('could not be sent') });
  });
});

describe('the script sends', () => {
  let server: Server;
  const got: { url: string | undefined; type: string | undefined; body: string }[] = [];
  beforeAll(async () => {
    server = createServer((request, response) => {
      let text = '';
      request.on('data', (part: Buffer) => (text += part.toString()));
      request.on('end', () => {
        got.push({ url: request.url, type: request.headers['content-type'], body: text });
        response.end('Thank you.');
      });
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  });
  afterAll(() => void server.close());
  it('to the address it was given, and prints what is answered', async () => {
    const { port } = server.address() as AddressInfo;
    const own = join(folder, 'own.sh');
    writeFileSync(own, shellScript(`http://127.0.0.1:${port}/enrol/a'b/report`));
    const { spawn } = await import('node:child_process');
    const child = spawn('/bin/sh', [own, '--root', root]);
    let said = '';
    child.stdout.on('data', (part: Buffer) => (said += part.toString()));
    await new Promise((resolve) => child.once('close', resolve));
    expect(said).toContain('Thank you.');
    expect(got[0]).toMatchObject({ url: "/enrol/a'b/report", type: 'application/json' });
    expect(toldOf(said)).toEqual(DeviceReport.parse(JSON.parse(got[0]?.body ?? '')));
  });
});

describe('the other script', () => {
  it('has its address as one text, whatever stands in it, and asks for no file', () => {
    const text = objectScript("https://underpass.example/enrol/a'b/report");
    expect(text).toContain("$address = 'https://underpass.example/enrol/a''b/report'");
    expect(text).not.toMatch(/Get-ChildItem|Get-Content|\$env:USERNAME|Win32_Process\b/);
    // brackets of every kind close
    for (const [open, close] of ['()', '{}', '[]'])
      expect([open, text.split(open as string).length]).toEqual([open, text.split(close as string).length]);
  });
  it('tells all parts of a report, under the names it has', () => {
    const text = objectScript('x');
    for (const name of Object.keys(DeviceReport.shape))
      if (name !== 'signalDbm') expect([name, new RegExp(`\\b${name}\\b`).test(text)]).toEqual([name, true]);
  });
});
