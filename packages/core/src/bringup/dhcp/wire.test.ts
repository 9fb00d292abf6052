import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { plain, sent, withOptions, text } from '../../../test/dhcpMessage.js';
import { decodeDhcp, encodeDhcp, hexText } from './index.js';

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
