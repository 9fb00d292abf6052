import { describe, expect, it } from '@jest/globals';
import type { DeviceReport } from '@underpass/contracts';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { BlockList, isIP } from 'node:net';
import { prefixIn } from './addressRange.js';
import { likelyEndpoint, likelyPlace, reportedFields } from './device.js';

const at = Date.parse('2026-11-27T08:00:00Z');
const report = (more: Partial<DeviceReport> = {}): DeviceReport => ({
  ...{ v: 1, key: '0123456789abcdef', name: 'till-7', addresses: [], screens: [], usb: [], graphics: [] },
  ...more,
});
const fields = (more: Partial<DeviceReport>) => reportedFields(report(more), at);

describe('an address in a range', () => {
  it.each([
    ['192.0.2.0', '192.0.2.0/24', 24],
    ['192.0.2.255', '192.0.2.0/24', 24],
    ['192.0.3.0', '192.0.2.0/24', null],
    ['192.0.1.255', '192.0.2.0/24', null],
    ['198.51.100.7', '198.51.100.7', 32],
    ['198.51.100.7', '0.0.0.0/0', 0],
    ['2001:db8::7', '2001:db8::/32', 32],
    ['2001:db9::', '2001:db8::/32', null],
    ['fe80::1%eth0', 'fe80::/10', 10],
    ['::ffff:192.0.2.1', '::ffff:c000:0/104', 104],
    ['192.0.2.7', '2001:db8::/32', null],
    ['192.0.2.256', '192.0.2.0/24', null],
    ['192.0.2.7', '192.0.2.0/33', null],
    ['192.0.2.7', '192.0.2.0/24/1', null],
    ['192.0.2.7', 'the hall', null],
    ['1:2:3:4:5:6:7:8:9', '::/0', null],
    ['1::2::3', '::/0', null],
    ['12345::', '::/0', null],
    ['', '0.0.0.0/0', null],
  ])('%s in %s: %s', (address, range, prefix) => expect(prefixIn(address, range)).toBe(prefix));

  it('is what the system’s own list of ranges says', () => {
    const four = fc.tuple(fc.ipV4(), fc.ipV4(), fc.integer({ min: 1, max: 32 }), fc.constant('ipv4' as const));
    const six = fc.tuple(fc.ipV6(), fc.ipV6(), fc.integer({ min: 1, max: 128 }), fc.constant('ipv6' as const));
    fc.assert(
      fc.property(fc.oneof(four, six), fc.boolean(), ([address, base, prefix, family], near) => {
        const asked = near ? base : address;
        const list = new BlockList();
        list.addSubnet(base, prefix, family);
        expect([asked, base, prefix, prefixIn(asked, `${base}/${prefix}`) !== null]).toEqual([
          asked,
          base,
          prefix,
          list.check(asked, family),
        ]);
      }),
      { numRuns: 2000, seed: 3 },
    );
  });
});

describe('what is no address is in no range', () => {
  const isRead = (text: string) => prefixIn(text, '0.0.0.0/0') !== null || prefixIn(text, '::/0') !== null;
  // what each of two readers has for itself: blanks around, and zeros before a number
  const isOurs = (text: string) => text !== text.trim() || /(^|[.:])0\d+(\.|$)/.test(text);
  it('by what the system takes for one, also where a sign is too many, missing or another', () => {
    const signs = fc.constantFrom(...'0123456789abcdefg.:/ x');
    const slip = fc.tuple(fc.oneof(fc.ipV4(), fc.ipV6()), fc.nat(40), fc.constantFrom(0, 1, 2), signs).map(([text, at_, how, sign]) => {
      const here = at_ % (text.length + 1);
      return how === 0
        ? text.slice(0, here) + sign + text.slice(here)
        : text.slice(0, here) + (how === 1 ? sign : '') + text.slice(here + 1);
    });
    fc.assert(
      fc.property(slip, (text) => {
        fc.pre(!isOurs(text) && !text.includes('/'));
        expect([text, isRead(text)]).toEqual([text, isIP(text) !== 0]);
      }),
      { numRuns: 4000, seed: 5 },
    );
  });
  it.each([
    ...['192.0.2.256', '192.0.2', '192.0.2.1.5', 'x192.0.2.1', '192.0.2.1x', '::1.2.3', 'x::192.0.2.1', '::192.0.2.1x', '::192.0.2.300'],
    ...['1:2:3:4:5:6:7', '1:2:3:4:5:6:7:8:9', '1:2:3:4::5:6:7:8', 'g::', '1x::', 'x1::', '12345::', '1::2::3', ''],
  ])('“%s”', (text) => expect([isIP(text), isRead(text)]).toEqual([0, false]));
  it.each(['1:2:3:4:5:6:7::', '::2:3:4:5:6:7:8', '1:2:3:4:5:6:192.0.2.1', '::', '64:ff9b::192.0.2.33'])('but “%s” is one', (text) =>
    expect([isIP(text), isRead(text)]).toEqual([6, true]),
  );
  it('and what a range ends with has to be a length of its kind', () => {
    for (const [range, prefix] of [
      ...[
        ['192.0.2.0/032', 32],
        ['192.0.2.0/x24', null],
        ['192.0.2.0/24x', null],
        ['192.0.2.0/', null],
        ['192.0.2.0/-1', null],
      ],
    ] as const)
      expect([range, prefixIn('192.0.2.0', range)]).toEqual([range, prefix]);
    expect([prefixIn('::1', '::/128'), prefixIn('::', '::/129'), prefixIn('192.0.2.0', '::/0'), prefixIn('::', '0.0.0.0/0')]).toEqual([
      null,
      null,
      null,
      null,
    ]);
    expect(prefixIn(' 192.0.2.7 ', '192.0.2.0/24')).toBe(24);
    expect(prefixIn('fe80::1%eth0.5', 'fe80::1%lo/128')).toBe(128);
  });
});

