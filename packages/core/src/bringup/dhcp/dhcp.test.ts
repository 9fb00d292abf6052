import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { bytesOf, decodeDhcp, encodeDhcp, hexText, optionName, optionValue, readDhcp, typeOf, type MessageToSend } from './index.js';
import { bytesFromHex } from './hex.js';
import { optionProblems } from './values.js';

const captured = new Uint8Array(readFileSync(new URL('fixtures/lease.pcapng', import.meta.url)));
/*
 * A lease between dnsmasq 2.90 and the client of busybox 1.35 in two namespaces, as tshark 4.0.17 reads it: number, type, xid, hardware
 * address, your address, then codes, lengths and bytes of the options.
 */
const rows = readFileSync(new URL('fixtures/lease.fields', import.meta.url), 'utf8')
  .trim()
  .split('\n')
  .map((line) => line.split('|') as [string, string, string, string, string, string, string, string]);
const messages = () => {
  const reading = readDhcp(captured);
  if (!reading.ok) throw new Error(reading.fault.problem);
  return reading.value;
};

const plain: MessageToSend = {
  ...{ op: 2, hardwareType: 1, hops: 0, xid: 0x12345678, secs: 0, broadcast: false, clientAddress: '0.0.0.0', yourAddress: '192.0.2.50' },
  ...{ nextServer: '0.0.0.0', relay: '0.0.0.0', hardwareAddress: Uint8Array.of(2, 0, 0, 0, 0, 1), serverName: '', bootFile: '' },
  options: [{ code: 53, bytes: Uint8Array.of(2) }],
};
const sent = (more: Partial<MessageToSend> = {}, longest?: number): Uint8Array => {
  const bytes = encodeDhcp({ ...plain, ...more }, longest);
  if (!bytes) throw new Error('does not fit');
  return bytes;
};
/** A message whose options are these bytes. */
const withOptions = (...options: number[]): Uint8Array => Uint8Array.from([...sent().slice(0, 240), ...options]);
const problemsOf = (bytes: Uint8Array) => decodeDhcp(bytes).problems.map(({ offset, text }) => `${offset}: ${text}`);
const text = (of: string) => [...bytesOf.text(of)];

describe('messages of a real server and client', () => {
  test('are read field by field as another program reads them', () => {
    const { messages: found, problems } = messages();
    expect(problems).toEqual([]);
    const types = ['', 'DISCOVER', 'OFFER', 'REQUEST', 'DECLINE', 'ACK'];
    expect(
      found.map(({ type, xid, clientMac, yourAddress, options }) => [
        type,
        xid,
        clientMac,
        yourAddress,
        options.map(({ code }) => code).join(),
      ]),
    ).toEqual(rows.map(([, type, xid, mac, your, codes]) => [types[Number(type)], xid, mac.split(',')[0], your, codes.replace(/,0$/, '')]));
    expect(found.flatMap((each) => each.problems)).toEqual([]);
  });

  test('have their options where they stand, with what they hold', () => {
    // each behind the one before: two bytes of head and its own
    for (const [i, { options }] of messages().messages.entries()) {
      const [, , , , , , lengths, values] = rows[i]!;
      let offset = 240;
      for (const [n, option] of options.entries()) {
        expect(option.offset).toBe(offset);
        offset += 2 + Number(lengths.split(',')[n]);
        // asked for and identifier are told by tshark as a list of parts of their own
        const bytes = Uint8Array.from(Buffer.from(values.split(',')[n]!, 'hex'));
        expect(option.value).toBe(optionValue(option.code, bytes).value);
      }
    }
    const ack = messages().messages[5]!;
    const value = (code: number) => ack.options.find((option) => option.code === code)?.value;
    expect([value(1), value(51), value(42), value(121), value(225), value(12)]).toEqual([
      '255.255.255.0',
      '43200',
      '192.0.2.4',
      '198.51.100.0/24 via 192.0.2.1, 0.0.0.0/0 via 192.0.2.1',
      '192.0.2.11',
      'gul-k01',
    ]);
  });
});

