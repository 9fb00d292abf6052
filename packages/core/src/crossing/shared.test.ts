import { describe, expect, test } from '@jest/globals';
import { small } from '../../test/small.js';
import { shippedAssumed } from '../assumed/index.js';
import { indexSettings } from '../settings/index.js';
import { alone, counted, noTally, othersOf } from './shared.js';
import { Resolved } from './resolved.js';

// in whole numbers, as a crossing asks
const ask = (meanMbps: number, sdMbps: number, upMbps: number) => ({
  sum: Math.round(meanMbps * 1e6),
  squares: Math.round((sdMbps ** 2 + meanMbps ** 2) * 1e6),
  upSum: Math.round(upMbps * 1e6),
  upSquares: Math.round(upMbps ** 2 * 1e6),
});
const { location } = small();
const usual = shippedAssumed.people;

describe('what everybody asks of a line', () => {
  test('is added up and taken away again to the last bit', () => {
    const two = counted(counted(noTally, ask(2, 1, 0.1), 1), ask(4, 0, 0.3), 1);
    expect(two).toEqual({ crossings: 2, people: 0, sum: 6e6, squares: 21e6, upSum: 4e5, upSquares: 1e5 });
    expect(counted(two, ask(4, 0, 0.3), -1)).toEqual(counted(noTally, ask(2, 1, 0.1), 1));
    expect(counted(counted(two, ask(4, 0, 0.3), -1), ask(2, 1, 0.1), -1)).toEqual(noTally);
  });
  const tally = { ...counted(counted(noTally, ask(2, 1, 0.1), 1), ask(4, 0, 0.3), 1), people: 12 };
  const others = (more: object, of = tally) => othersOf(of, { ...location, sharedBy: undefined, ...more } as never, usual);
  test('the others: everybody but one, with the mean and the deviation of what is asked', () => {
    // (1 + 4 + 16) / 2 − 3² = 1.5; (0.01 + 0.09) / 2 − 0.2² = 0.01
    expect(others({})).toEqual({
      ...{ count: 11, activeShare: 0.6, activeLow: 0.4, activeHigh: 0.8 },
      ...{ meanMbps: 3, sdMbps: expect.closeTo(Math.sqrt(1.5), 12), upMeanMbps: 0.2, upSdMbps: expect.closeTo(0.1, 9) },
    });
  });
  test('as many as are told share it, and as many of them are active', () => {
    expect(others({ sharedBy: 40 }).count).toBe(39);
    expect(others({ sharedBy: 1 }).count).toBe(0);
    expect(others({ sharedBy: 0 }).count).toBe(0);
    expect(others({ activeShare: 0.3 })).toMatchObject({ activeShare: 0.3, activeLow: 0.3, activeHigh: 0.3 });
  });
  test('on lines of their own, or where nobody is, nobody else is there', () => {
    expect(others({ ownLines: true })).toBe(alone);
    expect(others({}, { ...noTally, people: 5 })).toBe(alone);
    expect(alone).toEqual({
      ...{ count: 0, activeShare: 0, activeLow: 0, activeHigh: 0 },
      ...{ meanMbps: 0, sdMbps: 0, upMeanMbps: 0, upSdMbps: 0 },
    });
  });
  test('rounding never takes a root of less than nothing', () => {
    expect(others({}, { ...tally, squares: 17e6, upSquares: 0 })).toMatchObject({ sdMbps: 0, upSdMbps: 0 });
  });
});

describe('settings in force', () => {
  const { subject } = small();
  const entry = (layer: string, target: string, value: number) => ({
    ...{ id: `${layer}-${target}`, key: 'picture.frameCap', layer, target, value, locked: false },
  });
  const entries = indexSettings([
    entry('organisation', '*', 20),
    entry('location', 'quay', 21),
    entry('group', 'night', 22),
    entry('device class', 'laptop', 23),
    entry('person', 'bob', 24),
    entry('endpoint', 'e9', 25),
  ] as never);
  const asked = [
    [{}, 20],
    [{ location: 'quay' }, 21],
    [{ groups: ['staff', 'night'] }, 22],
    [{ deviceClass: 'laptop' }, 23],
    [{ person: 'bob' }, 24],
    [{ endpoint: 'e9' }, 25],
    [{ person: 'eve', endpoint: 'e3' }, 20],
  ] as const;
  test('are those of whoever asks, in whatever order they are asked for, the first time and after many', () => {
    for (const order of [asked, [...asked].reverse()]) {
      const resolved = new Resolved(entries);
      for (let round = 0; round < 40; round++)
        for (const [more, value] of order) expect(resolved.of({ ...subject, ...more } as never)['picture.frameCap']).toBe(value);
    }
  });
  test('are worked out once for all whom nothing tells apart, and anew where anything does', () => {
    const resolved = new Resolved(entries);
    const before = resolved.of(subject);
    expect(resolved.of({ ...subject, person: 'eve', endpoint: 'e3' })).toBe(before);
    for (const more of [
      { location: 'pier' },
      { deviceClass: 'kiosk' },
      { groups: ['others'] },
      { ownership: 'personal' },
      { lineKind: '4g' },
      { metered: !subject.metered },
      { clientKind: 'browser' },
      { guest: !subject.guest },
      { inside: !subject.inside },
    ]) {
      expect([more, resolved.of({ ...subject, ...more } as never) === before]).toEqual([more, false]);
      expect(resolved.of({ ...subject })).toBe(before);
    }
    expect(resolved.of({ ...subject, person: 'bob' })).not.toBe(before);
  });
});