describe('what a device tells', () => {
  it('is what its endpoint has, as far as it tells', () => {
    expect(fields({})).toEqual({});
    expect(
      fields({
        ...{ machine: 'x86_64', cpus: 8, memoryKB: 16_301_000, chassis: 10, model: 'Notebook 5', connection: 'wifi', signalDbm: -61 },
        ...{ time: '2026-11-27T07:59:10Z', client: { kind: 'native client', version: '4.12.1' } },
      }),
    ).toEqual({
      ...{ processor: 'x86-64', deviceClass: 'laptop', cores: 8, memoryMB: 15_919, model: 'Notebook 5' },
      ...{ connection: 'wifi', wifiSignalDbm: -61, clientKind: 'native client', clientVersion: '4.12.1', clock: 'right' },
    });
  });
  it.each([
    ['x86_64', 'x86-64'],
    ['AMD64', 'x86-64'],
    ['aarch64', 'arm64'],
    ['x64', 'x86-64'],
    ['EM64T', 'x86-64'],
    ['arm64', 'arm64'],
    ['armv8l', 'arm64'],
    ['armv7l', 'armhf'],
    ['armv6l', 'armhf'],
    ['armhf', 'armhf'],
    ['i686', undefined],
    ['riscv64', undefined],
  ])('names the processor %s: %s', (machine, processor) => expect(fields({ machine }).processor).toBe(processor));
  it.each([
    [1, undefined],
    [2, undefined],
    [3, undefined],
    [7, undefined],
    [8, 'laptop'],
    [9, 'laptop'],
    [10, 'laptop'],
    [11, 'phone'],
    [12, undefined],
    [13, undefined],
    [30, 'tablet'],
    [14, 'laptop'],
    [31, 'laptop'],
    [32, 'laptop'],
    [33, undefined],
    [35, undefined],
    [36, undefined],
  ])('names the enclosure %s: %s', (chassis, deviceClass) => expect(fields({ chassis }).deviceClass).toBe(deviceClass));
  it('is of a thin client, a tablet or a computer as whoever runs the script says', () => {
    expect(fields({ chassis: 3, class: 'thin-client' })).toMatchObject({ deviceClass: 'thin-client', platform: 'thin' });
    expect(fields({ chassis: 3, class: 'desktop-computer' })).toMatchObject({ deviceClass: 'desktop-computer', platform: 'desktop' });
    expect(fields({ chassis: 10 })).not.toHaveProperty('platform');
    expect(fields({ chassis: 30 })).toMatchObject({ deviceClass: 'tablet', platform: 'mobile' });
    expect(fields({ chassis: 11 })).toMatchObject({ deviceClass: 'phone', platform: 'mobile' });
    expect(fields({ class: 'phone' })).toMatchObject({ platform: 'mobile' });
  });
  it.each([
    ['2026-11-27T08:01:00Z', 'right'],
    ['2026-11-27T08:01:01Z', '61'],
    ['2026-11-27T07:59:00Z', 'right'],
    ['2026-11-27T07:58:59Z', '-61'],
    ['2019-01-01T00:00:00Z', '-249465600'],
  ])('says whether its clock is right: %s: %s', (time, clock) => expect(fields({ time }).clock).toBe(clock));
  it('has the memory and cores an endpoint may have, just within and just beyond', () => {
    expect(fields({ memoryKB: 65_536 }).memoryMB).toBe(64);
    expect(fields({ memoryKB: 64_500 }).memoryMB).toBeUndefined();
    expect(fields({ memoryKB: 4_194_304 * 1024 }).memoryMB).toBe(4_194_304);
    expect(fields({ memoryKB: 4_194_305 * 1024 })).not.toHaveProperty('memoryMB');
    expect([fields({ cpus: 256 }).cores, fields({ cpus: 257 }).cores]).toEqual([256, undefined]);
    expect([
      fields({ connection: 'wifi', signalDbm: -110 }).wifiSignalDbm,
      fields({ connection: 'wifi', signalDbm: -111 }).wifiSignalDbm,
    ]).toEqual([-110, undefined]);
    expect(fields({ connection: 'wired', signalDbm: -60 })).not.toHaveProperty('wifiSignalDbm');
  });
  it('names what is plugged in by its codes, and nothing of sticks and of what may be anything', () => {
    const usb = (...classes: string[]) => [{ vendor: '046d', product: '0001', classes }];
    expect(fields({ usb: usb('0e/01/00', '01/01/00', '0b/00/00') }).peripherals).toEqual(['headset', 'camera', 'card-reader']);
    expect(fields({ usb: usb('08/06/50', '03/01/01', '09/00/00', 'ff/ff/ff') })).not.toHaveProperty('peripherals');
    expect(fields({ usb: [...usb('07/01/02'), ...usb('06/01/01')] }).peripherals).toEqual(['printer', 'scanner']);
  });
  it('says no version that is none', () => {
    expect(fields({ client: { version: 'unknown' } })).not.toHaveProperty('clientVersion');
    expect(fields({ client: { version: 'v4' } })).not.toHaveProperty('clientVersion');
  });
  it('says its model without the blanks around it, and none of blanks alone', () => {
    expect(fields({ model: '  Box 3 ' }).model).toBe('Box 3');
    expect(fields({ model: '   ' })).not.toHaveProperty('model');
    expect(fields({ time: 'noon' })).not.toHaveProperty('clock');
    expect(fields({ usb: [{ vendor: '046d', product: '0001', classes: ['01/01/ff'] }] }).peripherals).toEqual(['headset']);
  });
});

