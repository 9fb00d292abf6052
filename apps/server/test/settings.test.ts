import { describe, expect, test } from '@jest/globals';
import type {
  Applied,
  CarriedAnswer,
  Change,
  ComparedCrossings,
  ComparedDrafts,
  DraftApplied,
  DraftAtPlace,
  DraftView,
  DuctsAnswer,
  LintAfter,
  LintAnswer,
  NeedlessAnswer,
  Peripheral,
  PluggedAnswer,
  RulesAnswer,
  SettingPlaces,
  SettingsOf,
  SuggestAnswer,
  ValueCosts,
} from '@underpass/contracts';
import { explainSetting, indexSettings } from '@underpass/core';
import { holdVerdicts } from './server.js';
import { withDemo } from './withDemo.js';

const demo = withDemo(49_950);

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

describe('settings in force', () => {
  test('what the layers look at, and who wrote what stands there', async () => {
    const of = await get<SettingsOf>('settings/of?endpoint=WEX-TC-020');
    expect(of.subject).toMatchObject({ deviceClass: 'thin-client', location: 'wexcombe', endpoint: 'WEX-TC-020' });
    expect(of.names.location).toBe('Wexcombe ticket hall');
    expect(of.entries.every(({ written }) => written !== null)).toBe(true);
    expect((await demo.server.call('settings/of?endpoint=nowhere', { cookie: demo.reader })).status).toBe(404);
    expect((await demo.server.call('settings/of?endpoint=WEX-TC-020&person=nobody', { cookie: demo.reader })).status).toBe(404);
    expect((await demo.server.call('settings/of?endpoint=../x', { cookie: demo.reader })).status).toBe(400);
    for (const wrong of ['settings/of', 'settings/of?location=wexcombe&endpoint=WEX-TC-020', 'settings/of?location=wexcombe&person=amos'])
      expect([wrong, (await demo.server.call(wrong, { cookie: demo.reader })).status]).toEqual([wrong, 400]);
  });

  test('of a person alone at the endpoint they use, of a location alone at what most there are', async () => {
    const { subject, names } = await get<SettingsOf>('settings/of?endpoint=HO-002');
    const alone = await get<SettingsOf>(`settings/of?person=${subject.person}`);
    expect([alone.subject.person, alone.names.person, alone.usual]).toEqual([subject.person, names.person, null]);
    const hall = await get<SettingsOf>('settings/of?location=wexcombe');
    expect(hall.subject).toMatchObject({ deviceClass: 'thin-client', location: 'wexcombe', endpoint: '', person: '', groups: [] });
    expect(hall.usual?.alike).toBeGreaterThan((hall.usual?.of ?? 0) / 2);
    expect(hall.entries.every(({ entry }) => ['organisation', 'device class', 'location'].includes(entry.layer))).toBe(true);
    for (const nowhere of ['settings/of?location=nowhere', 'settings/of?person=nobody'])
      expect([nowhere, (await demo.server.call(nowhere, { cookie: demo.reader })).status]).toEqual([nowhere, 404]);
  });

  test('as they were on a past date, also where the endpoint stood elsewhere then', async () => {
    const before = new Date().toISOString();
    await new Promise((done) => setTimeout(done, 20));
    const { body: first } = await send<Applied>('POST', 'changes', {
      change: to('picture.frameCap', 47, 'location', 'wexcombe'),
      summary: 'Faster at the hall',
    });
    const between = new Date().toISOString();
    await new Promise((done) => setTimeout(done, 20));
    await send('POST', 'changes', {
      change: { patches: [{ do: 'change', kind: 'endpoint', id: 'WEX-TC-020', set: { location: 'tolmouth' } }], hypotheses: [] },
      summary: 'Moved',
    });
    const at = (when: string) => get<SettingsOf>(`settings/of?endpoint=WEX-TC-020&at=${encodeURIComponent(when)}`);
    expect(valueOf(await at(between), 'picture.frameCap')).toBe(47);
    expect((await at(between)).subject.location).toBe('wexcombe');
    expect(valueOf(await at(before), 'picture.frameCap')).not.toBe(47);
    const now = await get<SettingsOf>('settings/of?endpoint=WEX-TC-020');
    expect([now.past, now.subject.location, valueOf(now, 'picture.frameCap')]).toEqual([false, 'tolmouth', 30]);
    const later = await demo.server.call(`settings/of?endpoint=WEX-TC-020&at=2190-01-01T00:00:00Z`, { cookie: demo.reader });
    expect([later.status, (later.body as { detail: string }).detail]).toEqual([422, expect.stringMatching(/later is not known/)]);
    const long = await demo.server.call('settings/of?endpoint=WEX-TC-020&at=2001-01-01T00:00:00Z', { cookie: demo.reader });
    expect([long.status, (long.body as { detail: string }).detail]).toEqual([
      404,
      expect.stringMatching(/Nothing is recorded of WEX-TC-020/),
    ]);
    // the history of the key has it, with who and why
    const places = await get<SettingPlaces>('settings/places/picture.frameCap');
    expect(places.history[0]).toMatchObject({
      by: 'Ines Farrow',
      why: 'Faster at the hall',
      old: null,
      fresh: { value: 47 },
      where: 'Location Wexcombe ticket hall',
    });
    expect(places.entries.find(({ entry }) => entry.value === 47)?.where).toBe('Location Wexcombe ticket hall');
    expect((await demo.server.call('settings/places/picture.nothing', { cookie: demo.reader })).status).toBe(404);
    expect(first.changeId).toBeDefined();
  });
});

