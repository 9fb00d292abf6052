import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { functionsOf, isochronousOf, readBinary, readLsusb, speedOf, UsbError } from './index.js';

/** A device as it is made up: written down once as bytes and once as the listing tool prints it. */
interface Made {
  usb: number;
  code: number[];
  vid: number;
  pid: number;
  revision: number;
  configurations: { mA: number; parts: Part[] }[];
}
type Part =
  | { is: 'association'; first: number; count: number; code: number[] }
  | { is: 'interface'; number: number; alternate: number; code: number[]; endpoints: number[][] };

const le = (value: number): number[] => [value & 0xff, value >> 8];
const hex = (value: number, digits: number): string => value.toString(16).padStart(digits, '0');

/** The layout of USB 2.0 §9.6, and of the interface association descriptor. */
const bytesOf = ({ usb, code, vid, pid, revision, configurations }: Made): number[] => [
  ...[18, 1, ...le(usb), ...code, 64, ...le(vid), ...le(pid), ...le(revision), 0, 0, 0, configurations.length],
  ...configurations.flatMap(({ mA, parts }) => [
    ...[9, 2, 0, 0, 1, 1, 0, 0x80, mA / (usb >= 0x0300 ? 8 : 2)],
    ...parts.flatMap((part) =>
      part.is === 'association'
        ? [8, 11, part.first, part.count, ...part.code, 0]
        : [
            ...[9, 4, part.number, part.alternate, part.endpoints.length, ...part.code, 0],
            // what a class says of its own is stepped over
            ...[5, 0x24, 1, 2, 3],
            ...part.endpoints.flatMap(([address = 0, attributes = 0, size = 0, interval = 0]) => [
              ...[7, 5, address, attributes, ...le(size), interval],
            ]),
          ],
    ),
  ]),
];

/** As the listing tool prints it: two columns, decimal codes with a name behind, hexadecimal numbers with 0x. From memory of its form. */
const textOf = ({ usb, code, vid, pid, revision, configurations }: Made): string => {
  const lines: string[] = [];
  const put = (depth: number, name: string, value: string, rest = '') =>
    lines.push(`${' '.repeat(depth)}${name.padEnd(18)} ${value.padStart(6)}${rest && ` ${rest}`}`);
  const codes = (depth: number, of: string, values: number[]) =>
    ['Class', 'SubClass', 'Protocol'].forEach((each, i) => put(depth, `b${of}${each}`, String(values[i]), i === 0 ? 'Some Name' : ''));
  const version = (value: number) => `${hex(value >> 8, 1)}.${hex(value & 0xff, 2)}`;
  lines.push('', `Bus 001 Device 002: ID ${hex(vid, 4)}:${hex(pid, 4)} Made up`, 'Device Descriptor:');
  put(2, 'bLength', '18');
  put(2, 'bcdUSB', version(usb));
  codes(2, 'Device', code);
  put(2, 'idVendor', `0x${hex(vid, 4)}`, 'Somebody');
  put(2, 'idProduct', `0x${hex(pid, 4)}`);
  put(2, 'bcdDevice', version(revision));
  for (const { mA, parts } of configurations) {
    lines.push('  Configuration Descriptor:');
    put(4, 'MaxPower', `${mA}mA`);
    for (const part of parts) {
      lines.push(part.is === 'association' ? '    Interface Association:' : '    Interface Descriptor:');
      if (part.is === 'association') {
        put(6, 'bFirstInterface', String(part.first));
        put(6, 'bInterfaceCount', String(part.count));
        codes(6, 'Function', part.code);
        continue;
      }
      put(6, 'bInterfaceNumber', String(part.number));
      put(6, 'bAlternateSetting', String(part.alternate));
      codes(6, 'Interface', part.code);
      lines.push('      Some Class Descriptor:');
      put(8, 'bInterfaceClass', '77');
      put(8, 'bInterval', '9');
      for (const [address = 0, attributes = 0, size = 0, interval = 0] of part.endpoints) {
        lines.push('      Endpoint Descriptor:');
        put(8, 'bEndpointAddress', `0x${hex(address, 2)}`, 'EP 1 IN');
        put(8, 'bmAttributes', String(attributes));
        put(10, 'Usage Type', 'Data');
        put(8, 'wMaxPacketSize', `0x${hex(size, 4)}`, '1x 64 bytes');
        put(8, 'bInterval', String(interval));
      }
    }
  }
  lines.push('Device Status:     0x0000', '  (Bus Powered)');
  return lines.join('\n');
};

