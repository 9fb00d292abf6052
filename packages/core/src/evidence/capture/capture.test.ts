import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { CaptureReader, datagramIn, isCapture, type CapturedPacket, type CaptureProblem } from './index.js';

const bytesAt = (path: string) => new Uint8Array(readFileSync(new URL(path, import.meta.url)));
/** What a reader tells of a file that comes in such pieces. */
function read(pieces: Iterable<Uint8Array>): { packets: (CapturedPacket & { bytes: Uint8Array })[]; problems: CaptureProblem[] } {
  const packets: CapturedPacket[] = [];
  const problems: CaptureProblem[] = [];
  const reader = new CaptureReader({
    // the bytes are the reader's: kept as a copy
    packet: (packet) => packets.push({ ...packet, bytes: packet.bytes.slice() }),
    problem: (problem) => problems.push(problem),
  });
  for (const piece of pieces) reader.push(piece);
  reader.end();
  return { packets, problems };
}
const lease = bytesAt('../../bringup/dhcp/fixtures/lease.pcapng');
/** As another program reads it: tshark 4.0.17 -T fields -e frame.number -e frame.time_epoch -e frame.len -e udp.srcport -e ip.src -e ip.dst */
const frames = readFileSync(new URL('fixtures/lease.frames', import.meta.url), 'utf8')
  .trim()
  .split('\n')
  .map((line) => line.split('\t') as [string, string, string, string, string, string]);

/** Whole numbers as bytes, the last weighing most where it is little-endian. */
const le = (length: number, ...values: number[]) =>
  values.flatMap((value) => Array.from({ length }, (_, i) => Math.floor(value / 256 ** i) % 256));
const be = (length: number, ...values: number[]) => values.flatMap((value) => le(length, value).reverse());
const file = (...parts: number[][]) => Uint8Array.from(parts.flat());