describe('what goes over the wire', () => {
  const address = fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255), fc.nat(255)).map((parts) => parts.join('.'));
  const option = fc.record({
    code: fc.integer({ min: 1, max: 254 }).filter((code) => code !== 52),
    bytes: fc.oneof(
      fc.uint8Array({ maxLength: 40 }),
      fc.uint8Array({ minLength: 30, maxLength: 58 }),
      fc.uint8Array({ minLength: 250, maxLength: 800 }),
    ),
  });
  const anyMessage = fc.record({
    ...{ op: fc.constantFrom(1, 2), hardwareType: fc.nat(255), hops: fc.nat(255), xid: fc.nat(0xffff_ffff), secs: fc.nat(0xffff) },
    ...{ broadcast: fc.boolean(), clientAddress: address, yourAddress: address, nextServer: address, relay: address },
    hardwareAddress: fc.uint8Array({ minLength: 1, maxLength: 16 }),
    serverName: fc.constantFrom('', '', '', 'boot.example'),
    bootFile: fc.constantFrom('', '', '', 'images/thin.bin'),
    options: fc.uniqueArray(option, { maxLength: 12, selector: ({ code }) => code }),
  });

  test('comes out as it went in, whatever it holds', () => {
    fc.assert(
      fc.property(anyMessage, fc.constantFrom(576, 576, 1500, 4000), (message, longest) => {
        const bytes = encodeDhcp(message, longest);
        if (!bytes) return;
        expect(bytes.length).toBeLessThanOrEqual(longest - 28);
        expect(bytes.length).toBeGreaterThanOrEqual(300);
        const { message: read } = decodeDhcp(bytes);
        const { options, ...fields } = read!;
        const { options: given, ...others } = message;
        expect(fields).toEqual(others);
        const own = options.filter(({ code }) => code !== 52);
        expect(own.map(({ code, bytes: of }) => [code, [...of]])).toEqual(given.map(({ code, bytes: of }) => [code, [...of]]));
      }),
      { numRuns: 400 },
    );
  });

  test('goes into the other fields from the byte on for which the options have no room, and comes back the same', () => {
    // of 576 bytes 28 are heads and 240 fields; one of the 308 left is the end. The field of the file holds 127
    for (let total = 260; total <= 250 + 127; total++) {
      const first = Array.from({ length: 9 }, (_, n) => ({ code: 200 + n, bytes: new Uint8Array(25).fill(n) }));
      const options = [...first, { code: 230, bytes: new Uint8Array(5) }, { code: 231, bytes: new Uint8Array(total - 9 * 27 - 7 - 2) }];
      const need = options.reduce((sum, { bytes }) => sum + 2 + bytes.length, 0);
      const { message: read } = decodeDhcp(encodeDhcp({ ...plain, options }, 576)!);
      expect([total, read!.options.some(({ code }) => code === 52)]).toEqual([total, need > 307]);
      const own = read!.options.filter(({ code }) => code !== 52);
      expect(own.map(({ code, bytes }) => [code, bytes.length])).toEqual(options.map(({ code, bytes }) => [code, bytes.length]));
    }
  });

  test('a long option goes in pieces of 255 bytes, one behind the other, and is one again [RFC 3396]', () => {
    const long = Uint8Array.from({ length: 600 }, (_, i) => i % 251);
    const bytes = sent({ options: [...plain.options, { code: 224, bytes: long }] });
    expect([bytes[243], bytes[244], bytes[500], bytes[501], bytes[757], bytes[758]]).toEqual([224, 255, 224, 255, 224, 90]);
    const found = decodeDhcp(bytes).message?.options.at(-1);
    expect([found?.code, found?.offset]).toEqual([224, 243]);
    expect(found?.bytes).toEqual(long);
  });

  test('what does not fit stands in the fields of the file and of the server’s name, and is joined in that order', () => {
    const message = withOptions(53, 1, 5, 52, 1, 3, 60, 2, ...text('ab'), 255);
    // sname at 44, file at 108: pieces of one option in all three
    message.set([60, 2, ...text('ef'), 12, 1, ...text('h'), 255], 44);
    message.set([60, 2, ...text('cd'), 255], 108);
    const { message: read, problems } = decodeDhcp(message);
    expect(problems).toEqual([]);
    expect(read?.options.map(({ code, offset, bytes }) => `${code}@${offset} ${hexText(bytes)}`)).toEqual([
      '53@240 05',
      '52@243 03',
      '60@246 61:62:63:64:65:66',
      '12@48 68',
    ]);
    expect([read?.serverName, read?.bootFile]).toEqual(['', '']);
    // one of the two alone leaves the other a name
    message.set([52, 1, 1], 243);
    message.set([...text('server'), 0], 44);
    expect(decodeDhcp(message).message?.serverName).toBe('server');
  });

  test('has no place for more than its fields hold', () => {
    expect(encodeDhcp({ ...plain, options: [{ code: 224, bytes: new Uint8Array(600) }] }, 576)).toBeNull();
    expect(
      encodeDhcp(
        {
          ...plain,
          bootFile: 'x',
          options: [
            { code: 224, bytes: new Uint8Array(200) },
            { code: 225, bytes: new Uint8Array(140) },
          ],
        },
        576,
      ),
    ).toBeNull();
  });
});

