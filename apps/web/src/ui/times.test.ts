import { expect, test } from '@jest/globals';
import { clockThere, inThousands, localeOf, moment, momentAt } from './times.js';

test('the region of the first language that has one is taken, the language stays English', () => {
  expect([['de-AT', 'en-US'], ['de', 'en-US'], ['fr'], [], ['not a language', 'pl-PL']].map(localeOf)).toEqual([
    'en-AT',
    'en-US',
    'en-GB',
    'en-GB',
    'en-PL',
  ]);
});

test('the clock of a place is told where it is another than the reader’s', () => {
  // tests run in UTC; in November Oslo is an hour ahead, London is not
  const at = Date.UTC(2026, 10, 27, 3, 21);
  expect([clockThere(at, 'Europe/Oslo'), clockThere(at, 'Europe/London'), clockThere(at, 'UTC')]).toEqual(['04:21', null, null]);
  expect(clockThere(Date.UTC(2026, 10, 27, 23, 30), 'Europe/Oslo')).toBe('00:30');
  expect(moment(at)).toContain('03:21');
  expect(momentAt(at, 'UTC')).toBe(moment(at));
  expect(momentAt(at, 'Europe/Oslo')).toBe(`${moment(at)} (04:21 there)`);
});

test('thousands are parted', () => {
  expect([0, 999, 1000, 1234567, -4000].map(inThousands)).toEqual(['0', '999', '1\u202f000', '1\u202f234\u202f567', '-4\u202f000']);
});
