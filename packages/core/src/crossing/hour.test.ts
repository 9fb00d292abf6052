import { describe, expect, test } from '@jest/globals';
import { small } from '../../test/small.js';
import { shippedAssumed } from '../assumed/index.js';
import { rateShareAt, workingDay } from '../day/index.js';
import { activityHere, busiestHours, localHour, othersIn, takenHour } from './hour.js';

const at = (more: object) => small({ location: { timeZone: 'UTC', ...more } }).location;
const hours = (more: object, kind: 'fibre' | '4g') =>
  busiestHours(at(more), kind, shippedAssumed).map(({ hour, activity }) => [hour, activity]);

describe('the hours in which a line may give least', () => {
  test('of a line that is nobody else’s the busiest alone; of one of a neighbourhood that of the evening too, which comes last', () => {
    // from 9 on all are there; at 17 seven tenths of them, and 4G gives 0.65 of its rate instead of 0.75
    expect(hours({}, 'fibre')).toEqual([[9, 1]]);
    expect(hours({}, '4g')).toEqual([
      [9, 1],
      [17, 0.7],
    ]);
    expect(hours({ worksFrom: '00:00', worksTo: '00:00' }, '4g')).toEqual([[19, 1]]);
    expect(hours({ worksFrom: '12:00', worksTo: '22:00' }, '4g')).toEqual([[19, 1]]);
    // on a line of one’s own nobody else is there at any hour
    expect(hours({ kind: 'home', ownLines: true }, '4g')).toEqual([[17, 1]]);
    expect(hours({ kind: 'home', ownLines: true }, 'fibre')).toEqual([[8, 1]]);
  });
  test('none of the working day is worse than one of them, whenever it is', () => {
    for (const kind of ['fibre', 'cable', '4g', 'leo-satellite'] as const)
      for (let from = 0; from < 24; from++)
        for (const length of [1, 4, 8, 13, 24]) {
          const clock = (hour: number) => `${String(hour % 24).padStart(2, '0')}:00`;
          const place = at({ worksFrom: clock(from), worksTo: clock(from + length) });
          const { evening } = shippedAssumed.lines[kind];
          const found = busiestHours(place, kind, shippedAssumed);
          const of = (hour: number) => [activityHere(place, hour, shippedAssumed), rateShareAt(evening, hour)] as const;
          for (const hour of workingDay(place, shippedAssumed.day).hours) {
            const [activity, share] = of(hour);
            expect([kind, from, length, hour, found.some((one) => of(one.hour)[0] >= activity && of(one.hour)[1] <= share)]).toEqual([
              ...[kind, from, length, hour, true],
            ]);
          }
          // and of them none is worse than another
          for (const one of found)
            for (const other of found)
              if (one !== other) expect(of(one.hour)[0] >= of(other.hour)[0] && of(one.hour)[1] <= of(other.hour)[1]).toBe(false);
          expect(found.map(({ hour }) => of(hour)[1])).toEqual(found.map(({ hour }) => of(hour)[1]).sort((a, b) => b - a));
          for (const { hour, activity } of found) expect(activity).toBe(of(hour)[0]);
        }
  });
  test('the same place is looked through once, for each kind of line and each set of assumptions', () => {
    const place = at({});
    expect(busiestHours(place, '4g', shippedAssumed)).toBe(busiestHours(at({}), '4g', shippedAssumed));
    const other = { ...shippedAssumed, people: { ...shippedAssumed.people, last: 1 } };
    expect(busiestHours(place, '4g', other).map(({ hour }) => hour)).toEqual([17]);
    expect(busiestHours(place, '4g', shippedAssumed)).toHaveLength(2);
  });
});

test('the others in an hour in which a part of them is active', () => {
  const others = { count: 4, activeShare: 0.5, activeLow: 0.4, activeHigh: 0.8, meanMbps: 1, sdMbps: 1, upMeanMbps: 1, upSdMbps: 1 };
  expect(othersIn(others, 1)).toBe(others);
  expect(othersIn({ ...others, count: 0 }, 0.5)).toMatchObject({ activeShare: 0.5 });
  const half = othersIn(others, 0.5);
  expect(half).toEqual({ ...others, activeShare: 0.25, activeLow: 0.2, activeHigh: 0.4 });
  expect(othersIn(others, 0.5)).toBe(half);
  expect(othersIn(others, 0.25).activeShare).toBe(0.125);
});

test('the hour of a clock there at which something was measured', () => {
  const taken = { value: 1, at: '2026-11-25T09:30:00Z', by: '', note: '', samples: 1 };
  expect([localHour(taken, 'UTC'), localHour(taken, 'Asia/Kathmandu'), localHour(taken, 'UTC')]).toEqual([9.5, 15.25, 9.5]);
  const evening = shippedAssumed.lines['4g'].evening;
  const place = at({});
  // on a line of one’s own, and of what is supposed, it does not matter: as if it were then
  expect([
    takenHour(taken, evening, place, 20),
    takenHour(taken, null, place, 20),
    takenHour({ ...taken, at: '' }, evening, place, 20),
  ]).toEqual([...[9.5, 20, 20]]);
});
