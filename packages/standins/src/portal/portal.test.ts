import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import {
  emptyEstate,
  Endpoint,
  Gateway,
  Group,
  Host,
  OpenSession,
  Person,
  Pool,
  Portal,
  Publication,
  Resource,
  Setting,
  type PortalEstate,
  type PortalReport,
} from '@underpass/contracts';
import { openPortal, type Portal as Opened } from './portal.js';
import { directoryAccepts, hostFor, leftBehindPolicy, offeredAt } from './reading.js';

/** A small estate of its own, every object through its schema. */
function estateOf(change: Partial<PortalEstate> = {}): PortalEstate {
  return {
    ...emptyEstate(),
    organisation: [{ id: 'organisation', name: 'Ferries & <Friends>', thresholds: {} }],
    gateway: [
      Gateway.parse({ id: 'G', name: 'G', region: 'R', address: 'g.example', securityModes: ['tls'] }),
      Gateway.parse({ id: 'G2', name: 'G2', region: 'R', address: 'g2.example', securityModes: ['tls'], secondFactor: true }),
    ],
    portal: [
      Portal.parse({ id: 'main', name: 'Main', gateway: 'G', address: 'p.example' }),
      Portal.parse({ id: 'strict', name: 'Strict', gateway: 'G2', address: 'q.example' }),
    ],
    pool: [Pool.parse({ id: 'P', name: 'P', gateway: 'G', securityModes: ['tls'], signIn: ['own directory', 'guest directory'] })],
    host: [Host.parse({ id: 'H', name: 'Heron', pool: 'P', region: 'R', power: 'on', places: 2, used: 0, release: '11.4' })],
    resource: ['a', 'b'].map((id) =>
      Resource.parse({ id, name: `<b>${id}</b>`, kind: 'app', pool: 'P', work: 'office', content: { text: 1 } }),
    ),
    publication: [
      Publication.parse({ id: 'pa', name: 'PA', kind: 'apps', pool: 'P', resources: ['a'], portals: ['main', 'strict'] }),
      Publication.parse({ id: 'pb', name: 'PB', kind: 'apps', pool: 'P', resources: ['b'], portals: ['main'] }),
    ],
    group: [
      Group.parse({ id: 'inner', name: 'Inner', rank: 1, memberOf: ['outer'], publications: ['pa'] }),
      Group.parse({ id: 'outer', name: 'Outer', rank: 2, publications: ['pb'] }),
    ],
    person: [
      Person.parse({ id: 'ann', name: 'Ann <script>alert(1)</script>', kind: 'staff', location: 'L', groups: ['inner'] }),
      Person.parse({
        id: 'guest',
        name: 'Guest',
        kind: 'guest',
        location: 'L',
        groups: ['outer'],
        guest: { owner: 'ann', organisation: 'Elsewhere', country: 'NL', endsOn: '2999-01-01', invitation: 'accepted' },
      }),
    ],
    endpoint: [],
    session: [],
    setting: [],
    ...change,
  };
}

