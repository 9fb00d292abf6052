import { describe, expect, test } from '@jest/globals';
import { small, type Otherwise } from '../../test/small.js';
import { doing, fieldsTo, settingTo } from '../change/index.js';
import { nextMoment, touchedBy } from './index.js';
import { setHere } from './setHere.js';
import { lineOfSeat, subjectAt, subjectIn, subjectOf } from './subjectOf.js';

const day = 86_400_000;
const utc = (text: string) => Date.parse(`${text}T00:00:00Z`);

describe('the next moment at which time alone changes something', () => {
  const certificate = (notBefore: string, notAfter: string): Otherwise => ({
    gateway: { certificate: { names: ['gate.example'], notBefore, notAfter, trust: 'public' } },
    measured: null as never,
  });
  const of = (otherwise: Otherwise, afterMs: number) => {
    const moment = nextMoment(small(otherwise).reader.model, afterMs);
    return moment && [moment.atMs, [...moment.touch.resources], [...moment.touch.people], [...moment.touch.locations]];
  };
  test('of a certificate: when it begins, each day of its last thirty, and when it ended', () => {
    const one = certificate('2026-06-01', '2026-12-31');
    const endMs = utc('2027-01-01');
    const touches = (atMs: number) => [atMs, ['desk'], [], []];
    expect(of(one, utc('2026-05-01'))).toEqual(touches(utc('2026-06-01')));
    expect(of(one, utc('2026-06-01'))).toEqual(touches(endMs - 31 * day + 1));
    expect(of(one, endMs - 31 * day + 1)).toEqual(touches(endMs - 30 * day + 1));
    expect(of(one, endMs - 2 * day + 1)).toEqual(touches(endMs - day + 1));
    expect(of(one, endMs - day + 1)).toEqual(touches(endMs));
    expect(of(one, endMs - 1)).toEqual(touches(endMs));
    expect(of(one, endMs)).toBeNull();
  });
  test('of a guest: thirty days before their access ends, and then', () => {
    const guest = {
      ...certificate('2020-01-01', '2020-01-02'),
      person: { kind: 'guest', guest: { organisation: 'Elsewhere', owner: 'ann', endsOn: '2026-12-31', invitation: 'accepted' } },
    };
    const endMs = utc('2027-01-01');
    expect(of(guest, utc('2026-06-01'))).toEqual([endMs - 30 * day, [], ['ann'], []]);
    expect(of(guest, endMs - 30 * day)).toEqual([endMs, [], ['ann'], []]);
    expect(of(guest, endMs)).toBeNull();
  });
  test('two at the same instant are one moment', () => {
    const both = {
      ...certificate('2027-01-01', '2030-12-31'),
      person: { kind: 'guest', guest: { organisation: 'Elsewhere', owner: 'ann', endsOn: '2026-12-31', invitation: 'accepted' } },
    };
    expect(of(both, utc('2026-12-15'))).toEqual([utc('2027-01-01'), ['desk'], ['ann'], []]);
  });
  test('where something was measured, the next midnight; it touches the place whose measurement then weighs less', () => {
    const old = { ...certificate('2020-01-01', '2020-01-02'), measured: undefined as never, measuredAt: '2026-11-02T08:00:00Z' };
    expect(of(old, utc('2026-12-01') + 5)).toEqual([utc('2026-12-02'), [], [], []]);
    expect(of(old, utc('2027-01-31') - 1)).toEqual([utc('2027-01-31'), [], [], ['hall']]);
  });
});

describe('a setting as a remedy', () => {
  const at = (otherwise: Otherwise, ask?: string) => {
    const { text, change, ask: told } = setHere(small(otherwise), 'picture.frameCap', 12, (where) => `Twelve frames ${where}`, ask);
    const [patch] = change.patches;
    return [text, patch && 'layer' in patch ? `${patch.layer}/${patch.target}` : null, told];
  };
  const entry = (layer: string, target: string, locked = false): Otherwise => ({
    more: { setting: [{ id: 's', key: 'picture.frameCap', layer, target, value: 30, locked }] },
  });
  test('at the place whose line it is; at the endpoint where each has its own', () => {
    expect(at({})).toEqual(['Twelve frames at Hall', 'location/hall', undefined]);
    expect(at({}, 'after work')).toEqual(['Twelve frames at Hall', 'location/hall', 'after work']);
    expect(at({ location: { kind: 'home', ownLines: true } })).toEqual(['Twelve frames on this endpoint', 'endpoint/e1', undefined]);
  });
  test('on the endpoint alone where something nearer than the place rules', () => {
    for (const [layer, target] of [
      ['group', 'staff'],
      ['person', 'ann'],
      ['endpoint', 'e1'],
    ] as const)
      expect(at(entry(layer, target))).toEqual(['Twelve frames on this endpoint', 'endpoint/e1', undefined]);
    for (const [layer, target] of [
      ['location', 'hall'],
      ['organisation', '*'],
      ['device class', 'thin-client'],
    ] as const)
      expect(at(entry(layer, target))).toEqual(['Twelve frames at Hall', 'location/hall', undefined]);
  });
  test('locked above: who has to open it first', () => {
    const [text, patch, ask] = at(entry('organisation', '*', true));
    expect([text, patch]).toEqual(['Twelve frames at Hall', null]);
    expect(ask).toMatch(/^“.+” is locked for the whole organisation: it has to be opened there first$/);
    expect(at(entry('device class', 'thin-client', true))[2]).toMatch(/is locked for the device class thin-client:/);
    // a lock at the place itself is opened by who writes there
    expect(at(entry('location', 'hall', true))[1]).toBe('location/hall');
  });
});

