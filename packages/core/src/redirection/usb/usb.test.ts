import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
  bestFor,
  functionsOf,
  isochronousMbps,
  isochronousOf,
  readBinary,
  readLsusb,
  sortOf,
  speedOf,
  tripleOf,
  UsbError,
  type UsbDevice,
} from './index.js';

const le = (value: number): [number, number] => [value & 0xff, value >> 8];
/** Descriptors byte by byte, in the layout of USB 2.0 §9.6. */
const deviceBytes = (usb: number, code: number[], vid: number, pid: number) => [
  18,
  1,
  ...le(usb),
  ...code,
  64,
  ...le(vid),
  ...le(pid),
  ...le(0x0102),
  0,
  0,
  0,
  1,
];
const configuration = (mA: number) => [9, 2, 0, 0, 1, 1, 0, 0x80, mA / 2];
const interfaceOf = (number: number, alternate: number, code: number[], endpoints = 0) => [9, 4, number, alternate, endpoints, ...code, 0];
const endpointOf = (address: number, attributes: number, size: number, interval: number) => [
  7,
  5,
  address,
  attributes,
  ...le(size),
  interval,
];
const read = (...parts: number[][]) => readBinary(Uint8Array.from(parts.flat()));

/** A headset: control, both streams, and buttons. */
const headset = [
  deviceBytes(0x0110, [0, 0, 0], 0xf055, 0x0101),
  configuration(100),
  interfaceOf(0, 0, [1, 1, 0]),
  [10, 0x24, 1, 0, 1, 0, 0, 2, 1, 2],
  interfaceOf(1, 0, [1, 2, 0]),
  interfaceOf(1, 1, [1, 2, 0], 1),
  endpointOf(0x01, 9, 192, 1),
  interfaceOf(2, 0, [1, 2, 0]),
  interfaceOf(2, 1, [1, 2, 0], 1),
  endpointOf(0x82, 5, 96, 1),
  interfaceOf(3, 0, [3, 0, 0], 1),
  endpointOf(0x83, 3, 8, 10),
];

describe('what even time asks [USB 2.0 §5.6.3, §9.6.6]', () => {
  const endpoint = (packetBytes: number, packets: number, interval: number) => ({
    address: 1,
    transfer: 'isochronous' as const,
    packetBytes,
    packets,
    interval,
  });
  test('the check values of the handbook: 196.6 at high speed, 8.18 at full', () => {
    expect(isochronousMbps(endpoint(1024, 3, 1), 'high')).toBeCloseTo(196.608, 9);
    expect(isochronousMbps(endpoint(1023, 1, 1), 'full')).toBeCloseTo(8.184, 9);
  });
  test('each step of the interval halves it, at either speed', () => {
    for (const speed of ['full', 'high'] as const)
      for (const interval of [1, 2, 3, 7])
        expect(isochronousMbps(endpoint(512, 1, interval + 1), speed)).toBeCloseTo(
          isochronousMbps(endpoint(512, 1, interval), speed) / 2,
          9,
        );
    // 1024 × 1 × 8000/8 bytes
    expect(isochronousMbps(endpoint(1024, 1, 4), 'high')).toBeCloseTo(8.192, 9);
  });
});

