import { describe, expect, it } from '@jest/globals';
import { readDirectory } from './directory.js';
import { directorySheet, kindOfEntries, sheetOfEntries } from './entries.js';
import { valuesOf } from './entry.js';
import { feedOfDirectory } from './feedOf.js';
import { readLdif } from './ldif.js';

const entriesOf = (text: string) => readLdif(text).entries;
const person = (dn: string, ...lines: string[]) => ['dn: ' + dn, 'objectClass: person', ...lines, '', ''].join('\n');
const group = (dn: string, ...lines: string[]) => ['dn: ' + dn, 'objectClass: groupOfNames', ...lines, '', ''].join('\n');
const unit = (dn: string, ...lines: string[]) => ['dn: ' + dn, 'objectClass: organizationalUnit', ...lines, '', ''].join('\n');

const yard =
  unit('ou=Yard,o=estuary', 'ou: North yard') +
  unit('ou=Empty,o=estuary', 'ou: Empty') +
  person('uid=ada,ou=Yard,o=estuary', 'uid: ada', 'cn: Ada Ames', 'mail: ada@x.example', 'mail: ames@x.example', 'name: what they say') +
  person('cn=Bo Brook,o=estuary', 'cn: Bo Brook', 'room: 12') +
  group('cn=hulls,o=estuary', 'cn: Hulls', 'member: uid=ada,ou=Yard,o=estuary', 'member: cn=staff,o=estuary') +
  group('cn=all,o=estuary', 'cn: All', 'member: uid=ada,ou=Yard,o=estuary', 'member: cn=staff,o=estuary') +
  group('cn=staff,o=estuary', 'cn: Staff', 'member: cn=Bo Brook,o=estuary', 'member: cn=gone,o=estuary');

describe('the entries of a directory as rows', () => {
  it('have a column for every attribute, in the order they are met, and several values parted by a semicolon', () => {
    const entries = entriesOf(person('cn=a', 'cn: a', 'mail: 1@x.example', 'mail: 2@x.example') + person('cn=b', 'sn: B', 'cn: b'));
    expect(sheetOfEntries(entries)).toEqual({
      format: 'ldif',
      encoding: 'utf-8',
      delimiter: null,
      headerRow: null,
      head: ['dn', 'objectclass', 'cn', 'mail', 'sn'],
      rows: [
        { row: 1, cells: ['cn=a', 'person', 'a', '1@x.example;2@x.example', ''] },
        { row: 7, cells: ['cn=b', 'person', 'b', '', 'B'] },
      ],
      notes: [],
    });
  });

  it('of people say first what the directory says by where they stand; a column of the same name gives way', () => {
    const sheet = directorySheet(entriesOf(yard), 'person', [{ row: 3, text: 'met on the way' }]);
    expect(sheet.head).toEqual(['id', 'name', 'location', 'groups', 'dn', 'objectclass', 'uid', 'cn', 'mail', 'room']);
    expect(sheet.rows).toEqual([
      {
        row: 9,
        cells: [
          ...['ada', 'Ada Ames', 'North yard', 'Hulls;All'],
          ...['uid=ada,ou=Yard,o=estuary', 'person', 'ada', 'Ada Ames', 'ada@x.example;ames@x.example', ''],
        ],
      },
      { row: 17, cells: ['Bo Brook', 'Bo Brook', '', 'Staff', 'cn=Bo Brook,o=estuary', 'person', '', 'Bo Brook', '', '12'] },
    ]);
    expect(sheet.notes).toEqual([
      { row: 3, text: 'met on the way' },
      {
        row: 34,
        text: 'cn=staff,o=estuary has the member cn=gone,o=estuary, which is not here; wanted: a person or a group that is among what is read',
      },
    ]);
  });

  it('of groups name those they are in, of places only those that have people', () => {
    const entries = entriesOf(yard);
    const groups = directorySheet(entries, 'group');
    expect(groups.head).toEqual(['name', 'memberOf', 'dn', 'objectclass', 'cn', 'member']);
    expect(groups.rows.map(({ cells }) => cells.slice(0, 3))).toEqual([
      ['Hulls', '', 'cn=hulls,o=estuary'],
      ['All', '', 'cn=all,o=estuary'],
      ['Staff', 'Hulls;All', 'cn=staff,o=estuary'],
    ]);
    expect(directorySheet(entries, 'location').rows).toEqual([
      { row: 1, cells: ['North yard', 'ou=Yard,o=estuary', 'organizationalUnit', 'North yard'] },
    ]);
    // people and groups without a name of their own in any attribute keep their row
    expect(directorySheet(entriesOf(person('cn=', 'sn: x')), 'person').rows).toHaveLength(1);
  });

  it('of a kind that a directory has no word for are all of them as they stand', () => {
    const entries = entriesOf(yard);
    expect(directorySheet(entries, 'endpoint', [{ row: 1, text: 'a' }])).toEqual(sheetOfEntries(entries, [{ row: 1, text: 'a' }]));
  });

  it('of one of whom a second stands further down are a row each, which the directory tells', () => {
    const sheet = directorySheet(entriesOf(person('cn=a', 'cn: a') + person('CN=A', 'cn: again')), 'person');
    expect(sheet.rows.map(({ cells }) => cells[0])).toEqual(['a', 'a']);
    expect(sheet.notes).toEqual([{ row: 5, text: 'CN=A stands in line 1 already; wanted: each entry once' }]);
  });

  it.each([
    ['people', yard, 'person'],
    ['groups where there are no people', unit('ou=a') + group('cn=b'), 'group'],
    ['units where there is nothing else', 'dn: o=x\nobjectClass: organization\n\n' + unit('ou=a'), 'location'],
    ['nothing', 'dn: o=x\nobjectClass: organization\n', null],
    ['people whatever the case of their class', 'dn: cn=a\nobjectClass: top\nobjectClass: PERSON\n', 'person'],
  ])('are read first as %s', (_, text, kind) => {
    expect(kindOfEntries(entriesOf(text))).toBe(kind);
  });
});

