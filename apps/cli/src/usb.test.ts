import { expect, test } from '@jest/globals';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { commandLine } from './commandLine.js';

const demo = new URL('../../../demo/saltmarsh', import.meta.url).pathname;
const answer = async (...args: string[]): Promise<Record<string, unknown>> =>
  JSON.parse(await commandLine([...args, '--json'])) as Record<string, unknown>;
/** What a command that fails says. */
const refusal = (...args: string[]): Promise<string> =>
  commandLine(args).then(
    (text) => `was done: ${text}`,
    (error: Error) => error.message,
  );

/** A folder with something in it, gone when the work is done. */
async function within<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'underpass-usb-'));
  try {
    return await work(folder);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

const listing = `Bus 001 Device 004: ID f1d0:0801 Stick
Device Descriptor:
  bcdUSB               2.00
  bDeviceClass            0
  Configuration Descriptor:
    MaxPower              200mA
    Interface Descriptor:
      bInterfaceNumber        0
      bAlternateSetting       0
      bInterfaceClass         8 Mass Storage
      bInterfaceSubClass      6 SCSI
      bInterfaceProtocol     80 Bulk-Only
      Endpoint Descriptor:
        bEndpointAddress     0x81  EP 1 IN
        bmAttributes            2
        wMaxPacketSize     0x0200  1x 512 bytes
        bInterval               0
`;
/** The same in bytes [USB 2.0 §9.6]. */
const bytes = Buffer.from([
  ...[18, 1, 0x00, 0x02, 0, 0, 0, 64, 0xd0, 0xf1, 0x01, 0x08, 0x00, 0x01, 0, 0, 0, 1],
  ...[9, 2, 32, 0, 1, 1, 0, 0x80, 100],
  ...[9, 4, 0, 0, 1, 8, 6, 80, 0],
  ...[7, 5, 0x81, 2, 0x00, 0x02, 0],
]);
const stick = {
  devices: [
    {
      ...{ vid: 'f1d0', pid: '0801', speed: 'high', isochronousMbps: 0, maxPowerMa: 200, carriedAs: 'channel' },
      functions: [{ class: '08', subclass: '06', protocol: '50', name: 'storage' }],
      why: expect.stringMatching(/drive channel/),
    },
  ],
};

test('a device from its listing and from its descriptors is the same', () =>
  within(async (folder) => {
    writeFileSync(join(folder, 'stick.txt'), listing);
    writeFileSync(join(folder, 'stick.bin'), bytes);
    expect(await answer('usb', join(folder, 'stick.txt'))).toEqual(stick);
    expect(await answer('usb', join(folder, 'stick.bin'))).toEqual(stick);
  }));

test('what makes no sense is told with its file and its line or byte', () =>
  within(async (folder) => {
    writeFileSync(join(folder, 'odd.txt'), listing.replace('200mA', 'some'));
    writeFileSync(join(folder, 'short.bin'), bytes.subarray(0, 30));
    const told = (name: string) => refusal('usb', join(folder, name));
    expect(await told('odd.txt')).toMatch(/odd\.txt:6: MaxPower is “some”/);
    expect(await told('short.bin')).toMatch(/short\.bin:byte 27: a descriptor says it has 9 bytes, and 3 are left/);
    expect(await told('nothing.txt')).toMatch(/there is no such file/);
  }));

test('what becomes of a device: by which rule, how, when, and what it costs', async () => {
  expect(await answer('carry', demo, '--endpoint', 'CD-006', '--device', 'f1a5:0103')).toMatchObject({
    decision: 'not allowed',
    rule: 'controls',
    when: null,
    costs: { mbps: 0, addedMs: 0 },
  });
  expect(await answer('carry', demo, '--endpoint', 'WEX-TC-009', '--device', 'F1C0:0B01')).toMatchObject({
    decision: 'channel',
    rule: 'cards',
    when: 'at start',
  });
  expect(await answer('carry', demo, '--endpoint', 'HO-010', '--device', 'f1d0:0901')).toMatchObject({
    decision: 'local only',
    rule: null,
  });
  // 400 exchanges at the round trip of the place
  const scanner = (await answer('carry', demo, '--endpoint', 'BRK-001', '--device', 'f1b0:0601')) as { costs: { addedMs: number } };
  expect(scanner).toMatchObject({ decision: 'raw USB', rule: 'scanners', when: 'by hand' });
  expect(scanner.costs.addedMs % 400).toBe(0);
  expect(scanner.costs.addedMs).toBeGreaterThan(1000);
});

test.each([
  ['no endpoint', [], /--endpoint: is missing/],
  ['an endpoint that is not there', ['--endpoint', 'nowhere', '--device', 'f1a5:0103'], /no endpoint has the id/],
  ['no device', ['--endpoint', 'CD-006'], /--device: must be vendor and product/],
  [
    'a device that is not there',
    ['--endpoint', 'CD-006', '--device', 'f1a5:9999'],
    /no device f1a5:9999 is at CD-006; there are f1a5:0103, f1a5:0e01/,
  ],
  ['a person who is nobody', ['--endpoint', 'CD-006', '--device', 'f1a5:0103', '--person', 'x'], /no person has the id/],
])('carry with %s says so', async (_, more, says) => {
  expect(await refusal('carry', demo, ...more)).toMatch(says);
});

test('codes that a document would read as numbers are what is written; what is none is told with its line', () =>
  within(async (folder) => {
    cpSync(demo, folder, { recursive: true });
    const device = (vid: string) => `- id: X1\n  endpoint: CD-020\n  vid: ${vid}\n  pid: 0e41\n  class: 08\n  interfaces: [08/06/50]\n`;
    writeFileSync(join(folder, 'devices.yaml'), device('0123'));
    expect(await answer('carry', folder, '--endpoint', 'CD-020', '--device', '0123:0e41')).toMatchObject({
      decision: 'not allowed',
      rule: 'storage',
    });
    writeFileSync(join(folder, 'devices.yaml'), device('12345'));
    expect(await refusal('carry', folder, '--endpoint', 'CD-020', '--device', '0123:0e41')).toMatch(/devices\.yaml:3: vid must be/);
    expect(readFileSync(join(folder, 'devices.yaml'), 'utf8')).toContain('12345');
  }));
