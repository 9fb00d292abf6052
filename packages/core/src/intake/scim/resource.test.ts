import { describe, expect, it } from '@jest/globals';
import SCIMMY from 'scimmy';
import { membersOf, personOf } from './person.js';
import { readResource } from './resource.js';
import { fullUser } from '../../../test/rfc7643.js';
import { enterpriseSchema, groupKind, groupSchema, userKind, userSchema } from './schema.js';
import { shownResource } from './shown.js';

const user = userSchema.id;
const fault = (sent: object, kind = userKind): string => {
  try {
    readResource(kind, sent);
  } catch (error) {
    return `${(error as { fault: string }).fault}: ${(error as Error).message}`;
  }
  return 'none';
};

describe('the schemas', () => {
  /** What another program says of an attribute of the RFC, beside its words. */
  interface Told {
    name: string;
    type: string;
    multiValued?: boolean;
    required?: boolean;
    mutability?: string;
    uniqueness?: string;
    canonicalValues?: readonly string[];
    referenceTypes?: readonly string[];
    subAttributes?: readonly Told[];
  }
  /** Types of messengers are names of firms; ours are none. */
  const firms = /xmpp/;
  const compared = (list: readonly Told[]): object =>
    Object.fromEntries(
      list.map(({ name, type, multiValued = false, required = false, mutability = 'readWrite', uniqueness, ...more }) => [
        name,
        {
          ...{ type, multiValued, required, mutability },
          // of a complex one or a truth it says nothing
          ...(type === 'string' ? { uniqueness: uniqueness ?? 'none' } : {}),
          ...(more.canonicalValues?.length && !firms.test(more.canonicalValues.join()) ? { canonicalValues: more.canonicalValues } : {}),
          ...(more.referenceTypes ? { referenceTypes: more.referenceTypes } : {}),
          ...(more.subAttributes?.length ? { subAttributes: compared(more.subAttributes) } : {}),
        },
      ]),
    );
  it.each([
    [userSchema, SCIMMY.Schemas.User],
    [groupSchema, SCIMMY.Schemas.Group],
    [enterpriseSchema, SCIMMY.Schemas.EnterpriseUser],
  ])('have the attributes another program has of the RFC', (ours, other) => {
    const described = JSON.parse(JSON.stringify(other.definition.describe())) as { id: string; attributes: Told[] };
    const common = ['schemas', 'id', 'externalId', 'meta'];
    expect(ours.id).toBe(described.id);
    const theirs = described.attributes.filter(({ name }) => !common.includes(name));
    // of a member the name is ours to say: who sends it cannot know it better
    const display = theirs.find(({ name }) => name === 'members')?.subAttributes?.find(({ name }) => name === 'display');
    if (display) display.mutability = 'readOnly';
    expect(compared(ours.attributes)).toEqual(compared(theirs));
  });
});

describe('a resource', () => {
  it('of the RFC is read whole, without what is ours to say and without its password', () => {
    const { schemas: _, id: __, meta: ___, password: ____, groups: _____, ...kept } = fullUser;
    const manager = { value: '26118915-6090-4610-87e4-49d8ca9f808d' };
    expect(readResource(userKind, fullUser)).toEqual({
      ...kept,
      [enterpriseSchema.id]: { ...(kept[enterpriseSchema.id as never] as object), manager },
    });
  });
  it('has the names its schema writes, and nothing no schema knows', () => {
    expect(readResource(userKind, { SCHEMAS: [user], username: 'a', Name: { FAMILYNAME: 'B', odd: 1 }, odd: { deep: [] } })).toEqual({
      userName: 'a',
      name: { familyName: 'B' },
    });
  });
  it('has one value that comes first', () => {
    const { emails } = readResource(userKind, {
      ...{ schemas: [user], userName: 'a' },
      emails: [
        { value: 'a', primary: true },
        { value: 'b', primary: 'true' },
        { value: 'c', primary: false },
      ],
    });
    expect((emails as { primary: boolean }[]).map(({ primary }) => primary)).toEqual([false, true, false]);
  });
  it.each([
    [{ userName: 'a' }, `invalidSyntax: “schemas” must name ${user}`],
    [{ schemas: [groupSchema.id], userName: 'a' }, `invalidSyntax: “schemas” must name ${user}`],
    [{ schemas: [user] }, 'invalidValue: “userName” is missing'],
    [{ schemas: [user], userName: '  ' }, 'invalidValue: “userName” must not be empty'],
    [{ schemas: [user], userName: 7 }, 'invalidValue: “userName” must be a text'],
    [{ schemas: [user], userName: 'a', active: 'yes' }, 'invalidValue: “active” must be true or false'],
    [{ schemas: [user], userName: 'a', name: 'B' }, 'invalidValue: “name” must be an object with its parts'],
    [{ schemas: [user], userName: 'a', title: ['x'] }, 'invalidValue: “title” has one value, not a list'],
    [{ schemas: [user], userName: 'a', title: 'x'.repeat(4001) }, 'invalidValue: “title” must be at most 4000 characters'],
    [{ schemas: [user], userName: 'a', [enterpriseSchema.id]: [] }, `invalidValue: “${enterpriseSchema.id}” must be an object`],
  ])('is refused with what is wrong: %j', (sent, wanted) => expect(fault(sent)).toBe(wanted));
  it('may have texts of 4000 characters', () => expect(fault({ schemas: [user], userName: 'a', title: 'x'.repeat(4000) })).toBe('none'));
});