describe('the portal’s own reading', () => {
  test('goes up nested groups, keeps to its portal, and has nothing for strangers', () => {
    const at = (portal: string, person: string) => offeredAt(estateOf(), portal, person).map(({ resource }) => resource.id);
    expect([at('main', 'ann'), at('strict', 'ann'), at('main', 'guest'), at('main', 'nobody')]).toEqual([['a', 'b'], ['a'], ['b'], []]);
    const looped = estateOf({
      group: estateOf().group.map((group) => ({ ...group, memberOf: group.id === 'inner' ? ['outer'] : ['inner'] })),
    });
    expect(offeredAt(looped, 'main', 'guest')).toHaveLength(2);
  });

  test('a guest is accepted while every condition holds, and by none less', () => {
    const [ann, guest] = estateOf().person as [Person, Person];
    const accepts = (change: Partial<PortalEstate> = {}) => directoryAccepts(estateOf(change), 'main', 'guest', '2026-11-25');
    const record = (part: object): Partial<PortalEstate> => ({ person: [ann, { ...guest, guest: { ...guest.guest!, ...part } }] });
    expect([accepts(), accepts(record({ endsOn: '2026-11-25' }))]).toEqual([true, true]);
    for (const part of [{ endsOn: '2026-11-24' }, { invitation: 'sent' }, { country: undefined }])
      expect([part, accepts(record(part))]).toEqual([part, false]);
    const [pool] = estateOf().pool as [Pool];
    expect(accepts({ pool: [{ ...pool, signIn: ['own directory'] }] })).toBe(false);
    expect([accepts({ pool: [{ ...pool, signInGroups: ['inner'] }] }), accepts({ pool: [{ ...pool, signInGroups: ['outer'] }] })]).toEqual([
      false,
      true,
    ]);
    for (const [release, good] of [
      ['11.3', false],
      ['11.4', true],
      ['11.10', true],
      ['9.9', false],
      ['12.0', true],
    ] as const)
      expect([release, accepts({ host: estateOf().host.map((host) => ({ ...host, release })) })]).toEqual([release, good]);
  });

  test('takes a host that is on before one that sleeps, and none that is full', () => {
    const host = (id: string, more: object) => Host.parse({ id, name: id, pool: 'P', region: 'R', places: 2, used: 0, ...more });
    const choose = (...hosts: ReturnType<typeof host>[]) => hostFor(estateOf({ host: hosts }), 'P');
    expect(choose(host('s', { power: 'asleep' }), host('o', { power: 'on' }))).toMatchObject({ host: { id: 'o' }, asleep: false });
    expect(choose(host('s', { power: 'asleep' }), host('o', { power: 'on', used: 2 }))).toMatchObject({ host: { id: 's' }, asleep: true });
    expect(choose(host('x', { power: 'off' }))).toBeNull();
  });

  test('asks about sessions left behind unless a layer says otherwise, the nearest layer first', () => {
    const entry = (id: string, layer: string, target: string, value: string) =>
      Setting.parse({ id, key: 'session.leftBehind', layer, target, value });
    const policy = (...setting: ReturnType<typeof entry>[]) =>
      leftBehindPolicy(
        estateOf({
          setting,
          endpoint: [
            Endpoint.parse({
              id: 'K',
              name: 'K',
              location: 'L',
              deviceClass: 'kiosk',
              ownership: 'managed',
              platform: 'thin',
              processor: 'arm64',
              clientKind: 'browser',
            }),
          ],
        }),
        'ann',
        'K',
      );
    expect(policy()).toBe('ask');
    expect(policy(entry('1', 'organisation', '*', 'none'))).toBe('none');
    expect(policy(entry('1', 'organisation', '*', 'none'), entry('2', 'device class', 'kiosk', 'most recent'))).toBe('most recent');
    expect(policy(entry('2', 'device class', 'kiosk', 'most recent'), entry('3', 'group', 'inner', 'none'))).toBe('none');
    expect(policy(entry('3', 'group', 'outer', 'none'))).toBe('ask');
  });
});