describe('whom settings are for', () => {
  const { endpoint, location, person, reader } = small();
  test('somebody at an endpoint', () => {
    expect(subjectOf(endpoint, location, person, ['staff'])).toEqual({
      ...{ deviceClass: 'thin-client', location: 'hall', groups: ['staff'], person: 'ann', endpoint: 'e1', ownership: 'managed' },
      ...{ lineKind: 'fibre', metered: false, clientKind: 'native client', guest: false, inside: false },
    });
    expect(subjectOf(endpoint, location, null, [])).toMatchObject({ person: '', guest: false, groups: [] });
    expect(subjectOf(endpoint, location, { ...person, kind: 'guest' }, []).guest).toBe(true);
  });
  test('the line is the endpoint’s own where the place has none for all', () => {
    const line = { lineKind: '4g', metered: true } as never;
    const home = { ...location, ownLines: true };
    expect(lineOfSeat(home, { ...endpoint, line })).toBe(line);
    expect(lineOfSeat(location, { ...endpoint, line })).toBe(location);
    expect(lineOfSeat(home, endpoint)).toBe(home);
    expect(subjectOf({ ...endpoint, line }, home, person, [])).toMatchObject({ lineKind: '4g', metered: true });
  });
  test('by ids; nobody where one of them is not there', () => {
    expect(subjectIn(reader.model, 'e1', 'ann')).toEqual(subjectOf(endpoint, location, person, ['staff']));
    expect(subjectIn(reader.model, 'e1')).toEqual(subjectOf(endpoint, location, null, []));
    expect([subjectIn(reader.model, 'gone', 'ann'), subjectIn(reader.model, 'e1', 'gone')]).toEqual([null, null]);
  });
  test('a place as a whole: the sort of endpoint that most there are, of as many the first by its words', () => {
    const more = (...kinds: [string, string][]) => ({
      endpoint: kinds.map(([deviceClass, platform], i) => ({
        ...{ id: `x${i}`, name: `X${i}`, location: 'hall', person: 'ann', deviceClass, platform, ownership: 'managed' },
        ...{ processor: 'x86-64', clientKind: 'native client' },
      })),
    });
    const of = (...kinds: [string, string][]) => {
      const found = subjectAt(small({ more: more(...kinds) as never }).reader.model, 'hall');
      return found && [found.subject.deviceClass, found.platform, found.alike, found.of, found.subject.endpoint, found.subject.person];
    };
    expect(of()).toEqual(['thin-client', 'thin', 1, 1, '', '']);
    expect(of(['laptop', 'desktop'], ['laptop', 'desktop'])).toEqual(['laptop', 'desktop', 2, 3, '', '']);
    expect(of(['laptop', 'desktop'])).toEqual(['laptop', 'desktop', 1, 2, '', '']);
    expect(subjectAt(small().reader.model, 'gone')).toBeNull();
  });
});

describe('what is touched', () => {
  const { reader } = small({
    more: { location: [{ id: 'shed', name: 'Shed', kind: 'office', latitude: 55, longitude: 3, lineKind: 'fibre' }] } as never,
  });
  const of = (...patches: Parameters<typeof doing>) => {
    const { after, come, gone } = touchedBy(reader, reader.after(doing(...patches)));
    return [after, come, gone].map((refs) => refs.map(({ id }) => id));
  };
  const [ref] = reader.model.crossings;
  test('whose result may be another; those that come and those that go', () => {
    expect(of(settingTo('picture.frameCap', 'location', 'hall', 12))).toEqual([[ref!.id], [], []]);
    expect(of(settingTo('picture.frameCap', 'location', 'shed', 12))).toEqual([[], [], []]);
    expect(of(fieldsTo('person', 'ann', { groups: [] }))[2]).toEqual([ref!.id]);
    expect(of(fieldsTo('endpoint', 'e1', { cores: 2 }))).toEqual([[ref!.id], [], []]);
  });
  test('a reader that does not lie over the one before is a fault', () => {
    expect(() => touchedBy(reader, reader)).toThrow(/does not lie over/);
    expect(() => touchedBy(small().reader, reader.after(doing(settingTo('picture.frameCap', 'location', 'hall', 12))))).toThrow(
      /does not lie over/,
    );
  });
});
