import { describe, expect, it } from '@jest/globals';
import { keyOfName, usualOrder, withStandIns, type Group, type Location, type ObjectKind, type Person } from '@underpass/contracts';
import type { SaidFields, SaidOf } from '../sources/sources.js';
import { feedOver, nowhere, type Feed, type FeedPerson, type Link } from './feed.js';

const at = '2026-11-01T08:00:00Z';
const source = 'ldap:Main';
const person = (id: string, groups: string[] = [], more: Partial<Person> = {}): Person => ({
  id,
  name: id,
  kind: 'staff',
  location: 'hall',
  groups,
  ...more,
});
const group = (id: string, more: Partial<Group> = {}): Group => ({ id, name: id, rank: 3, memberOf: [], publications: [], ...more });
interface Scene {
  person: Person[];
  group: Group[];
  said?: Record<string, Record<string, SaidFields>>;
  links?: Link[];
  makePlaces?: boolean;
  named?: string[];
}
const places = [
  { id: 'hall', name: 'Wexcombe hall' },
  { id: 'quay', name: 'The quay' },
  { id: 'a1', name: 'Annex' },
  { id: 'a2', name: 'Annex' },
];

/** What a feed comes to, and the estate after it. */
function laid({ said = {}, links = [], makePlaces = false, named = [], ...scene }: Scene, feed: Partial<Feed>) {
  const objects: Partial<Record<ObjectKind, object[]>> = { ...scene, location: places };
  const all = (kind: ObjectKind) => objects[kind] ?? [];
  const find = (kind: ObjectKind, id: string) => all(kind).find((each) => (each as { id: string }).id === id);
  const outcome = feedOver(
    {
      ...{ all, find, keyOf: keyOfName },
      said: (kind, id) => new Map(Object.entries(said[`${kind}/${id}`] ?? {})) as SaidOf,
      order: () => () => usualOrder,
      complete: (kind, fields) => withStandIns(kind, fields) as { id: string },
      namesGroup: (id) => named.includes(id),
    },
    { people: [], groups: [], gone: { people: [], groups: [] }, ...feed },
    { source, at, links, makePlaces },
  );
  const after = <T>(kind: ObjectKind, id: string) => {
    const write = outcome.writes.find((each) => each.kind === kind && each.id === id);
    return (write ? write.after : (find(kind, id) ?? null)) as T | null;
  };
  return {
    ...outcome,
    personNow: (id: string) => after<Person>('person', id),
    groupNow: (id: string) => after<Group>('group', id),
    placeNow: (id: string) => after<Location>('location', id),
  };
}
const comes = (key: string, groups: string[] = [], more: Partial<FeedPerson> = {}): FeedPerson => ({
  ...{ key, match: key, name: key, active: true, place: null, groups },
  ...more,
});
const of = (key: string, memberOf: string[] = [], name = key) => ({ key, name, memberOf });
const linked = (kind: 'person' | 'group', key: string, made = true): Link => ({ kind, key, id: key, made });

