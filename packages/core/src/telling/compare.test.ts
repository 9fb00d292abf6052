import { expect, test } from '@jest/globals';
import { small, type Otherwise } from '../../test/small.js';
import { computeFigures } from '../crossing/index.js';
import { viewOf } from './index.js';

/** The verdicts of the rows of the comparison, by name. */
const rows = (otherwise: Otherwise) =>
  Object.fromEntries(viewOf(small(otherwise), false).compare.map(({ name, verdict }) => [name, verdict]));
const calls = { resource: { calls: true }, settings: { 'media.callOffload': true } };

test('a figure whose interval lies across what is wanted is not told Clear', () => {
  // none of 40 datagrams lost may be 8.8 %: the figure itself is the best there is, and a call would not stand it
  const few = { ...calls, measured: { upMbps: 19, datagrams: { passes: true, sent: 40, lost: 0 }, addedDownMs: 0, addedUpMs: 0 } };
  expect(computeFigures(small(few)).aspects.voice).toBe('unknown');
  expect(rows(few)['Voice quality']).toBe('unknown');
  // a way that nobody measured
  const never = { ...calls, measured: { upMbps: 19 }, location: { delayMs: undefined } };
  expect(computeFigures(small(never)).aspects.delay).toBe('unknown');
  expect(rows(never)).toMatchObject({ 'Key press to pixel': 'unknown' });
});

test('a line of unknown rate is not said to carry what is needed', () => {
  expect(rows({ measured: {}, location: { downMbps: undefined, upMbps: undefined } })).toMatchObject({
    'Bandwidth needed': 'unknown',
    'Frame rate': 'unknown',
  });
});

test('each row says what the crossing is judged by', () => {
  expect(rows({ ...calls, endpoint: { alwaysOn: true } })).toEqual({
    'Key press to pixel': 'clear',
    'Frame rate': 'clear',
    'Bandwidth needed': 'clear',
    'Voice quality': 'clear',
    'Time until usable': 'clear',
    'Text sharpness': 'clear',
  });
  expect(rows({ location: { downMbps: 0.4 } })).toMatchObject({ 'Bandwidth needed': 'limited' });
  expect(rows({ location: { delayMs: 400 } })).toMatchObject({ 'Key press to pixel': 'limited' });
});
