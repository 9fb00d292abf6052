import { describe, expect, it, test } from '@jest/globals';
import { looksLike, looksTyped, type Look } from './looksLike.js';
import { farness, NameBook } from './names.js';
import { fieldsOfPattern, partBy, readPattern } from './pattern.js';
import { tidyCell } from './tidy.js';
import type { IntakeField } from './target.js';

/** Of each form what is one, and what is nearly one and none. */
const forms: readonly (readonly [Look, readonly string[], readonly string[]])[] = [
  ['yes or no', ['yes', 'N', 'Ja', 'FALSE', 'sí', '✓', 'x'], ['yess', 'xy', 'ayes']],
  ['whole number', ['0', '-7', '+7', '123456789012345'], ['1234567890123456', '7a', 'a7', '--7']],
  // RFC 4632 3.1, RFC 5952
  ['address range', ['192.0.2.0/24', '2001:db8::/32', 'fe80::/10'], ['192.0.2.0/', '192.0.2.256/24', '2001:db8:::/32', '192.0.2.0/245']],
  [
    'address',
    ['0.0.0.0', '192.0.2.7', '255.255.255.255', '199.249.250.99', '2001:db8::1', '::', '1:2:3:4:5:6:7:8', '::ffff:1'],
    ['192.0.2', '192.0.2.7.1', '01.2.3.4', '300.1.1.1', '1:2:3:4:5:6:7', '1::2::3', '12345::1', '1:2:3:4:5:6:7:8:9', 'g::1'],
  ],
  [
    'hardware address',
    ['00:00:5e:00:53:01', '00-00-5E-00-53-AF', '0000.5e00.5301'],
    ['00:00:5e:00:53', '00:00:5e:00:53:0g', '0000.5e00', '0000.5e00.53011'],
  ],
  [
    'date',
    [
      '2026-12-31',
      '2026-1-2',
      '31.12.2026',
      '1.2.26',
      '12/31/2026',
      '1/2/26',
      '2026/12/31',
      '2026-12-31T08:00',
      '2026-12-31 08:00:30.5Z',
      '2026-12-31T08:00:00+01:00',
      '31.12.2026 8:00',
    ],
    ['2026-12-311', '31.12.202', '2026-12', 'on 2026-12-31', '2026-12-31 noon', '12/31'],
  ],
  ['time', ['0:00', '08:30', '23:59:59', '19:05'], ['24:00', '8:60', '8:3', '8:30:60', '08:30 h']],
  ['number', ['2,5', '2.5', '-1.024,5', "1'024", '1 024', '1,024.5', '1.024.512'], ['2,', '1.02,4.5', '1,02.5', '2,5x', 'x2,5']],
  ['share', ['10 %', '10%', '2,5 %'], ['10 %%', '%', 'a 10 %', '-10 %']],
  [
    'resolution',
    ['1920x1080', '2560 × 1440', '2x 1920x1080 @60', '2 × 1920*1080 @ 59,9 Hz', '640x480'],
    ['19x10', '1920x', '1920x1080 @', '1920x108000', 'a 1920x1080'],
  ],
  [
    'amount',
    ['8 GB', '8gib', '16 Mbit/s', '1kbps', '2.4 GHz', '-67 dBm', '20 ms', '2 s', '5 b', '1 TB'],
    ['8 GBs', 'about 8 GB', '8 gb x', 'GB 8', '1.2.3 GB'],
  ],
  ['version', ['4.12.1', 'v5.0', '1_2', '10.0.19045b', 'V2.1'], ['v5', '4.12.', '4.12.1ab', 'r4.12', '1.2.3.4.5.6.7']],
  [
    'e-mail address',
    ['ada@saltmarsh.example', 'a.b+c@x.example'],
    ['ada@', '@x.example', 'ada@x', 'ada@x.e', 'a b@x.example', 'a@b@x.example'],
  ],
  ['distinguished name', ['cn=Ada,ou=Yard', 'CN=Bo, OU=Hall', '2.5.4.3=a,o=b'], ['cn=Ada', 'cn=Ada,Yard', ',cn=a', '=a,o=b', 'c n=a,o=b']],
  ['host name', ['gw.estuary.example', 'a-1.b.c', 'Gw7.Estuary.Example'], ['estuary.example', '-a.b.c', 'a-.b.c', 'a..b.c', 'a_b.c.d']],
  ['serial number', ['SN123-456', '7KX9911B', 'A12345'], ['A1234', 'SN12-AB', 'sn123-456', 'SN 123456', '-SN123456', 'ABCDEFGH']],
];
describe.each(forms)('%s', (look, are, none) => {
  it.each(are)('is %j', (cell) => expect(looksLike([cell, ` ${cell} `])).toBe(look));
  it.each(none)('is not %j', (cell) => expect(looksLike([cell])).not.toBe(look));
});