const byte = fc.integer({ min: 0, max: 255 });
const word = fc.integer({ min: 0, max: 0xffff });
const codesOf = fc
  .tuple(fc.constantFrom(0, 1, 2, 3, 6, 7, 8, 9, 0x0a, 0x0b, 0x0e, 0x10, 0xe0, 0xef, 0xff), byte, byte)
  .map((list) => [...list]);
/** A version in binary-coded decimal. */
const bcdOf = (most: number) =>
  fc
    .tuple(fc.integer({ min: 0, max: most }), fc.integer({ min: 0, max: 99 }))
    .map(([high, low]) => parseInt(`${high}${String(low).padStart(2, '0')}`, 16));
const part: fc.Arbitrary<Part> = fc.oneof(
  fc.record({
    is: fc.constant('association' as const),
    first: fc.integer({ min: 0, max: 4 }),
    count: fc.integer({ min: 0, max: 3 }),
    code: codesOf,
  }),
  fc.record({
    is: fc.constant('interface' as const),
    number: fc.integer({ min: 0, max: 5 }),
    alternate: fc.integer({ min: 0, max: 3 }),
    code: codesOf,
    endpoints: fc.array(
      fc.tuple(byte, fc.integer({ min: 0, max: 15 }), fc.integer({ min: 0, max: 0x1fff }), byte).map((list) => [...list]),
      { maxLength: 2 },
    ),
  }),
);
const made: fc.Arbitrary<Made> = fc.record({
  usb: bcdOf(3),
  code: codesOf.map(([, ...rest]) => [0xef, ...rest]),
  vid: word,
  pid: word,
  revision: bcdOf(99),
  configurations: fc.array(fc.record({ mA: fc.integer({ min: 0, max: 62 }).map((n) => n * 8), parts: fc.array(part, { maxLength: 6 }) }), {
    minLength: 1,
    maxLength: 2,
  }),
});

describe('the same device as bytes and as text', () => {
  test('comes out alike, several one after the other too', () => {
    fc.assert(
      fc.property(fc.array(made, { minLength: 1, maxLength: 3 }), (devices) => {
        const told = readBinary(Uint8Array.from(devices.flatMap(bytesOf)));
        const printed = readLsusb(devices.map(textOf).join('\n'));
        expect(printed.map(({ name: _, ...rest }) => rest)).toEqual(told);
        expect(printed.map(({ name }) => name)).toEqual(devices.map(() => 'Made up'));
        for (const [i, each] of told.entries()) {
          expect(each).toMatchObject({
            vid: hex(devices[i]!.vid, 4),
            usbBcd: devices[i]!.usb,
            maxPowerMa: devices[i]!.configurations[0]!.mA,
          });
          expect(functionsOf(printed[i]!)).toEqual(functionsOf(each));
          expect(isochronousOf(printed[i]!)).toBe(isochronousOf(each));
        }
      }),
    );
  });

  test('whatever ends its lines, however it is set in, and whatever letters its numbers have', () => {
    fc.assert(
      fc.property(made, (device) => {
        const text = textOf(device);
        const plain = readLsusb(text);
        expect(readLsusb(text.replaceAll('\n', '\r\n'))).toEqual(plain);
        expect(readLsusb(text.replace(/(?<=ID )\S+|(?<=0x)[0-9a-f]+/g, (found) => found.toUpperCase()))).toEqual(plain);
        expect(readLsusb(text.replaceAll('Descriptor:', 'Descriptor: ').replace('Bus 001', '  Bus 001'))).toEqual(plain);
      }),
      { numRuns: 60 },
    );
  });
});

const oneOf = (more: Partial<Made> = {}): Made => ({
  usb: 0x0200,
  code: [0xef, 2, 1],
  vid: 0xf055,
  pid: 0x0101,
  revision: 0x0110,
  configurations: [{ mA: 100, parts: [{ is: 'interface', number: 0, alternate: 0, code: [8, 6, 80], endpoints: [] }] }],
  ...more,
});
const refused = (work: () => unknown): [string, number] => {
  try {
    work();
  } catch (error) {
    if (error instanceof UsbError) return [error.message, error.at];
  }
  throw new Error('was not refused');
};