// held against edid-decode, as the fixtures were written by it (screens/fixtures)
describe('the screens of a device', () => {
  const known = JSON.parse(readFileSync(new URL('../../screens/fixtures/edids.json', import.meta.url), 'utf8')) as {
    hex: string;
    name: string | null;
    preferred: [widthPx: number, heightPx: number, refreshHz: number, clockMhz: number] | null;
  }[];
  it('are the modes they want most', () => {
    let told = 0;
    for (const { hex, preferred, name } of known) {
      if (!preferred || hex.length > 2048) continue;
      const [screen] = fields({ screens: [{ port: 'card0-DP-1', edid: hex }] }).screens ?? [];
      const [widthPx, heightPx, refreshHz] = preferred;
      expect(screen).toEqual({
        ...(name ? { name } : {}),
        ...{ widthPx, heightPx, scale: 1, refreshHz: Number(refreshHz.toFixed(2)) },
      });
      told++;
    }
    expect(told).toBeGreaterThan(20);
  });
  it('are of the device itself where the system’s connector is', () => {
    const { hex } = known.find(({ preferred, hex: text }) => preferred && text.length <= 2048) as (typeof known)[0];
    const ports = ['eDP-1', 'card1-LVDS-1', 'card0-DSI-1', 'card0-DP-1', 'card0-HDMI-A-1'];
    expect(fields({ screens: ports.map((port) => ({ port, edid: hex })) }).screens?.map(({ port }) => port)).toEqual([
      'internal',
      'internal',
      'internal',
      undefined,
      undefined,
    ]);
  });
  it('are not smaller than a screen is, and told without a refresh that no screen has', () => {
    const { hex } = known.find(({ preferred, hex: text }) => preferred && text.length === 256) as (typeof known)[0];
    // the first mode told in full [VESA E-EDID 1.4, 3.10.2]: no blanking, so that the refresh is the clock by the pixels; the last byte makes the sum 0
    const wanting = (widthPx: number, heightPx: number, clock10kHz: number) => {
      const bytes = Uint8Array.from(Buffer.from(hex, 'hex'));
      bytes.set([clock10kHz & 255, clock10kHz >> 8, widthPx & 255, 0, (widthPx >> 8) << 4, heightPx & 255, 0, (heightPx >> 8) << 4], 54);
      bytes[127] = -bytes.slice(0, 127).reduce((sum, byte) => sum + byte, 0) & 255;
      return fields({ screens: [{ port: 'DP-1', edid: Buffer.from(bytes).toString('hex') }] }).screens?.[0];
    };
    expect(wanting(320, 240, 461)).toMatchObject({ widthPx: 320, heightPx: 240, refreshHz: 60.03 });
    expect([wanting(319, 240, 460), wanting(320, 239, 460)]).toEqual([undefined, undefined]);
    // 500 × 400 pixels are 0.2 million: 500 Hz are 100 MHz, 1 Hz is 0.2 MHz
    expect([wanting(500, 400, 10_000)?.refreshHz, wanting(500, 400, 20)?.refreshHz]).toEqual([500, 1]);
    expect([wanting(500, 400, 10_010), wanting(500, 400, 19)]).toEqual([
      expect.not.objectContaining({ refreshHz: expect.anything() }),
      expect.not.objectContaining({ refreshHz: expect.anything() }),
    ]);
  });
  it('that say nothing of themselves are none', () => {
    expect(
      fields({
        screens: [
          { port: 'a', edid: '' },
          { port: 'b', edid: '00ff' },
          { port: 'c', edid: 'ab'.repeat(128) },
        ],
      }),
    ).not.toHaveProperty('screens');
  });
});

