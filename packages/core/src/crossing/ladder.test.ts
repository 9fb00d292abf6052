import { describe, expect, test } from '@jest/globals';
import { on } from '../../test/judged.js';
import { small } from '../../test/small.js';
import { computeFigures, nameCovers, settingsOf, type CrossingFacts, type CrossingFigures } from './index.js';
import { asksSecondFactor, highestTls, ladderOf, secondFactorNeedsS, stepNames, versionFloor } from './ladder.js';

const facts = small(on);
const figures = computeFigures(facts);
const host = { ...facts.hosts[0]!, power: 'on' as const, places: 10, used: 2 };
type Facts = { [Key in keyof CrossingFacts]?: object | boolean | number | undefined };
/** A sound way into a session, with a certificate, reached once, and nothing that asks for more. */
const sound: Facts = {
  ...{ entitled: true, portal: { id: 'portal', name: 'Portal' }, hasSession: false, timed: undefined, gates: [] },
  evidence: { rejected: [], roundTrips: { value: {} } },
};
interface With {
  facts?: Facts;
  endpoint?: object;
  gateway?: object;
  pool?: object;
  location?: object;
  settings?: object;
  host?: object | null;
  preSession?: boolean;
  way?: object;
}
const settingsBare = {
  ...{
    'security.preSession': false,
    'security.tlsMinimum': '1.2',
    'security.secondFactor': 'as the gateway asks',
    'security.secondFactorTimeoutS': 60,
  },
  ...{
    'security.certificateTrust': 'reject',
    'security.personalDevices': 'allowed',
    'client.versionFloor': '0',
    'transport.wayIn': 'gateway',
  },
};
function parts(by: With): [CrossingFacts, never] {
  const these = {
    ...{ ...facts, ...sound, ...by.facts },
    endpoint: { ...facts.endpoint, clientKind: 'native client', clientVersion: '5.0', ownership: 'managed', ...by.endpoint },
    gateway: { ...facts.gateway, clientFloors: {}, secondFactor: false, ...by.gateway },
    pool: { ...facts.pool, clientFloors: {}, managedOnly: false, ...by.pool },
    location: { ...facts.location, ...by.location },
  } as unknown as CrossingFacts;
  return [these, { ...settingsOf(facts), ...settingsBare, ...by.settings } as never];
}
const climb = (by: With = {}) => {
  const [these, s] = parts(by);
  const at = by.host === null ? undefined : ({ ...host, ...by.host } as typeof host);
  return ladderOf(these, s, { ...figures.way, ...by.way } as CrossingFigures['way'], at, by.preSession ?? true);
};
const broken = (by: With) => {
  const { broken: step } = climb(by);
  return step && [step.name, step.reason];
};

describe('the ladder', () => {
  test('is climbed to the end where nothing stands in the way; what cannot break is taken to pass', () => {
    const { steps, broken: none, doubted, doubts } = climb();
    expect(steps.map(({ name }) => name)).toEqual(stepNames);
    expect(steps.map(({ state }) => state)).toEqual([...Array.from({ length: 9 }, () => 'passed'), 'assumed', 'assumed']);
    expect(steps.map(({ bay }) => bay)).toEqual([
      ...['Workspace', 'Workspace', 'Endpoint', 'Local network', 'Link', 'Gateway', 'Gateway', 'Gateway', 'Host', 'Host', 'Workspace'],
    ]);
    expect([none, doubted, doubts]).toEqual([null, null, []]);
  });
  test('breaks at the first step that does: what comes after is not reached, what came before keeps its doubt', () => {
    const { steps, doubted, doubts } = climb({
      ...{ endpoint: { clientVersion: undefined }, pool: { clientFloors: { 'native client': '4.0' } } },
      ...{ gateway: { certificate: undefined, securityModes: ['pre-session'] }, preSession: false, host: { used: 10 } },
    });
    expect(steps.map(({ state }) => state)).toEqual([
      ...[
        'passed',
        'passed',
        'not known',
        'passed',
        'passed',
        'not known',
        'broken',
        'not reached',
        'not reached',
        'not reached',
        'not reached',
      ],
    ]);
    // where it breaks nothing else is asked about, but what is not known stays told
    expect([doubted, doubts]).toEqual([null, ['client version', 'certificate']]);
  });
});

