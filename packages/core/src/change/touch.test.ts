import { describe, expect, test } from '@jest/globals';
import type { Change, Measurement, ObjectKind, Patch } from '@underpass/contracts';
import { RequirementSet } from '@underpass/contracts';
import { twoPlaces } from '../../test/twoPlaces.js';
import type { EstateModel } from '../estate/index.js';
import {
  crossingsTouched,
  doing,
  fieldsTo,
  isTouched,
  overlay,
  settingTo,
  supposing,
  touchesNothing,
  touchOf,
  untouched,
} from './index.js';

type Of = Parameters<typeof touchOf>[2];
const model = twoPlaces();
/** What a change touches, as one text: “everything”, or sorts with their ids. */
function touches(change: Change, of: Of = 'results', under: EstateModel = model): string {
  const after = overlay(under, change, 0);
  const touch = after.laid ? touchOf(after.laid, after, of) : untouched();
  if (touch.everything) return 'everything';
  const told = (['locations', 'endpoints', 'people', 'resources'] as const).flatMap((sort) =>
    touch[sort].size ? [`${sort} ${[...touch[sort]].sort().join(' ')}`] : [],
  );
  expect(touchesNothing(touch)).toBe(told.length === 0);
  return told.join('; ') || 'nothing';
}
const field = (kind: ObjectKind, id: string, set: Record<string, unknown>) => doing(fieldsTo(kind, id, set));
const ofA = 'desk-a app-a'.split(' ').sort().join(' ');

describe('what a written object touches', () => {
  test.each<[string, Change, string]>([
    ['a region: everything, since nearest gateways hang on it', field('region', 'region-a', { latitude: 1 }), 'everything'],
    [
      'the organisation’s thresholds: everything',
      field('organisation', 'organisation', { assumed: { 'people/activeShare': 0.3 } }),
      'everything',
    ],
    ['the organisation’s name: nothing', field('organisation', 'organisation', { name: 'Other' }), 'nothing'],
    ['where a gateway stands: everything', field('gateway', 'gate-a', { region: 'region-b' }), 'everything'],
    ['what a gateway is called: everything', field('gateway', 'gate-a', { name: 'Other' }), 'everything'],
    ['anything else of a gateway: what its pools hold', field('gateway', 'gate-a', { udp: false }), `resources ${ofA}`],
    ['a pool: what it holds', field('pool', 'pool-a', { spareHosts: 3 }), `resources ${ofA}`],
    ['a host: what its pool holds', field('host', 'host-a', { drawMs: 20 }), `resources ${ofA}`],
    ['a host moved to another pool: what both hold', field('host', 'host-a', { pool: 'pool-b' }), 'resources app-a app-b desk-a desk-b'],
    ['what a resource asks for: itself', field('resource', 'desk-a', { work: 'video' }), 'resources desk-a'],
    ['what a resource is: whoever has it as well', field('resource', 'app-a', { kind: 'desktop' }), 'people ann-a; resources app-a'],
    ['what a resource is called: whoever has it as well', field('resource', 'app-a', { name: 'Other' }), 'people ann-a; resources app-a'],
    ['what a portal is called: nothing', field('portal', 'portal-a', { name: 'Other' }), 'nothing'],
    ['where a portal is: whoever is shown something there', field('portal', 'portal-a', { gateway: 'gate-b' }), 'people ann-a'],
    ['a publication: whoever has it', field('publication', 'apps-a', { resources: ['app-a', 'desk-a'] }), 'people ann-a'],
    ['what a publication is called: nothing', field('publication', 'apps-a', { name: 'Other' }), 'nothing'],
    ['a group: whoever is in it', field('group', 'staff-a', { publications: ['apps-a'] }), 'people ann-a'],
    ['what a group is called: nothing', field('group', 'staff-a', { name: 'Other' }), 'nothing'],
    ['a location: itself', field('location', 'hall-a', { downMbps: 1 }), 'locations hall-a'],
    ['in which area a location is: nothing', field('location', 'hall-a', { area: 'North' }), 'nothing'],
    ['a person: themselves', field('person', 'ann-a', { groups: ['staff-b'] }), 'people ann-a'],
    ['an endpoint: itself', field('endpoint', 'box-a', { cores: 1 }), 'endpoints box-a'],
    ['when an endpoint reported: nothing', field('endpoint', 'box-a', { reportedAt: '2026-11-20T08:00:00Z' }), 'nothing'],
  ])('%s', (_, change, told) => {
    expect(touches(change)).toBe(told);
  });

  test('made or removed it touches the same as in every field', () => {
    const remove = (kind: ObjectKind, id: string) => doing({ do: 'remove', kind, id });
    expect(touches(remove('gateway', 'gate-a'))).toBe('everything');
    expect(touches(remove('resource', 'app-a'))).toBe('people ann-a; resources app-a');
    expect(touches(remove('portal', 'portal-a'))).toBe('people ann-a');
    expect(touches(remove('endpoint', 'box-a'))).toBe('endpoints box-a');
    const host = { ...model.hosts.get('host-a'), id: 'host-c' };
    expect(touches(doing({ do: 'create', kind: 'host', id: 'host-c', object: host }))).toBe(`resources ${ofA}`);
  });

  test('a session touches its person, and a sign-in that is only reported nobody', () => {
    const put = (kind: ObjectKind, object: { id: string }): Patch => ({ do: 'create', kind, id: object.id, object });
    expect(touches(doing(put('signedIn', { id: 'ann-a', groups: ['staff-a'], at: '2026-11-20T08:00:00Z' } as { id: string })))).toBe(
      'nothing',
    );
    const session = { id: 's', person: 'ann-b', resource: 'desk-b', host: 'host-b', state: 'disconnected', usedAt: '2026-11-20T08:00:00Z' };
    expect(touches(doing(put('session', session)))).toBe('people ann-b');
  });

  test('of a kind that nothing is known of everything may be another', () => {
    const after = overlay(model, field('endpoint', 'box-a', { cores: 1 }), 0);
    const strange = { ...after.laid!, writes: after.laid!.writes.map((write) => ({ ...write, kind: 'else' as ObjectKind })) };
    expect(touchOf(strange, after, 'results').everything).toBe(true);
    // and it does not hide what comes after it
    const both = { ...after.laid!, writes: [...strange.writes, ...after.laid!.writes] };
    expect(touchOf(both, after, 'results').endpoints).toEqual(new Set(['box-a']));
  });
});