describe('what is wrong is told, with where it stands', () => {
  test('a plain message is right', () => {
    expect(problemsOf(sent())).toEqual([]);
    expect(typeOf(decodeDhcp(sent()).message!)).toBe('OFFER');
  });

  test.each<[string, Uint8Array, string[]]>([
    ['shorter than its fields', sent().slice(0, 239), ['239: ends after 239 bytes; its fields alone are 240']],
    ['nothing', new Uint8Array(0), ['0: ends after 0 bytes; its fields alone are 240']],
    ['neither request nor answer', sent({ op: 3 }), ['0: is neither a request (1) nor an answer (2): 3']],
    [
      'an address of 17 bytes',
      (() => {
        const bytes = sent();
        bytes[2] = 17;
        return bytes;
      })(),
      ['2: says that the hardware address has 17 bytes; 16 are the most'],
    ],
    [
      'another cookie',
      (() => {
        const bytes = sent();
        bytes.set([1, 2, 3, 4], 236);
        return bytes;
      })(),
      ['236: has 01:02:03:04 where 63:82:53:63 says that options follow'],
    ],
    ['no end', withOptions(53, 1, 2, 0, 0), ['243: the options end without saying so (255)']],
    ['nothing behind the cookie', withOptions(), ['240: the options end without saying so (255)']],
    [
      'an option longer than the message',
      withOptions(53, 1, 2, 12, 9, 65),
      ['243: option 12 (host name) says that it has 9 bytes; 1 are there'],
    ],
    ['an option without a length', withOptions(53, 1, 2, 12), ['243: option 12 (host name) ends before it says how long it is']],
    ['a mask of five bytes', withOptions(1, 5, 1, 2, 3, 4, 5, 255), ['240: option 1 (subnet mask) has 5 bytes; an address is 4 bytes']],
    [
      'text where addresses are wanted',
      withOptions(42, 11, ...text('ntp.example'), 255),
      ['240: option 42 (time server (NTP)) has 11 bytes; addresses are 4 bytes each. It holds the text “ntp.example”'],
    ],
    [
      'an address where text is wanted',
      withOptions(66, 4, 192, 0, 2, 1, 255),
      ['240: option 66 (boot server name) holds bytes that are no text. It holds the address 192.0.2.1'],
    ],
    [
      'a text that ends in a NUL',
      withOptions(53, 1, 2, 224, 5, ...text('http'), 0, 255),
      ['243: option 224 (own number) ends in a NUL byte, which some clients take for a part of the text'],
    ],
    ['an empty name', withOptions(12, 0, 255), ['240: option 12 (host name) is empty']],
    ['a type of message that is none', withOptions(53, 1, 99, 255), ['240: option 53 (message type) is no type of message: 99']],
    ['an overload of 4', withOptions(52, 1, 4, 255), ['240: says 4; 1, 2 or 3 can be']],
    [
      'options in the file that do not end',
      withOptions(52, 1, 1, 255),
      ['108: the options in the field of the file end without saying so (255)'],
    ],
    ['neither yes nor no', withOptions(19, 1, 7, 255), ['240: option 19 (forwarding) is neither 0 nor 1']],
    ['an identifier of one byte', withOptions(61, 1, 7, 255), ['240: option 61 (client identifier) has 1 byte; it needs 2']],
    [
      'a prefix of 33 bits',
      withOptions(121, 9, 33, 1, 2, 3, 4, 5, 6, 7, 8, 255),
      ['240: option 121 (routes) has a prefix of 33 bits; 32 are the most'],
    ],
    ['a route without its router', withOptions(121, 3, 8, 10, 192, 255), ['240: option 121 (routes) ends within a route, after 3 bytes']],
    [
      'a name that points to itself',
      withOptions(119, 2, 0xc0, 0, 255),
      ['240: option 119 (search list) points to byte 0 of itself, which is not before byte 0'],
    ],
    [
      'a name that points on',
      withOptions(119, 3, 0xc0, 2, 0, 255),
      ['240: option 119 (search list) points to byte 2 of itself, which is not before byte 0'],
    ],
    [
      'a name that does not end',
      withOptions(119, 4, 3, ...text('abc'), 255),
      ['240: option 119 (search list) ends within a name, after 4 bytes'],
    ],
    ['a name cut in a pointer', withOptions(119, 1, 0xc0, 255), ['240: option 119 (search list) ends within a name, after 1 bytes']],
    [
      'a piece of 64 bytes',
      withOptions(119, 2, 64, 0, 255),
      ['240: option 119 (search list) has a piece of a name of 64 bytes; 63 are the most'],
    ],
    [
      'classes without their lengths',
      withOptions(77, 5, ...text('kiosk'), 255),
      ['240: option 77 (user class) does not say how long its texts are'],
    ],
  ])('%s', (_, bytes, problems) => {
    expect(problemsOf(bytes)).toEqual(problems);
  });

  test('a lease that is short, just below and just at what is enough', () => {
    const lease = (seconds: number) => withOptions(53, 1, 5, 51, 4, ...bytesOf.u32(seconds), 255);
    expect(problemsOf(lease(299))).toEqual(['243: gives a lease of 299 s; below 300 s devices ask again and again']);
    expect(problemsOf(lease(300))).toEqual([]);
  });

  test('two servers that answer the same question', () => {
    const offer = (server: number, xid = 1) =>
      hexText(sent({ xid, options: [...plain.options, { code: 54, bytes: Uint8Array.of(192, 0, 2, server) }] }));
    const found = readDhcp(bytesOf.text([offer(1), offer(1), offer(9), offer(9, 2)].join('\n\n')));
    expect(found.ok && found.value.messages.map(({ problems }) => problems)).toEqual([
      [],
      [],
      [{ offset: 243, text: 'is a second server’s offer: 192.0.2.9 answers as 192.0.2.1 did' }],
      [],
    ]);
  });

  test('ten thousand messages that are broken anywhere: never a crash, and every problem lies within', () => {
    let seed = 5;
    /** The same numbers in every run [Park and Miller 1988]. */
    const pick = (n: number) => (seed = (seed * 48_271) % 2_147_483_647) % n;
    const good = [
      sent(),
      withOptions(119, 9, 3, ...text('abc'), 0, 0xc0, 0, 1, 65, 121, 5, 0, 1, 2, 3, 4, 52, 1, 3, 77, 3, 2, 65, 66, 255),
    ];
    for (let run = 0; run < 10_000; run++) {
      const whole = good[run % 2]!;
      const bytes = whole.slice(0, run % 4 ? whole.length : pick(whole.length + 1));
      for (let i = pick(5); i >= 0 && bytes.length; i--)
        bytes[pick(3) && bytes.length > 240 ? 236 + pick(bytes.length - 236) : pick(bytes.length)] = pick(256);
      const { message, problems } = decodeDhcp(bytes);
      for (const { offset } of problems)
        if (offset < 0 || offset > bytes.length) throw new Error(`a problem at ${offset} of ${bytes.length}`);
      for (const { code, offset, bytes: of } of message?.options ?? []) {
        if (offset >= bytes.length) throw new Error(`an option at ${offset} of ${bytes.length}`);
        optionValue(code, of);
      }
    }
  });
});

