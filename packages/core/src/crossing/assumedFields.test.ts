import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { intakeTarget, withStandIns } from '@underpass/contracts';
import { reached, small, trips, type Otherwise } from '../../test/small.js';
import { made } from '../change/index.js';
import { assumedFieldsOf, openFieldsOf, otherValues, withAssumed } from './assumedFields.js';
import { computeFigures, evaluateCrossing, settingsOf, type CrossingFacts } from './index.js';

const { build: objectOver } = intakeTarget('endpoint', () => []);
/** A crossing of which all is known, and well. */
const good = (otherwise: Otherwise = {}): CrossingFacts =>
  small({
    measured: {
      ...reached,
      roundTrips: trips(15),
      downMbps: 95,
      signon: {
        password: 3,
        shell: 3,
        'first useful picture': 1,
        'client start': 1,
        'sign-in form': 1,
        'list of resources': 1,
        choose: 1,
        broker: 1,
        'session create': 1,
        'profile attach': 1,
        'endpoint boot': 5,
        'network up': 1,
      },
    },
    ...otherwise,
  });
const verdictOf = (facts: CrossingFacts) => computeFigures(facts).verdict;

describe('what nobody knows and is taken to be so', () => {
  test('makes no difference where nothing hangs on it, and is Unknown where something does', () => {
    expect(verdictOf(good())).toBe('clear');
    expect(verdictOf(good({ endpoint: { assumed: ['processor'] } }))).toBe('clear');
    const refused = { settings: { 'security.personalDevices': 'refused' } };
    expect(verdictOf(good(refused))).toBe('clear');
    const facts = good({ ...refused, endpoint: { assumed: ['ownership'] } });
    const figures = computeFigures(facts);
    expect(figures).toMatchObject({
      verdict: 'unknown',
      missing: ['what is assumed'],
      openFields: [{ kind: 'endpoint', field: 'ownership', value: 'managed', otherwise: [{ value: 'personal', verdict: 'blocked' }] }],
    });
    const [finding] = evaluateCrossing(facts).findings;
    expect(finding).toMatchObject({ kind: 'what is assumed decides', text: 'Nobody knows the ownership of E1, and it decides' });
    expect(finding?.evidence[0]?.text).toBe('ownership of E1 is taken to be managed; if it were personal, it would be Blocked');
    expect(finding?.remedies[0]?.text).toBe('Say the ownership of E1');
  });

  test('what stands as taken is Blocked and may be Clear is Unknown too: nobody is told that it does not open', () => {
    const facts = good({
      settings: { 'security.personalDevices': 'refused' },
      endpoint: { ownership: 'personal', assumed: ['ownership'] },
    });
    expect(computeFigures(facts)).toMatchObject({
      verdict: 'unknown',
      openFields: [{ otherwise: [{ value: 'managed', verdict: 'clear' }] }],
    });
  });

  test('a place on the map decides only where the way is not measured', () => {
    const where: Otherwise = { location: { assumed: ['latitude', 'longitude'] } };
    expect(verdictOf(good(where))).toBe('clear');
    // half of a place is no place
    const half: Otherwise = { measured: {}, location: { delayMs: undefined, assumed: ['longitude'] } };
    expect(computeFigures(small(half)).openFields?.map(({ field }) => field)).toEqual(['latitude']);
    // nothing measured nor typed: the way is what its length and kind come to
    const unmeasured: Otherwise = { measured: {}, location: { delayMs: undefined, assumed: ['latitude', 'longitude'] } };
    expect(verdictOf(small(unmeasured))).toBe('unknown');
  });

  test('the ways in and the places of a host that nobody knows', () => {
    const own: Otherwise = {
      settings: { 'security.preSession': true },
      gateway: { securityModes: ['pre-session'], assumed: ['securityModes'] },
    };
    expect(computeFigures(good(own))).toMatchObject({ verdict: 'unknown', openFields: [{ kind: 'gateway', field: 'securityModes' }] });
    expect(computeFigures(good({ host: { places: 10, used: 2, assumed: ['places'] } }))).toMatchObject({
      verdict: 'unknown',
      openFields: [{ kind: 'host', field: 'places' }],
    });
  });

  test('is Clear only where it would be Clear whatever holds, of all fields together', () => {
    const settings = fc.record({
      'security.personalDevices': fc.constantFrom('refused', 'allowed'),
      'security.secondFactor': fc.constantFrom('always', 'never'),
    });
    const fields = fc.subarray(['ownership', 'platform', 'clientKind', 'processor'] as const, { minLength: 1 });
    fc.assert(
      fc.property(fields, settings, fc.boolean(), (assumed, set, onlyManaged) => {
        const facts = good({ endpoint: { assumed: [...assumed] }, settings: set, pool: { managedOnly: onlyManaged } });
        if (verdictOf(facts) !== 'clear') return;
        const bare = { ...facts, endpoint: { ...facts.endpoint, assumed: undefined } };
        let all: CrossingFacts[] = [bare];
        for (const field of assumedFieldsOf(facts))
          all = all.flatMap((each) => [each, ...otherValues(field).map((value) => withAssumed(each, field, value))]);
        for (const each of all) expect(verdictOf(each)).toBe('clear');
      }),
      { numRuns: 40 },
    );
  });

  test('is tried with the settings that are tried on paper, also where another device would have others', () => {
    const facts = good({ endpoint: { assumed: ['ownership', 'deviceClass'] } });
    const tried = { ...settingsOf(facts), 'security.personalDevices': 'refused' as const };
    expect(computeFigures(facts).verdict).toBe('clear');
    for (const figures of [computeFigures(facts, tried), computeFigures({ ...facts, resolved: tried })])
      expect(figures).toMatchObject({ verdict: 'unknown', openFields: [{ field: 'ownership' }] });
    // a layer of the class of device that is tried instead is in force there
    const layered = good({
      endpoint: { assumed: ['deviceClass', 'ownership'] },
      more: {
        setting: [{ id: 's', key: 'security.personalDevices', layer: 'device class', target: 'kiosk', value: 'refused', locked: false }],
      },
    });
    expect(computeFigures(layered).openFields?.map(({ field, together }) => [field, together])).toEqual([
      ['deviceClass', 'blocked'],
      ['ownership', 'blocked'],
    ]);
  });

  test('decides together with another where neither does by itself, and with very many each two are tried', () => {
    const facts = good({ endpoint: { assumed: ['ownership', 'processor'] } });
    const fields = assumedFieldsOf(facts);
    // a verdict that only a personal device with another processor has
    const both = ({ endpoint: { ownership, processor } }: CrossingFacts) =>
      ownership === 'personal' && processor === 'arm64' ? 'blocked' : 'clear';
    expect(openFieldsOf(facts, fields, 'clear', both)).toMatchObject([
      { field: 'ownership', otherwise: [], together: 'blocked' },
      { field: 'processor', otherwise: [], together: 'blocked' },
    ]);
    const many = good({ endpoint: { assumed: ['deviceClass', 'ownership', 'platform', 'processor', 'clientKind'] } });
    let tried = 0;
    const counted = (each: CrossingFacts) => (tried++, both(each));
    expect(openFieldsOf(many, assumedFieldsOf(many), 'clear', counted).map(({ field }) => field)).toEqual(['ownership', 'processor']);
    expect(tried).toBeLessThan(200);
    expect(openFieldsOf(many, assumedFieldsOf(many), 'clear', () => 'clear')).toEqual([]);
  });

  test('is not assumed any more once it is said, in a change, a form or a list', () => {
    const { model } = small({ endpoint: { assumed: ['ownership', 'processor'] } }).reader;
    const after = (set: Record<string, unknown>) =>
      made(model, { patches: [{ do: 'change', kind: 'endpoint', id: 'e1', set: set as never }], hypotheses: [] }, 0).writes[0]?.after as {
        assumed?: string[];
      };
    expect(after({ ownership: 'personal' }).assumed).toEqual(['processor']);
    expect(after({ ownership: 'personal', processor: 'arm64' })).not.toHaveProperty('assumed');
    expect(after({ name: 'Other' }).assumed).toEqual(['ownership', 'processor']);
    const listed = objectOver('endpoint', { id: 'x', name: 'X', location: 'hall', deviceClass: 'thin-client' }, null);
    expect(listed).toMatchObject({
      object: {
        platform: 'thin',
        clientKind: 'thin-client firmware',
        ownership: 'managed',
        assumed: ['clientKind', 'ownership', 'platform', 'processor'],
      },
    });
    // said in the words it was taken to be: it is known all the same
    expect(objectOver('endpoint', { ownership: 'managed', platform: 'thin' }, (listed as { object: object }).object)).toMatchObject({
      object: { assumed: ['clientKind', 'processor'] },
    });
    expect(withStandIns('group', { id: 'g' })).toEqual({ id: 'g' });
  });
});