describe('what is told of a resource', () => {
  const kept = { ...readResource(userKind, fullUser), id: '1', meta: { resourceType: 'User', version: 'W/"1"' } };
  it('is all of it, with its schemas', () => {
    expect(shownResource(userKind, kept, {})).toEqual({ ...kept, schemas: [user, enterpriseSchema.id] });
  });
  it('is what is asked for, and always its key', () => {
    expect(
      shownResource(userKind, kept, { attributes: ['userName', 'name.familyname', 'nothing', `${enterpriseSchema.id}:department`] }),
    ).toEqual({
      ...{ schemas: [user, enterpriseSchema.id], id: '1', userName: fullUser.userName, name: { familyName: 'Jensen' } },
      [enterpriseSchema.id]: { department: 'Tour Operations' },
    });
  });
  it('is without what nobody wants', () => {
    const group = { id: 'g', displayName: 'G', members: [{ value: 'a', $ref: 'x' }], meta: {} };
    expect(shownResource(groupKind, group, { excluded: ['members', 'id'] })).toEqual({
      schemas: [groupSchema.id],
      id: 'g',
      displayName: 'G',
      meta: {},
    });
    expect(shownResource(groupKind, group, { excluded: ['members.$ref'] }).members).toEqual([{ value: 'a' }]);
    expect(shownResource(userKind, kept, { excluded: [enterpriseSchema.id] })).not.toHaveProperty([enterpriseSchema.id]);
  });
  it('is asked for in one way alone', () => {
    expect(() => shownResource(userKind, kept, { attributes: ['id'], excluded: ['meta'] })).toThrow('not both');
  });
});

describe('a person out of a resource', () => {
  const of = (more: object) => personOf({ userName: 'u7', ...more }, 'locality');
  it('is called as is shown, else as the name is written, else as they sign in', () => {
    expect(of({ displayName: 'Wren Vale', name: { formatted: 'W. Vale' } }).name).toBe('Wren Vale');
    expect(of({ name: { formatted: 'W. Vale', givenName: 'Wren' } }).name).toBe('W. Vale');
    expect(of({ name: { givenName: 'Wren', familyName: 'Vale' } }).name).toBe('Wren Vale');
    expect(of({}).name).toBe('u7');
  });
  it('may sign in unless it is said that they may not', () => {
    expect([of({}).active, of({ active: true }).active, of({ active: false }).active]).toEqual([true, true, false]);
  });
  it('is where the address that comes first is, or by what somebody chose', () => {
    const addresses = [
      { type: 'home', locality: 'Home town' },
      { type: 'work', locality: 'Wexcombe' },
      { type: 'other', locality: 'Else', primary: true },
    ];
    expect(of({ addresses }).place).toBe('Else');
    expect(of({ addresses: addresses.slice(0, 2) }).place).toBe('Wexcombe');
    expect(of({ addresses: addresses.slice(0, 1) }).place).toBe('Home town');
    const work = { [enterpriseSchema.id]: { department: 'Sails', division: 'Fleet' } };
    expect([personOf(work, 'department').place, personOf(work, 'division').place, personOf(work, 'nothing').place]).toEqual([
      'Sails',
      'Fleet',
      null,
    ]);
  });
  it('and members of a group are told once', () => {
    expect(membersOf({ members: [{ value: 'a' }, { value: 'b' }, { value: 'a' }, { display: 'x' }] })).toEqual(['a', 'b']);
    expect(membersOf({})).toEqual([]);
  });
});
