import { describe, expect, it } from '@jest/globals';
import { isLdif, readLdif } from './ldif.js';
import { parentOf, partsOf, sameName } from './names.js';
import type { SheetError } from '../sheet.js';

const attributesOf = (...lines: string[]) =>
  Object.fromEntries(readLdif(['dn: cn=a', ...lines, ''].join('\n')).entries[0]?.attributes ?? []);
function faultOf(text: string | Uint8Array): [row: number, message: string] | null {
  try {
    readLdif(text);
    return null;
  } catch (error) {
    return [(error as SheetError).row, (error as SheetError).message];
  }
}
const noPair = (text: string) => `“${text}” is not an attribute, a colon and its value`;

describe('names of attributes', () => {
  // RFC 4512 1.4 and 2.5: a letter and then letters, digits and hyphens, or numbers parted by dots; options after semicolons
  it.each(['cn', 'x-1', 'A9-', '2.5.4.3', '12.34.567', '0.1', 'ou;lang-ja', 'ou;lang-ja;phonetic', '2.5.4.3;binary', 'ou;x-9'])(
    '%s',
    (name) => {
      expect(attributesOf(`${name}: v`)).toEqual({ [name.toLowerCase()]: ['v'] });
    },
  );
  it.each(['9a', '-a', '7', '2.', '.2', '2..5', 'a b', 'ä', 'a_b', 'ou;', 'ou;;x', 'ou;a_b', '2.x', '', '+cn', '1.2a', 'a.1'])(
    '“%s” is none',
    (name) => {
      expect(faultOf(`dn: cn=a\n${name}: v\n`)).toEqual([2, noPair(`${name}: v`)]);
    },
  );
  it('may have blanks before the colon', () => expect(attributesOf('cn : v')).toEqual({ cn: ['v'] }));
});

describe('a line that is none', () => {
  it.each([
    ['no colon', 'nothing here', 'nothing here'],
    ['a name that would be one, but no colon', 'cn', 'cn'],
    ['a colon first', ': x', ': x'],
    ['a long one, told by its beginning', `9${'x'.repeat(80)}`, `9${'x'.repeat(59)}`],
  ])('%s', (_, line, told) => expect(faultOf(`dn: cn=a\n${line}\n`)).toEqual([2, noPair(told)]));
  it('at the head of an entry is told by its beginning', () => {
    expect(faultOf(`cn: ${'x'.repeat(80)}\n`)).toEqual([1, `begins with “cn: ${'x'.repeat(56)}”; an entry begins with dn:`]);
    expect(faultOf('dn:: /9j/\n')).toEqual([1, 'begins with “dn:: /9j/”; an entry begins with dn:']);
    expect(faultOf('dn:< file:///x\ncn: a\n')?.[0]).toBe(1);
  });
});

describe('values', () => {
  it('are without the blanks before them, with those inside and after', () => {
    expect(attributesOf('a:   x  y ', 'b:z', 'c:')).toEqual({ a: ['x  y '], b: ['z'], c: [''] });
  });
  it.each(['userPassword', 'unicodePwd', 'clientSecret', 'x-PrivateKey', 'krbPrincipalKey', 'krbKey', 'accessTokens', 'passwd'])(
    '%s is left out, and why',
    (name) => {
      const { entries, notes } = readLdif(`dn: cn=a\n${name}: x\n`);
      expect(entries[0]?.attributes.size).toBe(0);
      expect(notes).toEqual([{ row: 2, text: `${name} of cn=a is a secret; it is left out` }]);
    },
  );
  it.each(['compass', 'tok', 'publicKey', 'keyword', 'krb'])('%s is read', (name) =>
    expect(attributesOf(`${name}: x`)).toEqual({ [name.toLowerCase()]: ['x'] }),
  );
  it.each([
    ['bytes that are no UTF-8', '/9j/'],
    ['a zero among letters', Buffer.from('a\0b').toString('base64')],
  ])('of %s are left out', (_, base64) => {
    expect(readLdif(`dn: cn=a\nphoto:: ${base64}\n`).notes).toEqual([{ row: 2, text: 'photo of cn=a is no text; it is left out' }]);
  });
  it('that are left out are told one by one up to fifty, then counted', () => {
    const file = (photos: number) => readLdif(`dn: cn=a\n${'photo:: /9j/\n'.repeat(photos)}`).notes;
    expect(file(50)).toHaveLength(50);
    expect(file(50).at(-1)).toEqual({ row: 51, text: 'photo of cn=a is no text; it is left out' });
    expect(file(51).slice(50)).toEqual([{ row: 52, text: 'from here on one more value is left out' }]);
    expect(file(53).slice(50)).toEqual([{ row: 52, text: 'from here on 3 more values are left out' }]);
  });
  it('beyond what one entry may hold are refused', () => {
    const entry = (values: number) => faultOf(`dn: cn=a\n${'a: b\n'.repeat(values)}`);
    expect(entry(200_000)).toBeNull();
    expect(entry(200_001)).toEqual([1, 'has more than 200000 values in one entry']);
  });
});

