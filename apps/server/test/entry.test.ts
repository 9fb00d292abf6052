import { describe, expect, test } from '@jest/globals';
import type { AccessPersonView, EntryLinkView, LinkTestView, SavingsView } from '@underpass/contracts';
import pg from 'pg';
import { portalKey } from './server.js';
import { listed, withPortal } from './withPortal.js';

const { at, get, send, visitor } = withPortal(47_500, 4795);

describe('links', () => {
  test('for every kiosk of a place: they lead to the portal, are counted, expire, are taken back, and never carry a secret', async () => {
    const { status, body: links } = await send<EntryLinkView[]>('POST', 'access/links', {
      resource: 'workshop',
      targetKind: 'location',
      target: 'gullsey',
      everyEndpoint: true,
      caption: 'Workshop orders',
    });
    expect(status).toBe(201);
    expect(links.length).toBeGreaterThan(2);
    const link = links.find(({ target }) => target === 'GUL-K01')!;
    expect(link).toMatchObject({
      place: 'Gullsey repair dock',
      state: 'good',
      leadsTo: 'https://portal.saltmarsh.example/open/workshop-orders/workshop',
    });
    expect(links.find(({ target }) => target === 'GUL-012')?.publication).toBe('yard-apps');
    const go = () => fetch(`${at.server.base}/go/${link.id}`, { redirect: 'manual' });
    const opened = await go();
    expect([opened.status, opened.headers.get('location')]).toEqual([302, link.leadsTo]);
    expect((await get<EntryLinkView[]>('access/links')).find(({ id }) => id === link.id)?.opened).toBe(1);
    expect((await send('DELETE', `access/links/${link.id}`)).status).toBe(204);
    expect([(await go()).status, await (await go()).text()]).toEqual([410, expect.stringContaining('was taken back')]);
    await send('POST', `access/links/${link.id}/restore`);
    expect((await go()).status).toBe(302);
    const client = new pg.Client({ connectionString: at.databaseUrl });
    await client.connect();
    await client.query("UPDATE entry_link SET expires_at = now() - interval '1 day' WHERE id = $1", [link.id]);
    await client.end();
    expect([(await go()).status, (await fetch(`${at.server.base}/go/nothing`, { redirect: 'manual' })).status]).toEqual([410, 410]);
    const sheet = await fetch(`${at.server.base}/api/access/links/sheet?format=pdf&ids=${links.map(({ id }) => id).join()}`, {
      headers: { cookie: at.engineer },
    });
    const pdf = Buffer.from(await sheet.arrayBuffer());
    expect([sheet.status, pdf.subarray(0, 5).toString(), pdf.includes('%%EOF')]).toEqual([200, '%PDF-', true]);
    expect(
      (await send('POST', 'access/links', { resource: 'safety', targetKind: 'person', target: 'P081', caption: 'x' })).body,
    ).toMatchObject({ title: 'Leads nowhere' });
  });

  test('a link is tried before it is sent: the ladder is walked, and the browser’s losses are those of the open data', async () => {
    const { body } = await send<LinkTestView>(
      'POST',
      'access/links/test',
      { resource: 'timetable', person: 'P002', browser: 'firefox', version: '140' },
      at.reader,
    );
    expect([body.verdict, body.ladder[0]?.name, body.savedS > 3]).toEqual(['clear', 'entitled', true]);
    // support for Window.getScreenDetails, api.USB and api.VideoDecoder as the open data has it for this browser
    expect(body.lost.map(({ feature }) => feature)).toEqual(expect.arrayContaining(['second screen', 'USB devices', 'local drives']));
    expect(body.lost.map(({ feature }) => feature)).not.toContain('low-delay decoding');
    const stranger = await send<LinkTestView>('POST', 'access/links/test', {
      resource: 'hull',
      person: 'P002',
      browser: 'chrome',
      version: '157',
    });
    expect(stranger.body).toMatchObject({
      verdict: 'blocked',
      ladder: [{ name: 'entitled', state: 'broken' }, { state: 'not reached' }, ...Array(9).fill({})],
    });
  });
});