describe('each step', () => {
  test.each<[string, With, [string, string] | null]>([
    ['no right', { facts: { entitled: false } }, ['entitled', 'not entitled']],
    ['not published', { facts: { portal: undefined } }, ['publication visible', 'publication unattached']],
    [
      'a personal device where only managed ones are taken',
      { endpoint: { ownership: 'personal' }, pool: { managedOnly: true } },
      ['client accepted', 'personal device refused'],
    ],
    [
      'a personal device that the settings refuse',
      { endpoint: { ownership: 'personal' }, settings: { 'security.personalDevices': 'refused' } },
      ['client accepted', 'personal device refused'],
    ],
    ['a personal device elsewhere', { endpoint: { ownership: 'personal' }, gateway: {} }, null],
    [
      'a managed device where personal ones are refused',
      { pool: { managedOnly: true }, settings: { 'security.personalDevices': 'refused' } },
      null,
    ],
    ['a client below the floor', { pool: { clientFloors: { 'native client': '5.1' } } }, ['client accepted', 'client too old']],
    ['a client on the floor', { pool: { clientFloors: { 'native client': '5.0' } } }, null],
    ['the floor of another client', { gateway: { clientFloors: { browser: '9.9' } } }, null],
    [
      'straight from outside',
      { settings: { 'transport.wayIn': 'straight' }, location: { inside: false } },
      ['port reachable', 'no way straight from outside'],
    ],
    ['straight from inside', { settings: { 'transport.wayIn': 'straight' }, location: { inside: true } }, null],
    ['no host', { host: null }, ['host ready', 'no free place']],
    ['the last place free', { host: { used: 9 } }, null],
    ['no place free', { host: { used: 10 } }, ['host ready', 'no free place']],
    ['no place free, and a session there', { host: { used: 10 }, facts: { hasSession: true } }, null],
    ['off', { host: { power: 'off' } }, ['host ready', 'hosts off']],
    ['asleep', { host: { power: 'asleep' } }, null],
  ])('%s', (_what, by, wanted) => expect(broken(by)).toEqual(wanted));

  test('a certificate: its first and last day, its names, and who trusts it', () => {
    const certificate = { names: ['gate.example'], notBefore: '2026-02-03', notAfter: '2026-11-25', trust: 'public' };
    const at = (more: object, by: With = {}) =>
      broken({ ...by, gateway: { address: 'gate.example', certificate: { ...certificate, ...more } } })?.[1] ?? null;
    const on_ = (instant: string) => at({}, { facts: { atMs: Date.parse(instant) } });
    expect(on_('2026-02-02T23:59:59.999Z')).toBe('certificate not yet valid');
    expect([on_('2026-02-03T00:00:00Z'), on_('2026-11-25T23:59:59.999Z')]).toEqual([null, null]);
    expect(on_('2026-11-26T00:00:00Z')).toBe('certificate expired');
    expect(at({ names: ['other.example'] })).toBe('certificate for another name');
    expect(at({ names: ['other.example', '*.example'] })).toBeNull();
    expect(at({ trust: 'none' })).toBe('certificate not trusted');
    expect(at({ trust: 'organisation' })).toBeNull();
    expect(at({ trust: 'organisation' }, { endpoint: { ownership: 'personal' } })).toBe('certificate not trusted');
    // a client that only warns lets everything pass, and asks nobody for a certificate that is not known
    const warns = { settings: { 'security.certificateTrust': 'warn' } };
    expect(at({ names: ['other.example'], trust: 'none', notAfter: '2020-01-01' }, warns)).toBeNull();
    const unknown = { gateway: { certificate: undefined } };
    expect([climb(unknown).doubts, climb({ ...unknown, ...warns }).doubts]).toEqual([['certificate'], []]);
  });
  // RFC 6125 §6.4.3: a wildcard stands for the first label, and for one alone
  test.each([
    ['gate.example', 'GATE.Example', true],
    ['*.example', 'gate.example', true],
    ['*.example', 'a.gate.example', false],
    ['*.example', 'example', false],
    ['*.gate.example', 'a.gate.example', true],
    ['gate.example', 'a.gate.example', false],
    ['*', 'gate', false],
  ])('“%s” covers “%s”: %s', (pattern, name, covers) => expect(nameCovers(pattern, name)).toBe(covers));

  test('security: TLS as high as asked, and a mode that client, gateway and pool have in common', () => {
    const fails = ['security negotiated', 'no common security mode'];
    const tls = (tlsHighest: string | undefined, tlsMinimum: string) =>
      climb({ gateway: { tlsHighest, tlsMinimum: '1.2' }, settings: { 'security.tlsMinimum': tlsMinimum } });
    expect(tls('1.2', '1.3').broken?.reason).toBe(fails[1]);
    expect([tls('1.3', '1.3').broken, tls('1.2', '1.2').broken]).toEqual([null, null]);
    expect([tls(undefined, '1.3').doubts, tls(undefined, '1.2').doubts, tls('1.3', '1.3').doubts]).toEqual([
      ['TLS of the gateway'],
      [],
      [],
    ]);
    expect([
      highestTls({ tlsMinimum: '1.3' } as never),
      highestTls({ tlsMinimum: '1.2' } as never),
      highestTls({ tlsHighest: '1.2' } as never),
    ]).toEqual([...['1.3', undefined, '1.2']]);
    const modes = (gateway: string[], pool: string[], asked: boolean, preSession: boolean) =>
      broken({
        gateway: { securityModes: gateway },
        pool: { securityModes: pool },
        settings: { 'security.preSession': asked },
        preSession,
      });
    expect(modes(['tls'], ['tls'], false, false)).toBeNull();
    expect(modes(['pre-session'], ['pre-session'], false, true)).toBeNull();
    expect(modes(['pre-session'], ['pre-session'], false, false)).toEqual(fails);
    expect(modes(['tls', 'pre-session'], ['tls', 'pre-session'], true, true)).toBeNull();
    expect(modes(['tls', 'pre-session'], ['tls', 'pre-session'], true, false)).toEqual(fails);
    expect(modes(['tls'], ['tls', 'pre-session'], true, true)).toEqual(fails);
    expect(modes(['tls', 'pre-session'], ['tls'], true, true)).toEqual(fails);
  });

  test('a second factor: asked as the settings say, too slow where even the quickest is, in doubt where the slowest is', () => {
    const asks = (how: string, secondFactor: boolean, inside: boolean) => {
      const [these, s] = parts({ gateway: { secondFactor }, location: { inside }, settings: { 'security.secondFactor': how } });
      return asksSecondFactor(these, s);
    };
    expect([asks('always', false, true), asks('as the gateway asks', true, true), asks('as the gateway asks', false, false)]).toEqual([
      true,
      true,
      false,
    ]);
    expect([asks('not inside', true, true), asks('not inside', true, false), asks('not inside', false, false)]).toEqual([
      false,
      true,
      false,
    ]);
    const assumed = facts.estate.assumed.signon;
    const rtt = { value: 500, low: 250, high: 1000 };
    // the person's time and four round trips
    const needs = { value: assumed.codeS + 2, low: assumed.codeLowS + 1, high: assumed.codeHighS + 4 };
    expect(secondFactorNeedsS(rtt, assumed)).toEqual(needs);
    const within = (timeoutS: number, more: With = {}) =>
      climb({ ...more, settings: { 'security.secondFactor': 'always', 'security.secondFactorTimeoutS': timeoutS }, way: { rtt } });
    expect(within(needs.low - 0.001).broken?.reason).toBe('second factor too slow');
    expect([within(needs.low).broken, within(needs.low).doubts]).toEqual([null, ['second factor time']]);
    expect([within(needs.high - 0.001).doubts, within(needs.high).doubts]).toEqual([['second factor time'], []]);
  });

  test('the gateway is reached where anything went there: measured, timed, or a session left open', () => {
    const by = (evidence: object, more: Facts = {}) => climb({ facts: { evidence: { rejected: [], ...evidence }, ...more } });
    const nobody = by({});
    expect([nobody.doubts, nobody.doubted?.name]).toEqual([['reach of the gateway'], 'name resolves']);
    expect(nobody.steps.filter(({ state }) => state === 'not known').map(({ name }) => name)).toEqual(['name resolves', 'port reachable']);
    for (const one of ['roundTrips', 'datagrams', 'downMbps', 'upMbps', 'addedDownMs'])
      expect([one, by({ [one]: { value: 1 } }).doubts]).toEqual([one, []]);
    expect([by({}, { timed: { value: 1 } }).doubts, by({}, { hasSession: true }).doubts]).toEqual([[], []]);
    expect(by({ screens: { value: [] } }).doubts).toEqual(['reach of the gateway']);
  });

  test('a host of which nobody knows whether it is on, or how many use it, may not be ready', () => {
    expect(climb({ host: { power: undefined } })).toMatchObject({ doubts: ['power of the hosts'], doubted: { name: 'host ready' } });
    expect(climb({ host: { used: undefined } }).doubts).toEqual(['places of the hosts']);
    expect(climb({ host: { power: undefined, used: undefined } }).doubts).toEqual(['power of the hosts']);
    expect(climb({ host: { used: undefined }, facts: { hasSession: true } }).doubts).toEqual([]);
  });

  test('the floor that counts is the highest, with who asks for it; of a browser the settings ask nothing', () => {
    const floor = (gateway: string | undefined, pool: string | undefined, setting: string, clientKind = 'native client') => {
      const [these, s] = parts({
        ...{
          endpoint: { clientKind },
          gateway: { name: 'Gate', clientFloors: { [clientKind]: gateway } },
          pool: { name: 'Pool', clientFloors: { [clientKind]: pool } },
        },
        settings: { 'client.versionFloor': setting },
      });
      return versionFloor(these, s);
    };
    expect(floor(undefined, undefined, '0')).toBeNull();
    expect(floor('0', '0', '0')).toBeNull();
    expect(floor('4.9', '4.10', '4.2')).toEqual({ version: '4.10', by: 'Pool' });
    expect(floor('4.10', '4.10', '4.10')).toEqual({ version: '4.10', by: 'Gate' });
    expect(floor('4.9', undefined, '5.0')).toEqual({ version: '5.0', by: 'the settings' });
    expect(floor('4.9', undefined, '5.0', 'browser')).toEqual({ version: '4.9', by: 'Gate' });
    expect(climb({ endpoint: { clientVersion: undefined } }).doubts).toEqual([]);
    expect(climb({ endpoint: { clientVersion: undefined }, settings: { 'client.versionFloor': '5.0' } }).doubts).toEqual([
      'client version',
    ]);
  });
});
