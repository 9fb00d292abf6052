import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { readDirectory } from './directory.js';
import { directorySheet, sheetOfEntries } from './entries.js';
import { valuesOf } from './entry.js';
import { isLdif, readLdif } from './ldif.js';
import { parentOf, partsOf, sameName } from './names.js';
import type { SheetError } from '../sheet.js';
import { examples } from '../../../test/rfc2849.js';

type Read = { dn: string; attributes: Record<string, string[]> }[];
// read by Net::LDAP::LDIF 0.68, Debian's libnet-ldap-perl: what it prints of the same text
const byPerl = JSON.parse(readFileSync(new URL('fixtures/read-by-perl.json', import.meta.url), 'utf8')) as {
  examples: Record<number, Read>;
  text: string;
  read: Read;
};

describe('LDIF: as a reader that is not ours reads it', () => {
  it.each([
    ['example 1 of RFC 2849', examples[1] as string, byPerl.examples[1]],
    ['example 2', examples[2] as string, byPerl.examples[2]],
    ['example 3', examples[3] as string, byPerl.examples[3]],
    ['example 4', examples[4] as string, byPerl.examples[4]],
    ['folded names, comments and base64, blanks, an empty value, a comma that is escaped', byPerl.text, byPerl.read],
  ])('%s', (_, text, wanted) => {
    const found = readLdif(text).entries.map(({ dn, attributes }) => ({ dn, attributes: Object.fromEntries(attributes) }));
    // what opens a door is read by nobody
    const plain = wanted?.map(({ dn, attributes: { userpassword: _secret, ...rest } }) => ({ dn, attributes: rest }));
    expect(found).toEqual(plain);
  });
});

describe('LDIF: the examples of RFC 2849', () => {
  it('1: two entries', () => {
    const { entries } = readLdif(examples[1] as string);
    expect(entries.map(({ dn, line }) => [dn, line])).toEqual([
      ['cn=Barbara Jensen, ou=Product Development, dc=airius, dc=com', 2],
      ['cn=Bjorn Jensen, ou=Accounting, dc=airius, dc=com', 14],
    ]);
    expect(entries[0]?.attributes.get('objectclass')).toEqual(['top', 'person', 'organizationalPerson']);
    expect(entries[0]?.attributes.get('cn')).toEqual(['Barbara Jensen', 'Barbara J Jensen', 'Babs Jensen']);
    expect(entries[0]?.attributes.get('description')).toEqual(['A big sailing fan.']);
    expect(entries[1]?.attributes.get('telephonenumber')).toEqual(['+1 408 555 1212']);
  });

  it('2: a value that is folded', () => {
    const { entries } = readLdif(examples[2] as string);
    expect(entries[0]?.attributes.get('description')).toEqual([
      'Babs is a big sailing fan, and travels extensively in search of perfect sailing conditions.',
    ]);
    expect(entries[0]?.attributes.get('title')).toEqual(['Product Manager, Rod and Reel Division']);
  });

  it('3: a value in base64', () => {
    const { entries } = readLdif(examples[3] as string);
    expect(entries[0]?.attributes.get('description')).toEqual([
      'What a careful reader you are!  This value is base-64-encoded because it has a control character in it (a CR).\r  By the way, you should really get out more.',
    ]);
  });

  it('4: names and values in UTF-8, with options of language and comments', () => {
    const { entries } = readLdif(examples[4] as string);
    expect(entries).toHaveLength(2);
    expect(entries[0]?.dn).toBe('ou=営業部,o=Airius');
    expect(entries[0]?.attributes.get('ou;lang-ja')).toEqual(['営業部']);
    expect(entries[0]?.attributes.get('ou;lang-ja;phonetic')).toEqual(['えいぎょうぶ']);
    expect(entries[0]?.attributes.get('ou;lang-en')).toEqual(['Sales']);
    expect(valuesOf(entries[1] as never, 'title')).toEqual(['営業部 部長']);
    expect(entries[1]?.attributes.get('sn;lang-ja;phonetic')).toEqual(['おがさわら']);
    // what opens a door is read by nobody
    expect(entries[1]?.attributes.has('userpassword')).toBe(false);
  });

  it('5: a value that stands in a file, which is not opened', () => {
    const { entries, notes } = readLdif(examples[5] as string);
    expect(entries[0]?.attributes.has('jpegphoto')).toBe(false);
    expect(entries[0]?.attributes.get('telephonenumber')).toEqual(['+1 408 555 1212']);
    expect(notes[0]?.text).toMatch(/^jpegphoto of cn=Horatio Jensen.* is kept in another file, which is not opened; it is left out$/);
  });

  it.each([
    [6, 4],
    [7, 7],
  ] as const)('%d: changes are refused with words, at their line', (example, line) => {
    expect.assertions(2);
    try {
      readLdif(examples[example] as string);
    } catch (error) {
      expect((error as SheetError).message).toBe(
        'is a change and no entry; entries alone are read: export the directory as it is, without changes',
      );
      expect((error as SheetError).row).toBe(line);
    }
  });
});