describe('what the text alone tells', () => {
  test('speeds that were agreed on, a row on each side', () => {
    const speed = (told: string) => readLsusb(`${textOf(oneOf())}\n${told}`)[0]?.toldSpeed;
    expect(
      [
        'Low Speed (1.5Mbps)',
        'Full Speed (12Mbps)',
        'High Speed (480Mbps)',
        'SuperSpeed (5Gbps)',
        'SuperSpeed+ (10Gbps)',
        '(479 Mbps)',
        '11.9 mbps',
      ].map((each) => speed(`Negotiated speed: ${each}`)),
    ).toEqual(['low', 'full', 'high', 'super', 'super', 'full', 'low']);
    expect(speed('  Negotiated speed: High Speed (480Mbps)  ')).toBe('high');
    expect(speed('A remark of Negotiated speed: (480Mbps)')).toBeNull();
    const low = { ...readLsusb(textOf(oneOf()))[0]!, toldSpeed: 'low' as const };
    expect(speedOf(low)).toBe('low');
    // 64 bytes each frame of a millisecond, at low speed too
    const interface_ = { number: 0, alternate: 0, class: '01', subclass: '00', protocol: '00' };
    const endpoint = { address: 1, transfer: 'isochronous' as const, packetBytes: 64, packets: 3, interval: 1 };
    expect(isochronousOf({ ...low, interfaces: [{ ...interface_, endpoints: [endpoint] }] })).toBeCloseTo(0.512, 9);
  });

  test('the name of the line of its bus, else that of its product, of at most 120 letters', () => {
    const text = textOf(oneOf()).replace(/idProduct(\s+\S+)/, 'idProduct$1 The product');
    expect(readLsusb(text)[0]?.name).toBe('Made up');
    expect(readLsusb(text.replace(' Made up', ''))[0]?.name).toBe('The product');
    expect(readLsusb(textOf(oneOf()).replace(' Made up', ''))[0]?.name).toBeUndefined();
    const long = 'n'.repeat(121);
    expect(readLsusb(text.replace('Made up', long))[0]?.name).toBe('n'.repeat(120));
    expect(readLsusb(text.replace(' Made up', '').replace('The product', long))[0]?.name).toBe('n'.repeat(120));
  });

  test('a descriptor alone, one after the other, without lines of their bus', () => {
    const alone = textOf(oneOf()).replace(/^Bus.*$/m, '');
    expect(readLsusb(`${alone}\n${alone.replaceAll('0101', '0102')}`).map(({ vid, pid }) => [vid, pid])).toEqual([
      ['f055', '0101'],
      ['f055', '0102'],
    ]);
    // of one that does not say its numbers they are nought
    expect(readLsusb(alone.replace(/^ +id.*$/gm, ''))[0]).toMatchObject({ vid: '0000', pid: '0000' });
  });

  test('what it does not say stays as of a device of which nothing is known', () => {
    const bare = [
      'Bus 001 Device 002: ID f055:0101',
      'Device Descriptor:',
      '  bDeviceClass 239',
      '  Configuration Descriptor:',
      '    Interface Descriptor:',
      '      Endpoint Descriptor:',
      '    Interface Association:',
    ];
    expect(readLsusb(bare.join('\n'))).toEqual([
      {
        vid: 'f055',
        pid: '0101',
        revision: '00.00',
        usbBcd: 0x0200,
        class: 'ef',
        subclass: '00',
        protocol: '00',
        maxPowerMa: 0,
        interfaces: [
          {
            number: 0,
            alternate: 0,
            class: '00',
            subclass: '00',
            protocol: '00',
            endpoints: [{ address: 0, transfer: 'control', packetBytes: 0, packets: 1, interval: 0 }],
          },
        ],
        associations: [{ first: 0, count: 0, class: '00', subclass: '00', protocol: '00' }],
        toldSpeed: null,
      },
    ]);
  });

  test('a device that is of a class and has no interface is one; of no class it is only a name', () => {
    const hub = ['Bus 001 Device 001: ID f055:0009 Hub', 'Device Descriptor:', '  bDeviceClass 9 Hub'].join('\n');
    expect(readLsusb(hub).map(({ class: code }) => code)).toEqual(['09']);
    expect(functionsOf(readLsusb(hub)[0]!)).toEqual([{ class: '09', subclass: '00', protocol: '00', name: 'hub' }]);
    const named = `${textOf(oneOf({ code: [0, 0, 0] }))}\nBus 001 Device 003: ID f055:0003 Stick`;
    expect(refused(() => readLsusb(named))).toEqual(['tells nothing of f055:0003 but its name: print it with -v', 1]);
  });

  test.each([
    ['0x10000', /wMaxPacketSize +\S+/, 'wMaxPacketSize is “0x10000”, which is no number'],
    ['0x12z', /wMaxPacketSize +\S+/, 'wMaxPacketSize is “0x12z”, which is no number'],
    ['a0x12', /wMaxPacketSize +\S+/, 'wMaxPacketSize is “a0x12”, which is no number'],
    ['5mAh', /MaxPower +\S+/, 'MaxPower is “5mAh”, which is no number'],
    ['x5', /MaxPower +\S+/, 'MaxPower is “x5”, which is no number'],
    ['y'.repeat(41), /MaxPower +\S+/, `MaxPower is “${'y'.repeat(40)}”, which is no number`],
    ['2.000', /bcdUSB +\S+/, 'bcdUSB is “2.000”, which is no version'],
    ['v2.00', /bcdUSB +\S+/, 'bcdUSB is “v2.00”, which is no version'],
    ['z'.repeat(41), /bcdDevice +\S+/, `bcdDevice is “${'z'.repeat(40)}”, which is no version`],
  ])('%s is refused with its line', (value, where, says) => {
    const interface_ = { is: 'interface' as const, number: 0, alternate: 0, code: [8, 6, 80], endpoints: [[0x81, 2, 64, 0]] };
    const text = textOf(oneOf({ configurations: [{ mA: 100, parts: [interface_] }] }));
    const name = /^\w+/.exec(where.source)![0];
    const line = text.split('\n').findIndex((each) => each.includes(name)) + 1;
    expect(refused(() => readLsusb(text.replace(where, `${name} ${value}`)))).toEqual([says, line]);
    // the largest number that there is
    expect(readLsusb(text.replace(/wMaxPacketSize +\S+/, 'wMaxPacketSize 0xffff'))[0]?.interfaces[0]?.endpoints[0]).toMatchObject({
      packetBytes: 0x7ff,
      packets: 4,
    });
  });

  test('200 000 lines are read, and one more is too many; what is beyond a line’s 500 letters is not looked at', () => {
    const text = textOf(oneOf());
    const lines = text.split('\n').length;
    expect(readLsusb(text + '\n'.repeat(200_000 - lines))).toHaveLength(1);
    expect(refused(() => readLsusb(text + '\n'.repeat(200_001 - lines)))).toEqual(['has more than 200000 lines', 200_000]);
    expect(readLsusb(text.replace(/MaxPower +\S+/, `MaxPower${' '.repeat(480)}600mA`))[0]?.maxPowerMa).toBe(600);
    expect(readLsusb(text.replace(/MaxPower +\S+/, `MaxPower${' '.repeat(500)}600mA`))[0]?.maxPowerMa).toBe(0);
  });
});