describe('binary descriptors', () => {
  test('a headset: sound and buttons, largest settings added up', () => {
    const [device] = read(...headset) as [UsbDevice];
    expect(device).toMatchObject({ vid: 'f055', pid: '0101', revision: '01.02', maxPowerMa: 100, class: '00' });
    expect(functionsOf(device).map(({ name, class: code, subclass, protocol }) => [name, code, subclass, protocol])).toEqual([
      ['audio', '01', '01', '00'],
      ['controls', '03', '00', '00'],
    ]);
    expect(speedOf(device)).toBe('full');
    // 192 and 96 bytes a frame of a millisecond
    expect(isochronousOf(device)).toBeCloseTo((192 + 96) * 8e-3, 9);
    expect(bestFor(functionsOf(device))).toMatchObject({ carriedAs: 'channel' });
  });

  test('both ways of one setting count together; of two settings the larger', () => {
    const [device] = read(
      deviceBytes(0x0200, [0xef, 2, 1], 0xf055, 0x0e01),
      configuration(500),
      [8, 11, 0, 2, 14, 3, 0, 0],
      interfaceOf(0, 0, [14, 1, 0]),
      interfaceOf(1, 0, [14, 2, 0]),
      interfaceOf(1, 1, [14, 2, 0], 2),
      endpointOf(0x81, 5, 0x0200, 1),
      endpointOf(0x01, 5, 0x0100, 1),
      interfaceOf(1, 2, [14, 2, 0], 1),
      endpointOf(0x81, 5, (2 << 11) | 1024, 1),
    ) as [UsbDevice];
    expect(speedOf(device)).toBe('high');
    expect(isochronousOf(device)).toBeCloseTo(196.608, 9);
    expect(functionsOf(device)).toEqual([{ class: '0e', subclass: '03', protocol: '00', name: 'camera' }]);
    expect(device.maxPowerMa).toBe(500);
  });

  test('speed: high from 2.00 on, unless a bulk endpoint has 64 bytes or less', () => {
    const stick = (usb: number, size: number) =>
      speedOf(
        (
          read(deviceBytes(usb, [0, 0, 0], 1, 1), configuration(100), interfaceOf(0, 0, [8, 6, 80], 1), endpointOf(0x81, 2, size, 0)) as [
            UsbDevice,
          ]
        )[0],
      );
    expect([stick(0x0200, 512), stick(0x0200, 65), stick(0x0200, 64), stick(0x0110, 512), stick(0x01ff, 512)]).toEqual([
      'high',
      'high',
      'full',
      'full',
      'full',
    ]);
  });

  test('only the first configuration counts; several devices stand one after the other; USB 3 counts power in 8 mA', () => {
    const devices = read(
      ...[deviceBytes(0x0200, [9, 0, 1], 0x1d6b, 2), configuration(100), interfaceOf(0, 0, [9, 0, 0])],
      ...[configuration(500), interfaceOf(0, 0, [255, 0, 0])],
      ...[deviceBytes(0x0300, [0, 0, 0], 0xf055, 3), [9, 2, 0, 0, 1, 1, 0, 0x80, 112], interfaceOf(0, 0, [8, 6, 80])],
    );
    expect(devices.map(({ pid, maxPowerMa, interfaces }) => [pid, maxPowerMa, interfaces.length])).toEqual([
      ['0002', 100, 1],
      ['0003', 896, 1],
    ]);
    expect(bestFor(functionsOf(devices[0]!))).toMatchObject({ carriedAs: 'local only' });
  });

  test.each<[string, number[][], number]>([
    ['that are empty', [], 0],
    ['that break off', [deviceBytes(0x0200, [0, 0, 0], 1, 1), [9, 2, 0, 0]], 18],
    ['with a length of none', [deviceBytes(0x0200, [0, 0, 0], 1, 1), [0, 2]], 18],
    ['that begin in the middle', [configuration(100)], 0],
    ['with an endpoint before any interface', [deviceBytes(0x0200, [0, 0, 0], 1, 1), endpointOf(1, 1, 8, 1)], 18],
    ['of a device that is too short', [[17, 1, ...Array<number>(15).fill(0)]], 0],
  ])('descriptors %s are refused at their byte', (_, parts, at) => {
    try {
      read(...parts);
      throw new Error('was read');
    } catch (error) {
      expect(error).toBeInstanceOf(UsbError);
      expect((error as UsbError).at).toBe(at);
    }
  });

  test('whatever the bytes, they are read or refused', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => {
        try {
          readBinary(bytes).forEach((device) => [functionsOf(device), isochronousOf(device), bestFor(functionsOf(device))]);
        } catch (error) {
          expect(error).toBeInstanceOf(UsbError);
        }
      }),
    );
  });
});

/** As the general-purpose listing tool prints a device; made up, in its form. */
const text = `
Bus 003 Device 007: ID f055:0e02 Saltmarsh Deck camera
Negotiated speed: High Speed (480Mbps)
Device Descriptor:
  bLength                18
  bDescriptorType         1
  bcdUSB               2.00
  bDeviceClass          239 Miscellaneous Device
  bDeviceSubClass         2 [unknown]
  bDeviceProtocol         1 Interface Association
  bMaxPacketSize0        64
  idVendor           0xf055 Saltmarsh
  idProduct          0x0e02 Deck camera
  bcdDevice            1.10
  Configuration Descriptor:
    bLength                 9
    MaxPower              500mA
    Interface Association:
      bLength                 8
      bFirstInterface         0
      bInterfaceCount         2
      bFunctionClass         14 Video
      bFunctionSubClass       3 Video Interface Collection
      bFunctionProtocol       0
    Interface Descriptor:
      bInterfaceNumber        0
      bAlternateSetting       0
      bInterfaceClass        14 Video
      bInterfaceSubClass      1 Video Control
      bInterfaceProtocol      0
      VideoControl Interface Descriptor:
        bLength                13
        bInterfaceClass        99
    Interface Descriptor:
      bInterfaceNumber        1
      bAlternateSetting       1
      bInterfaceClass        14 Video
      bInterfaceSubClass      2 Video Streaming
      bInterfaceProtocol      0
      Endpoint Descriptor:
        bEndpointAddress     0x81  EP 1 IN
        bmAttributes            5
          Transfer Type            Isochronous
        wMaxPacketSize     0x1400  3x 1024 bytes
        bInterval               1
    Interface Descriptor:
      bInterfaceNumber        2
      bAlternateSetting       0
      bInterfaceClass         1 Audio
      bInterfaceSubClass      1 Control Device
      bInterfaceProtocol      0
Device Qualifier (for other device speed):
  bDeviceClass            9 Hub
Device Status:     0x0000
`;

