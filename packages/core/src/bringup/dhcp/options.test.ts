import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { optionName, optionValue } from './index.js';
import { optionProblems } from './values.js';

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
