import { expect, test } from '@jest/globals';
import { lately } from '../src/demo.js';

const csv = 'id,at,by\nM1,2026-11-02T08:07:00Z,field check\nM2,2026-11-21T09:20:00Z,"2026-11-21T09:20:00Z"\n';
const at = (now: string) =>
  lately(csv, Date.parse(now))
    .split('\n')
    .slice(1, 3)
    .map((line) => line.split(',')[1]);

test('the demo was measured lately, whenever it is started: by whole weeks, so that day and hour stay', () => {
  expect(at('2026-11-28T09:19:59Z')).toEqual(['2026-11-02T08:07:00Z', '2026-11-21T09:20:00Z']);
  expect(at('2026-11-28T09:20:00Z')).toEqual(['2026-11-09T08:07:00Z', '2026-11-28T09:20:00Z']);
  expect(at('2027-11-21T00:00:00Z')).toEqual(['2027-11-01T08:07:00Z', '2027-11-20T09:20:00Z']);
  expect(at('2025-01-01T00:00:00Z')).toEqual(['2026-11-02T08:07:00Z', '2026-11-21T09:20:00Z']);
  // what stands in another column is nobody's time
  expect(lately(csv, Date.parse('2026-11-28T09:20:00Z'))).toContain('"2026-11-21T09:20:00Z"');
});