describe('a capture', () => {
  test.each([
    ['pcapng with nanoseconds', '../../bringup/dhcp/fixtures/lease.pcapng', 9],
    ['pcap with microseconds', 'fixtures/lease.pcap.pcap', 6],
    ['pcap with nanoseconds', 'fixtures/lease.nsecpcap.pcap', 9],
  ])('as %s is read as another program reads it', (_, path, digits) => {
    const { packets, problems } = read([bytesAt(path)]);
    expect(problems).toEqual([]);
    expect(
      packets.map(({ number, atS, atNs, originalLength, linkType }) => [
        String(number),
        `${atS}.${String(atNs).padStart(9, '0')}`,
        String(originalLength),
        linkType,
      ]),
    ).toEqual(frames.map(([number, time, length]) => [number, `${time.slice(0, 11 + digits)}${'0'.repeat(9 - digits)}`, length, 1]));
    expect(
      packets.map(({ linkType, bytes }) => {
        const found = datagramIn(linkType, bytes);
        return [String(found?.sourcePort), found?.source, found?.destination, found?.isCut];
      }),
    ).toEqual(frames.map(([, , , port, source, destination]) => [port, source, destination, false]));
  });

  test('that cuts packets off says how long they were', () => {
    const { packets } = read([bytesAt('fixtures/lease.cut.pcap')]);
    expect(packets.map(({ bytes, originalLength }) => [bytes.length, String(originalLength)])).toEqual(
      frames.map(([, , length]) => [128, length]),
    );
    expect(packets.every(({ linkType, bytes }) => datagramIn(linkType, bytes)?.isCut)).toBe(true);
  });

  test('comes to the same in whatever pieces it comes', () => {
    const whole = read([lease]);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 700 }), { minLength: 1, maxLength: 40 }), (sizes) => {
        const pieces: Uint8Array[] = [];
        for (let [at, i] = [0, 0]; at < lease.length; i++) {
          const size = sizes[i % sizes.length]!;
          // given away afterwards: whoever reads must not hold on to it
          pieces.push(lease.slice(at, at + size));
          at += size;
        }
        const handed = (function* () {
          for (const piece of pieces) {
            yield piece;
            piece.fill(0xee);
          }
        })();
        expect(read(handed)).toEqual(whole);
      }),
    );
  });

  const head = (order: typeof le, magic: number, linkType: number, snap = 65_535, version = 2) =>
    file(order(4, magic), order(2, version, 4), order(4, 0, 0, snap, linkType));
  test.each([
    ['least first', le],
    ['most first', be],
  ])('of the older format has its numbers %s', (_, order) => {
    const record = file(order(4, 1_700_000_000, 250_000, 3, 9), [1, 2, 3]);
    // the upper bits of the link's number tell of a check sum, and are not part of it
    const { packets, problems } = read([file([...head(order, 0xa1b2c3d4, 0x1400_0071)], [...record])]);
    expect(problems).toEqual([]);
    expect(packets).toEqual([
      { number: 1, atS: 1_700_000_000, atNs: 250_000_000, linkType: 113, bytes: Uint8Array.of(1, 2, 3), originalLength: 9, offset: 40 },
    ]);
  });

  const block = (order: typeof le, type: number, body: number[]) => {
    const padded = [...body, ...Array.from({ length: (4 - (body.length % 4)) % 4 }, () => 0)];
    return [...order(4, type, padded.length + 12), ...padded, ...order(4, padded.length + 12)];
  };
  const section = (order: typeof le, major = 1) =>
    block(order, 0x0a0d0d0a, [...order(4, 0x1a2b3c4d), ...order(2, major, 0), ...le(8, 2 ** 53)]);
  const described = (order: typeof le, linkType: number, snap: number, ...options: number[]) =>
    block(order, 1, [...order(2, linkType, 0), ...order(4, snap), ...options, ...order(2, 0, 0)]);
  const resolution = (order: typeof le, value: number) => [...order(2, 9, 1), value, 0, 0, 0];
  const packet = (order: typeof le, id: number, high: number, low: number, bytes: number[]) =>
    block(order, 6, [...order(4, id, high, low, bytes.length, bytes.length + 1), ...bytes]);

  test.each([
    ['least first', le],
    ['most first', be],
  ])('of the newer format, %s: sections, interfaces with their own units, and blocks that are passed over', (_, order) => {
    const micro = 1_700_000_000_123_456;
    const [high, low] = [Math.floor(micro / 2 ** 32), micro % 2 ** 32];
    const bytes = file(
      section(order),
      block(order, 4, [1, 2, 3, 4]),
      described(order, 1, 4),
      described(order, 101, 0, ...resolution(order, 0x80 | 10), ...order(2, 14, 8), ...(order === le ? le(8, 1000) : be(8, 1000))),
      packet(order, 0, high, low, [1, 2, 3]),
      packet(order, 1, 0, 5 * 1024 + 512, [9]),
      block(order, 3, [...order(4, 6), 7, 7, 7, 7]),
      block(order, 2, [...order(2, 0, 3), ...order(4, high, low, 2, 2), 5, 5]),
      packet(order, 7, 0, 0, [1]),
      section(order),
      packet(order, 0, 0, 0, [1]),
    );
    const { packets, problems } = read([bytes]);
    expect(
      packets.map(({ number, atS, atNs, linkType, bytes: of, originalLength }) => [number, atS, atNs, linkType, [...of], originalLength]),
    ).toEqual([
      [1, 1_700_000_000, 123_456_000, 1, [1, 2, 3], 4],
      [2, 1005, 500_000_000, 101, [9], 2],
      [3, null, 0, 1, [7, 7, 7, 7], 6],
      [4, 1_700_000_000, 123_456_000, 1, [5, 5], 2],
    ]);
    // an interface that nobody described, and one of the section before
    expect(problems.map(({ text }) => text)).toEqual([
      'packet 5 is of interface 7, which the file does not describe',
      'packet 6 is of interface 0, which the file does not describe',
    ]);
  });

  test('with ticks that are more than a number holds is exact to the nanosecond', () => {
    const ticks = 1_700_000_000_999_999_999n;
    const bytes = file(
      section(le),
      described(le, 1, 0, ...resolution(le, 9)),
      packet(le, 0, Number(ticks >> 32n), Number(ticks & 0xffff_ffffn), [1]),
    );
    expect(read([bytes]).packets[0]).toMatchObject({ atS: 1_700_000_000, atNs: 999_999_999 });
  });

  test.each<[string, Uint8Array, CaptureProblem]>([
    ['nothing', new Uint8Array(0), { offset: 0, text: 'is too short for a capture' }],
    ['three bytes', file([1, 2, 3]), { offset: 3, text: 'is too short for a capture' }],
    ['something else', file([0x47, 0x49, 0x46, 0x38]), { offset: 0, text: 'is no capture: it begins like neither pcap nor pcapng' }],
    ['another version', file([...head(le, 0xa1b2c3d4, 1, 9, 3)]), { offset: 4, text: 'is version 3.4 of the format; 2.4 can be read' }],
    ['half a head', head(le, 0xa1b2c3d4, 1).slice(0, 20), { offset: 20, text: 'ends within a packet: 20 bytes of at least 24 are there' }],
    [
      'a packet of four thousand million bytes',
      file([...head(le, 0xa1b2c3d4, 1)], le(4, 0, 0, 0xffff_fff0, 9)),
      { offset: 32, text: 'packet 1 says that it has 4294967280 bytes; at most 262144 can be' },
    ],
    [
      'a packet that is not all there',
      file([...head(le, 0xa1b2c3d4, 1)], le(4, 0, 0, 9, 9), [1, 2]),
      { offset: 42, text: 'ends within a packet: 18 bytes of at least 25 are there' },
    ],
    [
      'more than a second of microseconds',
      file([...head(le, 0xa1b2c3d4, 1)], le(4, 0, 1_000_000, 0, 0)),
      { offset: 28, text: 'packet 1 says 1000000 parts of a second, more than a second has' },
    ],
    [
      'a section without an order',
      file(le(4, 0x0a0d0d0a, 28), le(4, 1), le(8, 0, 0)),
      { offset: 8, text: 'a section does not say in which order its bytes stand' },
    ],
    ['another version of blocks', file(section(le, 2)), { offset: 12, text: 'is version 2 of the format; 1 can be read' }],
    [
      'a block that ends with another length',
      file([...section(le).slice(0, -4)], le(4, 99)),
      { offset: 24, text: 'the length behind a block is not the one before it, 28' },
    ],
    [
      'a block of seven bytes',
      file(section(le), le(4, 6, 7), le(4, 0)),
      { offset: 32, text: 'a block says that it has 7 bytes; a whole number of fours from 12 to 16842752 can be' },
    ],
    [
      'a packet larger than its block',
      file(section(le), described(le, 1, 0), block(le, 6, le(4, 0, 0, 0, 40, 40))),
      { offset: 28 + 24 + 8 + 12, text: 'packet 1 says that it has 40 bytes; its block has 0' },
    ],
  ])('that is %s says what is wrong and where', (_, bytes, problem) => {
    expect(read([bytes]).problems).toEqual([problem]);
  });

  test('that is broken anywhere is read without a crash, what is told lies within it', () => {
    let seed = 11;
    /** The same numbers in every run [Park and Miller 1988]. */
    const pick = (n: number) => (seed = (seed * 48_271) % 2_147_483_647) % n;
    for (let run = 0; run < 3000; run++) {
      const bytes = lease.slice(0, run % 3 ? lease.length : pick(lease.length));
      for (let i = pick(6); i >= 0 && bytes.length; i--) bytes[pick(bytes.length)] = pick(256);
      const { packets, problems } = read([bytes.subarray(0, 700), bytes.subarray(700)]);
      for (const { offset } of problems) expect(offset).toBeLessThanOrEqual(bytes.length);
      for (const { linkType, bytes: of } of packets) datagramIn(linkType, of);
    }
  });

  test('is known by its first bytes', () => {
    expect([isCapture(lease), isCapture(Uint8Array.of(0xa1, 0xb2)), isCapture(Uint8Array.of(1, 2, 3, 4))]).toEqual([true, false, false]);
  });
});

