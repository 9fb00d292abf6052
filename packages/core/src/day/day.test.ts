import { describe, expect, test } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { shippedAssumed } from '../assumed/index.js';
import { between, exact } from '../units/index.js';
import * as day from './index.js';

const { localTime, rateAt, rateShareAt, delayAt } = day;
const { lines, people, day: usual } = shippedAssumed;
const workingDay = (hours: Parameters<typeof day.workingDay>[0]) => day.workingDay(hours, usual);
const activityAt = (of: day.WorkingDay, hour: number) => day.activityAt(of, hour, people);

describe('local time', () => {
  // clock changes of 2026: London 29 March and 25 October, New York 8 March and 1 November; Lord Howe moves by half an hour
  test.each([
    ['Europe/London', '2026-03-29T00:59:00Z'],
    ['Europe/London', '2026-03-29T01:00:00Z'],
    ['Europe/London', '2026-10-25T00:59:00Z'],
    ['Europe/London', '2026-10-25T01:00:00Z'],
    ['America/New_York', '2026-03-08T06:59:00Z'],
    ['America/New_York', '2026-03-08T07:00:00Z'],
    ['America/New_York', '2026-11-01T05:30:00Z'],
    ['Asia/Kathmandu', '2026-07-01T20:00:00Z'],
    ['Australia/Lord_Howe', '2026-04-04T14:45:00Z'],
    ['Australia/Lord_Howe', '2026-04-04T15:45:00Z'],
    ['Pacific/Kiritimati', '2026-12-31T11:00:00Z'],
    ['UTC', '2026-12-31T23:59:00Z'],
  ])('in %s at %s: as the system’s own clock says', (zone, instant) => {
    // oracle: date(1) of the operating system, with the IANA table of Debian’s tzdata
    const told = execFileSync('date', ['-d', instant, '+%a %H %M'], { env: { TZ: zone, LC_ALL: 'C' }, encoding: 'utf8' });
    const [weekday = '', hour, minute] = told.trim().split(' ');
    expect(localTime(Date.parse(instant), zone)).toEqual({
      weekday: weekday.toLowerCase(),
      hour: Number(hour) + Number(minute) / 60,
    });
  });

  test('a zone that this machine does not know is taken as UTC', () => {
    expect(localTime(Date.parse('2026-07-01T12:00:00Z'), 'Nowhere/Land')).toEqual({ weekday: 'wed', hour: 12 });
  });
});

describe('a working day', () => {
  const hours = (worksFrom?: string, worksTo?: string) => workingDay(worksFrom && worksTo ? { worksFrom, worksTo } : {}).hours;
  test('its hours: from the one it begins in to the one it ends in', () => {
    expect(hours('08:30', '11:15')).toEqual([8, 9, 10, 11]);
    expect(hours('08:00', '11:00')).toEqual([8, 9, 10]);
    // past midnight, and around the clock
    expect(hours('22:00', '02:01')).toEqual([22, 23, 0, 1, 2]);
    expect(hours('06:00', '06:00')).toHaveLength(24);
    expect(hours('06:30', '06:10')).toHaveLength(24);
  });
  test('where nobody typed it: from eight to six on five days, and that is said', () => {
    expect(workingDay({})).toEqual({
      hours: [8, 9, 10, 11, 12, 13, 14, 15, 16, 17],
      days: ['mon', 'tue', 'wed', 'thu', 'fri'],
      assumed: true,
    });
    expect(workingDay({ worksFrom: '08:00', worksTo: '18:00', worksOn: ['sat'] })).toMatchObject({ days: ['sat'], assumed: false });
  });
  test('who is active: fewer at first, at last and in the middle, a tenth outside', () => {
    const at = (worksFrom: string, worksTo: string) => {
      const day = workingDay({ worksFrom, worksTo });
      return [7, 8, 9, 12, 13, 17, 18].map((hour) => activityAt(day, hour));
    };
    expect(at('08:00', '18:00')).toEqual([0.1, 0.8, 1, 1, 0.6, 0.7, 0.1]);
    // six hours have no break, seven do: 8 to 14 has its middle at eleven
    expect(activityAt(workingDay({ worksFrom: '08:00', worksTo: '14:00' }), 11)).toBe(1);
    expect(activityAt(workingDay({ worksFrom: '08:00', worksTo: '15:00' }), 11)).toBe(0.6);
    // two hours, and around the clock: as many as ever
    expect(at('08:00', '10:00')).toEqual([0.1, 1, 1, 0.1, 0.1, 0.1, 0.1]);
    expect(at('00:00', '00:00')).toEqual([1, 1, 1, 1, 1, 1, 1]);
  });
});

describe('those with whom a line is shared', () => {
  const mobile = lines['4g'].evening;

  test('a line of one’s own gives the same at any hour', () => {
    const rate = exact(100, 'declared', 'typed');
    for (const kind of ['fibre', 'dsl'] as const) {
      const { evening } = lines[kind];
      expect(evening).toBeNull();
      expect(rateAt(rate, evening, 20, null)).toBe(rate);
      expect(delayAt(rate, evening, 20, 3, 1)).toBe(rate);
      expect(rateShareAt(evening, 20)).toBe(1);
    }
  });
  test('4G declared as 60 is 30 in the evening, between 15 and 45; measured as 30 then it is 45 at noon', () => {
    expect(rateAt(exact(60, 'declared', ''), mobile, 20, null)).toMatchObject({ value: 30, low: expect.closeTo(15, 9), high: 45 });
    // half as much of an evening: 0.875 ÷ 0.75; half as much again: 0.625 ÷ 0.25
    expect(rateAt(exact(30, 'measured', ''), mobile, 12, 20)).toMatchObject({
      value: 45,
      low: expect.closeTo((30 * 0.875) / 0.75, 9),
      high: expect.closeTo((30 * 0.625) / 0.25, 9),
    });
    const noon = exact(30, 'measured', '');
    expect(rateAt(noon, mobile, 12, 9.7)).toBe(noon);
  });
  test('60 ms measured at noon are 75 in the evening, 60 to 82.5; and back, never below what light takes', () => {
    expect(delayAt(exact(60, 'measured', ''), mobile, 20, 12, 5)).toMatchObject({ value: 75, low: 60, high: 82.5 });
    expect(delayAt(between(75, 74, 76, 'measured', ''), mobile, 12, 20, 5)).toMatchObject({ value: 60, low: 51.5, high: 76 });
    expect(delayAt(between(75, 74, 76, 'measured', ''), mobile, 12, 20, 70)).toMatchObject({ value: 70, low: 70, high: 76 });
    // what was measured below that already stands
    expect(delayAt(exact(40, 'measured', ''), mobile, 12, 20, 70)).toMatchObject({ value: 40, low: 40, high: 40 });
  });
});
