import { describe, expect, test } from '@jest/globals';
import type { Change } from '@underpass/contracts';
import { small, trips } from '../../test/small.js';
import { doing, fieldsTo, settingTo } from '../change/index.js';
import { computeFigures } from './index.js';
import type { CrossingFacts } from './facts.js';

const facts = small();
const { reader, ref } = facts;
const cap = (value: number): Change => doing(settingTo('picture.frameCap', 'organisation', '*', value));
const line = (more: object): Change => ({ patches: [], hypotheses: [{ suppose: 'line', ...more } as never] });
/** What facts come to, without how they were read. */
const told = (of: CrossingFacts | null) => of && JSON.stringify({ ...computeFigures({ ...of, like: undefined }), settings: undefined });

describe('facts after a change', () => {
  test.each<[string, Change, boolean]>([
    ['a setting', cap(12), true],
    ['a line that is supposed', line({ kind: 'location', id: 'hall', roundTripMs: 90 }), true],
    ['an endpoint’s own line', line({ kind: 'endpoint', id: 'e1', downMbps: 2 }), true],
    ['a field', doing(fieldsTo('location', 'hall', { downMbps: 3 })), false],
    [
      'a setting and a field',
      doing(settingTo('picture.frameCap', 'organisation', '*', 12), fieldsTo('host', 'host', { drawMs: 90 })),
      false,
    ],
  ])('%s: read like before it is what it is read anew', (_, change, isLike) => {
    const after = reader.after(change);
    const like = after.readLike(facts)!;
    expect(told(like)).toBe(told(after.read(ref)));
    expect(told(like)).not.toBe(told(facts));
    expect(like.like).toBe(isLike ? facts : undefined);
    expect(like.reader).toBe(after);
  });
  test('of what was read elsewhere, or where nothing lies between, it is read anew', () => {
    const other = small();
    expect(reader.after(cap(12)).readLike(other)?.like).toBeUndefined();
    expect(reader.readLike(facts)?.like).toBeUndefined();
    const measured = reader.over(
      reader.model.after({
        measurements: [
          {
            ...{
              id: 'm2',
              at: '2026-11-25T09:30:00Z',
              by: 'Ann',
              method: 'field check',
              vantage: 'desk',
              endpoint: 'e1',
              location: 'hall',
            },
            ...{ target: 'near', partial: false, figures: { roundTrips: trips(120) } },
          } as never,
        ],
      }),
    );
    expect(measured.readLike(facts)).toMatchObject({ like: undefined, evidence: { roundTrips: { value: { medianMs: 120 } } } });
  });
  test('what the place and what the device is supposed to have are both there', () => {
    const both: Change = {
      patches: [],
      hypotheses: [
        { suppose: 'line', kind: 'location', id: 'hall', downMbps: 7 },
        { suppose: 'line', kind: 'endpoint', id: 'e1', roundTripMs: 33 },
      ] as never,
    };
    const { evidence } = reader.after(both).read(ref)!;
    expect([evidence.downMbps?.value, evidence.roundTrips?.value.medianMs]).toEqual([7, 33]);
    const [place, own] = both.hypotheses.map((each) => reader.after({ patches: [], hypotheses: [each] }).read(ref)!.evidence);
    expect([place?.downMbps?.value, place?.roundTrips, own?.downMbps, own?.roundTrips?.value.medianMs]).toEqual([
      7,
      undefined,
      undefined,
      33,
    ]);
    const elsewhere = reader.after(line({ kind: 'location', id: 'nowhere', downMbps: 7 })).read(ref)!;
    expect(elsewhere.evidence).toEqual(facts.evidence);
  });
  test('the same change is laid once, however often it is asked for', () => {
    expect(reader.after(cap(13))).toBe(reader.after(cap(13)));
    expect(reader.after(cap(14))).not.toBe(reader.after(cap(13)));
  });
  test('one that writes very much is not kept', () => {
    const many = (steps: number) => doing(...Array.from({ length: steps }, (_, i) => fieldsTo('person', 'ann', { name: `Ann ${i}` })));
    expect(reader.after(many(20))).toBe(reader.after(many(20)));
    expect(reader.after(many(21))).not.toBe(reader.after(many(21)));
    expect(reader.after(many(21)).read(ref)?.person.name).toBe('Ann 20');
  });
});

describe('what a crossing needs', () => {
  const without = (kind: 'resource' | 'pool' | 'gateway' | 'region' | 'endpoint' | 'location' | 'person', id: string) =>
    reader.over(reader.model.after({ writes: [{ kind, id, before: null, after: null }] as never })).read(ref);
  test.each([
    ['resource', 'desk'],
    ['pool', 'pool'],
    ['gateway', 'gate'],
    ['region', 'near'],
    ['endpoint', 'e1'],
    ['location', 'hall'],
    ['person', 'ann'],
  ] as const)('without its %s there is none', (kind, id) => expect(without(kind, id)).toBeNull());
});

describe('sessions', () => {
  const more = {
    endpoint: [
      {
        ...{ id: 'e2', name: 'E2', location: 'hall', person: 'ann', deviceClass: 'laptop', ownership: 'managed', platform: 'desktop' },
        ...{ processor: 'x86-64', clientKind: 'native client' },
      },
    ],
    resource: [{ id: 'other', name: 'Other', kind: 'desktop', pool: 'pool', work: 'office', content: { text: 1 } }],
  };
  const session = (endpoint: string, resource: string) => ({
    ...{
      id: `${endpoint}-${resource}`,
      person: 'ann',
      endpoint,
      resource,
      startedAt: '2026-11-25T08:00:00Z',
      usedAt: '2026-11-25T09:00:00Z',
      state: 'active',
    },
  });
  const of = (...sessions: object[]) => {
    const found = small({ more: { ...more, session: sessions } as never });
    return [found.hasSession, found.elsewhere.map(({ resourceName }) => resourceName)];
  };
  test('of the resource, here or elsewhere; and those on other endpoints by their names', () => {
    expect(of()).toEqual([false, []]);
    expect(of(session('e1', 'desk'))).toEqual([true, []]);
    expect(of(session('e2', 'other'))).toEqual([false, ['Other']]);
    expect(of(session('e2', 'other'), session('e2', 'desk'))).toEqual([true, ['Desk', 'Other']]);
    expect(of(session('e1', 'other'))).toEqual([false, []]);
  });
});