describe('the portal over HTTP', () => {
  const port = 4797;
  let opened: Opened;
  let estate = estateOf();
  let reports: PortalReport[] = [];
  beforeAll(async () => {
    opened = await openPortal({
      port,
      wakeMs: 200,
      secondFactorS: 1,
      underpass: {
        estate: () => Promise.resolve(estate),
        link: () => Promise.resolve(null),
        report: (report) => {
          reports.push(structuredClone(report));
          return Promise.resolve();
        },
      },
    });
  });
  afterAll(() => opened.close());
  beforeEach(() => {
    estate = estateOf();
    reports = [];
  });

  const visitor = () => {
    let cookie = '';
    return async (path: string, form?: Record<string, string>, headers: Record<string, string> = {}) => {
      const response = await fetch(`http://127.0.0.1:${port}${path}`, {
        redirect: 'manual',
        headers: { cookie, ...(form ? { 'content-type': 'application/x-www-form-urlencoded' } : {}), ...headers },
        ...(form ? { method: 'POST', body: new URLSearchParams(form).toString() } : {}),
      });
      cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? cookie;
      return { status: response.status, to: response.headers.get('location'), text: await response.text(), headers: response.headers };
    };
  };

  test('what is typed anywhere never becomes part of a page’s markup', async () => {
    const go = visitor();
    const form = await go('/main/sign-in');
    expect(form.text).toContain('Ferries &amp; &lt;Friends&gt;');
    expect(form.headers.get('content-security-policy')).toContain("default-src 'none'");
    expect(form.headers.getSetCookie()[0]).toMatch(/HttpOnly; SameSite=Lax/);
    await go('/main/sign-in', { person: 'ann', password: 'x', next: '/main/resources' });
    const list = (await go('/main/resources')).text;
    expect(list).toContain('Ann &lt;script&gt;');
    expect(list).not.toContain('<script>');
    expect(list).toContain('&lt;b&gt;a&lt;/b&gt;');
  });

  test('leads nowhere else after a sign-in, and takes no form from a foreign page', async () => {
    for (const next of ['https://evil.example/', '//evil.example', '/other/x', '/main//evil.example', '/main/\\evil', '']) {
      const go = visitor();
      await go('/main/sign-in');
      expect([next, (await go('/main/sign-in', { person: 'ann', password: 'x', next })).to]).toEqual([next, '/main/resources']);
    }
    const go = visitor();
    await go('/main/sign-in');
    expect((await go('/main/sign-in', { person: 'ann', password: 'x', next: '' }, { origin: 'https://evil.example' })).status).toBe(403);
    expect((await go('/faults', { fault: 'refuse' }, { origin: 'https://evil.example' })).status).toBe(403);
  });

  test('no step can be passed by: without a sign-in, a code or the right to it there is no list and no session', async () => {
    const go = visitor();
    expect((await go('/main/resources')).to).toBe('/main/sign-in');
    await go('/strict/sign-in');
    for (const [path, form] of [
      ['/strict/guest', {}],
      ['/strict/second-factor', { code: '000000' }],
      ['/strict/broker', { resource: 'a' }],
      ['/strict/session', {}],
    ] as const)
      expect([path, (await go(path, form)).text]).toEqual([path, expect.stringContaining('Your number')]);
    await go('/strict/sign-in', { person: 'ann', password: 'x', next: '' });
    expect((await go('/strict/resources')).to).toBe('/strict/sign-in');
    expect((await go('/strict/second-factor', { code: 'wrong' })).status).toBe(403);
    // a visit of one portal is none of another
    const two = visitor();
    await two('/main/sign-in');
    await two('/main/sign-in', { person: 'ann', password: 'x', next: '' });
    expect((await two('/strict/resources')).to).toBe('/strict/sign-in');
    const refused = await two('/main/broker', { resource: 'not-hers' });
    expect([refused.status, refused.text]).toEqual([403, expect.stringContaining('not in your list')]);
    const form = visitor();
    await form('/main/sign-in');
    for (const typed of [
      { person: 'nobody', password: 'x' },
      { person: 'ann', password: '' },
    ])
      expect((await form('/main/sign-in', { ...typed, next: '' })).text).toContain('Number or password is not right');
    expect((await form('/nowhere/')).status).toBe(404);
    expect((await form('/main/nothing')).status).toBe(404);
  });

  test('reports what was seen and how long each step took, the second factor up to its time-out', async () => {
    const go = visitor();
    await go('/strict/sign-in');
    const page = await go('/strict/sign-in', { person: 'ann', password: 'x', next: '' });
    const [, first, second] = /(\d{3}) (\d{3})/.exec(page.text) ?? [];
    expect((await go('/strict/second-factor', { code: `${first}${second}` })).to).toBe('/strict/resources');
    await go('/strict/resources');
    await go('/strict/broker', { resource: 'a' });
    expect((await go('/strict/session')).text).toContain('on the host Heron');
    expect(reports.map(({ outcome, saw, opened: session }) => [outcome, saw, session])).toEqual([
      ['list', ['a'], null],
      ['session', ['a'], 'a'],
    ]);
    const steps = reports[1]!.steps;
    expect(Object.keys(steps).sort()).toEqual(['broker', 'choose', 'list of resources', 'password', 'second factor', 'session create']);
    expect(steps['session create']).toBeGreaterThanOrEqual(0.19);
    const late = visitor();
    await late('/strict/sign-in');
    const shown = await late('/strict/sign-in', { person: 'ann', password: 'x', next: '' });
    await new Promise((resolve) => setTimeout(resolve, 1050));
    const [, a, b] = /(\d{3}) (\d{3})/.exec(shown.text) ?? [];
    expect((await late('/strict/second-factor', { code: `${a}${b}` })).text).toContain('came too late');
    expect(reports.at(-1)).toMatchObject({ outcome: 'second factor late', saw: [] });
  });

  test('wakes a sleeping host with its delay, and takes up only one’s own session', async () => {
    estate = estateOf({
      host: estateOf().host.map((host) => ({ ...host, power: 'asleep' as const })),
      session: [
        OpenSession.parse({
          id: 'mine',
          person: 'ann',
          resource: 'b',
          host: 'H',
          state: 'left behind',
          startedAt: '2026-11-24T08:00:00Z',
          usedAt: '2026-11-24T09:00:00Z',
        }),
        OpenSession.parse({
          id: 'other',
          person: 'guest',
          resource: 'b',
          host: 'H',
          state: 'active',
          startedAt: '2026-11-24T08:00:00Z',
          usedAt: '2026-11-24T09:00:00Z',
        }),
      ],
    });
    const go = visitor();
    await go('/main/sign-in');
    await go('/main/sign-in', { person: 'ann', password: 'x', next: '' });
    await go('/main/resources');
    expect((await go('/main/broker', { resource: 'a' })).text).toContain('You have sessions elsewhere');
    await go('/main/session', { take: 'other' });
    // not hers: a new session of what was wanted, on a host that has to wake first
    expect((await go('/main/session')).to).toBe('/main/wake');
    expect((await go('/main/wake')).text).toContain('is being woken');
    await new Promise((resolve) => setTimeout(resolve, 220));
    expect((await go('/main/wake')).to).toBe('/main/session');
    expect((await go('/main/session')).text).toContain('A new session for');
    expect(reports.at(-1)).toMatchObject({ outcome: 'session', opened: 'a', steps: { wake: expect.any(Number) } });
    await go('/main/session', { take: 'mine' });
    expect((await go('/main/session')).text).toContain('Taken up for');
    expect(reports.at(-1)).toMatchObject({ outcome: 'session', opened: 'b' });
  });
});