describe('the sign-on', () => {
  test('a recorded sign-in replaces what was assumed there, and savings are told in hours a year', async () => {
    const id = encodeURIComponent('P002~HO-002~timetable');
    const steps = async () =>
      (await get<{ view: { steps: { name: string; seconds: number; source: string }[] } }>(`crossings/${id}`)).view.steps;
    expect((await steps()).find(({ name }) => name === 'list of resources')?.source).toBe('assumed');
    const { status } = await send('POST', 'signon/recordings', {
      location: 'head-office',
      endpoint: 'HO-002',
      person: 'P002',
      startedAt: '2026-11-25T08:00:00Z',
      steps: { 'list of resources': 21.5 },
    });
    expect(status).toBe(201);
    expect((await steps()).find(({ name }) => name === 'list of resources')).toMatchObject({ seconds: 21.5, source: 'measured' });
    const savings = await get<SavingsView>('signon/savings?group=timetable');
    const link = savings.savings.find((each) => each.id === 'entry link')!;
    expect(link.hoursAYear).toBeCloseTo((link.savedS * link.people * savings.signInsPerDay * savings.workingDays) / 3600, 6);
    // of one endpoint, one place and one resource there is no more than of all, and one person is one
    const of = async (query: string) => (await get<SavingsView>(`signon/savings?${query}`)).people;
    expect([await of('endpoint=HO-002&resource=timetable'), await of('person=P002')]).toEqual([1, 1]);
    expect(await of('location=head-office&resource=timetable')).toBeLessThanOrEqual(await of('resource=timetable'));
    expect((await send('GET', 'signon/savings?endpoint=nothing')).status).toBe(404);
    expect(
      (await send('POST', 'signon/recordings', { location: 'head-office', startedAt: 'x', steps: { nap: 3 } })).status,
    ).toBeGreaterThanOrEqual(400);
    await send('PUT', 'signon/rules', { rules: [{ step: 'broker', host: 'broker.*' }] });
    expect(await get('signon/rules')).toMatchObject({ rules: [{ step: 'broker', host: 'broker.*' }], shipped: false });
    await send('PUT', 'signon/rules', { rules: null });
    expect(await get('signon/rules')).toMatchObject({ shipped: true });
  });
});

test('the portal’s doors take the key and nothing else; its faults do what they say', async () => {
  for (const authorization of ['', 'Bearer wrong', `Basic ${portalKey}`])
    expect((await at.server.call('portal/estate', { headers: { authorization }, cookie: at.engineer })).status).toBe(401);
  expect(
    (
      await at.server.call('portal/reports', {
        method: 'POST',
        body: { person: 'P001' },
        headers: { authorization: `Bearer ${portalKey}` },
      })
    ).status,
  ).toBeGreaterThanOrEqual(400);
  const fault = (id: string) => visitor().open('/faults', id ? { fault: id } : {});
  await fault('refuse');
  expect((await visitor().signIn('main', 'P002')).text).toContain('You cannot be signed in here');
  await fault('short-list');
  expect(listed((await visitor().signIn('main', 'P002')).text)).toEqual(['documents']);
  const short = (await get<AccessPersonView>('access/people/P002')).sightings[0];
  expect(short).toMatchObject({ missing: ['Timetable desktop'] });
  await fault('late');
  const late = visitor();
  await late.open('/sea/');
  const page = await late.open('/sea/sign-in', { person: 'P260', password: 'x' });
  await new Promise((resolve) => setTimeout(resolve, 1100));
  const code = /shows <strong>(\d{3}) (\d{3})/.exec(page.text);
  expect((await late.open('/sea/second-factor', { code: `${code?.[1]}${code?.[2]}` })).text).toContain('came too late');
  await fault('broker');
  const two = visitor();
  await two.signIn('main', 'P002');
  expect((await two.open('/main/broker', { resource: 'timetable', publication: 'timetable' })).text).toContain('gave no host');
  await fault('');
  // a sleeping host is woken, and sessions left behind are asked about
  const finance = visitor();
  await finance.signIn('main', 'P048');
  expect((await finance.open('/main/broker', { resource: 'payroll', publication: 'payroll' })).text).toContain('is being woken');
  await new Promise((resolve) => setTimeout(resolve, 350));
  expect((await finance.open('/main/wake')).text).toContain('A new session for');
  const left = visitor();
  await left.signIn('main', 'P005');
  const choice = (await left.open('/main/broker', { resource: 'documents', publication: 'documents' })).text;
  expect(choice).toContain('Take up Timetable desktop');
  expect((await left.open('/main/session', { take: 'S-1041' })).text).toContain('Taken up for');
  expect((await left.open('/main/session', { take: 'S-1044' })).text).not.toContain('Taken up');
}, 30_000);