describe('a column looks like', () => {
  const wide = (count: number, filled: string, other: string, others: number) => [
    ...Array.from({ length: count - others }, () => filled),
    ...Array.from({ length: others }, () => other),
  ];
  it.each<[string, string[], Look]>([
    ['what four fifths of it are', wide(10, '7', 'two words', 2), 'whole number'],
    ['nothing where fewer are', wide(10, '7', 'two words', 3), 'name'],
    ['numbers where whole ones are among them', ['1', '2,5', '3', '4'], 'number'],
    ['its first five hundred', [...wide(500, '7', '', 0), ...wide(900, 'two words', '', 0)], 'whole number'],
    ['what is filled of it', ['', ' ', '7', ''], 'whole number'],
    ['nothing where it is too long to have a form', ['7'.repeat(401)], 'text'],
  ])('%s', (_, cells, wanted) => {
    const found = looksLike(cells);
    expect(wanted === 'name' || wanted === 'text' ? ['name', 'text', 'word'].includes(found) : found === wanted).toBe(true);
  });
});

test.each([
  ['192.0.2.7', true],
  ['2026-12-31', true],
  ['8 GB', true],
  ['yes', true],
  ['7', true],
  ['x', false],
  ['SN123456', false],
  ['gw.estuary.example', false],
  ['Name', false],
])('%j is data by its form: %j', (cell, wanted) => expect(looksTyped(` ${cell} `)).toBe(wanted));

describe('a pattern', () => {
  it.each<[string, string, Record<string, string> | null]>([
    ['{location}-{name}', 'WEX-PC 7', { location: 'WEX', name: 'PC 7' }],
    ['{location}-{name}', 'WEX', null],
    ['{location} - {name}', 'WEX - PC - 7', { location: 'WEX', name: 'PC - 7' }],
    ['{location}', ' WEX ', { location: 'WEX' }],
    ['PC {name} (new)', 'PC 7 (new)', { name: '7' }],
    ['PC {name} (new)', 'PC 7 (new) x', null],
    ['PC {name}', 'TC 7', null],
    ['{a}{b}', 'xy', { a: 'xy', b: '' }],
    ['{ a }/{b}', '/x', { a: '', b: 'x' }],
    ['plain', 'plain', {}],
    ['plain', 'plain more', null],
    ['{}-{a}', '{}-x', { a: 'x' }],
    ['', '', {}],
  ])('%j parts %j', (pattern, text, wanted) => expect(partBy(readPattern(pattern), text)).toEqual(wanted));
  it('names its fields in their order', () => expect(fieldsOfPattern(readPattern('a {b} c { d }'))).toEqual(['b', 'd']));
});

describe('names', () => {
  const book = () =>
    new NameBook([
      { id: 'WEX', name: 'Wexcombe' },
      { id: 'GUL', name: 'Gullsey repair dock' },
      { id: 'X1', name: 'Twin' },
      { id: 'X2', name: 'twin' },
      { id: 'plain-id' },
    ]);
  it.each([
    [' wex ', { id: 'WEX' }],
    ['WEXCOMBE', { id: 'WEX' }],
    ['Twin', { several: ['X1', 'X2'] }],
    ['X2', { id: 'X2' }],
    ['PLAIN-ID', { id: 'plain-id' }],
    ['plain id', { id: 'plain-id' }],
    ['nobody', null],
  ])('%j', (text, wanted) => expect(book().find(text)).toEqual(wanted));
  it('are there once', () => {
    const again = book();
    again.add({ id: 'wex', name: 'Elsewhere' });
    expect([again.size, again.find('Elsewhere'), again.find('WEX')]).toEqual([5, null, { id: 'WEX' }]);
  });
  it.each([
    ['Wexcomb', ['WEX']],
    ['repair dock', ['GUL']],
    ['', []],
    ['--', []],
    ['nothing like it', []],
  ])('near %j', (text, wanted) =>
    expect(
      book()
        .near(text)
        .map(({ id }) => id),
    ).toEqual(wanted),
  );
  it('near one are the nearest first, as many as are wanted', () => {
    const many = new NameBook(['Yard 12', 'Yard 1', 'Yard 13', 'Yard 14'].map((name, i) => ({ id: `Y${i}`, name })));
    expect(many.near('Yard 1').map(({ name }) => name)).toEqual(['Yard 1', 'Yard 12', 'Yard 13']);
    expect(many.near('Yard 1', 1)).toEqual([{ id: 'Y1', name: 'Yard 1' }]);
  });
  it.each([
    ['same', 'same', 0],
    ['hall', 'hull', 1],
    ['hall', 'hill', 1],
    ['hall', 'mill', null],
    ['harbour', 'harbor', 1],
    ['harbour', 'harbr', 2],
    ['harbour', 'hrbr', null],
    ['north yard', 'yard', 3],
    ['yd', 'north yd', null],
    ['ward', 'north yard', null],
    ['yard north', 'the north yard', 3],
  ])('%j is as far from %j as %j', (a, b, far) => {
    expect(farness(a, b)).toBe(far);
    expect(farness(b, a)).toBe(far);
  });
});

