import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { makeDatabase, people, startServer, type TestServer } from './server.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
let one: TestServer;
let engineer = '';
beforeAll(async () => {
  database = await makeDatabase('demo');
  one = await startServer(database.url, 48_800);
  engineer = await one.signIn(people.engineer);
}, 60_000);
afterAll(async () => {
  await one.app.close();
  await database.drop();
});

const write = (set: Record<string, unknown>, summary = 'Figures') =>
  one.call('changes', {
    method: 'POST',
    body: { change: { patches: [{ do: 'change', kind: 'organisation', id: 'organisation', set }] }, summary },
    cookie: engineer,
  });
const assumed = async () =>
  ((await one.call('estate/organisation/organisation', { cookie: engineer })).body as { object: { assumed?: object } }).object.assumed;

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