describe('where and what a device is', () => {
  const places = [
    { id: 'all', addressRange: '192.0.2.0/24' },
    { id: 'hall', addressRange: '192.0.2.64/26' },
    { id: 'none' },
    { id: 'odd', addressRange: 'upstairs' },
    { id: 'six', addressRange: '2001:db8:7::/48' },
  ];
  it('is told by the narrowest range', () => {
    expect(likelyPlace(places, ['192.0.2.70'])?.id).toBe('hall');
    expect(likelyPlace([...places].reverse(), ['192.0.2.70'])?.id).toBe('hall');
    expect(likelyPlace(places, ['192.0.2.63'])?.id).toBe('all');
    expect(likelyPlace(places, ['127.0.0.1', '2001:db8:7::9'])).toEqual({ id: 'six', address: '2001:db8:7::9', range: '2001:db8:7::/48' });
    expect(likelyPlace(places, ['198.51.100.1'])).toBeNull();
  });
  it('is found among very many places that hold it', () => {
    const wide = Array.from({ length: 200_000 }, (_, i) => ({ id: `p${i}`, addressRange: '0.0.0.0/0' }));
    expect(likelyPlace(wide, ['192.0.2.70'])).toBeNull();
    expect(likelyPlace([...wide, ...places], ['192.0.2.70'])?.id).toBe('hall');
  });
  it('is not told where two are as narrow', () => {
    expect(likelyPlace([...places, { id: 'twin', addressRange: '192.0.2.64/26' }], ['192.0.2.70'])).toBeNull();
    // nor where one of two has more of the device's addresses
    const twins = [
      { id: 'hall', addressRange: '192.0.2.64/26' },
      { id: 'twin', addressRange: '192.0.2.64/26' },
    ];
    expect(likelyPlace(twins, ['192.0.2.70', '192.0.2.71'])).toBeNull();
    expect(likelyPlace(twins.slice(1), ['192.0.2.70', '192.0.2.71'])).toEqual({
      id: 'twin',
      address: '192.0.2.70',
      range: '192.0.2.64/26',
    });
    // a narrower one decides all the same
    expect(
      likelyPlace([...places, { id: 'twin', addressRange: '192.0.2.64/26' }, { id: 'desk', addressRange: '192.0.2.70' }], ['192.0.2.70'])
        ?.id,
    ).toBe('desk');
  });
  it('is the endpoint of its name, in full or the part before the dot, where only one is', () => {
    const endpoints = [
      { id: 'E1', name: 'TILL-7' },
      { id: 'till-8', name: 'Till by the door' },
      { id: 'E3', name: 'Twin' },
      { id: 'twin', name: 'Other' },
    ];
    expect(likelyEndpoint(endpoints, 'till-7')).toBe('E1');
    expect(likelyEndpoint(endpoints, 'Till-8.saltmarsh.example')).toBe('till-8');
    expect(likelyEndpoint(endpoints, 'twin')).toBeNull();
    expect(likelyEndpoint(endpoints, 'till')).toBeNull();
    expect(likelyEndpoint(endpoints, ' ')).toBeNull();
    expect(likelyEndpoint(endpoints, ' TILL-8 ')).toBe('till-8');
    expect(likelyEndpoint([...endpoints, { id: '', name: 'no id' }], '')).toBeNull();
    expect(likelyEndpoint([], 'till-7')).toBeNull();
  });
});
