import { expect, test } from '@jest/globals';
import { figuresOf } from './figures.js';

const german = figuresOf('en-DE');
const british = figuresOf('en-GB');

test('figures have the point of the reader’s region', () => {
  expect([british.fixed(4.25, 1), german.fixed(4.25, 1), german.fixed(1234.5, 2), german.fixed(3, 0)]).toEqual([
    '4.3',
    '4,3',
    '1234,50',
    '3',
  ]);
  expect([german.fixed(4, 3, 0), german.fixed(4.5, 3, 0)]).toEqual(['4', '4,5']);
});

test.each([
  ['needs 2.6 Mbit/s, gets 0.95 Mbit/s', 'needs 2,6 Mbit/s, gets 0,95 Mbit/s'],
  ['Usable after 4.2 to 5.1 s, wanted 45', 'Usable after 4,2 to 5,1 s, wanted 45'],
  ['loses 3.8 packets in 100', 'loses 3,8 packets in 100'],
  ['2.5 % of it, 0.56× left', '2,5 % of it, 0,56× left'],
  ['Voice 3.9 of 5', 'Voice 3,9 of 5'],
  ['gets 4.5 Mbit/s.', 'gets 4,5 Mbit/s.'],
  ['longest: first useful picture, 8.6 s', 'longest: first useful picture, 8,6 s'],
  // what is no figure stays
  ['version 3.4 of the client', 'version 3.4 of the client'],
  ['client 9.9 is older than 10.1', 'client 9.9 is older than 10.1'],
  ['3.4.1 s', '3.4.1 s'],
  ['192.0.2.1 ms', '192.0.2.1 ms'],
  ['h264 5.2', 'h264 5.2'],
  ['hall-2.5 ms', 'hall-2.5 ms'],
])('%s', (text, told) => {
  expect(german.regional(text)).toBe(told);
  expect(british.regional(text)).toBe(text);
});

test('whatever holds sentences is rewritten through and through, and nothing else of it', () => {
  const view = { text: '2.5 ms', rows: [{ detail: '1.5 s', value: 1.5, none: null }], on: true };
  expect(german.regional(view)).toEqual({ text: '2,5 ms', rows: [{ detail: '1,5 s', value: 1.5, none: null }], on: true });
  expect(british.regional(view)).toBe(view);
});
