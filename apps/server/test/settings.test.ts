import { describe, expect, test } from '@jest/globals';
import type {
  Applied,
  CarriedAnswer,
  Change,
  ComparedCrossings,
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