describe('people of a directory', () => {
  it('are those that are there by what they sign in as, and new ones else', () => {
    const { linked: links, personNow } = laid(
      { person: [person('WV7')], group: [] },
      {
        people: [
          comes('dn1', [], { match: 'wv7', name: 'Wren Vale' }),
          comes('dn2', [], { match: 'Ada Quay', name: 'Ada Quay', place: 'the QUAY' }),
        ],
      },
    );
    expect(links).toEqual([
      { kind: 'person', key: 'dn1', id: 'WV7', made: false },
      { kind: 'person', key: 'dn2', id: 'ada-quay', made: true },
    ]);
    expect(personNow('WV7')).toMatchObject({ name: 'Wren Vale', location: 'hall' });
    expect(personNow('ada-quay')).toMatchObject({ name: 'Ada Quay', location: 'quay', kind: 'staff', groups: [] });
  });
  it('are not two of one: who is linked already is nobody else', () => {
    const { linked: links } = laid(
      { person: [person('a')], group: [], links: [linked('person', 'a')] },
      { people: [comes('a'), comes('x', [], { match: 'a' })] },
    );
    expect(links).toEqual([{ kind: 'person', key: 'x', id: 'a-2', made: true }]);
  });
  it('who left leave, and are not the directory’s any more', () => {
    const { leaving, unlinked } = laid(
      { person: [person('a'), person('b')], group: [], links: [linked('person', 'a')] },
      { gone: { people: ['a', 'never-was'], groups: [] } },
    );
    expect(leaving).toEqual(['a']);
    expect(unlinked.map(({ key }) => key)).toEqual(['a', 'never-was']);
  });
  it('are the same where the directory has other keys for them, and so are groups', () => {
    const scene = {
      person: [person('a', ['g'])],
      group: [group('g')],
      links: [
        { kind: 'person', key: 'old', id: 'a', made: true },
        { kind: 'group', key: 'old g', id: 'g', made: true },
      ] as Link[],
    };
    const {
      leaving,
      linked: links,
      unlinked,
      writes,
    } = laid(scene, {
      people: [comes('new', ['new g'], { match: 'a', name: 'a' })],
      groups: [of('new g', [], 'g')],
      gone: { people: ['old'], groups: ['old g'] },
    });
    expect([leaving, writes]).toEqual([[], []]);
    expect(links).toEqual([
      { kind: 'group', key: 'new g', id: 'g', made: true },
      { kind: 'person', key: 'new', id: 'a', made: true },
    ]);
    expect(unlinked.map(({ key }) => key)).toEqual(['old', 'old g']);
  });
  it('who were taken out by hand come anew', () => {
    const { linked: links } = laid({ person: [], group: [], links: [linked('person', 'a')] }, { people: [comes('a')] });
    expect(links).toEqual([{ kind: 'person', key: 'a', id: 'a', made: true }]);
  });
  it('are where nobody knows while nobody says where', () => {
    const { personNow, placeNow } = laid({ person: [], group: [] }, { people: [comes('a')] });
    expect(personNow('a')?.location).toBe(nowhere.id);
    expect(placeNow(nowhere.id)?.assumed).toContain('latitude');
  });
  it('are at a place that is made where that is asked for, else it is told', () => {
    const people = [comes('a', [], { place: 'New pier' }), comes('b', [], { place: 'New Pier' })];
    const made = laid({ person: [], group: [], makePlaces: true }, { people });
    expect([made.personNow('a')?.location, made.personNow('b')?.location]).toEqual(['new-pier', 'new-pier']);
    const not = laid({ person: [person('a')], group: [] }, { people });
    expect(not.personNow('a')?.location).toBe('hall');
    expect(not.notes).toEqual(['No place is called New pier.', 'No place is called New Pier.']);
    const several = laid({ person: [person('a')], group: [], makePlaces: true }, { people: [comes('a', [], { place: 'Annex' })] });
    expect([several.personNow('a')?.location, several.notes[0]]).toEqual(['hall', expect.stringContaining('a1, a2')]);
  });
});

