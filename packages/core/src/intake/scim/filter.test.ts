import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { parse, filter as byOthers } from 'scim2-parse-filter';
import { matches, parseFilter, parsePath } from './filter.js';
import { filters, fullUser } from '../../../test/rfc7643.js';
import { groupKind, userKind } from './schema.js';

const asks = (text: string, of: object = fullUser) => matches(parseFilter(userKind, text), of);
const fault = (text: string): string => {
  try {
    parseFilter(userKind, text);
  } catch (error) {
    return `${(error as { fault: string }).fault}: ${(error as Error).message}`;
  }
  return 'none';
};

describe('filters of the RFC', () => {
  it.each(filters)('%s: %s', (text, asked) => expect(asks(text)).toBe(asked));
  it('are read by another reader too', () => {
    for (const [text] of filters) expect(() => parse(text)).not.toThrow();
  });
});

describe('a filter', () => {
  it('binds not before and, and and before or', () => {
    const of = { userName: 'a', title: 'b' };
    expect(asks('title eq "b" or userName eq "x" and title eq "x"', of)).toBe(true);
    expect(asks('(title eq "b" or userName eq "x") and title eq "x"', of)).toBe(false);
    expect(asks('not (userName eq "x") and title eq "b"', of)).toBe(true);
    expect(asks('not (userName eq "a" and title eq "b")', of)).toBe(false);
  });
  it('asks all of one value in square brackets, and of any value without', () => {
    const of = {
      emails: [
        { type: 'work', value: 'a@x.example' },
        { type: 'home', value: 'b@y.example' },
      ],
    };
    expect(asks('emails.type eq "work" and emails.value eq "b@y.example"', of)).toBe(true);
    expect(asks('emails[type eq "work" and value eq "b@y.example"]', of)).toBe(false);
    expect(asks('emails eq "b@y.example"', of)).toBe(true);
    expect(asks('emails[not (type eq "work")]', of)).toBe(true);
  });
  it('takes names and operators in any case, texts where their attribute does', () => {
    expect(asks('USERNAME EQ "BJENSEN@example.com" AND Title PR')).toBe(true);
    expect(asks('externalId eq "aB"', { externalId: 'ab' })).toBe(false);
    expect(asks('externalId eq "aB"', { externalId: 'aB' })).toBe(true);
  });
  it('compares truth, and asks for what is not there with null', () => {
    expect(asks('active eq true')).toBe(true);
    expect(asks('active eq false')).toBe(false);
    expect(asks('nickName eq null')).toBe(false);
    expect(asks('nickName eq null', { userName: 'a' })).toBe(true);
    expect(asks('nickName ne null', { userName: 'a' })).toBe(false);
    expect(asks('nickName pr', { nickName: '' })).toBe(false);
    expect(asks('name pr', { name: { familyName: '' } })).toBe(false);
  });
  it('asks by ne that no value is so', () => {
    const of = {
      emails: [
        { type: 'work', value: 'a' },
        { type: 'home', value: 'b' },
      ],
    };
    expect(asks('emails.type ne "work"', of)).toBe(false);
    expect(asks('emails.type ne "other"', of)).toBe(true);
    expect(asks('title ne "x"', of)).toBe(true);
  });
  it('compares times as times, just before and just behind', () => {
    const of = { meta: { lastModified: '2026-11-27T10:00:00+02:00' } };
    expect(asks('meta.lastModified eq "2026-11-27T08:00:00Z"', of)).toBe(true);
    expect(asks('meta.lastModified gt "2026-11-27T07:59:59Z"', of)).toBe(true);
    expect(asks('meta.lastModified gt "2026-11-27T08:00:00Z"', of)).toBe(false);
    expect(asks('meta.lastModified lt "2026-11-27T08:00:01Z"', of)).toBe(true);
  });
  it('reads an extension by its address', () => {
    expect(asks('urn:ietf:params:scim:schemas:extension:enterprise:2.0:User:department eq "tour operations"')).toBe(true);
    expect(asks('urn:ietf:params:scim:schemas:extension:enterprise:2.0:User:manager.value sw "2611"')).toBe(true);
  });
  it.each([
    ['', 'invalidFilter: expected the name of an attribute, but it ends there'],
    ['userName', 'invalidFilter: expected an operator, but it ends there'],
    ['userName eq', 'invalidFilter: expected a value: a text in quotes, a number, true, false or null, but it ends there'],
    ['userName eq "a', 'invalidFilter: the text that begins at character 13 does not end'],
    ['userName is "a"', 'invalidFilter: “is” is no operator; there are eq, ne, co, sw, ew, gt, ge, lt, le and pr'],
    ['userName eq "a" title pr', 'invalidFilter: expected and, or, or the end, but there is “title” at character 17'],
    ['(userName eq "a"', 'invalidFilter: expected “)”, but it ends there'],
    ['nothing eq "a"', 'invalidFilter: User has no attribute “nothing”'],
    ['name.nothing eq "a"', 'invalidFilter: “name” has no part “nothing”'],
    ['name eq "a"', 'invalidFilter: “name” has parts: name one of them'],
    ['active gt true', 'invalidFilter: “active” has no order'],
    ['active eq "true"', 'invalidFilter: “active” is compared with a boolean'],
    ['userName eq 3', 'invalidFilter: “userName” is compared with a string'],
    ['userName co null', 'invalidFilter: null is compared by eq and ne alone'],
    ['meta.lastModified gt "soon"', 'invalidFilter: “soon” is no time'],
    ['urn:nothing:such:userName eq "a"', 'invalidFilter: “urn:nothing:such:userName” names no schema of User'],
    ['emails[type eq "work"', 'invalidFilter: expected “]”, but it ends there'],
    ['emails[nothing eq "work"]', 'invalidFilter: “emails” has no part “nothing”'],
    [`${'('.repeat(30)}title pr${')'.repeat(30)}`, 'invalidFilter: the filter is nested deeper than 20'],
    [`${'title pr or '.repeat(120)}title pr`, 'invalidFilter: the filter has more than 200 parts'],
    [`title eq "${'x'.repeat(2000)}"`, 'invalidFilter: the filter is longer than 2000 characters'],
  ])('is refused with what is wrong: %s', (text, wanted) => {
    if (text.length > 2000) expect(fault(text)).toBe('invalidFilter: the filter is longer than 2000 characters');
    else if (text.startsWith('title pr or title pr or')) expect(fault(text)).toBe('invalidFilter: the filter has more than 200 parts');
    else expect(fault(text)).toBe(wanted);
  });

  // the other reader takes what stands in square brackets apart, so that two values may answer it: it is asked with one value then
  it.each([
    ['without square brackets', false, 3],
    ['with them, of one value', true, 1],
  ])('is answered as another reader answers it, whatever it asks: %s', (_, brackets, most) => {
    const word = fc.constantFrom('a', 'b', 'ab', 'ba', 'aab');
    const paths = fc.constantFrom('title', 'nickName', 'name.givenName', 'emails.value', 'emails.type');
    const simple = fc
      .tuple(paths, fc.constantFrom('eq', 'co', 'sw', 'ew', 'gt', 'le'), word)
      .map(([path, op, value]) => `${path} ${op} "${value}"`);
    const present = fc.constantFrom('title pr', 'emails.type pr');
    const inner = fc.tuple(word, fc.constantFrom('and', 'or'), word).map(([a, by, b]) => `emails[type eq "${a}" ${by} value co "${b}"]`);
    const { text } = fc.letrec<{ text: string }>((tie) => {
      const two = fc.tuple(tie('text'), fc.constantFrom('and', 'or'), tie('text'));
      const joined = [two.map(([a, by, b]) => `(${a}) ${by} ${b}`), two.map(([a, by, b]) => `${a} ${by} ${b}`)];
      return {
        text: fc.oneof(
          { maxDepth: 4 },
          simple,
          present,
          ...(brackets ? [inner] : []),
          ...joined,
          tie('text').map((of) => `not (${of})`),
        ),
      };
    });
    const some = <T>(arb: fc.Arbitrary<T>) => fc.option(arb, { nil: undefined });
    const emails = fc.array(fc.record({ value: word, type: word }), { maxLength: most });
    const user = fc
      .record({ title: some(word), nickName: some(word), name: some(fc.record({ givenName: word })), emails: some(emails) })
      .map((each) => JSON.parse(JSON.stringify(each)) as object);
    fc.assert(
      fc.property(text, user, (asked, of) => {
        expect([asked, of, asks(asked, of)]).toEqual([asked, of, byOthers(parse(asked))(of)]);
      }),
      { numRuns: 1500, seed: 7 },
    );
  });
});

describe('a path', () => {
  it('names an attribute, a part, values by a filter, and a part of them', () => {
    expect(parsePath(userKind, 'name.familyName')).toMatchObject({ attribute: { name: 'name' }, sub: { name: 'familyName' }, of: null });
    expect(parsePath(userKind, 'Emails[type eq "work"].Value')).toMatchObject({
      ...{ attribute: { name: 'emails' }, sub: { name: 'value' } },
      of: { is: 'compared', by: 'eq', value: 'work' },
    });
    expect(parsePath(groupKind, 'members[value eq "a]b"]')).toMatchObject({ of: { value: 'a]b' }, sub: null });
    expect(parsePath(userKind, 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User:manager')).toMatchObject({
      extension: 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User',
      attribute: { name: 'manager' },
    });
  });
  it.each([
    '',
    'nothing',
    'name.',
    'emails[',
    'emails[type eq "work"',
    'emails[type eq "work"]value',
    'emails[type eq "work"].nothing',
    'name.familyName.x',
  ])('is refused: “%s”', (text) => expect(() => parsePath(userKind, text)).toThrow(expect.objectContaining({ fault: 'invalidPath' })));
});
