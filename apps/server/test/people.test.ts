import { expect, test } from '@jest/globals';
import { RetentionService } from '../src/people/retention.service.js';
import { RulesService } from '../src/signin/rules.service.js';
import { people } from './server.js';
import { withDemo } from './withDemo.js';

const demo = withDemo(46_700);

const ask = <T>(path: string, method = 'GET', body?: unknown, headers: Record<string, string> = {}) =>
  demo.ask<T>(path, method, body, { cookie: demo.admin, headers });
/** Everything the database holds, as text: what is not in it is not kept. */
async function everything(): Promise<string> {
  const { rows } = await demo.sql.query<{ name: string }>(`SELECT tablename AS name FROM pg_tables WHERE schemaname = 'public'`);
  let text = '';
  for (const { name } of rows)
    text += (await demo.sql.query<{ t: string }>(`SELECT coalesce(string_agg(r::text, ' '), '') AS t FROM "${name}" r`)).rows[0]?.t ?? '';
  return text;
}

test('everything about one person is shown, then erased: nowhere a word of them, and verdicts stay as counts', async () => {
  const id = 'P136';
  const read = await ask<{ object: { name: string; id: string } }>(`estate/person/${id}`);
  const was = read.body.object.name;
  const name = 'Thessaly Quillfeather';
  await ask(`estate/person/${id}`, 'PUT', { ...read.body.object, name }, { 'if-match': read.headers.get('etag') ?? '' });
  await ask('access/links', 'POST', { resource: 'timetable', targetKind: 'person', target: id, caption: 'Theirs' });
  await ask('check-links', 'POST', { location: 'wexcombe', person: id });
  for (const search of [`?person=${id}`, '?search=Thessaly+Quillfeather&sort=name', '?person=P13'])
    await ask('views', 'POST', { name: `seen ${search.length}`, path: '/crossings', search });
  await ask('drafts', 'POST', { name: 'of theirs', change: { patches: [{ do: 'change', kind: 'person', id, set: { groups: [] } }] } });
  await demo.sql.query(
    `INSERT INTO job (id, kind, name, by_name, created_at, state, step, done, total, request, result)
     VALUES (gen_random_uuid(), 'consequence', 'x', 'x', now(), 'done', 'x', 1, 1, $1, $2)`,
    [JSON.stringify({ patches: [{ do: 'move', people: [id] }] }), JSON.stringify({ rows: [{ person: { id, name } }] })],
  );
  await ask('signon/recordings', 'POST', {
    location: 'wexcombe',
    person: id,
    startedAt: '2026-11-25T08:00:00Z',
    steps: { broker: 2 },
    note: `of ${name}`,
  });
  const directory = (await ask<{ token: string }>('intake/scim', 'POST', { name: 'Provider' })).body;
  const sent = await fetch(`${demo.server.base}/scim/v2/Users`, {
    method: 'POST',
    headers: { authorization: `Bearer ${directory.token}`, 'content-type': 'application/json' },
    body: JSON.stringify({ schemas: ['urn:ietf:params:scim:schemas:core:2.0:User'], userName: id, displayName: name }),
  });
  expect(sent.status).toBe(201);
  const crossing = (await ask<{ rows: { id: string; endpoint: string }[] }>(`crossings?person=${id}`)).body.rows[0] as {
    id: string;
    endpoint: string;
  };
  const { body } = await ask<Record<string, unknown[]>>(`people/${id}/data`);
  expect(body).toMatchObject({ person: { name }, measurements: [{ note: `of ${name}` }] });
  for (const part of ['links', 'fieldChecks', 'verdicts', 'changes', 'endpoints', 'measurements', 'saidBySources', 'sentByDirectories'])
    expect([part, (body[part] as unknown[]).length > 0]).toEqual([part, true]);
  const counted = Number((await demo.sql.query(`SELECT count(*) AS n FROM verdict_history WHERE crossing LIKE '${id}~%'`)).rows[0].n);
  const engineer = await demo.server.signIn(people.engineer);
  expect((await demo.server.call(`people/${id}/data`, { method: 'DELETE', cookie: engineer })).status).toBe(403);
  expect((await ask(`people/${id}/data`, 'DELETE')).status).toBe(204);
  // another’s stays
  expect((await demo.sql.query('SELECT search FROM kept_view')).rows).toEqual([{ search: '?person=P13' }]);
  const kept = await everything();
  // their key stays where it must: in the mark that it was removed, which other servers follow, and where it was asked for
  const left = kept.replaceAll(`(person,${id},"{""id"": ""${id}""}"`, '').replaceAll(/"person shown",[^)]*\)/g, '');
  for (const word of [name, was, `"${id}"`, `${id}~`, `,${id},`]) {
    const at = left.indexOf(word);
    expect([word, at < 0 ? null : left.slice(Math.max(0, at - 150), at + 60)]).toEqual([word, null]);
  }
  expect(Number((await demo.sql.query('SELECT sum(count) AS n FROM erased_verdict')).rows[0].n)).toBe(counted);
  expect((await ask(`people/${id}/data`)).status).toBe(404);
  expect((await ask(`crossings/${encodeURIComponent(crossing.id)}`)).status).toBe(404);
  // the device stays, and is nobody's
  const endpoint = (await ask<{ object: { person?: string } }>(`estate/endpoint/${crossing.endpoint}`)).body.object;
  expect(endpoint.person).toBeUndefined();
  // and the estate is still one that its own import takes
  expect((await demo.server.exported('estate/exports', demo.admin)).byteLength).toBeGreaterThan(1000);
});