describe('what options say', () => {
  test.each<[number, number[], string]>([
    [1, [255, 255, 255, 0], '255.255.255.0'],
    [3, [192, 0, 2, 1, 192, 0, 2, 2], '192.0.2.1, 192.0.2.2'],
    [33, [192, 0, 2, 1, 192, 0, 2, 2], '192.0.2.1 192.0.2.2'],
    [2, [255, 255, 241, 240], '-3600'],
    [26, [5, 220], '1500'],
    [19, [1], 'yes'],
    [19, [0], 'no'],
    [53, [5], 'ACK'],
    [55, [1, 3, 6], '1, 3, 6'],
    [61, [1, 2, 0, 0, 0, 0, 9], '01:02:00:00:00:00:09'],
    [12, [...new TextEncoder().encode('kai-über')], 'kai-über'],
    [77, [2, 65, 66, 1, 67], 'AB, C'],
    [43, [1, 4, 192, 0, 2, 9, 2, 2, 104, 105, 255], '1: c0:00:02:09, 2: hi'],
    [43, [9, 200], '09:c8'],
    [224, [192, 0, 2, 11], '192.0.2.11'],
    [224, [1, 2, 3], '01:02:03'],
    // names, a later one pointing back into an earlier one [RFC 1035 4.1.4]
    [119, [3, 97, 98, 99, 2, 100, 101, 0, 1, 120, 0xc0, 4], 'abc.de, x.de'],
    // the encodings in the table of RFC 3442
    [121, [0, 10, 0, 0, 1], '0.0.0.0/0 via 10.0.0.1'],
    [121, [8, 10, 10, 0, 0, 1], '10.0.0.0/8 via 10.0.0.1'],
    [121, [24, 10, 0, 0, 10, 0, 0, 1], '10.0.0.0/24 via 10.0.0.1'],
    [121, [16, 10, 17, 10, 0, 0, 1], '10.17.0.0/16 via 10.0.0.1'],
    [121, [24, 10, 27, 129, 10, 0, 0, 1], '10.27.129.0/24 via 10.0.0.1'],
    [121, [25, 10, 229, 0, 128, 10, 0, 0, 1], '10.229.0.128/25 via 10.0.0.1'],
    [121, [32, 10, 198, 122, 47, 10, 0, 0, 1], '10.198.122.47/32 via 10.0.0.1'],
  ])('%i %j is %s', (code, bytes, value) => {
    expect(optionValue(code, Uint8Array.from(bytes))).toEqual({ value, problems: [] });
  });

  test('are wrong in the same way whether their value is asked for or not', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 254 }), fc.uint8Array({ maxLength: 12 }), (code, bytes) => {
        expect(optionProblems(code, bytes)).toEqual(optionValue(code, bytes).problems);
      }),
      { numRuns: 3000 },
    );
  });

  // the numbers as another program has them: dnsmasq 2.90 --help dhcp
  test.each([
    [1, 'netmask', 'subnet mask'],
    [2, 'time-offset', 'time offset'],
    [3, 'router', 'router'],
    [6, 'dns-server', 'name server'],
    [7, 'log-server', 'log server'],
    [9, 'lpr-server', 'print server'],
    [13, 'boot-file-size', 'boot file size'],
    [15, 'domain-name', 'domain name'],
    [17, 'root-path', 'root path'],
    [19, 'ip-forward-enable', 'forwarding'],
    [23, 'default-ttl', 'time to live'],
    [26, 'mtu', 'interface MTU'],
    [31, 'router-discovery', 'router discovery'],
    [33, 'static-route', 'static routes'],
    [42, 'ntp-server', 'time server (NTP)'],
    [44, 'netbios-ns', 'NetBIOS name server'],
    [46, 'netbios-nodetype', 'NetBIOS node type'],
    [58, 'T1', 'renewal time'],
    [59, 'T2', 'rebinding time'],
    [60, 'vendor-class', 'vendor class'],
    [66, 'tftp-server', 'boot server name'],
    [67, 'bootfile-name', 'boot file name'],
    [69, 'smtp-server', 'mail server'],
    [77, 'user-class', 'user class'],
    [80, 'rapid-commit', 'rapid commit'],
    [93, 'client-arch', 'processor type'],
    [94, 'client-interface-id', 'network interface'],
    [97, 'client-machine-id', 'machine identifier'],
    [119, 'domain-search', 'search list'],
    [121, 'classless-static-route', 'routes'],
    [150, 'tftp-server-address', 'boot servers'],
  ])('%i, there %s, is here %s', (code, _, name) => expect(optionName(code)).toBe(name));

  test('are called by what they are; a fleet’s own numbers by that', () => {
    expect([1, 224, 254, 223].map(optionName)).toEqual(['subnet mask', 'own number', 'own number', 'not known']);
  });
});

