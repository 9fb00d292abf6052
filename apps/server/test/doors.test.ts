import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { DoorRules, FactorOffer, OwnAccount, SecurityEvent, Session, UserView } from '@underpass/contracts';
import { Secret, TOTP } from 'otpauth';
import pg from 'pg';
import { factorStep } from '../src/signin/factor.js';
import { faultOfPassword } from '../src/signin/passwordStrength.js';
import { syslogLine } from '../src/securityLog/securityLog.service.js';
import { makeDatabase, people, startServer, type TestServer } from './server.js';

let database: Awaited<ReturnType<typeof makeDatabase>>;
let server: TestServer;
let other: TestServer;
let admin = '';
let sql: pg.Client;
const good = 'otter lantern gravel tide';

beforeAll(async () => {
  database = await makeDatabase('demo');
  server = await startServer(database.url, 47_600);
  other = await startServer(database.url, 47_700);
  admin = await server.signIn(people.admin);
  sql = new pg.Client({ connectionString: database.url });
  await sql.connect();
}, 60_000);
afterAll(async () => {
  await sql.end();
  await Promise.all([server.app.close(), other.app.close()]);
  await database.drop();
});

const ask = <T>(path: string, method: string, cookie: string, body?: unknown) =>
  server.call(path, { method, cookie, ...(body === undefined ? {} : { body }) }) as unknown as Promise<{
    status: number;
    body: T;
    headers: Headers;
  }>;
const enter = async (email: string, password: string, code?: string, device = '') => {
  const answer = await server.call('session', { method: 'POST', cookie: device, body: { email, password, ...(code ? { code } : {}) } });
  const cookies = answer.headers.getSetCookie().map((each) => each.split(';')[0] as string);
  return {
    status: answer.status,
    body: answer.body as { detail?: string; needs?: string; fields?: { field: string }[] } & Partial<Session>,
    cookie: cookies.find((each) => each.startsWith('underpass_session=')) ?? '',
    device: cookies.find((each) => each.startsWith('underpass_device=')) ?? '',
    wait: Number(answer.headers.get('retry-after') ?? 0),
  };
};
// what one test tried is none of the next one's business
beforeEach(() => sql.query('DELETE FROM sign_in_try'));
let count = 0;
/** Somebody of their own for a test. */
const somebody = async (role = 'engineer') => {
  const email = `person${++count}@saltmarsh.example`;
  const users = await ask<UserView[]>('users', 'POST', admin, { email, name: 'A Person', role, password: good });
  const id = users.body.find((user) => user.email === email)?.id as string;
  return { email, id };
};
const codeOf = (secret: string, atMs = Date.now()) => new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: atMs });
const withFactor = async (role = 'engineer') => {
  const who = await somebody(role);
  const { cookie } = await enter(who.email, good);
  const { secret } = (await ask<FactorOffer>('account/factor/offer', 'POST', cookie)).body;
  const { codes } = (await ask<{ codes: string[] }>('account/factor', 'PUT', cookie, { secret, code: codeOf(secret) })).body;
  return { ...who, cookie, secret, codes };
};
const log = async () => (await ask<SecurityEvent[]>('security-log?limit=500', 'GET', admin)).body;

