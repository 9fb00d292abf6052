import { describe, expect, test } from '@jest/globals';
import { sent, withOptions } from '../../../test/dhcpMessage.js';
import { bytesFromHex } from './hex.js';
import { bytesOf, hexText, readDhcp } from './index.js';

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