describe('groups of a directory', () => {
  it('are those of the same name, with what they give, and new ones else', () => {
    const { linked: links, groupNow } = laid(
      { person: [], group: [group('desk', { name: 'Ticket desk', publications: ['p'] })] },
      {
        groups: [of('g1', [], 'ticket DESK'), of('g2', ['g1'], 'Night desk')],
      },
    );
    expect(links.map(({ id, made }) => [id, made])).toEqual([
      ['desk', false],
      ['night-desk', true],
    ]);
    expect(groupNow('desk')).toMatchObject({ publications: ['p'], rank: 3 });
    expect(groupNow('night-desk')).toEqual({ id: 'night-desk', name: 'Night desk', rank: 0, memberOf: ['desk'], publications: [] });
  });
  it('have the members the directory says; groups it does not know stay', () => {
    const scene = {
      person: [person('a', ['own', 'g1'])],
      group: [group('own'), group('g1'), group('g2')],
      links: ['g1', 'g2'].map((key) => linked('group', key)),
    };
    expect(laid(scene, { people: [comes('a', ['g2'])] }).personNow('a')?.groups).toEqual(['own', 'g2']);
  });
  it('that are gone go where nothing rests on them, and stay empty where something does', () => {
    const scene = {
      person: [person('a', ['g1', 'g2', 'g3', 'own'])],
      group: [group('g1'), group('g2', { publications: ['p'] }), group('g3'), group('own', { memberOf: ['g1'] })],
      links: ['g1', 'g2', 'g3'].map((key) => linked('group', key)),
      named: ['g3'],
    };
    const { groupNow, personNow, notes } = laid(scene, { gone: { people: [], groups: ['g1', 'g2', 'g3'] } });
    expect([groupNow('g1'), groupNow('g2')?.id, groupNow('g3')?.id]).toEqual([null, 'g2', 'g3']);
    expect([personNow('a')?.groups, groupNow('own')?.memberOf]).toEqual([['own'], []]);
    expect(notes).toHaveLength(2);
    const found = laid({ ...scene, named: [], links: [linked('group', 'g1', false)] }, { gone: { people: [], groups: ['g1'] } });
    expect(found.groupNow('g1')?.id).toBe('g1');
  });
  it('of whoever may not sign in are none, whatever somebody typed', () => {
    const scene = { person: [person('a', ['own', 'g1'])], group: [group('own'), group('g1')], links: [linked('group', 'g1')] };
    const said = { 'person/a': { typed: { groups: { value: ['own', 'g1'], at } } } };
    const { personNow, held } = laid({ ...scene, said }, { people: [comes('a', ['g1'], { active: false })] });
    expect([personNow('a')?.groups, held]).toEqual([[], []]);
  });
});

describe('what somebody typed', () => {
  const scene = {
    group: [group('own'), group('g1'), group('g2'), group('g3')],
    links: ['g1', 'g2', 'g3'].map((key) => linked('group', key)),
  };
  const typed = (value: unknown) => ({ value, at, by: 'Ines Farrow' });
  it('of a name holds', () => {
    const said = { 'person/a': { typed: { name: typed('Wren V.') }, [source]: { name: { value: 'Wren Vale', at } } } };
    const { personNow, held } = laid(
      { ...scene, person: [person('a', [], { name: 'Wren V.' })], said },
      { people: [comes('a', [], { name: 'W. Vale' })] },
    );
    expect([personNow('a')?.name, held]).toEqual([
      'Wren V.',
      [expect.objectContaining({ field: 'name', value: 'W. Vale', source: 'typed' })],
    ]);
  });
  it('of groups holds for those alone: the directory goes on with the others', () => {
    // the directory said g1 and g2; somebody took the person out of g2
    const said = { 'person/a': { typed: { groups: typed(['own', 'g1']) }, [source]: { groups: { value: ['own', 'g1', 'g2'], at } } } };
    const before = { ...scene, person: [person('a', ['own', 'g1'])], said };
    const same = laid(before, { people: [comes('a', ['g1', 'g2'])] });
    expect(same.personNow('a')?.groups).toEqual(['own', 'g1']);
    expect(same.held).toMatchObject([{ field: 'groups', stands: ['own', 'g1'] }]);
    const more = laid(before, { people: [comes('a', ['g2', 'g3'])] });
    expect(more.personNow('a')?.groups).toEqual(['own', 'g3']);
    expect(more.says).toContainEqual({ kind: 'person', id: 'a', source: 'typed', fields: { groups: typed(['own', 'g3']) } });
    // and the next time it still holds
    const later = {
      'person/a': { typed: { groups: typed(['own', 'g3']) }, [source]: { groups: { value: ['own', 'g2', 'g3'], at } } },
    };
    expect(
      laid({ ...before, person: [person('a', ['own', 'g3'])], said: later }, { people: [comes('a', ['g2', 'g3'])] }).personNow('a')?.groups,
    ).toEqual(['own', 'g3']);
  });
  it('of groups that the directory says too is no difference any more', () => {
    const said = { 'person/a': { typed: { groups: typed(['own', 'g1']) }, [source]: { groups: { value: ['own', 'g1', 'g2'], at } } } };
    const { held, writes } = laid({ ...scene, person: [person('a', ['own', 'g1'])], said }, { people: [comes('a', ['g1'])] });
    expect([held, writes]).toEqual([[], []]);
  });
});