describe('guessing', () => {
  test('60 guesses at one account from 60 addresses are slowed down; the person gets in from a browser they used before', async () => {
    const { email } = await somebody();
    const { device } = await enter(email, good);
    // what a proxy of one's own says is believed only where it is named; here the database is asked as the service does
    const answers = [];
    for (let i = 0; i < 8; i++) answers.push(await enter(email, 'wrong wrong wrong'));
    expect(answers.map(({ status }) => status).filter((status) => status === 401).length).toBeLessThanOrEqual(4);
    expect(answers.at(-1)).toMatchObject({ status: 429, wait: expect.any(Number) });
    expect(answers.at(-1)?.wait).toBeLessThanOrEqual(30);
    expect((await enter(email, good)).status).toBe(429);
    expect((await enter(email, good, undefined, device)).status).toBe(200);
    // and nobody is held up by what was tried at somebody else
    const second = await somebody();
    expect((await enter(second.email, good)).status).toBe(200);
  });

  test('of many at the same moment few are judged', async () => {
    const { email } = await somebody();
    const answers = await Promise.all(Array.from({ length: 12 }, () => enter(email, 'not this one either')));
    expect(answers.filter(({ status }) => status === 401).length).toBeLessThanOrEqual(4);
    expect(answers.filter(({ status }) => status === 429).length).toBeGreaterThanOrEqual(8);
  });

  test('a password that many have, or made of the own name, is not taken; a phrase is', async () => {
    for (const bad of ['aaaaaaaaaaaa', 'password1234', 'qwertyuiop12', '123456789012', 'saltmarsh.example', 'Person Underpass'])
      expect([bad, faultOfPassword(bad, ['person@saltmarsh.example', 'A Person', 'underpass'])]).toEqual([
        bad,
        expect.stringContaining('easy to guess'),
      ]);
    for (const fine of [good, 'correct-otter-battery', 'x9!Kp2#vLq8z'])
      expect([fine, faultOfPassword(fine, ['person@saltmarsh.example'])]).toEqual([fine, null]);
    const refused = await ask<{ fields: { field: string }[] }>('users', 'POST', admin, {
      email: 'weak@saltmarsh.example',
      name: 'W',
      role: 'reader',
      password: 'aaaaaaaaaaaa',
    });
    expect([refused.status, refused.body.fields[0]?.field]).toEqual([422, 'password']);
    // however long, it is judged in little time
    expect(faultOfPassword('ab'.repeat(100), [])).toContain('easy');
  });
});

