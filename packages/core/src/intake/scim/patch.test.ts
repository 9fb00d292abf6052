import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { scimPatch } from 'scim-patch';
import { patched, type PatchOperation } from './patch.js';
import { readResource } from './resource.js';
import { babs, fullUser, james } from '../../../test/rfc7643.js';
import { groupKind, userKind } from './schema.js';

const person = readResource(userKind, fullUser);
const group = { displayName: 'Tour Guides', members: [babs] };
const of = (resource: Record<string, unknown>, ...operations: PatchOperation[]) =>
  patched('userName' in resource ? userKind : groupKind, resource, operations);
const faultOf = (...operations: PatchOperation[]): string => {
  try {
    patched(userKind, person, operations);
  } catch (error) {
    return (error as { fault?: string }).fault ?? String(error);
  }
  return 'none';
};
/** What is kept of a member: its display is ours to say. */
const kept = ({ value, $ref }: typeof babs) => ({ value, $ref });

// the examples of RFC 7644 3.5.2.1 to 3.5.2.3, typed from memory
describe('changes of the RFC', () => {
  it('add a member, and not one that is there', () => {
    const added = of(group, { op: 'add', path: 'members', value: [james] });
    expect(added.members).toEqual([kept(babs), kept(james)]);
    expect(of(added, { op: 'add', path: 'members', value: [james] })).toEqual(added);
  });
  it('add attributes without a path', () => {
    const { emails, ...rest } = person;
    const next = of(rest, { op: 'add', value: { emails: [{ value: 'babs@jensen.org', type: 'home' }], nickname: 'Babs' } });
    expect([next.emails, next.nickName]).toEqual([[{ value: 'babs@jensen.org', type: 'home' }], 'Babs']);
    expect(emails).toHaveLength(2);
  });
  it('remove one member, several by a filter, and all', () => {
    const both = { ...group, members: [kept(babs), kept(james)] };
    expect(of(both, { op: 'remove', path: `members[value eq "${babs.value}"]` }).members).toEqual([kept(james)]);
    expect(of(both, { op: 'remove', path: 'members' })).toEqual({ displayName: 'Tour Guides' });
    expect(of(person, { op: 'remove', path: 'emails[type eq "work" and value ew "example.com"]' }).emails).toEqual([
      { value: 'babs@jensen.org', type: 'home' },
    ]);
  });
  it('replace all members, and those they remove by value', () => {
    const both = of(group, { op: 'add', path: 'members', value: [james] });
    expect(of(both, { op: 'replace', path: 'members', value: [babs] }).members).toEqual([kept(babs)]);
    expect(of(both, { op: 'remove', path: 'members', value: [{ value: babs.value }] }).members).toEqual([kept(james)]);
    const changed = of(both, { op: 'remove', path: `members[value eq "${babs.value}"]` }, { op: 'add', path: 'members', value: [babs] });
    expect(changed.members).toEqual([kept(james), kept(babs)]);
  });
  it('replace values by a filter, a part of them, and parts of one value', () => {
    const address = { type: 'work', streetAddress: '911 Universal City Plaza', locality: 'Hollywood', region: 'CA' };
    const moved = of(person, { op: 'replace', path: 'addresses[type eq "work"]', value: address });
    expect((moved.addresses as object[])[0]).toEqual(address);
    const street = of(person, { op: 'replace', path: 'addresses[type eq "work"].streetAddress', value: '1010 Broadway Ave' });
    expect((street.addresses as object[])[0]).toMatchObject({
      streetAddress: '1010 Broadway Ave',
      locality: 'Hollywood',
      postalCode: '91608',
    });
    expect(of(person, { op: 'replace', value: { emails: [{ value: 'x@example.com', primary: true }], nickname: 'Babs2' } })).toMatchObject({
      ...{ emails: [{ value: 'x@example.com', primary: true }], nickName: 'Babs2', title: 'Tour Guide' },
    });
    expect(of(person, { op: 'replace', path: 'name.familyName', value: 'Smith' }).name).toEqual({
      ...(person.name as object),
      familyName: 'Smith',
    });
  });
});