describe('attributes in their options', () => {
  const entry = entriesOf('dn: cn=a\nsn;lang-de: Ames-Berg\nsnow: white\ntitle;x-y: b\nTitle: a\n')[0] as never;
  it.each([
    ['SN', ['Ames-Berg']],
    ['title', ['a']],
    ['sno', []],
    ['x-y', []],
  ])('%s', (name, values) => expect(valuesOf(entry, name)).toEqual(values));
});

describe('people by the classes and attributes of the standards', () => {
  // RFC 4519 3.12, 3.7, 3.16; RFC 2798 3; RFC 4524 3.1
  it.each(['person', 'organizationalPerson', 'residentialPerson', 'inetOrgPerson', 'account'])('%s is a person', (name) => {
    expect(readDirectory(entriesOf(`dn: cn=a\nobjectClass: ${name}\n`)).people.size).toBe(1);
  });
  it.each(['organization', 'device', 'applicationProcess'])('%s is nobody, no group and no place', (name) => {
    const { people, groups, places } = readDirectory(entriesOf(`dn: cn=a,o=b\nobjectClass: ${name}\n\n` + person('cn=x,cn=a,o=b')));
    expect([people.size, groups.size, places.size]).toEqual([1, 0, 0]);
  });

  it.each([
    ['uid before all', ['uid: u1', 'employeeNumber: 7', 'cn: A'], 'u1'],
    ['the number where there is no uid', ['employeeNumber: 7', 'cn: A'], '7'],
    ['the name where there is neither', ['cn: A'], 'A'],
    ['what the entry is called where nothing says', [], 'own'],
    ['the first that is not blank, without the blanks around it', ['uid:: ICA=', 'uid:: IHUyIA=='], 'u2'],
  ])('are known by %s', (_, lines, key) => {
    const [found] = readDirectory(entriesOf(person('cn=own,o=x', ...lines))).people.values();
    expect(found?.key).toBe(key);
  });

  it.each([
    ['the name to be shown', ['cn: A', 'displayName: Shown'], 'Shown'],
    ['the common name', ['cn: A'], 'A'],
    ['what the entry is called', [], 'own'],
  ])('are called by %s', (_, lines, name) => {
    const [found] = readDirectory(entriesOf(person('cn=own,o=x', ...lines))).people.values();
    expect(found?.name).toBe(name);
  });

  it('an entry without a name is called by nothing', () => {
    const [found] = readDirectory([{ dn: ' ', attributes: new Map([['objectclass', ['person']]]), line: 1 }]).people.values();
    expect([found?.key, found?.name]).toEqual([' ', ' ']);
  });
});