describe('a field with another value', () => {
  const facts = good();
  test('of each object of the crossing, and of no other', () => {
    const put = (kind: string, field: string, value: unknown, id = 'x') =>
      withAssumed(facts, { kind, id, name: 'X', field, value: undefined } as never, value);
    expect(put('endpoint', 'platform', 'desktop').endpoint).toEqual({ ...facts.endpoint, platform: 'desktop' });
    expect(put('location', 'lineKind', 'dsl')).toMatchObject({ location: { lineKind: 'dsl' }, line: { lineKind: 'dsl' } });
    expect(put('resource', 'work', 'video').resource).toEqual({ ...facts.resource, work: 'video' });
    expect(put('pool', 'securityModes', ['tls']).pool).toEqual({ ...facts.pool, securityModes: ['tls'] });
    expect(put('gateway', 'securityModes', ['tls']).gateway).toEqual({ ...facts.gateway, securityModes: ['tls'] });
    const moved = put('region', 'latitude', 1, 'near');
    expect(moved.gatewayRegion).toMatchObject({ latitude: -55, longitude: -177 });
    expect(moved.estate.regions.get('near')).toBe(moved.gatewayRegion);
    expect(put('region', 'latitude', 0, 'near').gatewayRegion).toEqual(facts.gatewayRegion);
    expect(put('host', 'places', 1, 'host').hosts.map(({ places }) => places)).toEqual([1]);
    expect(put('host', 'places', 1, 'another').hosts).toEqual(facts.hosts);
    expect(put('person', 'kind', 'guest')).toEqual({ ...facts, like: undefined });
    for (const kind of ['endpoint', 'location', 'resource', 'pool', 'gateway', 'region', 'host'])
      expect(withAssumed({ ...facts, like: facts }, { kind, id: 'x', field: 'name' } as never, 'y').like).toBeUndefined();
  });
  test('which there are: each once, a position as one, and none that has no other value', () => {
    const of = (more: Partial<CrossingFacts>) => assumedFieldsOf({ ...facts, ...more }).map(({ kind, id, field }) => [kind, id, field]);
    const assumed = ['platform', 'platform', 'nothing such'];
    expect(of({ endpoint: { ...facts.endpoint, assumed } as never })).toEqual([['endpoint', 'e1', 'platform']]);
    expect(of({ location: { ...facts.location, assumed: ['longitude', 'latitude'] } as never })).toEqual([
      ['location', 'hall', 'latitude'],
    ]);
    const [host] = facts.hosts;
    const hosts = [
      { ...host, assumed: ['places'] },
      { ...host, id: 'second' },
    ] as never;
    expect(of({ hosts })).toEqual([['host', 'host', 'places']]);
    for (const [name, field] of [
      ['resource', 'work'],
      ['pool', 'securityModes'],
      ['gateway', 'securityModes'],
      ['gatewayRegion', 'latitude'],
    ] as const)
      expect(of({ [name]: { ...facts[name], assumed: [field] } })).toEqual([
        [name === 'gatewayRegion' ? 'region' : name, facts[name].id, field],
      ]);
    expect(of({ pool: { ...facts.pool, assumed: ['name'] } as never })).toEqual([]);
    expect(of({})).toEqual([]);
  });
});