describe('hex text', () => {
  const one = [...sent().slice(0, 20)];
  const pairs = one.map((byte) => byte.toString(16).padStart(2, '0'));
  test.each([
    ['digits alone', pairs.join('')],
    ['with spaces', pairs.join(' ')],
    ['with colons, in capitals', pairs.join(':').toUpperCase()],
    ['with 0x and commas', pairs.map((pair) => `0x${pair}`).join(', ')],
    ['over several lines, with a comment', `# a message\n${pairs.slice(0, 7).join(' ')}\n${pairs.slice(7).join(' ')}\r\n`],
    ['as a dump', `0000  ${pairs.slice(0, 16).join(' ')}   ........ ........\n0010  ${pairs.slice(16).join(' ')}   ....`],
    [
      'as a dump of words',
      `00000000: ${pairs
        .slice(0, 16)
        .join('')
        .replace(/(.{4})/g, '$1 ')} ................\n00000010: ${pairs
        .slice(16)
        .join('')
        .replace(/(.{4})/g, '$1 ')} ....`,
    ],
  ])('%s', (_, given) => {
    expect(bytesFromHex(given)).toEqual({ ok: true, value: [Uint8Array.from(one)] });
  });

  test('has its messages parted by an empty line, and says where it is wrong', () => {
    expect(bytesFromHex('0102\n\n\n0304')).toMatchObject({ value: [Uint8Array.of(1, 2), Uint8Array.of(3, 4)] });
    expect(bytesFromHex('0102\n01x2')).toMatchObject({ fault: { place: 'line 2', problem: 'has “x”, which is no digit of a hex number' } });
    expect(bytesFromHex('01020')).toMatchObject({ fault: { place: 'line 1', problem: 'has 5 digits' } });
    expect(bytesFromHex('# nothing\n')).toMatchObject({ fault: { problem: 'holds no hex digits' } });
  });

  test('is seen from the content, unless a file is a message or a capture', () => {
    expect(readDhcp(sent())).toMatchObject({ value: { messages: [{ type: 'OFFER', yourAddress: '192.0.2.50' }] } });
    expect(readDhcp(bytesOf.text(hexText(sent())))).toMatchObject({ value: { messages: [{ type: 'OFFER', xid: '0x12345678' }] } });
    expect(readDhcp(new Uint8Array(0))).toMatchObject({ fault: { problem: 'is empty' } });
    expect(readDhcp(bytesOf.text('no hex'), true)).toMatchObject({ ok: false });
    expect(readDhcp(Uint8Array.of(0, 1, 2))).toMatchObject({
      value: { messages: [{ type: null, clientMac: null, options: [], problems: [{ offset: 3 }] }] },
    });
    expect(readDhcp(withOptions(12, 1, 65, 255))).toMatchObject({ value: { messages: [{ type: 'BOOTP' }] } });
  });
});