describe('what a setting touches', () => {
  const at = (layer: Parameters<typeof settingTo>[1], target: string) => doing(settingTo('picture.frameCap', layer, target, 20));
  test.each<[string, Change, string]>([
    ['of the organisation', at('organisation', '*'), 'everything'],
    ['of a device class', at('device class', 'thin-client'), 'endpoints box-a'],
    ['of a class that no device has', at('device class', 'kiosk'), 'nothing'],
    ['of a location', at('location', 'hall-b'), 'locations hall-b'],
    ['of a group', at('group', 'staff-b'), 'people ann-b'],
    ['of a person', at('person', 'ann-a'), 'people ann-a'],
    ['of an endpoint', at('endpoint', 'box-b'), 'endpoints box-b'],
  ])('%s', (_, change, told) => {
    expect(touches(change)).toBe(told);
    // and the same when it goes again
    const there = overlay(model, change, 0).settled();
    const [id] = [...there.all('setting').keys()];
    expect(touches(doing({ do: 'remove', kind: 'setting', id: id! }), 'results', there)).toBe(told);
  });
});

describe('what is asked of a line, and what is told', () => {
  test('what changes nothing about a session asks the same of a line', () => {
    expect(touches(field('host', 'host-a', { drawMs: 20 }), 'demand')).toBe('nothing');
    expect(touches(field('portal', 'portal-a', { gateway: 'gate-b' }), 'demand')).toBe('nothing');
    expect(touches(field('endpoint', 'box-a', { cores: 1 }), 'demand')).toBe('endpoints box-a');
  });

  test('a name is in the words of findings, though not in their results', () => {
    expect(touches(field('location', 'hall-a', { name: 'Other' }))).toBe('nothing');
    expect(touches(field('location', 'hall-a', { name: 'Other' }), 'words')).toBe('locations hall-a');
    expect(touches(field('endpoint', 'box-a', { name: 'Other' }), 'words')).toBe('endpoints box-a');
  });
});

describe('what a gate asks for', () => {
  const gate = (id: string, fact: string, more: object = {}) =>
    RequirementSet.parse({
      ...{ id, name: 'Gate', purpose: 'To ask', breaks: 'signed in', appliesTo: { fact: 'entitled', is: true } },
      conditions: [
        {
          ...{
            id: 'c',
            name: 'C',
            bay: 'Gateway',
            when: { fact, oneOf: ['office'] },
            remedy: 'Mend',
            who: 'Us',
            at: 'location',
            effortH: 1,
          },
        },
      ],
      ...more,
    });
  const asked = twoPlaces({ requirement: { asks: gate('asks', 'location.kind') } });

  test('counts where it is written, of the kind it asks about alone', () => {
    const kind = field('location', 'hall-a', { kind: 'home' });
    expect(touches(kind)).toBe('nothing');
    expect(touches(kind, 'results', asked)).toBe('locations hall-a');
    expect(touches(field('location', 'hall-a', { area: 'North' }), 'results', asked)).toBe('nothing');
  });

  test('a set that becomes another touches everything, its name nothing; one that is no gate nothing either', () => {
    const set = (of: Record<string, unknown>) => field('requirement', 'asks', of);
    expect(touches(set({ breaks: null }), 'results', asked)).toBe('everything');
    expect(touches(set({ purpose: 'Another' }), 'results', asked)).toBe('nothing');
    expect(touches(doing({ do: 'remove', kind: 'requirement', id: 'asks' }), 'results', asked)).toBe('everything');
    const noGate = gate('plain', 'location.kind', { breaks: undefined });
    expect(touches(doing({ do: 'create', kind: 'requirement', id: 'plain', object: noGate }))).toBe('nothing');
  });
});