describe('ids and names', () => {
  it('of people are what they sign in as where that may be one; of groups always made of the name', () => {
    const { linked: links, notes } = laid(
      { person: [], group: [] },
      {
        people: [comes('p', [], { match: 'wren.vale' }), comes('q', [], { match: 'Bram Locke!' }), comes('r', [], { match: '!!' })],
        groups: [of('g', [], 'a.b')],
      },
    );
    expect(links.map(({ id }) => id)).toEqual(['a-b', 'wren.vale', 'bram-locke', 'person']);
    expect(notes).toEqual([]);
  });
  it('are counted on where they are taken, and stay as long as an id may be', () => {
    const long = 'x'.repeat(64);
    const { linked: links } = laid(
      { person: [person('a'), person(long)], group: [], links: [linked('person', 'a'), linked('person', long)] },
      { people: [comes('n1', [], { match: 'a' }), comes('n2', [], { match: 'A' }), comes('n3', [], { match: long })] },
    );
    expect(links.map(({ id }) => id)).toEqual(['a-2', 'A', `${'x'.repeat(58)}-2`]);
  });
  it('that several groups have say nothing of which is meant: another is made, and told', () => {
    const scene = { person: [], group: [group('g1', { name: 'Desk' }), group('g2', { name: 'desk' })] };
    const { linked: links, notes } = laid(scene, { groups: [of('k', [], 'DESK')] });
    expect(links).toEqual([{ kind: 'group', key: 'k', id: 'desk', made: true }]);
    expect(notes).toEqual([expect.stringContaining('g1, g2')]);
  });
  it('are told of whoever keeps a field, each with what stands', () => {
    const said = {
      'person/a': {
        typed: { name: { value: 'Wren V.', at }, groups: { value: ['g1'], at } },
        [source]: { name: { value: 'Wren Vale', at }, groups: { value: ['g1', 'g2'], at } },
      },
    };
    const scene = {
      person: [person('a', ['g1'], { name: 'Wren V.' })],
      group: [group('g1'), group('g2')],
      links: ['g1', 'g2'].map((key) => linked('group', key)),
    };
    const { held } = laid({ ...scene, said }, { people: [comes('a', ['g1', 'g2'], { name: 'W. Vale' })] });
    expect(held.map(({ field, stands, name, value }) => [field, stands, name, value])).toEqual([
      ['name', 'Wren V.', 'W. Vale', 'W. Vale'],
      ['groups', ['g1'], 'W. Vale', ['g1', 'g2']],
    ]);
  });
});

it('the same twice comes to nothing', () => {
  const feed = { people: [comes('a', ['g1'], { place: 'hall' })], groups: [of('g1'), of('g2', ['g1'])] };
  const first = laid({ person: [], group: [] }, feed);
  const after = {
    person: [first.personNow('a') as Person],
    group: ['g1', 'g2'].map((id) => first.groupNow(id) as Group),
    links: first.linked,
  };
  const said = Object.fromEntries(first.says.map(({ kind, id, fields }) => [`${kind}/${id}`, { [source]: fields }]));
  const { writes, says, linked: links } = laid({ ...after, said }, feed);
  expect([writes, says, links]).toEqual([[], [], []]);
});