describe('what is wrong with bytes is said', () => {
  const device = bytesOf(oneOf({ configurations: [] }));
  test.each<[string, number[], string, number]>([
    ['nothing', [], 'is empty', 0],
    ['a length of one', [...device, 1, 2], 'a descriptor says it has 1 bytes, and the shortest has 2', 18],
    ['more than is left', [...device, 9, 2, 0], 'a descriptor says it has 9 bytes, and 3 are left', 18],
    ['an endpoint that is too short', [...device, 6, 5, 0, 0, 0, 0], 'a descriptor of type 5 has 6 bytes, and wants 7', 18],
    ['the middle', [9, 2, 0, 0, 1, 1, 0, 0, 0], 'begins with another descriptor than that of a device', 0],
    ['an endpoint alone', [...device, 7, 5, 0, 0, 0, 0, 0], 'has an endpoint before any interface', 18],
  ])('%s', (_, bytes, says, at) => expect(refused(() => readBinary(Uint8Array.from(bytes)))).toEqual([says, at]));
  test('two bytes of a type that nobody knows are stepped over; a million bytes are read and one more is not', () => {
    expect(readBinary(Uint8Array.from([...device, 2, 99]))).toHaveLength(1);
    const most = new Uint8Array(1_000_000);
    for (let i = 0; i < most.length; i += 2) most.set([2, 99], i);
    most.set(device);
    expect(readBinary(most)).toHaveLength(1);
    expect(refused(() => readBinary(new Uint8Array(1_000_001)))).toEqual(['has more than 1000000 bytes', 1_000_000]);
  });
});
