import { describe, expect, test } from '@jest/globals';
import { emptyEstate, kindTraits, type Endpoint, type Estate, type Measurement, type RequirementSet } from '@underpass/contracts';
import { crossingId, modelOf, supposedPlace, together, usersOf, type ObjectChange, type Over } from './index.js';

const person = (id: string, ...groups: string[]) => ({ id, name: id, kind: 'staff', groups }) as unknown as Estate['person'][number];
const endpoint = (id: string, location: string, user: string | undefined, ...users: string[]) =>
  ({ id, name: id, location, ...(user ? { person: user } : {}), users }) as unknown as Endpoint;
const set = (id: string, more: object = {}) => ({ id, name: id, ...more }) as unknown as RequirementSet;
const measurement = (id: string, at: string, location: string) => ({ id, at, location }) as unknown as Measurement;

/** Two groups, one within the other, and what they publish. */
const small = (): Estate =>
  ({
    ...emptyEstate(),
    person: [person('p1', 'inner'), person('p2', 'outer'), person('p3')],
    group: [
      { id: 'inner', name: 'Inner', rank: 1, memberOf: ['outer'], publications: ['apps'] },
      { id: 'outer', name: 'Outer', rank: 2, memberOf: [], publications: ['desk'] },
    ],
    publication: [
      { id: 'apps', name: 'Apps', pool: 'pool', kind: 'app', resources: ['mail', 'gone'], portals: ['portal'] },
      { id: 'desk', name: 'Desk', pool: 'pool', kind: 'desktop', resources: ['desktop'], portals: ['portal'] },
    ],
    resource: [
      { id: 'mail', name: 'Mail', kind: 'app', pool: 'pool' },
      { id: 'desktop', name: 'Desktop', kind: 'desktop', pool: 'pool' },
    ],
    endpoint: [endpoint('e1', 'hall', 'p1'), endpoint('e2', 'hall', undefined, 'p1', 'p2'), endpoint('e3', 'dock', 'p3')],
    requirement: [set('b'), set('a', { breaks: 'entitled' })],
  }) as unknown as Estate;
const model = modelOf(small(), [measurement('m2', '2026-11-02T00:00:00Z', 'hall'), measurement('m1', '2026-11-01T00:00:00Z', 'hall')], {
  traits: kindTraits,
  shipped: [set('c'), set('a', { name: 'shipped a' })],
});
const write = (kind: ObjectChange['kind'], before: { id: string } | null, after: { id: string } | null): ObjectChange => ({
  kind,
  id: (before ?? after)!.id,
  before,
  after,
});

describe('a small estate', () => {
  test('its crossings: who uses an endpoint × what their groups hold and there is', () => {
    expect(model.crossings.map(({ id }) => id).sort()).toEqual(
      [
        crossingId('p1', 'e1', 'mail'),
        crossingId('p1', 'e1', 'desktop'),
        crossingId('p1', 'e2', 'mail'),
        crossingId('p1', 'e2', 'desktop'),
        crossingId('p2', 'e2', 'desktop'),
      ].sort(),
    );
    expect(model.crossings[0]).toMatchObject({ person: 'p1', endpoint: 'e1', location: 'hall' });
    expect(model.crossings).toBe(model.crossings);
    expect(model.crossingsOf('p2').map(({ id }) => id)).toEqual(['p2~e2~desktop']);
    expect([model.crossingsOf('p3'), model.crossingsOf('nobody')]).toEqual([[], []]);
    expect(model.crossingsAt('hall')).toHaveLength(5);
    expect([model.crossingsAt('dock'), model.crossingsAt('nowhere')]).toEqual([[], []]);
    expect(model.crossingsOn(small().endpoint[1] as Endpoint)).toHaveLength(3);
  });

  test('the usual person of an endpoint counts once, also where they stand among its users', () => {
    expect(usersOf(endpoint('e', 'x', 'p1', 'p2', 'p1'))).toEqual(['p1', 'p2']);
    expect(usersOf(endpoint('e', 'x', undefined))).toEqual([]);
  });

  test('its own requirement sets count before shipped ones of the same id, in the order of ids; gates are those that break something', () => {
    expect(model.requirements.map(({ id, name }) => [id, name])).toEqual([
      ['a', 'a'],
      ['b', 'b'],
      ['c', 'c'],
    ]);
    expect(model.gates.map(({ id }) => id)).toEqual(['a']);
    const without = model.after({ writes: [write('requirement', set('a', { breaks: 'entitled' }), null)] });
    expect(without.requirements.map(({ name }) => name)).toEqual(['shipped a', 'b', 'c']);
    expect(without.gates).toEqual([]);
    // what does not write a set keeps the lists
    const other = model.after({ writes: [write('person', null, person('p9'))] });
    expect([other.requirements, other.gates]).toEqual([model.requirements, model.gates]);
    expect(other.requirements).toBe(model.requirements);
  });

  test('measurements of a place, the oldest first, also those that come', () => {
    const ids = (each: typeof model) => each.measurementsAt.get('hall')?.map(({ id }) => id);
    expect(ids(model)).toEqual(['m1', 'm2']);
    const later = model.after({
      measurements: [measurement('m3', '2026-11-01T12:00:00Z', 'hall'), measurement('m4', '2026-11-03', 'dock')],
    });
    expect(ids(later)).toEqual(['m1', 'm3', 'm2']);
    expect(later.measurementsAt.get('dock')?.map(({ id }) => id)).toEqual(['m4']);
  });

  test('the organisation is its own, or one without a name of its own', () => {
    expect(model.organisation.name).toBe('Organisation');
    const named = { id: 'organisation', name: 'Estuary', thresholds: {} };
    expect(model.after({ writes: [write('organisation', null, named)] }).organisation.name).toBe('Estuary');
  });

  test('looks its kinds and objects up, and lists each kind as it is asked for', () => {
    expect(model.kinds).toContain('setting');
    expect(model.find('person', 'p1')).toMatchObject({ id: 'p1' });
    expect(model.find('person', 'p9')).toBeUndefined();
    expect([...model.all('group').keys()]).toEqual(['inner', 'outer']);
    expect(model.estate.person.map(({ id }) => id)).toEqual(['p1', 'p2', 'p3']);
    expect(model.estate).toBe(model.estate);
    expect([model.members.get('inner'), model.children.get('outer'), model.holders.get('desk'), model.offering.get('mail')]).toEqual([
      ['p1'],
      ['inner'],
      ['outer'],
      ['apps'],
    ]);
    expect([model.endpointsAt.get('hall'), model.endpointsOf.get('p1'), model.resourcesOfPool.get('pool')]).toEqual([
      ['e1', 'e2'],
      ['e1', 'e2'],
      ['desktop', 'mail'],
    ]);
    expect(model.complete('person', person('x'))).toEqual(person('x'));
    expect(model.traits).toBe(kindTraits);
  });
});