describe('the version of a file', () => {
  it.each(['version: 1', 'version:1', 'VERSION:   1  '])('“%s” is read', (line) => {
    expect(readLdif(`${line}\ndn: cn=a\n`).entries.map(({ dn, line: at }) => [dn, at])).toEqual([['cn=a', 2]]);
  });
  it.each([
    ['version: 2', 'is of version 2; 1 is the only one there is'],
    ['version: 10', 'is of version 10; 1 is the only one there is'],
    ['version:', 'is of version ; 1 is the only one there is'],
  ])('“%s” is not', (line, told) => expect(faultOf(`# comment\n\n${line}\ndn: cn=a\n`)).toEqual([3, told]));
  it('stands first alone, and at the beginning of its line', () => {
    expect(faultOf('dn: cn=a\ncn: a\n\nversion: 2\ndn: cn=b\n')?.[1]).toContain('an entry begins with dn:');
    expect(readLdif('dn: cn=version: 2\n').entries).toHaveLength(1);
    expect(faultOf('x-version: 2\n')?.[1]).toContain('an entry begins with dn:');
  });
});

describe('entries', () => {
  it('are parted by blank lines, of which there may be several, with blanks in them, and none at the end', () => {
    const dns = (text: string) => readLdif(text).entries.map(({ dn }) => dn);
    expect(dns('\n\ndn: cn=a\n\t\n\n\ndn: cn=b')).toEqual(['cn=a', 'cn=b']);
    expect(dns('dn: cn=a\r\n\r\ndn: cn=b\r\n')).toEqual(['cn=a', 'cn=b']);
    expect(dns('dn: cn=a\r\rdn: cn=b\r\r')).toEqual(['cn=a', 'cn=b']);
    // what marks the order of bytes stands at the beginning of a file alone
    expect(dns('\uFEFFdn: cn=a')).toEqual(['cn=a']);
    expect(attributesOf('cn: x\uFEFF')).toEqual({ cn: ['x\uFEFF'] });
    expect(dns(Buffer.from('dn: cn=ä\n') as never)).toEqual(['cn=ä']);
    expect(readLdif(Buffer.from('\uFEFFdn: cn=ä\n', 'utf16le')).entries.map(({ dn }) => dn)).toEqual(['cn=ä']);
  });
  it.each(['changetype: add', 'ChangeType : delete', 'control: 1.2.840 true', '-'])('with “%s” are changes', (line) => {
    expect(faultOf(`dn: cn=a\nsn: b\n${line}\n`)).toEqual([3, expect.stringContaining('is a change and no entry')]);
  });
  it.each(['x-control: 1', 'controlled: 1', 'description: control: none', 'note: -', 'changetypes: 2'])('with “%s” are entries', (line) => {
    expect(faultOf(`dn: cn=a\n${line}\n`)).toBeNull();
  });
  it('beyond the most that are read are refused', () => {
    expect(faultOf('dn: o=a\n\n'.repeat(500_001))).toEqual([1_000_001, 'has more than 500000 entries; divide it']);
  });
});

describe('whether a text is LDIF', () => {
  it.each(['version: 1', 'version :1', 'VERSION\t:\t12', 'dn:', 'DN : cn=a', '\uFEFFdn: cn=a', '  \n# x\n y\n\t\ndn: a', 'version:  1'])(
    '%j is',
    (text) => {
      expect(isLdif(text)).toBe(true);
    },
  );
  it.each([
    'version: x',
    'x-dn: a',
    'versions: 1',
    ' dn: a',
    'name\ndn: a',
    '#dn: a',
    '',
    `${'#\n'.repeat(10_000)}dn: a`,
    'name\uFEFFdn: a',
  ])('%j is not', (text) => {
    expect(isLdif(text)).toBe(false);
  });
});

describe('distinguished names', () => {
  it.each([
    // RFC 4514 2.4 and 3; quotes as RFC 2253 4 has older programs write them; a semicolon parts too, by the same
    [
      'cn="a, b",o=x',
      [
        ['cn', 'a, b'],
        ['o', 'x'],
      ],
    ],
    [
      'cn=a;o=x',
      [
        ['cn', 'a'],
        ['o', 'x'],
      ],
    ],
    ['cn="a', [['cn', '"a']]],
    ['cn="', [['cn', '"']]],
    ['cn=""', [['cn', '']]],
    ['cn=a"', [['cn', 'a"']]],
    ['cn=a\\', [['cn', 'a\\']]],
    ['cn=\\23a\\+b', [['cn', '#a+b']]],
    ['cn=a\\FFb', [['cn', 'a\\FFb']]],
    ['o=x, ,', [['o', 'x']]],
    ['plain', [['', 'plain']]],
  ])('%s', (dn, parts) => expect(partsOf(dn).map(({ attribute, value }) => [attribute, value])).toEqual(parts));

  it.each([
    ['a comma and a mark before letters', 'cn=a\\,b', 'cn=a\\\\b'],
    ['a comma in a name and one between parts', 'cn=a\\,o=b', 'cn=a,o=b'],
    ['a name in quotes and none', 'cn="a,o=b"', 'cn=a,o=b'],
  ])('are told apart by %s', (_, a, b) => expect(sameName(a)).not.toBe(sameName(b)));
  it('are written with what is escaped in them', () => {
    expect(sameName('CN=A\\,  b\\\\c , O = X')).toBe('cn=a\\, b\\\\c,o=x');
  });
  it.each([
    ['cn=a\\, b ,ou=c , o=d', 'ou=c , o=d'],
    ['cn="a,b";o=d', 'o=d'],
    ['cn=a\\\\,o=d', 'o=d'],
    ['o=d\\', ''],
    ['', ''],
  ])('%s stands beneath “%s”', (dn, above) => expect(parentOf(dn)).toBe(above));
});