describe('LDIF', () => {
  it.each([
    ['version: 2\n\ndn: cn=a\ncn: a\n', 1, 'is of version 2'],
    ['cn: a\n', 1, 'an entry begins with dn:'],
    ['dn: cn=a\nno colon\n', 2, 'is not an attribute, a colon and its value'],
    ['dn: cn=a\ncn:: ***\n', 2, 'cn is not base64'],
    ['dn: cn=a\ncn: a\n-\n', 3, 'is a change'],
    ['# nothing\n', 1, 'holds no entries'],
    ['version: 1\n', 1, 'holds no entries'],
  ])('%j is told at line %d', (text, line, message) => {
    expect.assertions(2);
    try {
      readLdif(text);
    } catch (error) {
      expect((error as SheetError).row).toBe(line);
      expect((error as SheetError).message).toContain(message);
    }
  });

  it('is known by its first line', () => {
    expect(isLdif('version: 1\n')).toBe(true);
    expect(isLdif('# a comment\n that goes on\n\ndn: cn=a\n')).toBe(true);
    expect(isLdif('dn:: Y249YQ==\n')).toBe(true);
    expect(isLdif('name,dn: x\n')).toBe(false);
    expect(isLdif('dna: x\n')).toBe(false);
    expect(isLdif('')).toBe(false);
  });

  it('reads a value whatever it holds, folded anywhere, in base64', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', minLength: 1, maxLength: 60 }), fc.integer({ min: 1, max: 20 }), (value, width) => {
        fc.pre(!value.includes('\0') && !value.startsWith('\uFEFF'));
        const line = `description:: ${Buffer.from(value, 'utf8').toString('base64')}`;
        const folded = line.replace(new RegExp(`(.{${width}})(?=.)`, 'g'), '$1\n ');
        expect(readLdif(`dn: cn=a\n${folded}\n`).entries[0]?.attributes.get('description')).toEqual([value]);
      }),
    );
  });

  it('leaves out what is no text, and says so', () => {
    const { entries, notes } = readLdif('dn: cn=a\nphoto:: /9j/4AA=\ncn: a\n');
    expect(entries[0]?.attributes.has('photo')).toBe(false);
    expect(notes).toEqual([{ row: 2, text: 'photo of cn=a is no text; it is left out' }]);
  });
});

describe('names of entries', () => {
  // the examples of RFC 4514, section 4
  it.each([
    [
      'UID=jsmith,DC=example,DC=net',
      [
        ['uid', 'jsmith'],
        ['dc', 'example'],
        ['dc', 'net'],
      ],
    ],
    [
      'CN=James \\"Jim\\" Smith\\, III,DC=example,DC=net',
      [
        ['cn', 'James "Jim" Smith, III'],
        ['dc', 'example'],
        ['dc', 'net'],
      ],
    ],
    [
      'CN=Before\\0dAfter,DC=example,DC=net',
      [
        ['cn', 'Before\rAfter'],
        ['dc', 'example'],
        ['dc', 'net'],
      ],
    ],
    ['CN=Lu\\C4\\8Di\\C4\\87', [['cn', 'Lučić']]],
  ])('%s', (dn, parts) => {
    expect(partsOf(dn).map(({ attribute, value }) => [attribute, value])).toEqual(parts);
  });

  it('are the same whatever their case and the blanks around their parts', () => {
    expect(sameName('CN=Ada  Ames , OU=Yard')).toBe(sameName('cn=ada ames,ou=YARD'));
    expect(sameName('cn=a\\,b')).not.toBe(sameName('cn=a,b'));
    expect(sameName('cn="a,b",o=x')).toBe(sameName('cn=a\\,b,o=x'));
    expect(parentOf('cn=a\\,b, ou=c,o=d')).toBe('ou=c,o=d');
    expect(parentOf('o=d')).toBe('');
  });
});

const entriesOf = (text: string) => readLdif(text).entries;
const estuary = `dn: o=estuary
objectClass: organization

dn: ou=Yard,o=estuary
objectClass: organizationalUnit
ou: North yard

dn: ou=Offices,o=estuary
objectClass: organizationalUnit
ou: Offices

dn: uid=ada,ou=Yard,o=estuary
objectClass: inetOrgPerson
uid: ada
cn: Ada Ames
displayName: Ada A.
l: Wexcombe

dn: cn=Bo Brook,ou=Desk,ou=Yard,o=estuary
objectClass: person
cn: Bo Brook

dn: cn=hulls,o=estuary
objectClass: groupOfNames
cn: Hull designers
member: UID=ADA, OU=Yard, O=estuary
member: cn=yard staff,o=estuary

dn: cn=yard staff,o=estuary
objectClass: groupOfUniqueNames
cn: Yard staff
uniqueMember: cn=bo brook,ou=Desk,ou=yard,o=estuary#'0101'B
uniqueMember: cn=gone,o=estuary
`;

