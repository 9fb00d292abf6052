import { describe, expect, test } from '@jest/globals';
import type { FleetClass, Scope } from '@underpass/contracts';
import {
  answers,
  asks,
  decodeDhcp,
  encodeDhcp,
  isLastAsked,
  isShort,
  optionsFor,
  optionValue,
  rangeAddresses,
  rangeOf,
  usualLeaseS,
} from '../index.js';
import type { MessageToSend } from './encode.js';

describe('ranges of addresses', () => {
  test.each([
    ['192.0.2.50-192.0.2.90', { first: '192.0.2.50', last: '192.0.2.90', size: 41 }],
    // 14 of the 16 addresses of a /28 can be given [RFC 950]
    ['192.0.2.96/28', { first: '192.0.2.97', last: '192.0.2.110', size: 14 }],
    ['192.0.2.99/28', { first: '192.0.2.97', last: '192.0.2.110', size: 14 }],
    ['192.0.2.7/32', { first: '192.0.2.7', last: '192.0.2.7', size: 1 }],
    ['192.0.2.0/33', null],
    ['192.0.2.9-192.0.2.8', null],
    ['192.0.2.9-192.0.2.300', null],
    [' 192.0.2.50 - 192.0.2.50 ', { first: '192.0.2.50', last: '192.0.2.50', size: 1 }],
    [' 192.0.2.0/24 ', { first: '192.0.2.1', last: '192.0.2.254', size: 254 }],
    ['192.0.2.7/31', { first: '192.0.2.6', last: '192.0.2.7', size: 2 }],
    ['0.0.0.0/0', { first: '0.0.0.1', last: '255.255.255.254', size: 4_294_967_294 }],
    ['10.1.255.250-10.2.0.5', { first: '10.1.255.250', last: '10.2.0.5', size: 12 }],
    ['192.0.2.255-192.0.2.256', null],
    ['192.0.2.0/', null],
    ['192.0.2.0/2a', null],
    ['192.0.2.0/a2', null],
    ['192.0.2.0/024', null],
    ['192.0.2/24', null],
    ['x192.0.2.0/24', null],
    ['192.0.2.0x/24', null],
    ['192.0.2.0', null],
    ['192.0.2.10-', null],
    ['', null],
    ['somewhere', null],
  ])('the range %j', (text, range) => expect(rangeOf(text)).toEqual(range));

  test('are listed from their end, and of a large one the last 4096', () => {
    expect(rangeAddresses('192.0.2.8-192.0.2.10')).toEqual(['192.0.2.10', '192.0.2.9', '192.0.2.8']);
    expect(rangeAddresses('nowhere')).toEqual([]);
    for (const [text, many] of [
      ['10.0.0.0/20', 4094],
      ['10.0.0.1-10.0.16.0', 4096],
      ['10.0.0.0/19', 4096],
    ] as const) {
      const list = rangeAddresses(text);
      expect([text, list.length, new Set(list).size, list[0]]).toEqual([text, many, many, rangeOf(text)?.last]);
    }
  });
});

const asking = { hardwareAddress: Uint8Array.from([2, 0, 0, 0, 1, 7]), xid: 0x1234_5678 };
const fleet: Pick<FleetClass, 'vendorClass' | 'serverOption'> = {
  vendorClass: 'yard-terminal',
  serverOption: { code: 224, type: 'text' } as never,
};
/** What a message says once it went over the wire. */
const heard = (message: MessageToSend) => {
  const read = decodeDhcp(encodeDhcp(message)!);
  const { options, hardwareAddress, ...fields } = read.message!;
  return {
    ...fields,
    mac: [...hardwareAddress],
    problems: read.problems,
    says: options.map(({ code, bytes }) => [code, optionValue(code, bytes).value]),
  };
};
const empty = {
  ...{ hops: 0, secs: 0, clientAddress: '0.0.0.0', nextServer: '0.0.0.0', relay: '0.0.0.0', serverName: '', bootFile: '' },
  mac: [2, 0, 0, 0, 1, 7],
  problems: [],
};

