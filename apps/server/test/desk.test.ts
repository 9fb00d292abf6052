import { expect, test } from '@jest/globals';
import type { Applied, ConfigFile, DeskAnswer, DeskSessions, Screen } from '@underpass/contracts';
import { sumOf } from '@underpass/core';
import { withDemo } from './withDemo.js';

const demo = withDemo(48_900);

const get = async <T>(path: string) => (await demo.server.call(path, { cookie: demo.engineer })).body as T;
const desk = (id: string) => get<DeskAnswer>(`bringup/endpoints/${id}/desk`);
const sessions = async (id: string, screens: Screen[], cookie = demo.reader) =>
  (await demo.server.call(`bringup/endpoints/${id}/desk/sessions`, { method: 'POST', cookie, body: { screens } })).body as DeskSessions;
const keep = async (id: string, body: object, cookie = demo.engineer) => {
  const { status, body: answer } = await demo.server.call(`bringup/endpoints/${id}/desk`, { method: 'PUT', cookie, body });
  return { status, body: answer as Applied & { detail: string } };
};
const file = async (id: string) => (await get<{ object: ConfigFile }>(`estate/configFile/${id}`)).object;
const uhd = (more: Partial<Screen> = {}): Screen => ({ widthPx: 3840, heightPx: 2160, refreshHz: 60, scale: 1, ...more });

test('a desk with what it is held against; one that nobody uses too', async () => {
  expect(await desk('HO-013')).toMatchObject({
    ...{ clientKind: 'thin-client firmware', platform: 'thin', known: true, oneScale: false, measured: null },
    screens: [{ widthPx: 3840, heightPx: 2160, port: 'hdmi-1.4' }],
    file: { id: 'HO-013', text: '', there: false },
  });
  expect((await desk('HO-013')).work).not.toBeNull();
  expect(await desk('MAR-TC-014')).toMatchObject({ person: null, work: null });
  expect((await demo.server.call('bringup/endpoints/nobody/desk', { cookie: demo.reader })).status).toBe(404);
});

test('what a session gets, with each kind of client: the limits of each, and what passes', async () => {
  const { sessions: rows } = await sessions('HO-013', [
    uhd({ port: 'hdmi-1.4' }),
    uhd({ port: 'dp-hbr2', x: 3840, y: 0 }),
    uhd({ mirrors: true }),
  ]);
  const of = (kind: string) => rows.find(({ clientKind }) => clientKind === kind)!;
  expect(of('browser')).toMatchObject({ left: 1, leftBecause: 'client', screens: [{ refreshHz: 30 }] });
  expect(of('thin-client firmware')).toMatchObject({ left: 0, pixels: 2 * 3840 * 2160, screens: [{ refreshHz: 30 }, { refreshHz: 60 }] });
  // more pixels ask more of the line
  expect(of('native client').demand!.meanMbps).toBeGreaterThan(of('browser').demand!.meanMbps);
  expect((await sessions('MAR-TC-014', [uhd()])).sessions.every(({ demand }) => demand === null)).toBe(true);
  const many = await demo.server.call('bringup/endpoints/HO-013/desk/sessions', {
    method: 'POST',
    cookie: demo.reader,
    body: { screens: Array(17).fill(uhd()) },
  });
  expect(many.status).toBe(400);
});

test('it is noted with its file as one change, keeps what else is in the file, and is taken back in one step', async () => {
  const before = await file('MAR-TC-020');
  const screens = [uhd({ x: 0, y: 0, primary: true }), uhd({ x: 0, y: -2160 })];
  const kept = await keep('MAR-TC-020', { screens, file: true });
  expect(kept.status).toBe(200);
  const after = await file('MAR-TC-020');
  expect(after.text).toBe(
    `${before.text}\n[screens]\nlayout = extend\nscreen1 = 3840x2160@60 +0+0 primary\nscreen2 = 3840x2160@60 +0-2160\n`,
  );
  expect(after.sha256).toBe(sumOf(after));
  expect((await desk('MAR-TC-020')).screens).toEqual(screens);
  await demo.server.call(`changes/${kept.body.changeId}/undo`, { method: 'POST', cookie: demo.engineer });
  expect(await file('MAR-TC-020')).toEqual(before);
  expect((await desk('MAR-TC-020')).screens).not.toEqual(screens);
  // one that had no file gets one
  await keep('HO-013', { screens: [uhd()], file: true });
  expect(await file('HO-013')).toMatchObject({
    layer: 'endpoint',
    target: 'HO-013',
    text: '[screens]\nlayout = extend\nscreen1 = 3840x2160@60 +0+0 primary\n',
  });
});

test('what cannot be is refused and changes nothing', async () => {
  const seen = (await desk('HO-001')).version;
  expect((await keep('HO-001', { screens: [uhd()] }, demo.reader)).status).toBe(403);
  expect((await keep('HO-001', { screens: [{ ...uhd(), turned: 45 }] })).status).toBe(400);
  expect((await keep('HO-001', { screens: [uhd()], more: 1 })).status).toBe(400);
  expect((await keep('nobody', { screens: [uhd()] })).status).toBe(404);
  // a section that somebody switched off is not written into unseen
  await demo.server.call('estate/configFile/HO-001', {
    method: 'PUT',
    cookie: demo.engineer,
    headers: { 'if-none-match': '*' },
    body: { id: 'HO-001', layer: 'endpoint', target: 'HO-001', text: ';[screens]\n;layout = extend\n' },
  });
  const off = await keep('HO-001', { screens: [uhd()], file: true });
  expect([off.status, off.body.detail]).toEqual([422, 'HO-001: section screens is switched off; switch it on first.']);
  // what somebody else wrote meanwhile is not overwritten
  await keep('HO-001', { screens: [uhd({ scale: 2 })] });
  expect((await keep('HO-001', { screens: [uhd()], seen })).status).toBe(409);
  expect((await desk('HO-001')).screens).toEqual([uhd({ scale: 2 })]);
});
