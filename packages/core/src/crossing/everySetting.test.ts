import { describe, expect, test } from '@jest/globals';
import type { Endpoint, SettingValue } from '@underpass/contracts';
import {
  all,
  base,
  certificate,
  dock,
  endpoint,
  gateway,
  home,
  line,
  office,
  person,
  pool,
  resource,
  screens,
  setting,
  type Setup,
} from '../../test/scenes.js';
import { carryCells } from '../redirection/index.js';
import { catalogue, definitionOf, ignorableKeys, obeys, settingKeys, type SettingKey } from '../settings/index.js';
import {
  computeFigures,
  ductsOf,
  handedOf,
  lintCrossing,
  lintRules,
  readinessOf,
  settingsOf,
  subjectAt,
  subjectIn,
  summariseCrossing,
  type CrossingFacts,
} from './index.js';

/** Crossings between them on which every setting has something to do. */
const vessel = base('MV-013', 'stability');
const shared = endpoint({ users: ['P001', 'P002'], deviceClass: 'kiosk' });
const many: Setup = all(
  endpoint({ peripherals: ['headset', 'camera', 'card-reader', 'printer', 'scanner', 'storage'] }),
  setting('redirection.devices', ['card-reader', 'scanner', 'storage']),
);
const scenes: [string, CrossingFacts][] = [
  ['office', office],
  ['home', home],
  ['dock', dock],
  ['vessel', vessel],
  ['office with everything on the desk', many(office)],
  ['home with everything on the desk', all(many, resource({ calls: true, camera: true }))(home)],
  ['two screens', screens({}, { scale: 1.5 })(office)],
  ['a shared kiosk', all(shared, many, setting('client.kiosk', false, 'device class', 'kiosk'))(office)],
  ['locked', all(setting('client.kiosk', true), many)(office)],
  ['a guest', all(many, person({ kind: 'guest' }))(home)],
  [
    'a native client',
    all(endpoint({ clientKind: 'native client', platform: 'thin' }), many, resource({ calls: true, camera: true }))(office),
  ],
  ['tunnelled', all(setting('transport.wayIn', 'tunnel'), setting('media.callOffload', true), resource({ calls: true }))(home)],
  ['fixed', setting('picture.resolution', 'fixed')(office)],
  ['mended ahead', all(setting('transport.repair', 'forward'), line({ lineKind: '4g' }))(vessel)],
  [
    'two names',
    all(setting('signon.hostName', '{domain}{name}'), setting('signon.domain', 'sea'), pool({ nameForm: 'domain before' }))(office),
  ],
  ['on by itself', all(setting('session.singleSignOn', true), gateway({ nameForm: 'bare' }))(office)],
  ['video', resource({ content: { video: 0.5, 'page-video': 0.5 } })(office)],
  ['old', all(setting('client.versionFloor', '99'), many)(home)],
  ['newest at night', setting('client.updates', 'newest')(office)],
  ['switched off at night', endpoint({ alwaysOn: true })(office)],
  ['bitmap', setting('picture.codec', 'bitmap')(office)],
  ['one resource', base('GUL-K02', 'workshop')],
  ['inside, hosts elsewhere', base('HO-001', 'documents')],
  ['a full line', base('WEX-TC-001', 'documents')],
  ['a card in the host', base('HO-047', 'finance')],
  ['a small fixed size', setting('picture.fixedSize', '1024x768')(office)],
  ['an older gateway', gateway({ tlsHighest: '1.2' })(office)],
  ['an untrusted gateway', certificate({ trust: 'none' })(office)],
  ['a device of one’s own', endpoint({ ownership: 'personal' })(many(office))],
];

/** Everything that is worked out for a crossing, but for the checks that only tell that a setting is ignored. */
function resultOf(facts: CrossingFacts): string {
  const s = settingsOf(facts);
  const { clientKind, platform, ownership } = facts.endpoint;
  const { kinds, ...summary } = summariseCrossing(facts);
  const figures = computeFigures(facts);
  return JSON.stringify([
    summary,
    kinds.filter((kind) => kind !== 'set, but this client ignores it'),
    figures.desk,
    figures.session,
    figures.onLine,
    figures.voice,
    figures.timeline.steps,
    ductsOf(facts, figures),
    handedOf(facts, s),
    carryCells(s, { clientKind, platform, ownership, guest: facts.subject.guest }),
    facts.reader.model.requirements.map((set) => readinessOf(set, facts)),
    lintCrossing(facts).filter(({ rule }) => rule !== 'a setting that the client ignores'),
  ]);
}