test('what each value of a setting costs somebody; nobody where nobody goes through', async () => {
  const { crossing, costs } = await get<ValueCosts>('settings/costs?endpoint=SAN-TC-001&key=picture.frameCap');
  expect(crossing).toMatch(/~SAN-TC-001~/);
  expect(costs.map(({ value }) => value)).toEqual([15, 30, 60]);
  expect(costs.filter(({ isNow }) => isNow)).toHaveLength(1);
  const { handed } = await get<ValueCosts>('settings/costs?endpoint=WEX-TC-009&key=signon.hostName');
  expect(handed.map(({ step, because }) => [step, because])).toEqual([
    ['gateway', null],
    ['broker', null],
    ['host', null],
  ]);
  expect(await get<ValueCosts>('settings/costs?endpoint=MAR-TC-014&key=picture.frameCap')).toEqual({
    crossing: null,
    resource: null,
    handed: [],
    costs: [],
  });
  expect((await demo.server.call('settings/costs?endpoint=WEX-TC-009&key=picture.nothing', { cookie: demo.reader })).status).toBe(404);
  expect((await demo.server.call('settings/costs?endpoint=nowhere&key=picture.frameCap', { cookie: demo.reader })).status).toBe(404);
});

describe('checks, what people carry, and what may go', () => {
  test('checks of the whole estate, and of a change', async () => {
    const { rules, crossings } = await get<LintAnswer>('settings/lint');
    expect(crossings).toBeGreaterThan(1000);
    for (const rule of rules) expect(rule.examples.length).toBeGreaterThan(0);
    const { body } = await send<LintAfter>(
      'POST',
      'settings/lint',
      { change: to('picture.colourDepth', 16, 'location', 'wexcombe') },
      demo.reader,
    );
    expect(body.fresh.map(({ rule }) => rule)).toContain('few colours with a codec that has them all');
    expect(body.gone).toEqual([]);
    const wrong = await send('POST', 'settings/lint', { change: to('picture.colourDepth', 1) }, demo.reader);
    expect(wrong.status).toBe(422);
  });

  test('a column for each sort of people, with the setting that decides', async () => {
    const columns = await get<CarriedAnswer>('settings/carried');
    const guests = columns.find(({ kind }) => kind === 'guest')!;
    const leaves = guests.cells.find(({ what, way }) => what === 'Text by the clipboard' && way === 'out');
    expect(leaves).toMatchObject({ goes: 0, by: 'security.guests' });
  });

  test('an entry that says what holds anyhow may go', async () => {
    const name = { layer: 'location', target: 'brack' };
    await send('POST', 'changes', { change: to('picture.hardwareDecode', true, name.layer, name.target), summary: 'For nothing' });
    const { entries, of } = await get<NeedlessAnswer>('settings/needless');
    expect(entries.find(({ entry }) => entry.key === 'picture.hardwareDecode')).toMatchObject({
      because: 'says what holds anyhow',
      where: 'Location Brack repair dock',
    });
    expect(entries.length).toBeLessThan(of);
  });

  test('what helps most against a finding that many have', async () => {
    const { body } = await send<SuggestAnswer>(
      'POST',
      'settings/suggest',
      { kind: 'second factor’s time-out shorter than the way' },
      demo.reader,
    );
    expect(body.crossings).toBeGreaterThan(3);
    expect(body.suggestions[0]).toMatchObject({ harmed: 0, text: 'security.secondFactorTimeoutS' });
    expect((await send<SuggestAnswer>('POST', 'settings/suggest', { kind: 'nothing of the kind' }, demo.reader)).body).toEqual({
      crossings: 0,
      suggestions: [],
    });
  });

  test('two crossings, fact by fact', async () => {
    const { crossings } = await get<{ crossings: { id: string }[] }>('crossings?limit=2').then((page) => ({
      crossings: (page as unknown as { rows: { id: string }[] }).rows,
    }));
    const [a, b] = crossings as [{ id: string }, { id: string }];
    const compared = await get<ComparedCrossings>(`settings/compare?a=${encodeURIComponent(a.id)}&b=${encodeURIComponent(b.id)}`);
    expect([compared.a.id, compared.b.id]).toEqual([a.id, b.id]);
    expect((await demo.server.call('settings/compare?a=x~y~z&b=x~y~z', { cookie: demo.reader })).status).toBe(404);
  });
});

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
    // what is in force does not wait for verdicts
    const letCome = holdVerdicts(demo.server);
    const write = async <T>(path: string, body: object) =>
      (await demo.server.call(path, { method: 'POST', cookie: demo.engineer, body, waits: false })).body as T;
    try {
      for (let n = 0; n < 2; n++) {
        const { version } = await preview(kept.id, 'head-office');
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
      }
    } finally {
      letCome();
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
});

