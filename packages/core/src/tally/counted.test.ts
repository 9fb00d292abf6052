import { describe, expect, test } from '@jest/globals';
import type { Change, Measurement, ObjectKind } from '@underpass/contracts';
import { readFileSync } from 'node:fs';
import { counting } from '../../test/counting.js';
import { instant, reached } from '../../test/small.js';
import { twoPlaces } from '../../test/twoPlaces.js';
import { doing, fieldsTo, settingTo } from '../change/index.js';
import { FactsReader, summariseCrossing } from '../crossing/index.js';
import { areaOf, ImpactTally, LeadingTally } from './index.js';

/*
 * What is counted over few people, in full. Read by eye: each count can be followed with a finger. Figures that change with those of
 * the golden crossings are to be read again before they are written anew.
 */
type World = Partial<Record<ObjectKind, Record<string, object | null>>>;
const device = {
  ...{ ownership: 'managed', deviceClass: 'thin-client', platform: 'thin', processor: 'x86-64', cores: 4, clientKind: 'native client' },
  ...{ clientVersion: '9.9', connection: 'wired', decoders: [{ codec: 'h264', level: '5.2' }] },
  screens: [{ widthPx: 1920, heightPx: 1080, refreshHz: 60 }],
  alwaysOn: true,
};
/** People with an endpoint each. */
const staff = (at: string, groups: string[], ...ids: string[]): World => ({
  person: Object.fromEntries(ids.map((id) => [id, { name: `${id} of ${at}`, kind: 'staff', location: at, groups }])),
  endpoint: Object.fromEntries(ids.map((id) => [`box-${id}`, { name: `Box ${id}`, location: at, person: id, ...device }])),
});
const together = (...worlds: World[]): World =>
  worlds.reduce((all, world) => {
    for (const [kind, of] of Object.entries(world) as [ObjectKind, Record<string, object>][]) all[kind] = { ...all[kind], ...of };
    return all;
  }, {} as World);
const equipped: World = { endpoint: { 'box-a': device, 'box-b': device } };
const expired = { names: ['b.example'], notBefore: '2025-01-01', notAfter: '2025-12-31', trust: 'public' } as const;
const good = { ...expired, names: ['a.example', 'b.example'], notAfter: '2027-12-31' };
const certified: World = {
  gateway: {
    'gate-a': { certificate: good, securityModes: ['tls', 'pre-session'] },
    'gate-b': { certificate: good, securityModes: ['tls', 'pre-session'] },
  },
  pool: { 'pool-a': { securityModes: ['tls', 'pre-session'] }, 'pool-b': { securityModes: ['tls', 'pre-session'] } },
};
const narrow = { downMbps: 3, sharedBy: 3, activeShare: 1 };
const coast = { area: 'Coast', ...narrow };
const worlds: Record<string, World> = {
  'a narrow line of three': together(certified, staff('hall-a', ['staff-a'], 'bo', 'cy'), equipped, { location: { 'hall-a': narrow } }),
  'two narrow places of one area': together(certified, staff('hall-b', ['staff-b'], 'dee'), equipped, {
    location: { 'hall-a': coast, 'hall-b': coast },
  }),
  'one who is kept out, and one who is short of it too': together(certified, staff('hall-b', ['staff-a', 'staff-b'], 'eve'), equipped, {
    gateway: { 'gate-b': { certificate: expired, securityModes: ['tls', 'pre-session'] } },
    location: { 'hall-b': narrow },
  }),
  'one alone on a narrow line': together(certified, equipped, { location: { 'hall-b': { ...narrow, downMbps: 2 } } }),
  'card readers that the rules keep out at two places of one area': together(
    certified,
    staff('hall-b', ['staff-b'], 'fay'),
    { endpoint: { 'box-a': { ...device, peripherals: ['card-reader'] }, 'box-b': { ...device, peripherals: ['card-reader', 'scanner'] } } },
    { location: { 'hall-a': { area: 'Coast' }, 'hall-b': { area: 'Coast' } } },
  ),
  'as much in two areas, and two findings of one crossing': together(
    certified,
    { endpoint: { 'box-a': { ...device, peripherals: ['card-reader'] }, 'box-b': { ...device, peripherals: ['card-reader'] } } },
    { location: { 'hall-a': narrow, 'hall-b': narrow } },
  ),
  'nothing wrong': together(certified, equipped),
};
/** Everything is known: each device was checked, each host reports. */
const readerOf = (world: World) => {
  const hosts = { host: { 'host-a': { used: 2, encodeMs: 10 }, 'host-b': { used: 2, encodeMs: 10 } } };
  const endpoints = twoPlaces(world).endpoints;
  const checks = [...endpoints.values()].map((endpoint): Measurement => ({
    ...{
      id: `m-${endpoint.id}`,
      at: '2026-11-25T09:00:00Z',
      by: 'x',
      method: 'field check',
      vantage: 'desk',
      partial: false,
      figures: { ...reached },
    },
    ...{ endpoint: endpoint.id, location: endpoint.location, target: 'region-a' },
  }));
  return new FactsReader(twoPlaces(together(world, hosts), checks), instant);
};

