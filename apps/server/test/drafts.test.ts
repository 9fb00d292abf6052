import { describe, expect, test } from '@jest/globals';
import type {
  Applied,
  Change,
  ComparedDrafts,
  DraftApplied,
  DraftAtPlace,
  DraftView,
  SettingPlaces,
  SettingsOf,
} from '@underpass/contracts';
import { explainSetting, indexSettings } from '@underpass/core';
import { holdVerdicts } from './server.js';
import { withDemo } from './withDemo.js';

const demo = withDemo(49_700);

const get = async <T>(path: string, cookie = demo.reader) => (await demo.server.call(path, { cookie })).body as T;
const send = async <T>(method: string, path: string, body: object, cookie = demo.engineer) => {
  const { status, body: answer } = await demo.server.call(path, { method, cookie, body });
  return { status, body: answer as T & { detail: string; fields?: { field: string }[] } };
};
const to = (key: string, value: unknown, layer = 'organisation', target = '*'): Change => ({
  patches: [{ do: 'setting', key, layer, target, value } as Change['patches'][number]],
  hypotheses: [],
});
const draft = async (name: string, change: Change): Promise<DraftView> => {
  const { status, body } = await send<{ id: string }>('POST', 'drafts', { name, change });
  expect(status).toBe(201);
  return get<DraftView>(`drafts/${body.id}`);
};
const valueOf = ({ subject, entries }: SettingsOf, key: 'picture.frameCap' | 'session.idleMinutes') =>
  explainSetting(indexSettings(entries.map(({ entry }) => entry)), key, subject).value;

