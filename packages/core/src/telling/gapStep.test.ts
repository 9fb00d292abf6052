import { expect, test } from '@jest/globals';
import { small } from '../../test/small.js';
import type { GapAct, GapStep } from '../tally/index.js';
import { tellGapStep } from './gapStep.js';

const { model } = small().reader;
const act = (way: GapAct['way'], kind: GapAct['kind'], id: string, times = 1, hour: number | null = null): GapAct => ({
  way,
  kind,
  id,
  times,
  hour,
  endpoints: [],
});
const told = (...acts: GapAct[]) => tellGapStep({ acts, location: null, crossings: 1, people: 1, minutes: 1 } satisfies GapStep, model);

test.each([
  [[act('field check', 'location', 'hall')], 'One field check at Hall'],
  [[act('field check', 'location', 'hall', 1, 19)], 'One field check at Hall, about 19:00'],
  [[act('field check', 'location', 'hall', 3, 7)], 'A field check on each of 3 endpoints at Hall, about 07:00'],
  [[act('report of the hosts', 'pool', 'pool')], 'A report of the hosts of Pool'],
  [[act('look at the gateway', 'gateway', 'gate')], 'A look at Gate'],
  [[act('look at the device', 'location', 'hall')], 'A look at one device at Hall'],
  [[act('look at the device', 'location', 'hall', 2)], 'A look at each of 2 devices at Hall'],
  [[act('timed sign-in', 'location', 'hall')], 'One timed sign-in at Hall'],
  [[act('timed sign-in', 'location', 'hall', 2)], 'A timed sign-in on each of 2 endpoints at Hall'],
  [[act('ask for what is assumed', 'location', 'hall')], 'One question about Hall'],
  [
    [act('field check', 'location', 'hall'), act('report of the hosts', 'pool', 'pool')],
    'One field check at Hall, and a report of the hosts of Pool',
  ],
  [
    [act('field check', 'location', 'hall'), act('look at the gateway', 'gateway', 'gate'), act('report of the hosts', 'pool', 'gone')],
    'One field check at Hall, a look at Gate, and a report of the hosts of gone',
  ],
])('%#: %s', (acts, text) => {
  expect(told(...acts)).toBe(text);
});