describe('what is laid over it', () => {
  const e1 = small().endpoint[0] as Endpoint;
  const away = model.after({ writes: [write('endpoint', e1, { ...e1, location: 'dock' } as Endpoint)] });

  test('shows, and leaves what is beneath', () => {
    expect([away.crossingsAt('dock').length, away.crossingsAt('hall').length, model.crossingsAt('hall').length]).toEqual([2, 3, 5]);
    expect([away.laid?.under === model, away.laid?.writes.length, model.laid]).toEqual([true, 1, null]);
    expect(away.crossings.find(({ id }) => id === 'p1~e1~mail')?.location).toBe('dock');
  });

  test('the list of crossings is taken over where nothing was written that decides which there are', () => {
    expect(model.crossings.length).toBe(5);
    const setting = { id: 's', key: 'picture.frameCap', layer: 'organisation', target: '*', value: 20, locked: false };
    const set_ = model.after({ writes: [write('setting', null, setting)] });
    expect(set_.crossings).toBe(model.crossings);
    expect(set_.after({ writes: [write('person', person('p2', 'outer'), person('p2'))] }).crossings).toHaveLength(4);
    expect(set_.settled().crossings).toBe(model.crossings);
    expect(set_.settled().laid).toBeNull();
    expect(set_.settled().find('setting', 's')).toEqual(setting);
    expect(set_.settings.get('organisation/*')).toEqual([setting]);
  });

  const [first, shared] = small().endpoint as [Endpoint, Endpoint];
  const [p1, p2] = small().person as [Estate['person'][number], Estate['person'][number]];
  const changed = (kind: ObjectChange['kind'], before: { id: string }, more: object) => write(kind, before, { ...before, ...more });
  test.each([
    // what decides nothing of which there are
    ['a device has another name', changed('endpoint', first, { name: 'Other' }), 'the same'],
    ['a person has another name', changed('person', p1, { name: 'Other' }), 'the same'],
    ['the same groups are written', changed('person', p1, { groups: ['inner'] }), 'the same'],
    ['a setting is made', write('setting', null, { id: 's' }), 'the same'],
    // what does, and is gone on from
    ['a device stands elsewhere', changed('endpoint', first, { location: 'dock' }), 'gone on'],
    ['a device is somebody else’s', changed('endpoint', first, { person: 'p2' }), 'gone on'],
    ['a device is shared by more', changed('endpoint', shared, { users: ['p1', 'p2', 'p3'] }), 'gone on'],
    ['a device is gone', write('endpoint', first, null), 'gone on'],
    ['a device is new', write('endpoint', null, endpoint('e9', 'dock', 'p1')), 'gone on'],
    ['a device is new before the others', write('endpoint', null, endpoint('e0', 'hall', 'p1')), 'gone on'],
    ['a device is new among the others', write('endpoint', null, endpoint('e11', 'hall', 'p2')), 'gone on'],
    ['a person is in another group', changed('person', p2, { groups: ['inner'] }), 'gone on'],
    ['a person is gone', write('person', p2, null), 'gone on'],
    ['somebody a device names comes to be', write('person', null, person('p4', 'inner')), 'gone on'],
    ['a group publishes nothing', changed('group', small().group[0]!, { publications: [] }), 'anew'],
    ['a resource is gone', write('resource', small().resource[0]!, null), 'anew'],
  ])('which crossings there are where %s', (_, change, how) => {
    const estate = { ...small(), endpoint: [...small().endpoint, endpoint('e4', 'hall', 'p4')] };
    const under = modelOf(estate, [], { traits: kindTraits });
    expect(under.crossings).toHaveLength(5);
    const after = under.after({ writes: [change] });
    expect(after.hasTheSameCrossings).toBe(how === 'the same');
    // the same written from the beginning, each where it stood
    const list = (estate[change.kind] as { id: string }[]).flatMap((each) => (each.id === change.id ? (change.after ?? []) : each));
    const all = change.before ? list : [...list, change.after];
    const anew = modelOf({ ...estate, [change.kind]: all } as Estate, [], { traits: kindTraits });
    const told = (refs: readonly { id: string; location: string }[]) => refs.map(({ id, location }) => `${id} at ${location}`);
    const settled = after.settled();
    for (const place of ['hall', 'dock']) expect(told(settled.crossingsAt(place))).toEqual(told(anew.crossingsAt(place)));
    expect(told(settled.crossings)).toEqual(told(anew.crossings));
    // each that stands as it stood is the very same one
    const kept = settled.crossings.filter((ref) => under.crossings.includes(ref)).length;
    if (how === 'the same') expect(settled.crossings).toBe(under.crossings);
    else expect(kept > 0).toBe(how === 'gone on');
  });

  test('objects and crossings are in the order of their ids, whenever each came and in whatever order all were given', () => {
    const backwards = Object.fromEntries(Object.entries(small()).map(([kind, list]) => [kind, [...(list as object[])].reverse()]));
    const ids = (of: typeof model) => [of.estate.endpoint.map(({ id }) => id).join(' '), of.crossings.map(({ id }) => id).join(' ')];
    expect(ids(modelOf(backwards as unknown as Estate, []))).toEqual(ids(model));
    const late = [endpoint('e0', 'hall', 'p2'), endpoint('e11', 'dock', 'p2')];
    const came = late.reduce((all, one) => all.after({ writes: [write('endpoint', null, one)] }).settled(), model);
    expect(ids(came)).toEqual(ids(modelOf({ ...small(), endpoint: [...late, ...small().endpoint] }, [])));
    expect(ids(came)[0]).toBe('e0 e1 e11 e2 e3');
    // gone and come again
    const gone = model.after({ writes: [write('endpoint', e1, null)] }).settled();
    expect(ids(gone.after({ writes: [write('endpoint', null, e1)] }))).toEqual(ids(model));
  });

  test('the list is made beneath, for all that are laid over', () => {
    const under = modelOf(small(), [], { traits: kindTraits });
    const one = under.after({ writes: [write('setting', null, { id: 's' })] }).crossings;
    expect(under.after({ writes: [write('setting', null, { id: 't' })] }).crossings).toBe(one);
    expect(under.crossings).toBe(one);
  });

  test('can be told as laid over another', () => {
    const over: Over = { writes: away.laid!.writes, measurements: [], supposed: [] };
    expect(away.laidOver(model, over).laid).toEqual({ under: model, ...over });
    expect(away.laidOver(model, over).crossingsAt('dock')).toHaveLength(2);
  });

  test('what is supposed stands by the place it is of, one after the other', () => {
    const line = { suppose: 'line', kind: 'location', id: 'hall', downMbps: 50 } as const;
    const drawing = { suppose: 'drawing', endpoint: 'e1' } as const;
    expect([supposedPlace(line as never), supposedPlace(drawing as never)]).toEqual(['location/hall', 'endpoint/e1']);
    const once = model.after({ supposed: [line as never] });
    const twice = once.after({ supposed: [{ ...line, downMbps: 60 } as never, drawing as never] });
    expect(twice.supposed.get('location/hall')).toHaveLength(2);
    expect(twice.supposed.get('endpoint/e1')).toHaveLength(1);
    expect([once.supposed.get('location/hall')?.length, model.supposed.size]).toEqual([1, 0]);
    expect(twice.after({}).supposed).toBe(twice.supposed);
  });
});

test('two layers as one: each object from what it was first to what it is last; what came and went was never there', () => {
  const over = (...writes: ObjectChange[]): Over => ({ writes, measurements: [], supposed: [] });
  const [a, b, c] = [{ id: 'x', n: 1 }, { id: 'x', n: 2 }, { id: 'y' }];
  expect(together(over(write('person', null, a), write('group', null, c)), over(write('person', a, b))).writes).toEqual([
    write('person', null, b),
    write('group', null, c),
  ]);
  expect(together(over(write('person', null, a)), over(write('person', a, null))).writes).toEqual([]);
  expect(together(over(write('person', a, null)), over(write('person', null, b))).writes).toEqual([write('person', a, b)]);
  const m = [measurement('m', '2026', 'x')];
  expect(together({ ...over(), measurements: m }, { ...over(), measurements: m })).toEqual({
    writes: [],
    measurements: [...m, ...m],
    supposed: [],
  });
});