describe('a cell as our files write it', () => {
  const field = (type: IntakeField['type'], more: Partial<IntakeField> = {}): IntakeField => ({
    ...{ name: 'it', type, options: [], description: '', required: false, expected: 'something else' },
    ...more,
  });
  const of = (cell: string, as: IntakeField) => tidyCell(cell, as, '', { comma: 'unclear', days: 'unclear' });
  const screens = field('structured', { name: 'screens' });
  const yes = field('boolean', { expected: 'yes or no' });
  const list = field('list', { name: 'peripherals', options: ['headset', 'camera'], expected: 'headset or camera' });
  it.each<[string, IntakeField, string]>([
    ['  two   words ', field('text'), 'two words'],
    [' a\n b ', field('structured'), 'a\n b'],
    ['1920 x 1080', screens, '1920x1080'],
    ['2x 1920×1080 @ 59,9 Hz', screens, '1920x1080@59.9; 1920x1080@59.9'],
    ['1920x1080 @ 59,9, 1280x720', screens, '1920x1080@59.9; 1280x720'],
    ['1920x1080  @60', screens, '1920x1080@60'],
    ['3 x 1920x1080', screens, '1920x1080; 1920x1080; 1920x1080'],
    ['1920x1080 und 2560*1440', screens, '1920x1080; 2560x1440'],
    ['1920x1080@60 27in, 1280x720 |  ', screens, '1920x1080@60 27in; 1280x720'],
    ['Kopfhörer, Webcam; headset', list, 'headset;camera'],
    ['-', list, ''],
    ['a, b|c', field('list'), 'a;b;c'],
    ['a; n/a ;b', field('list', { kind: 'group', options: ['z'] }), 'a;b'],
    ['Version 4.12', field('text', { name: 'clientVersion' }), '4.12'],
    ['v.5', field('text', { name: 'firmware' }), '5'],
    ['V12', field('text', { name: 'release' }), '12'],
    ['Vista', field('text', { name: 'release' }), 'Vista'],
    ['v5', field('text', { name: 'model' }), 'v5'],
    ['31.12.2026', field('text', { name: 'endsOn' }), '2026-12-31'],
    ['31.12.2026', field('text', { name: 'notAfter' }), '2026-12-31'],
    ['31.12.2026', field('text', { name: 'notBefore' }), '2026-12-31'],
    ['31.12.2026', field('text', { name: 'online' }), '31.12.2026'],
    ['Ja', yes, 'yes'],
    ['AUS', yes, 'no'],
    ['Plugged in', yes, 'plugged in'],
    ['disconnected', yes, 'disconnected'],
    ['none', yes, 'none'],
    ['WLAN', field('enum', { name: 'connection', options: ['wired', 'wifi'] }), 'wifi'],
  ])('%j of %j', (cell, as, wanted) => expect(of(cell, as)).toEqual({ text: wanted }));
  it.each<[string, IntakeField, string, string]>([
    ['wide', screens, '“wide” is not a screen', 'pixels such as 1920x1080, or 2x 1920x1080 for two'],
    ['perhaps', yes, '“perhaps” is neither yes nor no', 'yes or no'],
    ['replugged', yes, '“replugged” is neither yes nor no', 'yes or no'],
    ['in', field('boolean', { expected: 'true or false' }), '“in” is neither yes nor no', 'yes or no'],
    ['headset, boat', list, '“boat” is not a word known here', 'headset or camera'],
    ['boat', field('enum', { options: ['a'] }), '“boat” is not a word known here', 'something else'],
    ['many', field('number', { name: 'memoryMB' }), '“many” is not a number', 'a number'],
  ])('%j is told', (cell, as, problem, wanted) => expect(of(cell, as)).toEqual({ problem, wanted }));
});