describe('members', () => {
  it('may be named with bits that tell two of one name apart, at the end alone', () => {
    const text = person("cn=a#'01'B,o=x") + person('cn=b') + group('cn=g', "member: cn=b#'0110'B", "member: cn=a#'01'B,o=x");
    const { people, problems } = readDirectory(entriesOf(text));
    expect([...people.values()].map(({ groups }) => groups)).toEqual([['cn=g'], ['cn=g']]);
    expect(problems).toEqual([]);
  });
  it('none is named where a group of nobody has to name one', () => {
    const { groups, problems } = readDirectory(entriesOf('dn: cn=g\nobjectClass: groupOfNames\nmember:\n'));
    expect([...groups.values()]).toMatchObject([{ name: 'g', members: 0 }]);
    expect(problems).toEqual([]);
  });
  it('a group that is a unit or a person too is a group', () => {
    const { groups, people, places } = readDirectory(
      entriesOf(
        'dn: cn=g\nobjectClass: person\nobjectClass: groupOfNames\n\ndn: ou=u\nobjectClass: person\nobjectClass: organizationalUnit\n',
      ),
    );
    expect([groups.size, people.size, places.size]).toEqual([1, 1, 0]);
  });
  it('what is wrong says what would be right', () => {
    const { problems } = readDirectory(
      entriesOf(
        group('cn=a', 'member: cn=a') + group('cn=in', 'member: cn=b') + group('cn=b', 'member: cn=c') + group('cn=c', 'member: cn=b'),
      ),
    );
    expect(problems.map(({ line, dn, text, wanted }) => [line, dn, text, wanted])).toEqual([
      [1, 'cn=a', 'is a member of itself', 'other members'],
      // from where the circle closes, without those that only lead to it
      [13, 'cn=c', 'is in a circle of groups: b in c in b', 'groups that are members of one another in one direction alone'],
    ]);
  });
});

describe('what a directory gives to be held against the estate', () => {
  const text =
    unit('ou=Yard,o=x', 'ou: North yard') +
    person('uid=ada,ou=Yard,o=x', 'uid: ada', 'cn: Ada Ames', 'entryUUID: 1-1', 'staff: S1', 'calls: Ada!', 'l: Wexcombe') +
    person('cn=Bo,o=x', 'cn: Bo') +
    group('cn=in,o=x', 'cn: In', 'entryUUID: 1-2', 'member: uid=ada,ou=Yard,o=x') +
    group('cn=out,o=x', 'cn: Out', 'member: cn=in,o=x', 'member: cn=nobody,o=x');

  it('is keyed by what stays when something is called otherwise, else by its name', () => {
    const { feed, problems } = feedOfDirectory(entriesOf(text), {});
    expect(feed).toEqual({
      people: [
        { key: '1-1', match: 'ada', name: 'Ada Ames', active: true, place: 'North yard', groups: ['1-2'] },
        { key: 'cn=bo,o=x', match: 'Bo', name: 'Bo', active: true, place: null, groups: [] },
      ],
      groups: [
        { key: '1-2', name: 'In', memberOf: ['cn=out,o=x'] },
        { key: 'cn=out,o=x', name: 'Out', memberOf: [] },
      ],
      gone: { people: [], groups: [] },
    });
    expect(problems.map((each) => each.text)).toEqual(['has the member cn=nobody,o=x, which is not here']);
  });

  it('reads other attributes where it is told to, and the usual ones where those say nothing', () => {
    const { feed } = feedOfDirectory(entriesOf(text), { key: 'staff', name: 'calls', place: 'l' });
    expect(feed.people.map(({ match, name, place }) => [match, name, place])).toEqual([
      ['S1', 'Ada!', 'Wexcombe'],
      ['Bo', 'Bo', null],
    ]);
  });

  it('has the key of the first of two entries of one name', () => {
    const twice = person('cn=a', 'entryUUID: first') + person('CN=a', 'entryUUID: second');
    expect(feedOfDirectory(entriesOf(twice), {}).feed.people.map(({ key }) => key)).toEqual(['first']);
  });
});