describe('what a device and a server say, field by field [RFC 2131 tables 3 and 5]', () => {
  test('a device that has no address asks everybody, and asks for what its server is named in', () => {
    expect(heard(asks(asking, fleet))).toMatchObject({
      ...empty,
      ...{ op: 1, hardwareType: 1, xid: 0x1234_5678, broadcast: true, yourAddress: '0.0.0.0' },
      says: [
        [53, 'DISCOVER'],
        [60, 'yard-terminal'],
        [55, '1, 3, 6, 12, 15, 42, 224'],
      ],
    });
    // what is asked for anyway is asked for once
    expect(heard(asks(asking, { ...fleet, serverOption: { code: 6, type: 'address' } as never })).says.at(-1)).toEqual([
      55,
      '1, 3, 6, 12, 15, 42',
    ]);
  });
  test('one that was offered an address names it, and whose it is', () => {
    const message = asks(asking, fleet, { address: '192.0.2.50', server: '192.0.2.2' });
    expect(heard(message).says.slice(0, 3)).toEqual([
      [53, 'REQUEST'],
      [50, '192.0.2.50'],
      [54, '192.0.2.2'],
    ]);
    const read = (sent: MessageToSend) => decodeDhcp(encodeDhcp(sent)!).message!;
    expect([isLastAsked(read(message)), isLastAsked(read(asks(asking, fleet)))]).toEqual([true, false]);
  });
  test('a server offers an address, and then gives it, each with what its scopes say', () => {
    const of = { server: '192.0.2.2', address: '192.0.2.50', leaseS: 600 };
    const options: Scope['options'] = [
      { code: 224, type: 'text', value: 'config.example, first' },
      { code: 42, type: 'address', value: '192.0.2.3 , 192.0.2.4' },
    ];
    const said = (type: string) => ({
      ...empty,
      ...{ op: 2, hardwareType: 1, xid: 0x1234_5678, broadcast: false, yourAddress: '192.0.2.50' },
      says: [
        [53, type],
        [54, '192.0.2.2'],
        [51, '600'],
        [224, 'config.example, first'],
        [42, '192.0.2.3, 192.0.2.4'],
      ],
    });
    expect(heard(answers(asking, of, options, false))).toMatchObject(said('OFFER'));
    expect(heard(answers(asking, of, options, true))).toMatchObject(said('ACK'));
  });
});

describe('which options of its scopes a server gives', () => {
  const scope = (id: string, vendorClass: string | undefined, ...options: [number, string][]): Scope =>
    ({
      id,
      name: id,
      addressRange: '192.0.2.0/24',
      vendorClass,
      options: options.map(([code, value]) => ({ code, type: 'text', value })),
    }) as unknown as Scope;
  const given = (vendorClass: string | undefined, ...scopes: Scope[]) =>
    optionsFor(scopes, vendorClass).map(({ option, scope: from }) => `${option.code}=${option.value} of ${from.id}`);
  const plain = scope('plain', undefined, [15, 'a'], [66, 'b']);
  const terminals = scope('terminals', 'yard-terminal', [66, 'c'], [224, 'd']);

  test('those of its class before those without one, and of another class none', () => {
    expect(given('yard-terminal', plain, terminals)).toEqual(['66=c of terminals', '224=d of terminals', '15=a of plain']);
    expect(given('kiosk', plain, terminals)).toEqual(['15=a of plain', '66=b of plain']);
    expect(given(undefined, plain, terminals)).toEqual(['15=a of plain', '66=b of plain']);
  });
  test('of two scopes of one sort the first that says it; what one says twice goes twice', () => {
    const again = scope('again', undefined, [15, 'x'], [67, 'y']);
    expect(given(undefined, plain, again)).toEqual(['15=a of plain', '66=b of plain', '67=y of again']);
    const other = scope('other', 'yard-terminal', [224, 'z']);
    expect(given('yard-terminal', terminals, other)).toEqual(['66=c of terminals', '224=d of terminals']);
    expect(given(undefined, scope('long', undefined, [224, 'first'], [224, 'second']))).toEqual([
      '224=first of long',
      '224=second of long',
    ]);
  });
  test('what the server says of itself is not taken from a scope', () => {
    const codes = [49, 50, 51, 52, 53, 54, 55, 56].map((code): [number, string] => [code, 'x']);
    expect(given(undefined, scope('own', undefined, ...codes))).toEqual(['49=x of own', '56=x of own']);
  });
});

test('a lease is short below what devices bear, and a day where nobody says', () => {
  expect([usualLeaseS, isShort(usualLeaseS)]).toEqual([86_400, false]);
  const shortest = Array.from({ length: 4000 }, (_, s) => s).find((s) => !isShort(s))!;
  // five minutes: renewed at half of it [RFC 2131 4.4.5], every few minutes by every device
  expect([isShort(shortest - 1), isShort(shortest)]).toEqual([true, false]);
});