test('what was kept long enough is let go of, just after its time and not just before', async () => {
  const retention = demo.server.app.get(RetentionService);
  const rules = await demo.server.app.get(RulesService).get();
  const day = 86_400_000;
  const now = Date.parse('2026-11-26T12:00:00Z');
  const year = (at: string) => ask('signon/recordings', 'POST', { location: 'wexcombe', startedAt: at, steps: { broker: 2 } });
  for (const at of ['2023-12-31T23:00:00Z', '2024-01-01T01:00:00Z', '2026-01-01T01:00:00Z']) expect((await year(at)).status).toBe(201);
  const at = (days: number, extra: number) => new Date(now - days * day + extra).toISOString();
  for (const [days, extra] of [
    [rules.keepLogDays, -60_000],
    [rules.keepLogDays, 60_000],
  ] as const)
    await demo.sql.query(
      `INSERT INTO security_event (id, at, kind, who, address, about) VALUES (gen_random_uuid(), $1, 'signed in', $2, '', '')`,
      [at(days, extra), extra > 0 ? 'just kept' : 'just over'],
    );
  for (const extra of [-60_000, 60_000])
    await demo.sql.query(
      `INSERT INTO sighting (id, at, person, portal, outcome, saw, steps) VALUES (gen_random_uuid(), $1, 'P002', $2, 'list', '{}', '{}')`,
      [at(rules.keepReportsDays, extra), extra > 0 ? 'just-kept' : 'just-over'],
    );
  // devices that reported: those that nobody took in go, with keys that are over; one that was taken in stays, and so does its key
  const batches = ['11111111-0000-4000-8000-000000000001', '11111111-0000-4000-8000-000000000002'];
  for (const [i, id] of batches.entries())
    await demo.sql.query(
      `INSERT INTO enrol_batch (id, name, token_hash, most, used, by_name, at, expires_at) VALUES ($1, 'Tills', $2, 9, 3, 'x', $3, $3)`,
      [id, `sum ${i}`, at(91, 0)],
    );
  for (const [i, state, extra] of [
    [0, 'waiting', -60_000],
    [1, 'waiting', 60_000],
    [2, 'dropped', -60_000],
    [3, 'taken', -60_000],
  ] as const)
    await demo.sql.query(
      `INSERT INTO enrol_device (id, batch, device_key, name, report, address, first_at, at, state)
       VALUES (gen_random_uuid(), $1, $2, $2, '{}', '', $3, $3, $4)`,
      [batches[0], `reported ${i}`, at(90, extra), state],
    );
  const guest = await ask<{ object: { guest: object; id: string } }>('estate/person/P380');
  const ended = new Date(now - (rules.keepLeftDays + 2) * day).toISOString().slice(0, 10);
  await ask(
    'estate/person/P380',
    'PUT',
    { ...guest.body.object, guest: { ...guest.body.object.guest, endsOn: ended } },
    { 'if-match': guest.headers.get('etag') ?? '' },
  );
  const later = await ask<{ object: { guest: object } }>('estate/person/P379');
  const recent = new Date(now - (rules.keepLeftDays - 2) * day).toISOString().slice(0, 10);
  await ask(
    'estate/person/P379',
    'PUT',
    { ...later.body.object, guest: { ...later.body.object.guest, endsOn: recent } },
    { 'if-match': later.headers.get('etag') ?? '' },
  );
  await retention.run(now);
  const kept = await everything();
  expect([kept.includes('just over'), kept.includes('just kept'), kept.includes('just-over'), kept.includes('just-kept')]).toEqual([
    false,
    true,
    false,
    true,
  ]);
  expect((await demo.sql.query('SELECT name FROM enrol_device ORDER BY 1')).rows).toEqual([{ name: 'reported 1' }, { name: 'reported 3' }]);
  expect((await demo.sql.query('SELECT id FROM enrol_batch')).rows).toEqual([{ id: batches[0] }]);
  const { rows } = await demo.sql.query<{ name: string }>(
    `SELECT tablename AS name FROM pg_tables WHERE tablename LIKE 'measurement_2%' ORDER BY 1`,
  );
  // the demo has more years, as it is told from when it is loaded
  const years = rows.map(({ name }) => name);
  expect([years.includes('measurement_2023'), years.includes('measurement_2024'), years.includes('measurement_2026')]).toEqual([
    false,
    true,
    true,
  ]);
  expect((await ask('estate/person/P380')).status).toBe(404);
  expect((await ask('estate/person/P379')).status).toBe(200);
  // and again: nothing more to do, nothing fails
  await retention.run(now);
});