describe('what lsusb -v prints', () => {
  test('gives the same as its descriptors would', () => {
    const [device] = readLsusb(text) as [UsbDevice];
    expect(device).toMatchObject({
      vid: 'f055',
      pid: '0e02',
      revision: '01.10',
      class: 'ef',
      subclass: '02',
      protocol: '01',
      maxPowerMa: 500,
      toldSpeed: 'high',
    });
    expect(functionsOf(device).map(({ name }) => name)).toEqual(['camera', 'audio']);
    // 0x1400: 1024 bytes, bits 12 and 11 are 2, so three packets
    expect(isochronousOf(device)).toBeCloseTo(196.608, 6);
  });

  test('the speed that was agreed on counts before what the descriptors would say', () => {
    expect(speedOf(readLsusb(text.replace('High Speed (480Mbps)', 'Full Speed (12Mbps)'))[0]!)).toBe('full');
    expect(speedOf(readLsusb(text.replace('High Speed (480Mbps)', 'SuperSpeed (5Gbps)'))[0]!)).toBe('super');
    expect(speedOf(readLsusb(text.replace(/Negotiated.*\n/, ''))[0]!)).toBe('high');
  });

  test('two devices, and one without the line of its bus', () => {
    expect(readLsusb(`${text}\n${text.replaceAll('0e02', '0e03')}`).map(({ pid }) => pid)).toEqual(['0e02', '0e03']);
    expect(readLsusb(text.slice(text.indexOf('Device Descriptor')))[0]).toMatchObject({ vid: 'f055', pid: '0e02' });
  });

  test.each([
    ['nothing', '', 1, /holds no device/],
    ['a list without -v', 'Bus 001 Device 002: ID f055:0001 Stick\n', 1, /print it with -v/],
    [
      'a number that is none',
      text.replace('0x1400', 'many'),
      text.split('\n').findIndex((line) => line.includes('0x1400')) + 1,
      /wMaxPacketSize is “many”/,
    ],
    ['a version that is none', text.replace('bcdUSB               2.00', 'bcdUSB               two'), 7, /bcdUSB is “two”/],
  ])('%s is refused with its line', (_, content, at, says) => {
    try {
      readLsusb(content);
      throw new Error('was read');
    } catch (error) {
      expect(error).toBeInstanceOf(UsbError);
      expect(error).toMatchObject({ at, message: expect.stringMatching(says) });
    }
  });

  test('whatever the text, it is read or refused', () => {
    const lines = text.split('\n');
    fc.assert(
      fc.property(fc.array(fc.oneof(fc.constantFrom(...lines), fc.string({ maxLength: 40 })), { maxLength: 60 }), (some) => {
        try {
          readLsusb(some.join('\n')).forEach((device) => [functionsOf(device), isochronousOf(device)]);
        } catch (error) {
          expect(error).toBeInstanceOf(UsbError);
        }
      }),
    );
  });
});

describe('how functions are carried, as the table of the handbook says', () => {
  test.each([
    ['03/01/01', 'session input'],
    ['03/01/02', 'session input'],
    ['09/00/00', 'local only'],
    ['01/01/00', 'channel'],
    ['0e/01/00', 'channel'],
    ['08/06/50', 'channel'],
    ['07/01/02', 'channel'],
    ['0b/00/00', 'channel'],
    ['06/01/01', 'raw USB'],
    ['ff/00/00', 'raw USB'],
    ['03/00/00', 'raw USB'],
  ])('%s: %s', (code, as) => {
    expect(sortOf(tripleOf(code)).carriedAs).toBe(as);
    expect(bestFor([tripleOf(code)])).toMatchObject({ carriedAs: as });
  });
  test('a headset’s buttons stay at the desk; a printer that scans is split; of nothing there is nothing', () => {
    expect(bestFor([tripleOf('01/01/00'), tripleOf('03/00/00')]).carriedAs).toBe('channel');
    expect(bestFor([tripleOf('07/01/02'), tripleOf('ff/ff/ff')]).carriedAs).toBe('split');
    expect(bestFor([]).carriedAs).toBe('local only');
  });
});
