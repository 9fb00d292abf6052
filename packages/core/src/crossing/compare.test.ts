import { describe, expect, test } from '@jest/globals';
import { completed, kindTraits, type ObjectKind } from '@underpass/contracts';
import { all, base, endpoint, home, measured, none, office, resource, screens, setting, trips } from '../../test/scenes.js';
import { demoEstate, demoInstant } from '../../test/demo.js';
import { changesOf, everyField } from '../../test/fields.js';
import { modelOf } from '../estate/index.js';
import { burden, compareCrossings, computeFigures, FactsReader, type CrossingFacts } from './index.js';

const ofOneCrossing: readonly ObjectKind[] = ['endpoint', 'location', 'person', 'resource', 'pool', 'host', 'gateway', 'peripheral'];
const objectsOf = (facts: CrossingFacts): Partial<Record<ObjectKind, { id: string } | undefined>> => ({
  ...{ endpoint: facts.endpoint, location: facts.location, person: facts.person, resource: facts.resource, pool: facts.pool },
  ...{ gateway: facts.gateway, host: facts.hosts[0], peripheral: facts.devices[0] },
});

type Setup = (facts: CrossingFacts) => CrossingFacts;

describe('why it works for one and not for another', () => {
  test.each<[string, CrossingFacts, Setup, string, unknown, unknown]>([
    ['a slow line', office, measured(() => ({ downMbps: 0.4 })), 'measured.downMbps', undefined, 0.4],
    ['a setting', office, setting('picture.frameCap', 5), 'picture.frameCap', 30, 5],
    ['a measurement', home, trips({ medianMs: 400, p95Ms: 420 }), 'measured.roundTrips', undefined, undefined],
    ['screens', office, screens({}, {}, {}), 'endpoint.screens', undefined, undefined],
    ['a peripheral', office, endpoint({ peripherals: ['scanner'] }), 'endpoint.peripherals', ['printer'], ['scanner']],
  ])('one thing alone is named first, and explains all of it: %s', (_, from, make, fact, a, b) => {
    // b is as it is, a has the fault
    const [first, ...others] = compareCrossings(make(from), from);
    expect(first?.fact).toBe(fact);
    expect(first?.explains).toBeCloseTo(1, 5);
    if (b !== undefined) expect(first?.a).toEqual(b);
    if (a !== undefined) expect(first?.b).toEqual(a);
    // whatever else came with it explains less
    for (const other of others) expect(other.explains).toBeLessThanOrEqual(1);
    // and the other way round the same
    const [back] = compareCrossings(from, make(from));
    expect([back?.fact, back?.explains.toFixed(5)]).toEqual([fact, '1.00000']);
  });

  test('of two faults each has its share', () => {
    const slow = setting('picture.frameCap', 5);
    const found = compareCrossings(all(slow, endpoint({ peripherals: ['scanner'] }))(office), office).filter(
      ({ explains }) => explains > 0.01,
    );
    expect(found.map(({ fact }) => fact).sort()).toEqual(['endpoint.peripherals', 'picture.frameCap']);
    // each alone takes a part of it away, and neither all
    for (const { explains } of found) expect(explains > 0.1 && explains < 0.95).toBe(true);
    expect(found[0]!.explains).toBeGreaterThanOrEqual(found[1]!.explains);
  });

  test('the same crossing differs in nothing; two that are as far from what is wanted explain nothing', () => {
    expect(compareCrossings(office, none(office))).toEqual([]);
    const other = endpoint({ memoryMB: 8192 })(office);
    expect(compareCrossings(office, other)).toEqual([{ fact: 'endpoint.memoryMB', a: 4096, b: 8192, explains: 0 }]);
    // what is not there on one side is told as null
    const bare = measured((now) => ({ roundTrips: { ...now.roundTrips!.value, samples: 50 } }));
    expect(compareCrossings(endpoint({ cores: undefined })(office), office)[0]).toMatchObject({ fact: 'endpoint.cores', a: null });
    expect(compareCrossings(bare(home), home).map(({ fact }) => fact)).toEqual(['measured.roundTrips']);
  });

  test('resources of other work, and places, are compared too', () => {
    const found = compareCrossings(base('WEX-TC-020', 'timetable'), base('SAN-TC-001', 'counter'));
    const facts = found.map(({ fact }) => fact);
    expect(facts).toEqual(
      expect.arrayContaining(['measured.downMbps', 'resource.content', 'endpoint.screens', 'others on the line', 'location.position']),
    );
    expect(compareCrossings(resource({ profileMB: 4000 })(home), home)[0]?.fact).toBe('resource.profileMB');
  });

  test('whatever is otherwise of the hosts or of what is plugged in is named', () => {
    const hosts = (more: object): CrossingFacts => ({ ...office, hosts: office.hosts.map((each) => ({ ...each, ...more })) });
    for (const more of [{ drawMs: 80 }, { encodeMs: 60 }, { used: 0 }, { power: 'off' }, { graphics: 'none' }, { places: 3 }])
      expect([more, compareCrossings(hosts(more), office).map(({ fact }) => fact)]).toEqual([more, ['hosts']]);
    expect(compareCrossings(hosts({ id: 'other', name: 'Other', pool: 'elsewhere' }), office)).toEqual([]);
    const [slow] = compareCrossings(hosts({ drawMs: 400 }), office);
    expect(slow?.explains).toBeCloseTo(1, 9);
    const device = {
      id: 'd',
      endpoint: office.endpoint.id,
      name: 'Reader',
      vid: '1234',
      pid: '0001',
      class: '0b/00/00',
      interfaces: [],
      speed: 'full',
    };
    const plugged = (more: object) => ({ ...office, devices: [{ ...device, ...more }] }) as unknown as CrossingFacts;
    for (const more of [{ pid: '0002' }, { speed: 'high' }, { exchanges: 40 }, { isochronousMbps: 9 }])
      expect([more, compareCrossings(plugged(more), plugged({})).map(({ fact }) => fact)]).toEqual([more, ['devices in full']]);
    expect(compareCrossings(plugged({ id: 'e', name: 'Another', endpoint: 'elsewhere' }), plugged({}))).toEqual([]);
  });

  test('what is no field of an object: the right to it, where it is found, a timed sign-on, where the gateway stands, the certificate', () => {
    const facts = (more: object) => compareCrossings({ ...office, ...more } as CrossingFacts, office);
    expect(facts({ entitled: false })[0]).toMatchObject({ fact: 'entitled', a: false, b: true, explains: 1 });
    const [portal] = facts({ portal: undefined, publication: undefined });
    expect(portal).toMatchObject({ fact: 'published at a portal', a: false, b: true });
    expect(facts({ portal: { ...office.portal, name: 'Another' } })).toEqual([]);
    const timed = { value: { 'session create': 300 }, at: '', by: '', note: '', samples: 1 };
    expect(facts({ timed })[0]).toMatchObject({ fact: 'timed sign-on', a: { 'session create': 300 }, b: null, explains: 1 });
    const away = { ...office.gatewayRegion, latitude: -30, longitude: 150 };
    expect(facts({ gatewayRegion: away }).map(({ fact, a, b }) => [fact, a, b])).toEqual([
      ['gateway.position', [-30, 150], [office.gatewayRegion.latitude, office.gatewayRegion.longitude]],
    ]);
    const ended = { ...office.gateway.certificate!, notAfter: '2026-01-01' };
    expect(facts({ gateway: { ...office.gateway, certificate: ended } })[0]).toMatchObject({
      ...{ fact: 'gateway.certificate', a: { address: office.gateway.address, notAfter: '2026-01-01' }, explains: 1 },
    });
    // the same certificate of another address is another fact, and an address alone is no field
    expect(facts({ gateway: { ...office.gateway, address: 'other.example' } }).map(({ fact }) => fact)).toEqual(['gateway.certificate']);
  });

  test('names, ids and what refers to others are no facts; nor what was not believed, or how old the oldest is', () => {
    const with_ = (name: 'endpoint' | 'resource' | 'pool' | 'gateway' | 'location' | 'person', more: object) =>
      compareCrossings({ ...office, [name]: { ...office[name], ...more } }, office).map(({ fact }) => fact);
    for (const key of ['id', 'name', 'area', 'location', 'person', 'users', 'pool', 'gateway', 'region', 'groups', 'reportedAt', 'wifi'])
      expect([key, with_('pool', { [key]: 'other' })]).toEqual([key, []]);
    for (const key of ['screensAt', 'decodersAt', 'addressRange']) expect([key, with_('endpoint', { [key]: 'other' })]).toEqual([key, []]);
    expect(with_('pool', { spareHosts: 99 })).toEqual(['pool.spareHosts']);
    const evidence = { ...office.evidence, rejected: [{ id: 'm', because: 'x' }], oldest: 9 } as never;
    expect(compareCrossings({ ...office, evidence }, office)).toEqual([]);
  });

  test('of those that explain as much, by name', () => {
    const other = all(endpoint({ memoryMB: 8192, cores: office.endpoint.cores! + 1 }), resource({ name: 'x' }))(office);
    expect(compareCrossings(other, office).map(({ fact }) => fact)).toEqual(['endpoint.cores', 'endpoint.memoryMB']);
    expect(compareCrossings(office, other).map(({ fact }) => fact)).toEqual(['endpoint.cores', 'endpoint.memoryMB']);
  });

  test('whatever field makes a crossing better or worse is among what is named', () => {
    const { estate, measurements } = demoEstate();
    const reader = new FactsReader(modelOf(estate, measurements, { complete: completed, traits: kindTraits }), demoInstant);
    // other crossings for each field, so that few of each go round all of them
    const crossings = reader.model.crossings.filter((_, i) => i % 61 === 0).map((ref) => reader.read(ref)!);
    const notNamed: unknown[] = [];
    let [n, tried] = [0, 0];
    for (const [at, { kind, path }] of everyField.entries()) {
      if (!ofOneCrossing.includes(kind)) continue;
      for (const facts of crossings.filter((_, i) => (i + at) % 3 === 0)) {
        const own = objectsOf(facts)[kind];
        const [change] = own ? changesOf({ ...estate, [kind]: [own] }, kind, path, (most) => n++ % most, 1) : [];
        if (!own || !change) continue;
        const after = reader
          .after({ patches: [{ do: 'change', kind, id: own.id, set: change.set }] as never, hypotheses: [] })
          .read(facts.ref);
        if (!after || Math.abs(burden(computeFigures(after)) - burden(computeFigures(facts))) < 1e-6) continue;
        tried++;
        const named = compareCrossings(after, facts);
        if (named.length === 0) notNamed.push([facts.ref.id, kind, path, change.set]);
      }
    }
    expect(notNamed).toEqual([]);
    expect(tried).toBeGreaterThan(100);
  });

  test('of any two: no name, no id, none that is equal, the most telling first, each share between 0 and 1', () => {
    const { estate, measurements } = demoEstate();
    const reader = new FactsReader(modelOf(estate, measurements), demoInstant);
    const refs = reader.model.crossings.filter((_, i) => i % 97 === 0);
    for (const [i, ref] of refs.entries()) {
      const [a, b] = [reader.read(ref)!, reader.read(refs[(i + 1) % refs.length]!)!];
      const found = compareCrossings(a, b);
      expect(new Set(found.map(({ fact }) => fact)).size).toBe(found.length);
      for (const each of found) {
        expect(each.fact).not.toMatch(/\.(id|name|location|person|users|address)$/);
        expect(JSON.stringify(each.a)).not.toEqual(JSON.stringify(each.b));
        expect(each.explains >= 0 && each.explains <= 1).toBe(true);
      }
      expect(found.map(({ explains }) => explains)).toEqual(found.map(({ explains }) => explains).sort((x, y) => y - x));
    }
  });
});