describe('a second factor', () => {
  test('codes are those of RFC 6238, appendix B, and each is taken once', () => {
    // the secret of the appendix is the ASCII text 12345678901234567890; its eight digits end in our six
    const secret = 'GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ';
    for (const [seconds, code] of [
      [59, '287082'],
      [1_111_111_109, '081804'],
      [1_111_111_111, '050471'],
      [1_234_567_890, '005924'],
      [2_000_000_000, '279037'],
      [20_000_000_000, '353130'],
    ] as const) {
      const step = Math.floor(seconds / 30);
      expect(factorStep(secret, code, seconds * 1000, 0)).toBe(step);
      expect(factorStep(secret, code, seconds * 1000, step)).toBeNull();
      // a clock may be off by one step, not by two
      expect(factorStep(secret, code, (seconds + 30) * 1000, 0)).toBe(step);
      expect(factorStep(secret, code, (seconds + 60) * 1000, 0)).toBeNull();
    }
  });

  test('set up, asked for, taken once; spare codes once each; removed', async () => {
    const { email, secret, codes, cookie } = await withFactor();
    expect(codes).toHaveLength(10);
    const needed = await enter(email, good);
    expect([needed.status, needed.body.needs]).toEqual([401, 'code']);
    const later = codeOf(secret, Date.now() + 30_000);
    expect((await enter(email, good, later)).status).toBe(200);
    expect((await enter(email, good, later)).status).toBe(401);
    const spare = codes[0] as string;
    const both = await Promise.all([enter(email, good, spare), enter(email, good, spare.toUpperCase())]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 401]);
    expect((await ask<OwnAccount>('account', 'GET', cookie)).body).toMatchObject({ factor: true, spareCodes: 9 });
    const { rows } = await sql.query<{ text: string }>(`SELECT row_to_json(u)::text AS text FROM app_user u WHERE email = $1`, [email]);
    for (const hidden of [secret, ...codes, ...codes.map((code) => code.replace('-', ''))]) expect(rows[0]?.text).not.toContain(hidden);
    expect((await ask('account/factor', 'DELETE', cookie)).status).toBe(204);
    expect((await enter(email, good)).status).toBe(200);
  });

  test('whoever has the password cannot try all codes: asking for none in between gives no new tries', async () => {
    const { email } = await withFactor();
    await sql.query('DELETE FROM sign_in_try');
    const said: (string | undefined)[] = [];
    for (let i = 0; i < 12; i++) {
      await enter(email, good);
      said.push((await enter(email, good, String(100_000 + i))).body.needs);
    }
    expect(said.filter((needs) => needs === 'code').length).toBeLessThanOrEqual(4);
  });

  test('rules that another administrator changed since they were seen are not overwritten', async () => {
    const was = (await ask<DoorRules>('users/rules', 'GET', admin)).body;
    expect(
      (await ask('users/rules', 'PUT', admin, { ...was, keepLogDays: was.keepLogDays + 1, factorFor: ['engineer'], was })).status,
    ).toBe(200);
    const late = await ask<{ detail: string; fields: object[] }>('users/rules', 'PUT', admin, {
      ...was,
      idleMinutes: was.idleMinutes + 5,
      was,
    });
    expect([late.status, late.body.detail, late.body.fields]).toEqual([
      409,
      expect.stringContaining('changed since you saw them'),
      [
        { field: 'factorFor', problem: 'was changed meanwhile: access engineer now' },
        { field: 'keepLogDays', problem: `was changed meanwhile: ${was.keepLogDays + 1} now` },
      ],
    ]);
    const now = (await ask<DoorRules>('users/rules', 'GET', admin)).body;
    expect(now).toEqual({ ...was, keepLogDays: was.keepLogDays + 1, factorFor: ['engineer'] });
    // of two at the same moment one is told
    const both = await Promise.all([5, 6].map((more) => ask('users/rules', 'PUT', admin, { ...now, idleMinutes: 30 + more, was: now })));
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect((await ask('users/rules', 'PUT', admin, was)).status).toBe(200);
  });

  test('asked for of a role, nothing else is open before it is set up, and it cannot be given up', async () => {
    const rules = (await ask<DoorRules>('users/rules', 'GET', admin)).body;
    const { email, id } = await somebody('reader');
    expect((await ask('users/rules', 'PUT', admin, { ...rules, factorFor: ['reader'] })).status).toBe(200);
    const { cookie, body } = await enter(email, good);
    expect(body.mustSetUpFactor).toBe(true);
    expect(await ask('board', 'GET', cookie)).toMatchObject({ status: 403, body: { needs: 'second factor' } });
    const { secret } = (await ask<FactorOffer>('account/factor/offer', 'POST', cookie)).body;
    expect((await ask('account/factor', 'PUT', cookie, { secret, code: '000000' })).status).toBe(422);
    expect((await ask('account/factor', 'PUT', cookie, { secret, code: codeOf(secret) })).status).toBe(200);
    expect((await ask('board', 'GET', cookie)).status).toBe(200);
    expect((await ask('account/factor', 'DELETE', cookie)).status).toBe(409);
    // a lost device: an administrator takes it away, and it is to be set up anew
    expect((await ask(`users/${id}/factor`, 'DELETE', admin)).status).toBe(204);
    expect((await ask('board', 'GET', cookie)).status).toBe(403);
    await ask('users/rules', 'PUT', admin, rules);
  });
});

