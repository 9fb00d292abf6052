import { expect, test } from '@jest/globals';
import { commandLine } from './commandLine.js';

const demo = new URL('../../../demo/saltmarsh', import.meta.url).pathname;
const told = async (...args: string[]) => JSON.parse(await commandLine([...args, '--json'])) as Record<string, never>;

test('before is what evaluate counts, and all crossings are counted once', async () => {
  const impact = (await told('impact', demo, '--set', 'security.personalDevices=refused', '--layer', 'organisation')) as unknown as {
    evaluated: number;
    better: number;
    worse: number;
    unchanged: number;
    before: Record<string, number>;
    after: Record<string, number>;
    worst: { crossing: string; change: string }[];
  };
  const { counts } = (await told('evaluate', demo)) as unknown as { counts: Record<string, number> };
  expect(impact.before).toEqual(counts);
  const sum = (each: Record<string, number>) => Object.values(each).reduce((a, b) => a + b, 0);
  expect([sum(impact.before), sum(impact.after), impact.better + impact.worse + impact.unchanged]).toEqual(Array(3).fill(impact.evaluated));
  expect(impact.worst[0]?.crossing).toMatch(/^[^~]+~[^~]+~[^~]+$/);
  expect(impact.after.blocked).toBeGreaterThan(impact.before.blocked ?? 0);
}, 60_000);

test.each<[string, string, RegExp]>([
  ['picture.frameCap', 'organisation', /--set: “picture.frameCap” is not KEY=VALUE/],
  ['picture.nothing=1', 'organisation', /there is no setting “picture.nothing”/],
  ['picture.frameCap=fast', 'organisation', /picture.frameCap/],
  ['picture.frameCap=', 'organisation', /“” is no value of it/],
  ['picture.frameCap=500', 'organisation', /5 to 120/],
  ['media.videoOffload=perhaps', 'organisation', /“perhaps” is no value of it/],
  ['picture.codec=mystery', 'organisation', /picture.codec/],
  ['picture.frameCap=60', 'planet', /“planet” is not one of organisation, device class/],
  ['picture.frameCap=60', 'location', /say which location, such as location:ID/],
  ['picture.frameCap=60', 'location:nowhere', /no location has the id “nowhere”/],
  ['picture.frameCap=60', 'device-class:phone', /no device class has the id “phone”/],
  ['picture.frameCap=60', 'organisation:other', /the organisation is one/],
])('%s at %s is refused', async (set, layer, says) => {
  await expect(commandLine(['impact', demo, '--set', set, '--layer', layer])).rejects.toThrow(says);
});

test('every layer, and every type of setting, is read', async () => {
  for (const [set, layer] of [
    ['media.videoOffload=on', 'endpoint:WEX-TC-001'],
    ['redirection.devices=scanner,-printer', 'person:P136'],
    ['picture.heldHeight=1080', 'device-class:thin-client'],
    ['client.versionFloor=4.9', 'location:wexcombe'],
  ] as const)
    expect((await told('impact', demo, '--set', set, '--layer', layer)).evaluated).toBe(1127);
}, 60_000);

test('two crossings are compared: the line explains most of what Wexcombe lacks', async () => {
  const { differences } = (await told(
    'compare',
    demo,
    '--a',
    'P136~WEX-TC-020~timetable',
    '--b',
    'P197~SAN-TC-001~counter',
  )) as unknown as {
    differences: { fact: string; a: unknown; b: unknown; explains: number }[];
  };
  expect(differences[0]?.explains).toBeGreaterThan(0.5);
  expect(differences.map(({ fact }) => fact)).toContain('endpoint.screens');
  await expect(commandLine(['compare', demo, '--a', 'P136~WEX-TC-020~timetable'])).rejects.toThrow('--b: is missing');
  await expect(commandLine(['compare', demo, '--a', 'x', '--b', 'y'])).rejects.toThrow('no crossing is called “x”');
}, 60_000);