const changes: Record<string, [world: string, Change]> = {
  'a wider line': ['a narrow line of three', doing(fieldsTo('location', 'hall-a', { downMbps: 300 }))],
  'fewer frames': ['nothing wrong', doing(settingTo('picture.frameCap', 'organisation', '*', 12))],
  'further away': ['nothing wrong', doing(fieldsTo('location', 'hall-a', { delayMs: 190 }))],
  'a larger profile': ['nothing wrong', doing(fieldsTo('resource', 'desk-a', { profileMB: 4000, profileRegion: 'region-a' }))],
  'a smaller picture': ['nothing wrong', doing(settingTo('picture.heldHeight', 'location', 'hall-b', 720))],
  'into another group': ['nothing wrong', doing({ do: 'move', people: ['ann-a'], leave: 'staff-a', join: 'staff-b' })],
  'a certificate that ended': ['nothing wrong', doing(fieldsTo('gateway', 'gate-a', { certificate: expired }))],
  'a smaller picture where the line is narrow': [
    'a narrow line of three',
    doing(settingTo('picture.heldHeight', 'location', 'hall-a', 720)),
  ],
  'nothing of account': ['nothing wrong', doing(fieldsTo('location', 'hall-a', { area: 'North' }))],
};
const kept = JSON.parse(readFileSync(new URL('fixtures/counted.json', import.meta.url), 'utf8')) as Record<string, Record<string, unknown>>;
const plain = (value: unknown): unknown => JSON.parse(JSON.stringify(value));

describe('the leading findings of', () => {
  test.each(Object.keys(worlds))('%s', (name) => {
    const reader = readerOf(worlds[name]!);
    const tally = counting(new LeadingTally());
    const fill = () => {
      for (const ref of reader.model.crossings) tally.set(ref, areaOf(reader.model, ref.location), summariseCrossing(reader.read(ref)!));
    };
    fill();
    expect(plain(tally.findings(reader))).toEqual(kept.leading![name]);
    // taken once more nothing counts twice; taken out nothing is left
    fill();
    expect(plain(tally.findings(reader))).toEqual(kept.leading![name]);
    // what one comes to otherwise and back is worked out anew, and no other
    const [one] = reader.model.crossings;
    tally.set(one!, areaOf(reader.model, one!.location), null);
    const without = counting(new LeadingTally());
    for (const ref of reader.model.crossings.slice(1))
      without.set(ref, areaOf(reader.model, ref.location), summariseCrossing(reader.read(ref)!));
    expect(tally.findings(reader)).toEqual(without.findings(reader));
    fill();
    expect(plain(tally.findings(reader))).toEqual(kept.leading![name]);
    for (const ref of reader.model.crossings) tally.set(ref, '', null);
    expect(tally.findings(reader)).toEqual([]);
  });
});

describe('the impact of', () => {
  test.each(Object.keys(changes))('%s', (name) => {
    const [world, change] = changes[name]!;
    const reader = readerOf(worlds[world]!);
    const impact = (known: boolean) => {
      const tally = new ImpactTally(reader, change, (ref) => (known ? summariseCrossing(reader.read(ref)!) : undefined));
      for (const ref of tally.crossings) tally.add(ref);
      return plain(tally.result());
    };
    expect(impact(false)).toMatchObject(kept.impact![name] as object);
    // the same where it is known already what was
    expect(impact(true)).toMatchObject(kept.impact![name] as object);
  });
});

test('nothing is kept that is not counted', () => {
  expect([Object.keys(kept.leading!), Object.keys(kept.impact!)]).toEqual([Object.keys(worlds), Object.keys(changes)]);
});