describe('people, groups and places of a directory', () => {
  it('are read by their classes, groups within groups, and the unit above', () => {
    const { people, groups, places, problems } = readDirectory(entriesOf(estuary));
    expect([...people.values()]).toMatchObject([
      { key: 'ada', name: 'Ada A.', place: 'ou=yard,o=estuary', groups: ['cn=hulls,o=estuary'] },
      { key: 'Bo Brook', name: 'Bo Brook', place: 'ou=yard,o=estuary', groups: ['cn=yard staff,o=estuary'] },
    ]);
    expect(groups.get('cn=yard staff,o=estuary')).toMatchObject({ name: 'Yard staff', memberOf: ['cn=hulls,o=estuary'], members: 1 });
    expect(groups.get('cn=hulls,o=estuary')).toMatchObject({ members: 2, memberOf: [] });
    // a unit above nobody is no place
    expect([...places.values()]).toMatchObject([{ name: 'North yard', people: 2 }]);
    expect(problems).toMatchObject([{ line: 29, text: 'has the member cn=gone,o=estuary, which is not here' }]);
  });

  it('stand at what an attribute says, where it is asked for', () => {
    const { people, places } = readDirectory(entriesOf(estuary), { key: ['cn'], name: ['cn'], place: 'l' });
    expect([...people.values()].map(({ key, place }) => [key, place])).toEqual([
      ['Ada Ames', 'wexcombe'],
      ['Bo Brook', 'ou=yard,o=estuary'],
    ]);
    expect(places.get('wexcombe')).toMatchObject({ name: 'Wexcombe', people: 1 });
  });

  const group = (name: string, ...members: string[]) =>
    `dn: cn=${name}\nobjectClass: groupOfNames\ncn: ${name}\n${members.map((each) => `member: cn=${each}\n`).join('')}\n`;
  it.each([
    ['itself', group('a', 'a'), 'is a member of itself'],
    ['two', group('a', 'b') + group('b', 'a'), 'is in a circle of groups: a in b in a'],
    ['three', group('a', 'b') + group('b', 'c') + group('c', 'a'), 'is in a circle of groups: a in c in b in a'],
  ])('that go round in a circle of %s are told, and cut where it closes', (_, text, told) => {
    const { groups, problems } = readDirectory(entriesOf(text));
    expect(problems.map((each) => each.text)).toEqual([told]);
    expect([...groups.values()].reduce((sum, { memberOf }) => sum + memberOf.length, 0)).toBe(Math.max(0, groups.size - 1));
  });

  it('that are diamonds are no circles', () => {
    const { problems } = readDirectory(entriesOf(group('top', 'l', 'r') + group('l', 'in') + group('r', 'in') + group('in')));
    expect(problems).toEqual([]);
  });

  it('never go round in the end, however they are members of one another, nor take long', () => {
    const names = ['a', 'b', 'c', 'd', 'e'];
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom(...names), fc.constantFrom(...names)), { maxLength: 15 }), (pairs) => {
        const text = names.map((name) => group(name, ...pairs.filter(([outer]) => outer === name).map(([, inner]) => inner))).join('');
        const { groups } = readDirectory(entriesOf(text));
        const reaches = (from: string, to: string, left: number): boolean =>
          left > 0 && (groups.get(from)?.memberOf ?? []).some((up) => up === to || reaches(up, to, left - 1));
        for (const dn of groups.keys()) expect(reaches(dn, dn, 6)).toBe(false);
      }),
    );
    const deep = Array.from({ length: 3000 }, (_, i) => group(`g${i}`, `g${i + 1}`)).join('') + group('g3000');
    expect(readDirectory(entriesOf(deep)).problems).toEqual([]);
  });

  it('that stand twice are told', () => {
    const { people, problems } = readDirectory(entriesOf('dn: cn=a\nobjectClass: person\ncn: a\n\ndn: CN=A\nobjectClass: person\ncn: b\n'));
    expect(people.size).toBe(1);
    expect(problems[0]).toMatchObject({ line: 5, text: 'stands in line 1 already' });
  });

  it('become rows by their kind', () => {
    const entries = entriesOf(estuary);
    const people = directorySheet(entries, 'person');
    expect(people.head.slice(0, 4)).toEqual(['id', 'name', 'location', 'groups']);
    expect(people.rows.map(({ row, cells }) => [row, ...cells.slice(0, 4)])).toEqual([
      [12, 'ada', 'Ada A.', 'North yard', 'Hull designers'],
      [19, 'Bo Brook', 'Bo Brook', 'North yard', 'Yard staff'],
    ]);
    expect(directorySheet(entries, 'group').rows.map(({ cells }) => cells.slice(0, 2))).toEqual([
      ['Hull designers', ''],
      ['Yard staff', 'Hull designers'],
    ]);
    expect(directorySheet(entries, 'location').rows.map(({ cells }) => cells[0])).toEqual(['North yard']);
    expect(sheetOfEntries(entries).rows).toHaveLength(7);
    expect(sheetOfEntries(entries).head).toContain('uniquemember');
  });
});
