import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { AccessPersonView, FeedLast, JobStarted, JobView, LdapFeedView, LdapTried, OriginsAnswer } from '@underpass/contracts';
import { directory } from '@underpass/standins';
import { setTimeout as wait } from 'node:timers/promises';
import pg from 'pg';
import { LdapService } from '../src/intake/ldap/ldap.service.js';
import { makeDatabase, people, startServer, type TestServer } from './server.js';

const { base, dnOf, dnOfGroup, group, hasSlapd, person, reader, startSlapd, unit } = directory;

const about = hasSlapd ? describe : describe.skip;

about('a directory that is read', () => {
  let database: Awaited<ReturnType<typeof makeDatabase>>;
  let server: TestServer;
  let slapd: directory.Slapd;
  let sql: pg.Client;
  let admin = '';
  let feed: LdapFeedView;
  const secret = reader.secret;

  beforeAll(async () => {
    slapd = await startSlapd();
    database = await makeDatabase('demo');
    server = await startServer(database.url, 49_450, true, { allowedTargets: 'localhost, 127.0.0.1' });
    admin = await server.signIn(people.admin);
    sql = new pg.Client({ connectionString: database.url });
    await sql.connect();
  }, 60_000);
  afterAll(async () => {
    await sql?.end();
    await server?.app.close();
    await database?.drop();
    await slapd?.stop();
  });

  const ask = async <T>(path: string, method = 'GET', body?: unknown, cookie = admin) =>
    (await server.call(path, { method, cookie, ...(body === undefined ? {} : { body }) })) as unknown as {
      status: number;
      body: T & { detail?: string };
    };
  const settings = (more: object = {}) => ({
    address: slapd.secure.replace('127.0.0.1', 'localhost'),
    base,
    bindDn: reader.dn,
    certificates: slapd.authority,
    makePlaces: true,
    pageSize: 50,
    ...more,
  });
  const run = async (id: string, allow = false): Promise<FeedLast> => {
    const started = await ask<JobStarted>(`intake/ldap/${id}/run`, 'POST', { allow });
    expect(started.status).toBe(202);
    for (;;) {
      const job = (await ask<JobView>(`jobs/${started.body.job.id}`)).body;
      if (['waiting', 'running'].includes(job.state)) {
        await wait(50);
        continue;
      }
      return job.state === 'done' ? (job.result as FeedLast) : { ...(await only()).last!, message: job.message };
    }
  };
  const only = async (): Promise<LdapFeedView> => (await ask<LdapFeedView[]>('intake/ldap')).body[0] as LdapFeedView;
  const object = async (kind: string, id: string) => {
    const { status, body } = await ask<{ object: Record<string, unknown> }>(`estate/${kind}/${id}`);
    return status === 404 ? null : body.object;
  };

  /** People of the directory: 120 in two places, in groups of which one is in another. */
  const moves = '7d1f4a52-0000-4000-8000-000000000005';
  const many = Array.from({ length: 120 }, (_, i): { uid: string; name: string; ou: string; uuid?: string } => ({
    ...(i === 5 ? { uuid: moves } : {}),
    uid: `ld${i}`,
    name: `Person ${i} Ldap`,
    ou: i % 2 ? 'Wexcombe ticket hall' : 'New quay',
  }));
  /** The same a month later: one is gone, one is called otherwise, one moved and signs in otherwise. */
  const later = many
    .slice(1)
    .map((each) =>
      each.uid === 'ld4'
        ? { ...each, name: 'Another Ldap' }
        : each.uid === 'ld5'
          ? { ...each, uid: 'married', name: 'Five Wed', ou: 'New quay' }
          : each,
    );
  const entries = (list: readonly (typeof many)[number][], groups: string) =>
    ['Groups', 'Wexcombe ticket hall', 'New quay'].map(unit).join('\n') +
    '\n' +
    list.map(({ uid, name, ou, uuid }) => person(uid, name, ou, uuid)).join('\n') +
    '\n' +
    groups;
  let gives = { id: '', name: '', publications: [] as string[] };
  const groups = (inner: string[], outer: string[] = []) =>
    [group('Night desk', inner), group(gives.name, [dnOfGroup('Night desk'), ...outer])].join('\n');

  test('is tried first: the first entries as they would be taken, and what is wrong in words', async () => {
    const { rows } = (await ask<{ rows: (typeof gives)[] }>('estate/group?limit=500')).body;
    gives = rows.find(({ publications }) => publications.length > 0) as typeof gives;
    await slapd.load(entries(many, groups([dnOf('ld1', 'Wexcombe ticket hall')], [dnOf('ld2', 'New quay')])));
    const { status, body } = await ask<LdapTried>('intake/ldap/try', 'POST', { settings: settings(), secret });
    expect([status, body.detail]).toEqual([200, undefined]);
    expect(body.people).toHaveLength(10);
    expect(body.people[1]).toMatchObject({ key: 'ld1', name: 'Person 1 Ldap', place: 'Wexcombe ticket hall', groups: ['Night desk'] });
    expect(body.groups.map(({ name, members }) => [name, members])).toEqual([
      ['Night desk', 1],
      [gives.name, 1],
    ]);
    expect(await object('person', 'ld1')).toBeNull();

    const told = async (more: object, password: string | undefined = secret) => {
      const answer = await ask('intake/ldap/try', 'POST', { settings: settings(more), secret: password });
      return `${answer.status} ${answer.body.detail}`;
    };
    expect(await told({}, 'wrong')).toBe(`422 The directory does not take the name ${reader.dn} with this password.`);
    expect(await told({ base: 'dc=nothing,dc=example' })).toMatch(/^422 The directory has no entry dc=nothing|may not read/);
    expect(await told({ certificates: '' })).toMatch(/^422 The certificate of localhost:\d+ is not vouched for/);
    expect(await told({ filter: '(objectClass=person' })).toBe('422 The filter is no filter of a directory.');
    expect(await told({ address: 'ldaps://localhost:9' })).toBe('422 Nobody answers at localhost:9.');
    expect(await told({ address: 'ldaps://directory.example:636' })).toMatch(/^403 This server may not connect to directory.example/);
    expect(await told({ address: 'ldaps://10.0.0.1' })).toMatch(/^403 This server may not connect to 10.0.0.1/);
    for (const address of ['http://localhost', 'ldaps://localhost:99999', 'ldaps://[::1', 'ldaps://somebody@localhost', 'ldaps://'])
      expect([address, await told({ address })]).toEqual([address, expect.stringMatching(/^400/)]);
    expect(await told({ certificates: 'no certificate' })).toMatch(/^422 What is given as certificates/);
    expect(await told({ certificates: '-----BEGIN CERTIFICATE-----\nAAAA\n-----END CERTIFICATE-----' })).toMatch(
      /^422 What is given as certificates/,
    );
    // the name a certificate proves is the one that was given
    expect(await told({ address: slapd.secure })).toMatch(/^200/);
    expect(await told({ address: slapd.plain, certificates: '' })).toMatch(/^200/);
  });

  test('is added by administrators; its password is sealed and never told', async () => {
    const engineer = await server.signIn(people.engineer);
    expect((await ask('intake/ldap', 'POST', { name: 'Main', settings: settings(), secret }, engineer)).status).toBe(403);
    expect(
      (await ask('intake/ldap', 'POST', { name: 'Main', settings: settings({ address: 'ldaps://elsewhere.example' }), secret })).status,
    ).toBe(403);
    const made = await ask<LdapFeedView>('intake/ldap', 'POST', { name: 'Main', settings: settings(), secret });
    expect([made.status, made.body.hasSecret, made.body.nextAt]).toEqual([201, true, null]);
    feed = made.body;
    const all = JSON.stringify([(await sql.query('SELECT * FROM feed')).rows, await ask('intake/ldap')]);
    expect(all).not.toContain(secret);
    expect((await ask('intake/ldap', 'POST', { name: 'MAIN', settings: settings() })).status).toBe(409);
  });

  test('is read: people at their places, groups in groups, and who sees what follows', async () => {
    expect(await run(feed.id)).toMatchObject({ state: 'done', people: 120, groups: 2, left: 0, held: 0 });
    expect(await object('person', 'ld1')).toMatchObject({ name: 'Person 1 Ldap', location: 'wexcombe', groups: ['night-desk'] });
    expect(await object('person', 'ld0')).toMatchObject({ location: 'new-quay', groups: [] });
    expect(await object('location', 'new-quay')).toMatchObject({ name: 'New quay', assumed: expect.arrayContaining(['latitude']) });
    expect(await object('group', 'night-desk')).toMatchObject({ memberOf: [gives.id] });
    expect(await object('group', gives.id)).toMatchObject({ publications: gives.publications });
    // what they see comes through the inner group, directly, and not at all
    const sees = async (id: string) =>
      (await ask<AccessPersonView>(`access/people/${id}`)).body.now.map((item) => (item as { id: string }).id).sort();
    const [inner, direct, neither] = [await sees('ld1'), await sees('ld2'), await sees('ld3')];
    expect(inner.length).toBeGreaterThan(0);
    expect([direct, neither]).toEqual([inner, []]);
    const { body: changes } = await ask<{ by: string; summary: string }[]>('changes');
    expect((changes as { by: string; summary: string }[])[0]).toMatchObject({ by: 'Main', summary: 'Directory Main: 120 people' });
    const stored = JSON.stringify((await sql.query('SELECT data FROM estate_object')).rows);
    expect(stored).not.toContain('never-read');
  });

  test('the same again changes nothing, and makes no change', async () => {
    const before = (await sql.query('SELECT count(*)::int AS n FROM change_set')).rows[0];
    expect(await run(feed.id)).toMatchObject({ state: 'done', added: 0, changed: 0, left: 0 });
    expect((await sql.query('SELECT count(*)::int AS n FROM change_set')).rows[0]).toEqual(before);
  });

  test('adds, changes and ends; what was typed here holds, what moved in it stays the same person', async () => {
    const read = await server.call('estate/person/ld4', { cookie: admin });
    const typed = { ...(read.body as { object: object }).object, name: 'As Typed' };
    await server.call('estate/person/ld4', {
      method: 'PUT',
      cookie: admin,
      headers: { 'if-match': read.headers.get('etag') ?? '' },
      body: typed,
    });
    const next = [...later, { uid: 'fresh', name: 'Fresh Ldap', ou: 'New quay' }];
    await slapd.load(entries(next, groups([dnOf('ld3', 'Wexcombe ticket hall')])));
    const last = await run(feed.id);
    expect(last).toMatchObject({ state: 'done', people: 120, left: 1, held: 1 });
    expect([await object('person', 'ld0'), (await object('person', 'fresh'))?.name]).toEqual([null, 'Fresh Ldap']);
    expect([(await object('person', 'ld1'))?.groups, (await object('person', 'ld3'))?.groups]).toEqual([[], ['night-desk']]);
    expect((await object('person', 'ld4'))?.name).toBe('As Typed');
    expect([await object('person', 'ld5'), await object('person', 'married')]).toEqual([
      expect.objectContaining({ name: 'Five Wed', location: 'new-quay' }),
      null,
    ]);
    const origins = (await ask<OriginsAnswer>('intake/origins/person/ld4')).body;
    expect(origins.find(({ field }) => field === 'name')).toMatchObject({
      source: 'typed',
      others: [{ source: 'ldap:Main', value: 'Another Ldap' }],
    });
  });

  test('stops where a third would leave, writes nothing, and goes on where somebody says so', async () => {
    const third = [...later.slice(0, 80), { uid: 'fresh', name: 'Fresh Ldap', ou: 'New quay' }];
    await slapd.load(entries(third, groups([dnOf('ld3', 'Wexcombe ticket hall')])));
    const last = await run(feed.id);
    expect(last).toMatchObject({ state: 'stopped', left: 39, message: expect.stringContaining('39 of 120 people would leave, 33 %') });
    expect(await object('person', 'ld110')).not.toBeNull();
    expect((await only()).last).toMatchObject({ state: 'stopped' });
    expect(await run(feed.id, true)).toMatchObject({ state: 'done', left: 39 });
    expect(await object('person', 'ld110')).toBeNull();
  });

  test('stops just above its limit, not at it', async () => {
    // of 81 people 8 are 9.9 %, 9 are 11.1 %
    const rest = (n: number) => [...later.slice(0, 80 - n), { uid: 'fresh', name: 'Fresh Ldap', ou: 'New quay' }];
    await slapd.load(entries(rest(9), groups([dnOf('ld3', 'Wexcombe ticket hall')])));
    expect((await run(feed.id)).state).toBe('stopped');
    await slapd.load(entries(rest(8), groups([dnOf('ld3', 'Wexcombe ticket hall')])));
    expect(await run(feed.id)).toMatchObject({ state: 'done', left: 8 });
  });

  test('tells groups that are in a circle, and goes on', async () => {
    const circle = [
      group('Night desk', [dnOfGroup('Ring')]),
      group('Ring', [dnOfGroup('Night desk')]),
      group(gives.name, [dnOf('ld3', 'Wexcombe ticket hall')]),
    ];
    const list = [...later.slice(0, 72), { uid: 'fresh', name: 'Fresh Ldap', ou: 'New quay' }];
    await slapd.load(entries(list, circle.join('\n')));
    const last = await run(feed.id);
    expect([last.state, last.notes.join(' ')]).toEqual(['done', expect.stringContaining('is in a circle of groups')]);
  });

  test('does not give its password to another machine than it was typed for', async () => {
    const moved = { settings: settings({ address: slapd.plain }) };
    expect((await ask(`intake/ldap/${feed.id}`, 'PUT', moved)).status).toBe(422);
    expect((await ask('intake/ldap/try', 'POST', { ...moved, feed: feed.id })).status).toBe(422);
    expect((await ask('intake/ldap/try', 'POST', { settings: settings({ pageSize: 20 }), feed: feed.id })).status).toBe(200);
    expect((await ask(`intake/ldap/${feed.id}`, 'PUT', { ...moved, secret })).status).toBe(200);
  });

  test('settings that another administrator changed since they were seen are not overwritten; the password stays', async () => {
    const was = (await only()).settings;
    const put = (body: object) => ask<{ detail: string; fields: object[] }>(`intake/ldap/${feed.id}`, 'PUT', body);
    expect((await put({ settings: { ...was, limitPercent: 31 }, was })).status).toBe(200);
    const late = await put({ settings: { ...was, pageSize: 40 }, was });
    expect([late.status, late.body.detail, late.body.fields]).toEqual([
      409,
      expect.stringContaining('changed since you saw them'),
      [{ field: 'settings.limitPercent', problem: 'was changed meanwhile: 31 now' }],
    ]);
    expect(await only()).toMatchObject({ settings: { ...was, limitPercent: 31 }, hasSecret: true });
    expect((await put({ settings: was, was: { ...was, limitPercent: 31 } })).status).toBe(200);
  });

  test('is read by itself when it is due, once for all servers, and tells what failed', async () => {
    await ask(`intake/ldap/${feed.id}`, 'PUT', { settings: settings({ everyMinutes: 5 }), secret });
    expect(Date.parse((await only()).nextAt ?? '')).toBeGreaterThan(Date.now() + 4 * 60_000);
    await slapd.stop().catch(() => undefined);
    await sql.query('UPDATE feed SET next_at = now()');
    const service = server.app.get(LdapService);
    await Promise.all([service.due(), service.due()]);
    const jobs = (await sql.query(`SELECT id FROM job WHERE by_name = 'Schedule'`)).rows as { id: string }[];
    expect(jobs).toHaveLength(1);
    for (let i = 0; i < 200 && (await only()).last?.state !== 'failed'; i++) await wait(50);
    expect((await only()).last).toMatchObject({ state: 'failed', message: expect.stringContaining('Nobody answers at') });
  });

  test('is removed; whom it brought stay', async () => {
    expect((await ask(`intake/ldap/${feed.id}`, 'DELETE')).status).toBe(204);
    expect((await ask<LdapFeedView[]>('intake/ldap')).body).toEqual([]);
    expect(await object('person', 'ld3')).not.toBeNull();
    expect((await sql.query('SELECT * FROM feed_link')).rows).toEqual([]);
  });
});
