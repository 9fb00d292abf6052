import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { scimPatch } from 'scim-patch';
import { patched, type PatchOperation } from './patch.js';
import { enterpriseSchema, groupKind, userKind } from './schema.js';

const extension = enterpriseSchema.id;
const start = {
  userName: 'u',
  title: 'T',
  name: { givenName: 'G', familyName: 'F' },
  emails: [
    { value: 'w', type: 'work', primary: true },
    { value: 'h', type: 'home' },
  ],
  roles: [{ value: 'r' }],
};
const after = (...operations: PatchOperation[]): object => patched(userKind, start, operations);
const faultOf = (operation: PatchOperation, kind = userKind, of: object = start): string => {
  try {
    patched(kind, of as never, [operation]);
  } catch (error) {
    return `${(error as { fault?: string }).fault}: ${(error as Error).message}`;
  }
  return 'none';
};

describe('a change of one value', () => {
  it.each<[string, PatchOperation, object]>([
    ['an empty path is none', { op: 'add', path: '', value: { title: 'X' } }, { ...start, title: 'X' }],
    ['an empty text is no value', { op: 'replace', path: 'title', value: '' }, (({ title: _, ...rest }) => rest)(start)],
    ['a part is removed', { op: 'remove', path: 'name.givenName' }, { ...start, name: { familyName: 'F' } }],
    [
      'a part is removed, whatever is sent with it',
      { op: 'remove', path: 'name.givenName', value: 'X' },
      { ...start, name: { familyName: 'F' } },
    ],
    ['a value is removed, whatever is sent with it', { op: 'remove', path: 'title', value: 'X' }, (({ title: _, ...rest }) => rest)(start)],
    [
      'parts that are not named stay',
      { op: 'replace', path: 'name', value: { FAMILYNAME: 'X' } },
      { ...start, name: { givenName: 'G', familyName: 'X' } },
    ],
    [
      'parts that are not named stay where some are added',
      { op: 'add', path: 'name', value: { middleName: 'M' } },
      { ...start, name: { ...start.name, middleName: 'M' } },
    ],
    ['parts that no schema knows are none', { op: 'replace', path: 'name', value: { odd: 'X' } }, start],
    ['null takes the whole away', { op: 'replace', path: 'name', value: null }, (({ name: _, ...rest }) => rest)(start)],
    ['the whole is removed', { op: 'remove', path: 'name' }, (({ name: _, ...rest }) => rest)(start)],
    [
      'the last part takes the whole with it',
      { op: 'replace', path: 'name', value: { givenName: '', familyName: '' } },
      { ...start, name: { givenName: '', familyName: '' } },
    ],
    ['a password is taken and never kept', { op: 'replace', path: 'password', value: 'x' }, start],
    ['a password among others', { op: 'replace', value: { password: 'x', title: 'X' } }, { ...start, title: 'X' }],
  ])('%s', (_, operation, wanted) => expect(after(operation)).toEqual(wanted));

  it('is no name where both of its parts go', () => {
    expect(after({ op: 'remove', path: 'name.givenName' }, { op: 'remove', path: 'name.familyName' })).not.toHaveProperty('name');
  });
  it.each<[string, object, object]>([
    [
      'what is ours to say may come back',
      { id: 'x', meta: { version: 'x' }, groups: [{ value: 'x' }], schemas: ['a'], title: 'X' },
      { title: 'X' },
    ],
    ['schemas in any case', { Schemas: ['a'], TITLE: 'X' }, { title: 'X' }],
    ['what no schema knows', { odd: 'x', title: 'X' }, { title: 'X' }],
    ['a part by its whole name', { 'name.givenName': 'X' }, { name: { givenName: 'X', familyName: 'F' } }],
    [
      'an extension with its parts',
      { [extension]: { department: 'D', manager: { value: 'm' } } },
      { [extension]: { department: 'D', manager: { value: 'm' } } },
    ],
    ['an attribute of an extension', { [`${extension}:division`]: 'D' }, { [extension]: { division: 'D' } }],
  ])('without a path: %s', (_, value, wanted) => {
    expect(after({ op: 'replace', value })).toEqual({ ...start, ...wanted });
  });
  it('of an extension as a whole wants its parts', () => {
    for (const value of ['x', null, ['x'], 7]) expect(faultOf({ op: 'replace', value: { [extension]: value } })).toMatch(/^invalidPath: /);
    expect(after({ op: 'add', path: `${extension}:division`, value: '' })).toEqual(start);
  });
  it.each<[PatchOperation, string]>([
    [{ op: 'remove' }, 'noTarget: a path must say what is removed'],
    [{ op: 'remove', path: '' }, 'noTarget: a path must say what is removed'],
    [{ op: 'add', value: null }, 'invalidValue: without a path the value must be an object of attributes'],
    [{ op: 'add', value: [] }, 'invalidValue: without a path the value must be an object of attributes'],
    [{ op: 'add' }, 'invalidValue: without a path the value must be an object of attributes'],
    [{ op: 'replace', path: 'id', value: 'x' }, 'mutability: “id” cannot be changed'],
    [{ op: 'replace', path: 'groups.value', value: 'x' }, 'mutability: “value” cannot be changed'],
    [{ op: 'replace', path: `${extension}:manager.displayName`, value: 'x' }, 'mutability: “displayName” cannot be changed'],
    [{ op: 'replace', path: 'title[value eq "x"]', value: 'x' }, 'invalidPath: “title” has one value alone'],
    [{ op: 'replace', path: 'emails[type eq "boat"]', value: {} }, 'noTarget: no value of “emails” is what the path asks for'],
    [{ op: 'remove', path: 'emails[type eq "boat"].value' }, 'noTarget: no value of “emails” is what the path asks for'],
    [{ op: 'replace', path: 'name', value: 'x' }, 'invalidValue: “name” must be an object with its parts'],
  ])('is refused with what is wrong: %j', (operation, told) => expect(faultOf(operation)).toBe(told));
});