describe('sessions', () => {
  test('a changed password ends every other session, also on the other server, and the old one is asked', async () => {
    const { email } = await somebody();
    const [one, two] = [await enter(email, good), await enter(email, good)];
    expect((await other.call('board', { cookie: two.cookie })).status).toBe(200);
    expect(
      (await ask('account/password', 'PUT', one.cookie, { password: 'not the old one', next: 'a wholly new gravel otter' })).status,
    ).toBe(401);
    expect((await ask('account/password', 'PUT', one.cookie, { password: good, next: 'short' })).status).toBe(400);
    expect((await ask('account/password', 'PUT', one.cookie, { password: good, next: 'aaaaaaaaaaaa' })).status).toBe(422);
    expect((await ask('account/password', 'PUT', one.cookie, { password: good, next: 'a wholly new gravel otter' })).status).toBe(204);
    expect((await ask('board', 'GET', one.cookie)).status).toBe(200);
    for (let i = 0; i < 40 && (await other.call('board', { cookie: two.cookie })).status === 200; i++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    expect((await other.call('board', { cookie: two.cookie })).status).toBe(401);
    expect((await enter(email, good)).status).toBe(401);
  });

  test('one’s own are listed with device and place, and each can be ended; nobody else’s', async () => {
    const { email } = await somebody();
    const [one, two] = [await enter(email, good), await enter(email, good)];
    const { sessions } = (await ask<OwnAccount>('account', 'GET', one.cookie)).body;
    expect(sessions.filter(({ current }) => current)).toHaveLength(1);
    expect(sessions).toHaveLength(2);
    expect(sessions[0]).toMatchObject({ address: '127.0.0.1', device: expect.stringMatching(/\S/) });
    const elsewhere = sessions.find(({ current }) => !current)?.id as string;
    const stranger = await enter((await somebody()).email, good);
    expect((await ask(`account/sessions/${elsewhere}`, 'DELETE', stranger.cookie)).status).toBe(404);
    expect((await ask(`account/sessions/${elsewhere}`, 'DELETE', one.cookie)).status).toBe(204);
    expect((await ask('board', 'GET', two.cookie)).status).toBe(401);
  });

  test('nobody there for the idle time, and it is over; what a page fetches by itself does not keep it', async () => {
    const { email } = await somebody();
    const { cookie } = await enter(email, good);
    const away = (minutes: number) =>
      sql.query(
        `UPDATE app_session SET used_at = now() - make_interval(mins => $2) WHERE user_id = (SELECT id FROM app_user WHERE email = $1)`,
        [email, minutes],
      );
    const fetched = () => other.call('board', { cookie, headers: { 'x-idle': '1' } });
    await away(29);
    expect((await fetched()).status).toBe(200);
    const { rows } = await sql.query<{ s: number }>(
      `SELECT extract(epoch FROM now() - used_at)::int AS s FROM app_session WHERE user_id = (SELECT id FROM app_user WHERE email = $1)`,
      [email],
    );
    expect(rows[0]?.s).toBeGreaterThan(28 * 60);
    await away(31);
    expect((await fetched()).status).toBe(401);
  });

  test('weighty things ask for the password again after ten minutes', async () => {
    const { email } = await somebody('admin');
    const { cookie } = await enter(email, good);
    const asked = { email: 'weighty@saltmarsh.example', name: 'W', role: 'reader', password: good };
    await sql.query(
      `UPDATE app_session SET confirmed_at = now() - interval '11 minutes' WHERE user_id = (SELECT id FROM app_user WHERE email = $1)`,
      [email],
    );
    expect(await ask('users', 'POST', cookie, asked)).toMatchObject({ status: 403, body: { needs: 'confirmation' } });
    expect(await ask('estate/exports', 'POST', cookie)).toMatchObject({ status: 403 });
    expect((await ask('session/confirm', 'POST', cookie, { password: 'wrong' })).status).toBe(401);
    expect((await ask('session/confirm', 'POST', cookie, { password: good })).status).toBe(204);
    expect((await ask('users', 'POST', cookie, asked)).status).toBe(201);
  });

  test('an event stream ends with its session, whoever ends it and wherever', async () => {
    const { email, id } = await somebody();
    const { cookie } = await enter(email, good);
    const stream = await fetch(`${other.base}/api/events`, { headers: { cookie } });
    const text = stream.text();
    expect((await ask(`users/${id}`, 'DELETE', admin)).status).toBe(204);
    expect(await Promise.race([text, new Promise((resolve) => setTimeout(() => resolve('still open'), 8000))])).toContain('event: ended');
  });

  test('a role changes without the sign-in being made anew, and counts at once', async () => {
    const { email, id } = await somebody('reader');
    const { cookie } = await enter(email, good);
    const try1 = () =>
      ask('drafts', 'POST', cookie, { name: 'x', change: { patches: [{ do: 'move', leave: 'posters', join: 'timetable' }] } });
    expect((await try1()).status).toBe(403);
    expect((await ask(`users/${id}`, 'PATCH', admin, { role: 'engineer' })).status).toBe(200);
    expect((await try1()).status).toBe(201);
    const own = (await ask<UserView[]>('users', 'GET', admin)).body.find((user) => user.email === people.admin)?.id;
    expect((await ask(`users/${own}`, 'PATCH', admin, { role: 'reader' })).status).toBe(409);
  });

  test('of two administrators who take each other’s role, or sign-in, at the same moment one stays', async () => {
    const held = new pg.Client({ connectionString: database.url });
    await held.connect();
    for (const [how, body] of [
      ['PATCH', { role: 'reader' }],
      ['DELETE', undefined],
    ] as const) {
      const [one, two] = [await somebody('admin'), await somebody('admin')];
      const cookies = [(await enter(one.email, good)).cookie, (await enter(two.email, good)).cookie] as const;
      // both are asked while neither can be written
      await held.query('BEGIN');
      await held.query(`SELECT 1 FROM app_user WHERE role = 'admin' FOR UPDATE`);
      const answers = Promise.all([ask(`users/${two.id}`, how, cookies[0], body), ask(`users/${one.id}`, how, cookies[1], body)]);
      await new Promise((resolve) => setTimeout(resolve, 300));
      await held.query('COMMIT');
      expect((await answers).map(({ status }) => status).sort()).toEqual([how === 'PATCH' ? 200 : 204, 403]);
      const left = (await ask<UserView[]>('users', 'GET', admin)).body.filter(({ id }) => [one.id, two.id].includes(id));
      expect(left.filter(({ role }) => role === 'admin')).toHaveLength(1);
    }
    await held.end();
  });
});

describe('the log of the doors', () => {
  test('tells who did what from where, to administrators alone, and never a secret', async () => {
    const { email, secret, codes } = await withFactor();
    const wrong = 'a password nobody may read later';
    await enter(email, wrong);
    await enter(email, good, codes[1]);
    expect((await server.call(`check/${'Z'.repeat(32)}`)).status).toBe(404);
    const events = await log();
    const kinds = events.filter((event) => event.who === email).map(({ kind }) => kind);
    expect(kinds).toEqual(expect.arrayContaining(['signed in', 'second factor set up', 'sign-in refused', 'spare code used']));
    expect(events.find(({ kind }) => kind === 'token refused')).toMatchObject({ who: '', address: '127.0.0.1' });
    expect(events.find(({ kind }) => kind === 'user added')).toMatchObject({ who: people.admin, address: '127.0.0.1' });
    const { cookie } = await enter(people.reader, 'under-the-estuary');
    expect((await ask('security-log', 'GET', cookie)).status).toBe(403);
    const text = (await server.exported('security-log/exports', admin, { format: 'syslog' })).toString('utf8');
    for (const line of text.split('\n'))
      expect(line).toMatch(
        /^<8[45]>1 \d{4}-\d\d-\d\dT[\d:.]+Z \S+ underpass - [a-z-]+ \[underpass@32473 event="[^"]+" who="[^"]*" address="[^"]*"\] \uFEFF/,
      );
    // whatever the log and the tables of the doors hold: nothing that opens anything
    const { rows } = await sql.query<{ text: string }>(
      `SELECT string_agg(e::text, ' ') || (SELECT string_agg(s::text, ' ') FROM app_session s) || (SELECT string_agg(u::text, ' ') FROM app_user u) AS text FROM security_event e`,
    );
    for (const hidden of [wrong, good, secret, ...codes, admin.split('=')[1] as string]) {
      expect(text).not.toContain(hidden);
      expect(rows[0]?.text).not.toContain(hidden);
    }
  });

  test('a line cannot be broken or forged by what stands in it', () => {
    const line = syslogLine(
      { id: '1', at: '2026-06-12T08:00:00.000Z', kind: 'signed in', who: 'a"]\n<80>1 forged', address: '192.0.2.1', about: 'x\ny\\' },
      'host name',
    );
    expect(line.split('\n')).toHaveLength(1);
    expect(line).toContain('who="a\\"\\] <80>1 forged"');
    expect(line).toMatch(/^<85>1 2026-06-12T08:00:00\.000Z hostname underpass - signed-in /);
  });
});
