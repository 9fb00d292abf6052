import { describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { optionValue, readDhcp } from './index.js';

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