const valuesOf = (key: SettingKey): SettingValue[] => {
  const definition = definitionOf(key);
  switch (definition?.type) {
    case 'switch':
      return [true, false];
    case 'choice':
      return [...definition.options];
    case 'number':
      return [definition.min, ...(definition.steps ?? []), definition.max];
    case 'version':
      return ['0', '1.0', '99'];
    case 'text':
      return ['', 'sea', ...(definition.words.length > 0 ? ['{domain}\\{name}', '{first}.{last}'] : [])];
    default:
      return definition ? [[...definition.options], definition.options.map((option) => `-${option}`)] : [];
  }
};
/** What a setting comes to on a scene, value by value. */
const outcomes = (facts: CrossingFacts, key: SettingKey, layer: 'endpoint' | 'organisation' = 'endpoint'): Set<string> =>
  new Set(valuesOf(key).map((value) => resultOf(setting(key, value, layer, layer === 'organisation' ? '*' : undefined)(facts))));

describe('every setting', () => {
  test.each(settingKeys)('%s: another value comes to another result somewhere', (key) => {
    const found = scenes.find(([, facts]) => outcomes(facts, key).size > 1 || outcomes(facts, key, 'organisation').size > 1);
    expect(found?.[0] ?? `${key} does nothing`).not.toMatch(/does nothing/);
  });

  test('is what the checks that name it say it is', () => {
    for (const { about } of lintRules) for (const key of about) expect(catalogue[key]).toBeDefined();
  });
});

const ignorers = ignorableKeys.flatMap((key) => {
  const { ignoredBy = [], ignoredOn = [] } = definitionOf(key) ?? {};
  return [
    ...ignoredBy.map((clientKind) => ({ key, by: clientKind, make: { clientKind } as Partial<Endpoint> })),
    ...ignoredOn.map((platform) => ({ key, by: platform, make: { platform, clientKind: 'native client' } as Partial<Endpoint> })),
  ];
});

describe('a setting that a device does not follow', () => {
  test.each(ignorers)('$by does not follow $key: nothing that it works out comes out otherwise', ({ key, make }) => {
    for (const [name, facts] of scenes) {
      const there = endpoint(make)(facts);
      expect(obeys(key, there.endpoint)).toBe(false);
      // that a check tells of it is another thing: figures, desk, way and sign-on stay what they are
      const figures = new Set(
        valuesOf(key).map((value) => {
          const { verdict, timeline, delay, frames, onLine, voice, desk } = computeFigures(setting(key, value)(there));
          return JSON.stringify([verdict, timeline.totalS, delay.value, frames.value, onLine, voice, desk]);
        }),
      );
      expect([name, figures.size]).toEqual([name, 1]);
    }
  });

  test('one that is in no catalogue is ignored by nobody', () =>
    expect(obeys('nothing.ofThis', { clientKind: 'browser', platform: 'thin' })).toBe(true));
});

test('what the layers look at: with somebody, with nobody, and where there is nothing', () => {
  const { model } = office.reader;
  const { ref } = office;
  expect(subjectIn(model, ref.endpoint, ref.person)).toEqual(office.subject);
  expect(subjectIn(model, ref.endpoint)).toMatchObject({ person: '', groups: [], guest: false, endpoint: ref.endpoint });
  expect(subjectIn(model, 'nothing')).toBeNull();
  expect(subjectIn(model, ref.endpoint, 'nobody')).toBeNull();
});

test('what they look at for a location: the sort of endpoint that most there are, whoever is at it, on the line of all', () => {
  const { endpoint } = office;
  const at = (id: string, more: object): Endpoint => ({ ...endpoint, id, name: id, location: 'quay', users: [], ...more }) as Endpoint;
  const quay = { ...office.location, id: 'quay', name: 'Quay' };
  const of = (...endpoints: Endpoint[]) => {
    const made = (kind: 'location' | 'endpoint') => (after: object & { id: string }) => ({ kind, id: after.id, before: null, after });
    return subjectAt(office.reader.model.after({ writes: [made('location')(quay), ...endpoints.map(made('endpoint'))] }), 'quay');
  };
  const [tablet, laptop] = [{ deviceClass: 'tablet' }, { deviceClass: 'laptop' }];
  expect(of(at('a', tablet), at('b', laptop), at('c', laptop))).toMatchObject({
    subject: { deviceClass: 'laptop', location: 'quay', endpoint: '', person: '', groups: [], guest: false },
    ...{ alike: 2, of: 3, platform: endpoint.platform },
  });
  // as many of each: the first by its words, whatever order they come in
  expect(of(at('a', tablet), at('b', laptop))?.subject.deviceClass).toBe('laptop');
  expect(of(at('a', laptop), at('b', tablet))?.subject.deviceClass).toBe('laptop');
  // another owner is another sort
  expect(
    of(at('a', laptop), at('b', { ...laptop, ownership: 'personal' }), at('c', { ...laptop, ownership: 'personal' }))?.subject,
  ).toMatchObject({
    ownership: 'personal',
  });
  expect([of(), subjectAt(office.reader.model, 'nowhere')]).toEqual([null, null]);
});