describe('what a measurement and a supposition touch', () => {
  const taken = (more: Partial<Measurement>): Measurement => ({
    ...{ id: 'm', at: '2026-11-25T09:00:00Z', by: 'Ann', method: 'field check', vantage: 'desk', location: 'hall-a' },
    ...{ partial: false, figures: { downMbps: 50 } },
    ...more,
  });
  const measured = (more: Partial<Measurement>, of: Of = 'results', under = model) => {
    const after = under.after({ measurements: [taken(more)] });
    const { locations, endpoints, everything } = touchOf(after.laid!, after, of);
    return `${[...locations].join()}|${[...endpoints].join()}|${everything}`;
  };
  const ships = twoPlaces({ location: { 'hall-a': { ownLines: true } } });

  test('a measurement: the place, or the one device where each has a line of its own', () => {
    expect(measured({ endpoint: 'box-a' })).toBe('hall-a||false');
    expect(measured({ endpoint: 'box-a' }, 'results', ships)).toBe('|box-a|false');
    expect(measured({}, 'results', ships)).toBe('hall-a||false');
    // the steps of a sign-in are timed for everybody there
    expect(measured({ endpoint: 'box-a', figures: { signon: { portal: 1 } } as Measurement['figures'] }, 'results', ships)).toBe(
      'hall-a||false',
    );
    expect(measured({ location: 'nowhere', endpoint: 'box-a' })).toBe('nowhere||false');
  });

  test('of what is asked of a line: that device alone', () => {
    expect(measured({ endpoint: 'box-a' }, 'demand')).toBe('|box-a|false');
    expect(measured({}, 'demand')).toBe('||false');
  });

  test('a supposition: the place or the device, and nothing of what is asked', () => {
    const line = supposing({ suppose: 'line', kind: 'location', id: 'hall-b', downMbps: 500 });
    const own = supposing({ suppose: 'line', kind: 'endpoint', id: 'box-b', downMbps: 500 });
    const drawing = supposing({ suppose: 'drawing', endpoint: 'box-a', by: 'graphics' });
    expect([line, own, drawing].map((change) => touches(change))).toEqual(['locations hall-b', 'endpoints box-b', 'endpoints box-a']);
    expect([line, own, drawing].map((change) => touches(change, 'demand'))).toEqual(['nothing', 'nothing', 'nothing']);
  });
});

describe('the crossings that are touched', () => {
  const ids = (touch: Partial<ReturnType<typeof untouched>>) =>
    [...crossingsTouched({ ...untouched(), ...touch }, model)].map(({ id }) => id).sort();
  const of = (x: string) => ['app', 'desk'].map((resource) => `ann-${x}~box-${x}~${resource}-${x}`);

  test('are those of the place, the device, the person and the resource, each once, and no other', () => {
    expect(ids({})).toEqual([]);
    expect(ids({ locations: new Set(['hall-a', 'nowhere']) })).toEqual(of('a'));
    expect(ids({ endpoints: new Set(['box-b', 'nothing']) })).toEqual(of('b'));
    expect(ids({ people: new Set(['ann-a', 'nobody']) })).toEqual(of('a'));
    expect(ids({ resources: new Set(['app-b', 'none']) })).toEqual([of('b')[0]]);
    expect(ids({ people: new Set(['ann-a']), endpoints: new Set(['box-a']), resources: new Set(['desk-b']) })).toEqual([
      ...of('a'),
      of('b')[1],
    ]);
    expect(ids({ everything: true })).toEqual([...of('a'), ...of('b')]);
  });

  test('are the same one by one', () => {
    const sorts = [{}, { everything: true }, { locations: new Set(['hall-a']) }, { endpoints: new Set(['box-b']) }];
    for (const sort of [...sorts, { people: new Set(['ann-b']) }, { resources: new Set(['desk-a']) }]) {
      const touch = { ...untouched(), ...sort };
      expect(
        model.crossings
          .filter((ref) => isTouched(touch, ref))
          .map(({ id }) => id)
          .sort(),
      ).toEqual(ids(sort));
    }
  });
});
