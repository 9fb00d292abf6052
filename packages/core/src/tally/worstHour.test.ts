import { expect, test } from '@jest/globals';
import { counting } from '../../test/counting.js';
import { reached, small, trips } from '../../test/small.js';
import { summariseCrossing } from '../crossing/index.js';
import { BoardTally } from './index.js';
import { HourTally } from './worstHour.js';

test('the hour of most; of equals the earliest; what is taken out again does not count', () => {
  const tally = new HourTally();
  expect(tally.worst()).toBeNull();
  for (const hour of [19, 9, 9, 19, 23]) tally.add(hour, 1);
  expect(tally.worst()).toEqual({ hour: 9, crossings: 2 });
  tally.add(9, -1);
  expect(tally.worst()).toEqual({ hour: 19, crossings: 2 });
});

test('a ship on a satellite is at its worst in the evening, an office on fibre when most work, and a line of one’s own at no hour', () => {
  const hourOf = (location: object, measured: object = {}) =>
    summariseCrossing(
      small({
        location: { delayMs: undefined, ...location },
        measured: { ...reached, roundTrips: trips(120), ...measured },
        resource: { work: 'design' },
      }),
    ).worstHour;
  const ship = { lineKind: 'leo-satellite', worksFrom: '06:00', worksTo: '22:00' };
  expect(hourOf(ship)).toBe(19);
  expect(hourOf({ ...ship, ownLines: true })).toBe(19);
  expect(hourOf({ sharedBy: 40 }, { downMbps: 20 })).toBe(9);
  expect(hourOf({})).toBeNull();
  // around the clock as many are there at any hour
  expect(hourOf({ sharedBy: 40, worksFrom: '00:00', worksTo: '00:00' }, { downMbps: 20 })).toBeNull();
});

test('the Board tells it for each row and for all, and forgets what is Clear', () => {
  const facts = small({
    location: { sharedBy: 40, delayMs: undefined },
    measured: { ...reached, roundTrips: trips(120), downMbps: 20 },
    resource: { work: 'design' },
  });
  const [tally, summary] = [counting(new BoardTally()), summariseCrossing(facts)];
  tally.set(facts.ref, 'Hall', summary);
  const { worstHour, rows } = tally.board(facts.reader.model);
  expect([worstHour, rows[0]?.worstHour]).toEqual([
    { hour: 9, crossings: 1 },
    { hour: 9, crossings: 1 },
  ]);
  tally.set(facts.ref, 'Hall', { ...summary, verdict: 'clear', worstHour: null });
  expect(tally.board(facts.reader.model).worstHour).toBeNull();
});