describe('a change of several values', () => {
  const [work, home] = start.emails;
  const emails = (...operations: PatchOperation[]) => (after(...operations) as { emails?: object[] }).emails;
  it.each<[string, PatchOperation, object[] | undefined]>([
    ['a part of all is removed', { op: 'remove', path: 'emails.type' }, [{ value: 'w', primary: true }, { value: 'h' }]],
    ['a part of one is removed', { op: 'remove', path: 'emails[type eq "work"].primary' }, [{ value: 'w', type: 'work' }, home!]],
    [
      'a part of all is set',
      { op: 'replace', path: 'emails.type', value: 'other' },
      [
        { ...work, type: 'other' },
        { ...home, type: 'other' },
      ],
    ],
    [
      'one is said to come first',
      { op: 'replace', path: 'emails[type eq "home"].primary', value: true },
      [
        { ...work, primary: false },
        { ...home, primary: true },
      ],
    ],
    [
      'one is said not to come first',
      { op: 'replace', path: 'emails[type eq "home"].primary', value: false },
      [work!, { ...home, primary: false }],
    ],
    [
      'another part says nothing of what comes first',
      { op: 'replace', path: 'emails[type eq "home"].value', value: 'x' },
      [work!, { ...home, value: 'x' }],
    ],
    ['the values that are named are removed', { op: 'remove', path: 'emails', value: [{ value: 'h' }] }, [work!]],
    ['one that is named alone', { op: 'remove', path: 'emails', value: { value: 'h' } }, [work!]],
    ['of another type it stays', { op: 'remove', path: 'emails', value: [{ value: 'h', type: 'work' }] }, [work!, home!]],
    ['with null all are', { op: 'remove', path: 'emails', value: null }, undefined],
    ['those of a filter are', { op: 'remove', path: 'emails[value eq "h" or value eq "w"]' }, undefined],
    [
      'one is added to what there is',
      { op: 'add', path: 'emails[type eq "home"]', value: { display: 'D' } },
      [work!, { ...home, display: 'D' }],
    ],
    [
      'one is put in the place of another',
      { op: 'replace', path: 'emails[type eq "home"]', value: { value: 'x' } },
      [work!, { value: 'x' }],
    ],
    ['all are put in the place of what there is', { op: 'replace', path: 'emails', value: { value: 'x' } }, [{ value: 'x' }]],
    ['nothing in the place of all', { op: 'replace', path: 'emails', value: [] }, undefined],
    [
      'what is there is not added again',
      { op: 'add', path: 'emails', value: [{ value: 'h' }, { value: 'n' }] },
      [work!, home!, { value: 'n' }],
    ],
    [
      'the same of another type is',
      { op: 'add', path: 'emails', value: [{ value: 'h', type: 'work' }] },
      [work!, home!, { value: 'h', type: 'work' }],
    ],
    [
      'one is made as two equalities say it',
      { op: 'add', path: 'emails[type eq "other" and primary eq false].value', value: 'o' },
      [work!, home!, { type: 'other', primary: false, value: 'o' }],
    ],
    [
      'of what is no equality nothing is taken',
      { op: 'add', path: 'emails[type eq "other" and value co "q"].value', value: 'o' },
      [work!, home!, { type: 'other', value: 'o' }],
    ],
    [
      'an or says nothing for certain',
      { op: 'add', path: 'emails[type eq "other" or type eq "boat"].value', value: 'o' },
      [work!, home!, { value: 'o' }],
    ],
  ])('%s', (_, operation, wanted) => expect(emails(operation)).toEqual(wanted));

  it('of which there is none yet makes one', () => {
    expect(after({ op: 'add', path: 'ims.value', value: 'x' })).toEqual({ ...start, ims: [{ value: 'x' }] });
    expect(after({ op: 'remove', path: 'ims' })).toEqual(start);
    expect(after({ op: 'add', path: 'ims', value: [] })).toEqual(start);
  });

  it('of members comes to what another program makes of it', () => {
    const key = fc.constantFrom('a', 'b', 'c', 'd');
    const member = key.map((value) => ({ value }));
    const some = fc.uniqueArray(member, { selector: ({ value }) => value, minLength: 1, maxLength: 3 });
    const operation = fc.oneof(
      fc.record({ op: fc.constantFrom('add', 'replace'), path: fc.constant('members'), value: some }),
      fc.record({ op: fc.constant('remove'), path: key.map((value) => `members[value eq "${value}"]`) }),
      fc.record({ op: fc.constantFrom('add', 'replace'), path: fc.constant('displayName'), value: key }),
    ) as fc.Arbitrary<PatchOperation>;
    const group = { displayName: 'g', members: [{ value: 'a' }, { value: 'b' }] };
    fc.assert(
      fc.property(fc.array(operation, { maxLength: 6 }), (operations) => {
        const keys = new Set(['a', 'b']);
        // what is removed must be there: we tell it, the other one does not
        const fit = operations.filter(({ op, path = '', value }) => {
          const gone = /"(.)"/.exec(path)?.[1];
          if (gone !== undefined) return keys.size > 1 && keys.delete(gone);
          if (path === 'members') {
            if (op === 'replace') keys.clear();
            for (const each of value as { value: string }[]) keys.add(each.value);
          }
          return true;
        });
        const theirs = scimPatch(structuredClone({ ...group, schemas: [], meta: {} }) as never, structuredClone(fit) as never, {
          mutateDocument: false,
        }) as unknown as typeof group;
        const ours = patched(groupKind, group, fit) as typeof group;
        expect([fit, ours.displayName, ours.members.map(({ value }) => value)]).toEqual([
          fit,
          theirs.displayName,
          theirs.members.map(({ value }) => value),
        ]);
      }),
      { numRuns: 500, seed: 5 },
    );
  });
});
