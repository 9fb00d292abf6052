import { describe, expect, test } from '@jest/globals';
import { plain, problemsOf, sent, withOptions, text } from '../../../test/dhcpMessage.js';
import { bytesOf, decodeDhcp, hexText, optionValue, readDhcp, typeOf } from './index.js';

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
