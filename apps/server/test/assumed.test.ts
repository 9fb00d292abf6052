import { expect, test } from '@jest/globals';
import { withDemo } from './withDemo.js';

const demo = withDemo(48_800);

const write = (set: Record<string, unknown>, summary = 'Figures') =>
  demo.server.call('changes', {
    method: 'POST',
    body: { change: { patches: [{ do: 'change', kind: 'organisation', id: 'organisation', set }] }, summary },
    cookie: demo.engineer,
  });
const assumed = async () =>
  ((await demo.server.call('estate/organisation/organisation', { cookie: demo.engineer })).body as { object: { assumed?: object } }).object
    .assumed;

test('a figure that is assumed is written by its key, and taken away again', async () => {
  expect((await write({ 'assumed.people/activeHigh': 0.9 })).status).toBeLessThan(300);
  expect((await write({ 'assumed.line/4g/delayLowMs': 45 })).status).toBeLessThan(300);
  expect(await assumed()).toEqual({ 'people/activeHigh': 0.9, 'line/4g/delayLowMs': 45 });
  await write({ 'assumed.people/activeHigh': null, 'assumed.line/4g/delayLowMs': null });
  expect(await assumed()).toEqual({});
});

test.each([
  [{ 'assumed.people/nobody': 1 }, 'no figure that is assumed is called “people/nobody”'],
  [{ 'assumed.people/activeShare': 7 }, '7 is not 0 to 1 of 1'],
  [{ 'assumed.people/activeShare': '0.5' }, 'number'],
  [{ worksFrom: '8 o’clock' }, 'must be a time of day'],
])('%j is refused with the reason, and changes nothing', async (set, problem) => {
  const before = await assumed();
  const { status, body } = await write(set);
  expect([status, JSON.stringify(body)]).toEqual([422, expect.stringContaining(problem)]);
  expect(await assumed()).toEqual(before);
});