describe('a datagram in a packet', () => {
  const udp = (payload: number[], length = payload.length + 8) => [...be(2, 68, 67, length, 0), ...payload];
  const ip4 = (body: number[], { head = 5, protocol = 17, pieces = 0 } = {}) => [
    ...[0x40 | head, 0, ...be(2, head * 4 + body.length, 0, pieces), 64, protocol, 0, 0, 192, 0, 2, 1, 192, 0, 2, 255],
    ...Array.from({ length: (head - 5) * 4 }, () => 1),
    ...body,
  ];
  const ip6 = (body: number[], next = 17) => [
    ...[0x60, 0, 0, 0, ...be(2, body.length), next, 64],
    ...[0x20, 0x01, 0x0d, 0xb8, ...Array.from({ length: 11 }, () => 0), 1],
    ...[0x20, 0x01, 0x0d, 0xb8, 0, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 2],
    ...body,
  ];
  const ethernet = (type: number, body: number[], tags: number[] = []) => [
    ...Array.from({ length: 12 }, () => 2),
    ...tags,
    ...be(2, type),
    ...body,
  ];
  const found = (linkType: number, bytes: number[]) => {
    const datagram = datagramIn(linkType, Uint8Array.from(bytes));
    return (
      datagram &&
      `${datagram.source}:${datagram.sourcePort} ${datagram.destination}:${datagram.destinationPort} ${[...datagram.payload].join()} at ${datagram.at}${datagram.isCut ? ' cut' : ''}`
    );
  };
  const plain = '192.0.2.1:68 192.0.2.255:67 7,8';

  test.each<[string, number, number[], string | null]>([
    ['over Ethernet', 1, ethernet(0x0800, ip4(udp([7, 8]))), `${plain} at 42`],
    ['with two tags', 1, ethernet(0x0800, ip4(udp([7, 8])), [...be(2, 0x88a8, 5, 0x8100, 9)]), `${plain} at 50`],
    ['with options in the head', 1, ethernet(0x0800, ip4(udp([7, 8]), { head: 7 })), `${plain} at 50`],
    ['over IP alone', 101, ip4(udp([7, 8])), `${plain} at 28`],
    ['over the loopback', 0, [2, 0, 0, 0, ...ip4(udp([7, 8]))], `${plain} at 32`],
    ['of “any” interface', 113, [...Array.from({ length: 14 }, () => 0), ...be(2, 0x0800), ...ip4(udp([7, 8]))], `${plain} at 44`],
    ['of “any” interface, newer', 276, [...be(2, 0x0800), ...Array.from({ length: 18 }, () => 0), ...ip4(udp([7, 8]))], `${plain} at 48`],
    ['by IPv6', 1, ethernet(0x86dd, ip6(udp([7]))), '2001:db8::1:68 2001:db8:0:1::2:67 7 at 62'],
    [
      'by IPv6 behind other heads',
      229,
      ip6([60, 0, 0, 0, 0, 0, 0, 0, 17, 0, 0, 0, 0, 0, 0, 0, ...udp([7])], 0),
      '2001:db8::1:68 2001:db8:0:1::2:67 7 at 64',
    ],
    ['with bytes behind it', 101, [...ip4(udp([7, 8])), 0, 0], `${plain} at 28`],
    ['that is cut off', 101, ip4(udp([7, 8], 99)), `${plain} at 28 cut`],
    ['the first piece', 101, ip4(udp([7, 8]), { pieces: 0x2000 }), `${plain} at 28 cut`],
    ['a later piece', 101, ip4(udp([7, 8]), { pieces: 5 }), null],
    ['a later piece by IPv6', 229, ip6([17, 0, ...be(2, 8), 0, 0, 0, 0, ...udp([7])], 44), null],
    ['of something else', 101, ip4(udp([7, 8]), { protocol: 6 }), null],
    ['of a link nobody knows', 147, ip4(udp([7, 8])), null],
    ['of something else on Ethernet', 1, ethernet(0x0806, ip4(udp([7, 8]))), null],
    ['too short to be one', 101, ip4(udp([]).slice(0, 7)), null],
    ['that says it is shorter than its head', 101, ip4(udp([7, 8], 7)), null],
    ['with a head shorter than one', 101, ip4(udp([7, 8]), { head: 4 }), null],
    ['that ends within its head', 1, ethernet(0x86dd, ip6([]).slice(0, 39)), null],
  ])('%s', (_, linkType, bytes, told) => {
    expect(found(linkType, bytes)).toBe(told);
  });
});