describe('what is carried', () => {
  const crossing = encodeURIComponent('P231~CD-006~call-desktop');
  const place = async () => {
    const { rows } = await get<{ rows: { id: string; endpoint: string }[] }>('crossings?search=CD-006&limit=20');
    return rows.find(({ id }) => id.includes('CD-006') && id.endsWith('call-desktop'))?.id ?? crossing;
  };

  test('rules with what each decides, the shadowed one, devices that none names', async () => {
    const { rules, devices } = await get<RulesAnswer>('redirection');
    expect(devices).toBeGreaterThan(15);
    expect(rules.find(({ rule }) => rule.id === 'controls')).toMatchObject({ devices: 1, shadowedBy: null });
    expect(rules.find(({ rule }) => rule.id === 'drum-scanners')?.shadowedBy).toBe('Scanners');
  });

  test('a headset that does not appear is traced to a rule; split by interface it works, on paper and then so', async () => {
    const id = encodeURIComponent(await place());
    const { devices, ducts } = await get<DuctsAnswer>(`redirection/${id}`);
    const device = devices.find(({ name }) => name === 'Headset with buttons') as Peripheral;
    expect(ducts.filter(({ name, carriedAs }) => name.includes('Headset') && carriedAs === 'not allowed').length).toBeGreaterThan(0);
    const plug = async (change?: Change) =>
      (await send<PluggedAnswer>('POST', `redirection/${id}/plug`, { device, ...(change ? { change } : {}) }, demo.reader)).body;
    expect(await plug()).toMatchObject({
      works: false,
      rule: { id: 'controls', name: 'Buttons and controls' },
      cause: expect.stringMatching(/Buttons and controls/),
    });
    const split: Change = {
      patches: [
        {
          do: 'create',
          kind: 'usbRule',
          id: 'headset-sound',
          object: {
            id: 'headset-sound',
            name: 'Sound of headsets',
            rank: 45,
            action: 'allow',
            match: { class: '01' },
            interfaces: ['01'],
            carryAs: 'channel',
          },
        },
        { do: 'change', kind: 'usbRule', id: 'controls', set: { rank: 46 } },
      ],
      hypotheses: [],
    };
    expect(await plug(split)).toMatchObject({ works: true, decision: 'split', rule: { id: 'headset-sound' } });
    const { body: after } = await send<DuctsAnswer>('POST', `redirection/${id}/after`, { change: split }, demo.reader);
    expect(after.ducts.find(({ name }) => name.startsWith('Audio'))?.carriedAs).toBe('channel');
    const { body: applied } = await send<Applied>('POST', 'changes', { change: split, summary: 'Headsets by sound' });
    expect(await plug()).toMatchObject({ works: true });
    await send('POST', `changes/${applied.changeId}/undo`, {});
    expect(await plug()).toMatchObject({ works: false });
  });

  test('what is asked next is told, and an answer settles it', async () => {
    const { rows } = await get<{ rows: { id: string }[] }>('crossings?search=BRK-001&limit=5');
    const id = encodeURIComponent(rows[0]!.id);
    const { devices } = await get<DuctsAnswer>(`redirection/${id}`);
    const [device] = devices as [Peripheral];
    const asked = await send<PluggedAnswer>('POST', `redirection/${id}/plug`, { device }, demo.reader);
    expect(asked.body.ask?.step).toBe('when');
    const settled = await send<PluggedAnswer>('POST', `redirection/${id}/plug`, { device, answers: { when: true } }, demo.reader);
    expect(settled.body).toMatchObject({ works: false, ask: null, cause: expect.stringMatching(/by hand/) });
    expect((await send('POST', `redirection/${id}/plug`, { device: { ...device, vid: 'none' } }, demo.reader)).status).toBe(400);
    expect((await demo.server.call('redirection/no~such~one', { cookie: demo.reader })).status).toBe(404);
  });
});