describe('a change', () => {
  it('of an extension is found by its address, and leaves none that is empty', () => {
    const id = 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User';
    expect(of(person, { op: 'replace', path: `${id}:department`, value: 'Sails' })[id]).toMatchObject({
      department: 'Sails',
      costCenter: '4130',
    });
    expect(of(person, { op: 'add', value: { [`${id}:department`]: 'Keels' } })[id]).toMatchObject({ department: 'Keels' });
    expect(of(person, { op: 'add', value: { [id]: { department: 'Masts' } } })[id]).toMatchObject({
      department: 'Masts',
      division: 'Theme Park',
    });
    const { [id]: _, ...without } = person;
    const one = of(without, { op: 'add', path: `${id}:division`, value: 'D' });
    expect(of(one, { op: 'remove', path: `${id}:division` })).toEqual(without);
  });
  it('makes a value that a path asks for by what it is, and says that others do not come first', () => {
    const next = of(person, { op: 'replace', path: 'emails[type eq "other"].value', value: 'o@example.com' });
    expect(next.emails).toContainEqual({ type: 'other', value: 'o@example.com' });
    const second = of(person, { op: 'replace', path: 'emails[type eq "home"].primary', value: true });
    expect((second.emails as { primary?: boolean }[]).map(({ primary }) => primary)).toEqual([false, true]);
    const added = of(person, { op: 'add', path: 'emails', value: { value: 'new@example.com', primary: true } });
    expect((added.emails as { primary?: boolean }[]).map(({ primary }) => primary)).toEqual([false, undefined, true]);
  });
  it('takes truth written as a text, and null as nothing', () => {
    expect(of(person, { op: 'replace', path: 'active', value: 'False' }).active).toBe(false);
    expect(of(person, { op: 'replace', path: 'title', value: null })).not.toHaveProperty('title');
  });
  it('leaves the resource it is made of as it was', () => {
    const before = structuredClone(person);
    of(person, { op: 'replace', path: 'emails[type eq "work"].value', value: 'x' }, { op: 'remove', path: 'name' });
    expect(person).toEqual(before);
  });
  it.each<[string, PatchOperation[]]>([
    ['noTarget', [{ op: 'remove' }]],
    ['noTarget', [{ op: 'replace', path: 'emails[type eq "boat"]', value: {} }]],
    ['noTarget', [{ op: 'remove', path: 'emails[type eq "boat"]' }]],
    ['invalidPath', [{ op: 'add', path: 'nothing', value: 1 }]],
    ['invalidPath', [{ op: 'replace', path: 'name[familyName eq "a"].givenName', value: 'x' }]],
    ['mutability', [{ op: 'replace', path: 'id', value: 'x' }]],
    ['mutability', [{ op: 'add', path: 'groups', value: [{ value: 'x' }] }]],
    ['mutability', [{ op: 'replace', path: 'meta.created', value: '2026-01-01T00:00:00Z' }]],
    ['invalidValue', [{ op: 'remove', path: 'userName' }]],
    ['invalidValue', [{ op: 'replace', path: 'userName', value: ' ' }]],
    ['invalidValue', [{ op: 'replace', path: 'active', value: 'perhaps' }]],
    ['invalidValue', [{ op: 'add', value: 'text' }]],
    ['invalidValue', [{ op: 'replace', path: 'title', value: ['a'] }]],
    // the second of two is wrong: neither is made
    [
      'invalidPath',
      [
        { op: 'replace', path: 'title', value: 'x' },
        { op: 'add', path: 'no.thing', value: 1 },
      ],
    ],
  ])('is refused: %s', (fault, operations) => expect(faultOf(...operations)).toBe(fault));

  it('comes to what another program makes of it', () => {
    const word = fc.constantFrom('a', 'b', 'c');
    const mail = fc.record({ value: word, type: fc.constantFrom('work', 'home', 'other') });
    const operation: fc.Arbitrary<PatchOperation> = fc.oneof(
      fc.record({ op: fc.constantFrom('add', 'replace'), path: fc.constantFrom('title', 'nickName', 'name.givenName'), value: word }),
      fc.record({ op: fc.constant('remove'), path: fc.constantFrom('title', 'nickName') }),
      fc.record({
        op: fc.constant('replace'),
        path: fc.constant('emails'),
        value: fc.uniqueArray(mail, { selector: ({ value }) => value, minLength: 1, maxLength: 3 }),
      }),
      fc.record({ op: fc.constantFrom('add', 'replace'), value: fc.record({ title: word, userType: word }) }),
    ) as fc.Arbitrary<PatchOperation>;
    const start = {
      userName: 'u',
      title: 'x',
      nickName: 'y',
      name: { givenName: 'g', familyName: 'f' },
      emails: [{ value: 'a', type: 'work' }],
    };
    fc.assert(
      fc.property(fc.array(operation, { maxLength: 5 }), (operations) => {
        // what is removed must be there for the other one
        const there = new Set(['title', 'nickName']);
        const fit = operations.filter(({ op, path = '', value }) => {
          if (op === 'remove') return there.delete(path);
          there.add(path);
          for (const key of Object.keys(path === '' ? (value as object) : {})) there.add(key);
          return true;
        });
        const theirs = scimPatch(structuredClone({ ...start, schemas: [], meta: {} }) as never, fit as never, {
          mutateDocument: false,
        }) as unknown as Record<string, unknown>;
        const { schemas: _, meta: __, ...rest } = theirs;
        expect([fit, patched(userKind, start, fit)]).toEqual([fit, rest]);
      }),
      { numRuns: 1000, seed: 11 },
    );
  });
});