describe('a draft that is worked on', () => {
  const wish = to('picture.frameCap', 60);

  test('is written again over what was seen; two who do do not overwrite each other', async () => {
    const kept = await draft('Sixty frames', wish);
    const more = { patches: [...wish.patches, ...to('picture.codec', 'hevc', 'location', 'brack').patches], hypotheses: [] };
    const second = await send<DraftView>('PUT', `drafts/${kept.id}`, { change: more, seen: kept.updatedAt });
    expect([second.status, second.body.change.patches.length]).toEqual([200, 2]);
    const late = await send('PUT', `drafts/${kept.id}`, { name: 'Mine', seen: kept.updatedAt });
    expect(late.status).toBe(409);
    expect((await get<DraftView>(`drafts/${kept.id}`)).name).toBe('Sixty frames');
    expect((await send('PUT', `drafts/${kept.id}`, { name: 'x', seen: second.body.updatedAt }, demo.reader)).status).toBe(403);
    expect((await send('PUT', `drafts/${kept.id}`, { change: { patches: [], hypotheses: [] }, seen: second.body.updatedAt })).status).toBe(
      422,
    );
  });

  test('is dropped as it was seen, also one whose time has more digits than are told', async () => {
    const kept = await draft('Of another day', wish);
    await demo.sql.query(
      "UPDATE draft SET updated_at = date_trunc('milliseconds', updated_at) + interval '123 microseconds' WHERE id = $1",
      [kept.id],
    );
    const { updatedAt } = await get<DraftView>(`drafts/${kept.id}`);
    const drop = (seen: string) => demo.server.call(`drafts/${kept.id}?seen=${seen}`, { method: 'DELETE', cookie: demo.engineer });
    expect((await drop('2026-01-01T00:00:00.000Z')).status).toBe(409);
    expect((await drop(updatedAt)).status).toBe(204);
    expect((await demo.server.call(`drafts/${kept.id}`, { cookie: demo.reader })).status).toBe(404);
  });

  test('shows what somebody changed meanwhile, and rests on it once refreshed', async () => {
    const kept = await draft('Cap', to('picture.frameCap', 55, 'location', 'gullsey'));
    await send('POST', 'changes', { change: to('picture.frameCap', 33, 'location', 'gullsey'), summary: 'Meanwhile' });
    const then = await get<DraftView>(`drafts/${kept.id}`);
    expect(then.conflicts[0]?.text).toMatch(/value was nothing and is 33 now/);
    const unseen = await send('POST', `drafts/${kept.id}/apply`, { seen: then.updatedAt });
    expect([unseen.status, unseen.body.detail]).toEqual([
      409,
      expect.stringMatching(/value was nothing and is 33 now\. Nothing was overwritten/),
    ]);
    const { body } = await send<DraftView>('POST', `drafts/${kept.id}/refresh`, { seen: then.updatedAt });
    expect(body.conflicts).toEqual([]);
    expect(body.change.patches[0]).toMatchObject({ value: 55, was: 33 });
    expect((await send('POST', `drafts/${kept.id}/apply`, { seen: body.updatedAt })).status).toBe(200);
  });

  test('is held against another, field by field', async () => {
    const [a, b] = [
      await draft('A', to('picture.frameCap', 24, 'location', 'brack')),
      await draft('B', to('picture.frameCap', 25, 'location', 'brack')),
    ];
    const rows = await get<ComparedDrafts>(`drafts/${a.id}/beside/${b.id}`);
    expect(rows).toMatchObject([{ kind: 'setting', alike: false }]);
    expect((await demo.server.call(`drafts/${a.id}/beside/00000000-0000-7000-8000-000000000000`, { cookie: demo.reader })).status).toBe(
      404,
    );
  });

  const at = async (endpoint = 'HO-001') => valueOf(await get<SettingsOf>(`settings/of?endpoint=${endpoint}`), 'picture.frameCap');
  const place = (target: string) => ({ layer: 'location' as const, target });
  const preview = (id: string, target: string) => get<DraftAtPlace>(`drafts/${id}/at?layer=location&target=${target}`);

  test('applied at one place alone, taken back, and applied again; what is in force is told right after', async () => {
    const kept = await draft('Sixty frames at one place', wish);
    const write = async <T>(path: string, body: object) =>
      (await demo.server.call(path, { method: 'POST', cookie: demo.engineer, body, waits: false })).body as T;
    for (let n = 0; n < 2; n++) {
      const { version } = await preview(kept.id, 'head-office');
      // what is in force does not wait for verdicts
      const letCome = holdVerdicts(demo.server);
      try {
        const applied = await write<DraftApplied>(`drafts/${kept.id}/apply`, {
          seen: kept.updatedAt,
          narrow: { ...place('head-office'), version },
        });
        expect([applied.left, await at()]).toEqual([0, 60]);
        expect(await at('CD-002')).toBe(30);
        const { entries } = await get<SettingPlaces>('settings/places/picture.frameCap');
        expect(entries).toContainEqual(expect.objectContaining({ where: 'Location Head office' }));
        if (n === 0) await write(`changes/${applied.changeId}/undo`, {});
        expect(await at()).toBe(n === 0 ? 30 : 60);
      } finally {
        await letCome();
      }
    }
    expect((await send('POST', `drafts/${kept.id}/apply`, { seen: '2026-01-01T00:00:00.000Z' })).status).toBe(409);
  });

  test('at one place: what stands there is shown, and what somebody wrote since is not overwritten unseen', async () => {
    const kept = await draft('Sixty frames at the shed', wish);
    const write = (value: number) =>
      send<Applied>('POST', 'changes', { change: to('picture.frameCap', value, 'location', 'brack'), summary: `${value} at the shed` });
    expect(await preview(kept.id, 'brack')).toMatchObject({
      ...{ steps: 1, left: 0, replaced: [] },
      change: { patches: [{ do: 'setting', key: 'picture.frameCap', ...place('brack'), value: 60 }] },
    });
    await write(20);
    const seen = await preview(kept.id, 'brack');
    expect(seen.replaced).toMatchObject([
      { entry: { value: 20, target: 'brack' }, becomes: { value: 60 }, written: { by: 'Ines Farrow' } },
    ]);
    await write(21);
    const apply = (version: number) =>
      send<DraftApplied>('POST', `drafts/${kept.id}/apply`, { seen: kept.updatedAt, narrow: { ...place('brack'), version } });
    const unseen = await apply(seen.version);
    expect([unseen.status, unseen.body.detail]).toEqual([
      409,
      expect.stringMatching(/was changed since you saw it. Nothing was overwritten/),
    ]);
    const entries = async () => (await get<SettingPlaces>('settings/places/picture.frameCap')).entries.map(({ entry }) => entry);
    expect(await entries()).toContainEqual(expect.objectContaining({ target: 'brack', value: 21 }));
    const { version, replaced } = await preview(kept.id, 'brack');
    expect(replaced).toMatchObject([{ entry: { value: 21 } }]);
    expect((await apply(version)).status).toBe(200);
    expect(await entries()).toContainEqual(expect.objectContaining({ target: 'brack', value: 60 }));
    // as it is wanted already: nothing would be replaced, and nothing is left to do
    expect(await preview(kept.id, 'brack')).toMatchObject({ steps: 0, replaced: [] });
    expect((await demo.server.call(`drafts/${kept.id}/at?layer=location&target=nowhere`, { cookie: demo.reader })).status).toBe(422);
  });

  test('at one place: a step that is of that place already rests on what the draft knew', async () => {
    const kept = await draft('Fifty there', to('picture.frameCap', 50, 'location', 'gullsey'));
    await send('POST', 'changes', { change: to('picture.frameCap', 44, 'location', 'gullsey'), summary: 'Meanwhile' });
    const { version } = await preview(kept.id, 'gullsey');
    const { status, body } = await send('POST', `drafts/${kept.id}/apply`, {
      seen: kept.updatedAt,
      narrow: { ...place('gullsey'), version },
    });
    expect([status, body.detail]).toEqual([409, expect.stringMatching(/is 44 now\. Nothing was overwritten/)]);
    for (const wrong of ['layer=location', 'layer=attic&target=brack', 'target=brack', 'layer=location&target=brack&more=1'])
      expect([wrong, (await demo.server.call(`drafts/${kept.id}/at?${wrong}`, { cookie: demo.reader })).status]).toEqual([wrong, 400]);
    // a lock farther out leaves it without effect
    const object = { id: 'held', key: 'picture.frameCap', layer: 'organisation', target: '*', value: 24, locked: true };
    const held: Change = { patches: [{ do: 'create', kind: 'setting', id: 'held', object }], hypotheses: [] };
    const { body: made } = await send<Applied>('POST', 'changes', { change: held, summary: 'Held' });
    expect((await preview(kept.id, 'gullsey')).locked).toMatchObject([
      { entry: { id: 'held', value: 24 }, where: 'The whole organisation', all: true },
    ]);
    await send('POST', `changes/${made.changeId}/undo`, {});
    expect((await preview(kept.id, 'gullsey')).locked).toEqual([]);
    // what is of another place is left out
    expect(await preview(kept.id, 'brack')).toMatchObject({ steps: 0, left: 1, replaced: [] });
  });

  test('one that shuts people out wants a reason, and keeps it', async () => {
    const kept = await draft('Straight', to('transport.wayIn', 'straight', 'location', 'home'));
    const without = await send('POST', `drafts/${kept.id}/apply`, { seen: kept.updatedAt });
    expect([without.status, without.body.detail, without.body.fields?.[0]?.field]).toEqual([
      422,
      expect.stringMatching(/shuts out \d+ crossings/),
      'reason',
    ]);
    expect(valueOf(await get<SettingsOf>('settings/of?endpoint=CD-002'), 'session.idleMinutes')).toBe(1440);
    const with_ = await send<DraftApplied>('POST', `drafts/${kept.id}/apply`, {
      seen: kept.updatedAt,
      reason: 'the gateway is rebuilt tonight',
    });
    expect(with_.status).toBe(200);
    const [latest] = await get<{ summary: string; changeId: string }[]>('changes');
    expect(latest?.summary).toBe('Straight: the gateway is rebuilt tonight');
    await send('POST', `changes/${with_.body.changeId}/undo`, {});
  });

  test('whom it shuts out is asked of what is written, though verdicts are still those from before', async () => {
    const kept = await draft('Straight again', to('transport.wayIn', 'straight', 'location', 'home'));
    // shut out already: nobody more is, and it could be applied without a reason
    const shut = await send<Applied>('POST', 'changes', { change: kept.change, summary: 'Shut' });
    const letCome = holdVerdicts(demo.server);
    const post = async (path: string, body: object) =>
      (await demo.server.call(path, { method: 'POST', cookie: demo.engineer, body, waits: false })).body as { detail?: string };
    await post(`changes/${shut.body.changeId}/undo`, {});
    const applying = post(`drafts/${kept.id}/apply`, { seen: kept.updatedAt });
    // long enough to answer without them
    const soon = await Promise.race([applying, new Promise((done) => setTimeout(done, 300, 'waits'))]);
    await letCome();
    expect(soon).toBe('waits');
    expect((await applying).detail).toMatch(/shuts out \d+ crossings/);
  });
});
