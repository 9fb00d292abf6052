import { beforeAll, describe, expect, test } from '@jest/globals';
import type { ScimFeedMade, ScimFeedView } from '@underpass/contracts';
import SCIMMY from 'scimmy';
import { people } from './server.js';
import { withDemo } from './withDemo.js';

const demo = withDemo(49_400);

let made: ScimFeedMade;
const userSchema = 'urn:ietf:params:scim:schemas:core:2.0:User';
const groupSchema = 'urn:ietf:params:scim:schemas:core:2.0:Group';

beforeAll(async () => {
  const answer = await demo.server.call('intake/scim', {
    method: 'POST',
    cookie: demo.admin,
    body: { name: 'Provider', options: { placeFrom: 'locality' } },
  });
  expect(answer.status).toBe(201);
  made = answer.body;
}, 60_000);

type Body = Record<string, unknown>;
const send = async (path: string, method = 'GET', body?: unknown, { token = made.token, ...more }: Record<string, string> = {}) => {
  const answer = await fetch(`${demo.server.base}/scim/v2${path}`, {
    method,
    headers: { authorization: `Bearer ${token}`, ...(body === undefined ? {} : { 'content-type': 'application/scim+json' }), ...more },
    ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
  });
  const text = await answer.text();
  return { status: answer.status, headers: answer.headers, body: (text === '' ? {} : JSON.parse(text)) as Body };
};
/** Sends, and has the answer read by a program that knows the standard. */
const user = async (fields: object) => {
  const { status, body, headers } = await send('/Users', 'POST', { schemas: [userSchema], ...fields });
  expect([status, status === 201 ? '' : body]).toEqual([201, '']);
  expect(headers.get('content-type')).toMatch(/^application\/scim\+json/);
  const read = new SCIMMY.Schemas.User(structuredClone(body), 'out');
  expect(read.id).toBe(body.id);
  return body as Body & { id: string };
};
const group = async (displayName: string, members: string[] = []) => {
  const { status, body } = await send('/Groups', 'POST', {
    schemas: [groupSchema],
    displayName,
    members: members.map((value) => ({ value })),
  });
  expect([status, status === 201 ? '' : body]).toEqual([201, '']);
  expect(new SCIMMY.Schemas.Group(structuredClone(body), 'out').displayName).toBe(displayName);
  return body as Body & { id: string };
};
const patch = (path: string, ...Operations: object[]) =>
  send(path, 'PATCH', new SCIMMY.Messages.PatchOp({ schemas: ['urn:ietf:params:scim:api:messages:2.0:PatchOp'], Operations } as never));
const inEstate = async (kind: string, id: string) => {
  const { status, body } = await demo.server.call(`estate/${kind}/${id}`, { cookie: demo.admin });
  return status === 404 ? null : (body as { object: Body }).object;
};
const fault = ({ status, body }: { status: number; body: Body }) => {
  const error = body as { schemas: string[]; status: string; scimType?: string; detail: string };
  expect([error.schemas, error.status]).toEqual([['urn:ietf:params:scim:api:messages:2.0:Error'], String(status)]);
  return [status, error.scimType];
};

describe('who sends', () => {
  test('comes with the token, which is kept as its sum alone', async () => {
    for (const token of ['', 'x'.repeat(32), `${made.token}x`])
      expect((await send('/Users', 'GET', undefined, { token })).status).toBe(401);
    expect(fault(await send('/Users', 'GET', undefined, { token: 'x'.repeat(32) }))[0]).toBe(401);
    expect(JSON.stringify((await demo.sql.query('SELECT * FROM feed')).rows)).not.toContain(made.token);
    // before its body is read: one that is no JSON is not even looked at
    expect((await send('/Users', 'POST', 'x'.repeat(100), { token: 'wrong-token-of-some-length' })).status).toBe(401);
  });
  test('is added by administrators alone, and shown without its token', async () => {
    const engineer = await demo.server.signIn(people.engineer);
    expect((await demo.server.call('intake/scim', { method: 'POST', cookie: engineer, body: { name: 'Other' } })).status).toBe(403);
    const list = (await demo.server.call('intake/scim', { cookie: engineer })).body as ScimFeedView[];
    expect(list).toMatchObject([{ name: 'Provider', address: `${demo.server.base.replace('127.0.0.1', 'localhost')}/scim/v2` }]);
    expect((await demo.server.call('intake/scim', { method: 'POST', cookie: demo.admin, body: { name: 'provider' } })).status).toBe(409);
  });
});

describe('the service says of itself', () => {
  test('what it does, in the forms of the standard', async () => {
    const config = (await send('/ServiceProviderConfig')).body;
    expect(config).toMatchObject({ patch: { supported: true }, bulk: { supported: false }, etag: { supported: true } });
    const types = (await send('/ResourceTypes')).body;
    expect(new SCIMMY.Messages.ListResponse(types as never).totalResults).toBe(2);
    expect((await send('/ResourceTypes/User')).body).toMatchObject({ endpoint: '/Users', schema: userSchema });
    const { body } = await send(`/Schemas/${userSchema}`);
    expect((body.attributes as Body[]).find(({ name }) => name === 'userName')).toMatchObject({
      ...{
        type: 'string',
        required: true,
        multiValued: false,
        caseExact: false,
        mutability: 'readWrite',
        returned: 'default',
        uniqueness: 'server',
      },
    });
    expect((await send('/Schemas')).body).toMatchObject({ totalResults: 3 });
    expect(fault(await send('/Schemas?filter=id%20pr'))[0]).toBe(403);
    expect(fault(await send('/Schemas/nothing'))[0]).toBe(404);
    expect(fault(await send('/Nothing'))[0]).toBe(404);
    expect(fault(await send('/Me'))[0]).toBe(501);
    expect(fault(await send('/Nothing/at/all'))[0]).toBe(404);
    expect(fault(await send('/Bulk', 'POST', {}))[0]).toBe(501);
  });
});

describe('people', () => {
  test('that are sent are people of the estate, at the place that is said, and are found among those that are there', async () => {
    const wren = await user({
      userName: 'wren.vale@saltmarsh.example',
      name: { givenName: 'Wren', familyName: 'Vale' },
      addresses: [{ type: 'work', locality: 'Wexcombe ticket hall' }],
      active: true,
    });
    expect(await inEstate('person', 'wren.vale')).toMatchObject({ name: 'Wren Vale', location: 'wexcombe', kind: 'staff', groups: [] });
    const there = await inEstate('person', 'P120');
    await user({ userName: 'P120', displayName: 'Another Name' });
    expect(await inEstate('person', 'P120')).toEqual({ ...there, name: 'Another Name' });
    expect(wren).toMatchObject({
      schemas: [userSchema],
      meta: { resourceType: 'User', version: 'W/"1"', location: `${made.feed.address}/Users/${wren.id}` },
    });
    const { body } = await demo.server.call(`intake/origins/person/wren.vale`, { cookie: demo.admin });
    expect((body as { field: string; source: string }[]).find(({ field }) => field === 'name')).toMatchObject({ source: 'scim:Provider' });
  });
  test('have each a name of their own', async () => {
    await user({ userName: 'twice@saltmarsh.example' });
    expect(fault(await send('/Users', 'POST', { schemas: [userSchema], userName: 'TWICE@saltmarsh.example' }))).toEqual([
      409,
      'uniqueness',
    ]);
    expect((await demo.sql.query(`SELECT count(*)::int AS n FROM scim_resource WHERE name_key LIKE 'twice%'`)).rows).toEqual([{ n: 1 }]);
  });
  test('are changed, by the version that was seen', async () => {
    const { id } = await user({ userName: 'mara', displayName: 'Mara Tide' });
    const first = await send(`/Users/${id}`);
    expect(first.headers.get('etag')).toBe('W/"1"');
    expect((await send(`/Users/${id}`, 'GET', undefined, { 'if-none-match': 'W/"1"' })).status).toBe(304);
    const changed = await patch(`/Users/${id}`, { op: 'replace', path: 'displayName', value: 'Mara Reed' });
    expect([changed.status, (changed.body.meta as Body).version]).toEqual([200, 'W/"2"']);
    expect(await inEstate('person', 'mara')).toMatchObject({ name: 'Mara Reed' });
    expect(fault(await send(`/Users/${id}`, 'PUT', { schemas: [userSchema], userName: 'mara' }, { 'if-match': 'W/"1"' }))[0]).toBe(412);
    const put = await send(
      `/Users/${id}`,
      'PUT',
      { schemas: [userSchema], userName: 'mara', displayName: 'M. Reed', id: 'ignored' },
      { 'if-match': 'W/"2"' },
    );
    expect([put.status, put.body.id, put.body.displayName]).toEqual([200, id, 'M. Reed']);
    expect(
      fault(await patch(`/Users/${id}`, { op: 'replace', path: 'displayName', value: 'X' }, { op: 'remove', path: 'userName' })),
    ).toEqual([400, 'invalidValue']);
    expect(await inEstate('person', 'mara')).toMatchObject({ name: 'M. Reed' });
  });
  test('that may not sign in see nothing, and those that are taken out leave with what is theirs alone', async () => {
    const { id } = await user({ userName: 'odd', displayName: 'Odd One' });
    const desk = await group('Odd desk', [id]);
    expect(await inEstate('person', 'odd')).toMatchObject({ groups: ['odd-desk'] });
    // some write the word with a large letter, and the operation too
    const body = {
      schemas: ['urn:ietf:params:scim:api:messages:2.0:PatchOp'],
      Operations: [{ op: 'Replace', path: 'active', value: 'False' }],
    };
    expect((await send(`/Users/${id}`, 'PATCH', body)).status).toBe(200);
    expect(await inEstate('person', 'odd')).toMatchObject({ groups: [] });
    await patch(`/Users/${id}`, { op: 'replace', path: 'active', value: true });
    expect(await inEstate('person', 'odd')).toMatchObject({ groups: ['odd-desk'] });
    const left = await send(`/Users/${id}`, 'DELETE');
    expect([left.status, await inEstate('person', 'odd')]).toEqual([204, null]);
    expect(fault(await send(`/Users/${id}`))[0]).toBe(404);
    expect((await send(`/Groups/${desk.id}`)).body.members ?? []).toEqual([]);
    const { body: changes } = await demo.server.call('changes', { cookie: demo.admin });
    expect((changes as { by: string; summary: string; canUndo: boolean }[])[0]).toMatchObject({
      by: 'Provider',
      summary: 'Provider: Odd One left',
      canUndo: true,
    });
  });
  test('keep what somebody typed here', async () => {
    const { id } = await user({ userName: 'kept', displayName: 'As Sent' });
    const read = await demo.server.call('estate/person/kept', { cookie: demo.admin });
    const etag = read.headers.get('etag') ?? '';
    await demo.server.call('estate/person/kept', {
      method: 'PUT',
      cookie: demo.admin,
      headers: { 'if-match': etag },
      body: { ...(read.body as { object: object }).object, name: 'As Typed' },
    });
    await patch(`/Users/${id}`, { op: 'replace', path: 'displayName', value: 'Sent Again' });
    expect(await inEstate('person', 'kept')).toMatchObject({ name: 'As Typed' });
    expect((await send(`/Users/${id}`)).body.displayName).toBe('Sent Again');
    const { body } = await demo.server.call('intake/origins/person/kept', { cookie: demo.admin });
    expect((body as { field: string; others: object[] }[]).find(({ field }) => field === 'name')).toMatchObject({
      ...{ source: 'typed', value: 'As Typed' },
      others: [{ source: 'scim:Provider', value: 'Sent Again' }],
    });
  });
});

describe('groups', () => {
  test('nested, with what they give here: who sees what follows', async () => {
    const { id: a } = await user({ userName: 'nested-a', displayName: 'Nested A' });
    const { id: b } = await user({ userName: 'nested-b', displayName: 'Nested B' });
    const [held] = (
      (await demo.server.call('estate/group?limit=500', { cookie: demo.admin })).body as {
        rows: { id: string; name: string; publications: string[] }[];
      }
    ).rows;
    const outer = await group(held?.name ?? '', [a]);
    const inner = await group('Night shift', [b]);
    expect((await patch(`/Groups/${outer.id}`, { op: 'add', path: 'members', value: [{ value: inner.id }] })).status).toBe(200);
    expect(await inEstate('group', held?.id ?? '')).toMatchObject({ publications: held?.publications });
    expect(await inEstate('group', 'night-shift')).toMatchObject({ memberOf: [held?.id] });
    expect([await inEstate('person', 'nested-a'), await inEstate('person', 'nested-b')]).toMatchObject([
      { groups: [held?.id] },
      { groups: ['night-shift'] },
    ]);
    const told = (await send(`/Users/${b}`)).body.groups as Body[];
    expect(told).toMatchObject([{ value: inner.id, display: 'Night shift', type: 'direct' }]);
    const members = (await send(`/Groups/${outer.id}`)).body.members as Body[];
    expect(members).toMatchObject([
      { value: a, type: 'User', display: 'Nested A' },
      { value: inner.id, type: 'Group', display: 'Night shift' },
    ]);
    // a circle is refused, and nothing of it is kept
    const circle = await patch(`/Groups/${inner.id}`, { op: 'add', path: 'members', value: [{ value: outer.id }] });
    expect(fault(circle)).toEqual([400, 'invalidValue']);
    expect((await send(`/Groups/${inner.id}`)).body.members).toMatchObject([{ value: b }]);
    // and out again, by a filter
    await patch(`/Groups/${inner.id}`, { op: 'remove', path: `members[value eq "${b}"]` });
    expect(await inEstate('person', 'nested-b')).toMatchObject({ groups: [] });
    expect((await send(`/Groups/${inner.id}`, 'DELETE')).status).toBe(204);
    expect(await inEstate('group', 'night-shift')).toBeNull();
    // one that gives something here stays, with nobody in it
    expect((await send(`/Groups/${outer.id}`, 'DELETE')).status).toBe(204);
    expect([await inEstate('group', held?.id ?? ''), await inEstate('person', 'nested-a')]).toMatchObject([
      { publications: held?.publications },
      { groups: [] },
    ]);
  });
  test('have members that are here alone', async () => {
    expect(fault(await send('/Groups', 'POST', { schemas: [groupSchema], displayName: 'Odd', members: [{ value: 'nobody' }] }))).toEqual([
      400,
      'invalidValue',
    ]);
  });
});

describe('lists', () => {
  test('are filtered, and come in parts', async () => {
    for (const name of ['list-1', 'list-2', 'list-3'])
      await user({ userName: name, title: 'Listed', emails: [{ value: `${name}@saltmarsh.example`, type: 'work' }] });
    const found = (text: string, more = '') => send(`/Users?filter=${encodeURIComponent(text)}${more}`);
    const list = async (text: string, more = '') => {
      const { body } = await found(text, more);
      const { totalResults, startIndex, itemsPerPage, Resources } = new SCIMMY.Messages.ListResponse(body as never);
      return [totalResults, startIndex, itemsPerPage, (Resources as unknown as { userName: string }[]).map(({ userName }) => userName)];
    };
    expect(await list('userName eq "LIST-2"')).toEqual([1, 1, 1, ['list-2']]);
    expect(await list('title eq "listed" and emails[type eq "work" and value sw "list-3"]')).toEqual([1, 1, 1, ['list-3']]);
    expect(await list('title eq "Listed"', '&startIndex=2&count=1')).toEqual([3, 2, 1, ['list-2']]);
    expect(await list('title eq "Listed"', '&startIndex=-4&count=-1')).toEqual([3, 1, 0, []]);
    expect(await list('title eq "Listed" and id eq "no"')).toEqual([0, 1, 0, []]);
    const few = await found('userName eq "list-1"', '&attributes=userName,emails.value');
    expect((few.body.Resources as Body[])[0]).toEqual({
      schemas: [userSchema],
      id: expect.any(String),
      userName: 'list-1',
      emails: [{ value: 'list-1@saltmarsh.example' }],
    });
    expect(fault(await found('userName is "x"'))).toEqual([400, 'invalidFilter']);
    expect(fault(await found('userName eq "list-1"', '&attributes=id&excludedAttributes=meta'))).toEqual([400, 'invalidValue']);
    const searched = await send('/Users/.search', 'POST', {
      schemas: ['urn:ietf:params:scim:api:messages:2.0:SearchRequest'],
      filter: 'title pr',
      attributes: ['userName'],
      count: 2,
    });
    expect([searched.status, searched.body.totalResults, (searched.body.Resources as Body[]).length]).toEqual([200, 3, 2]);
  });
});

describe('what cannot be read', () => {
  test('is refused in the form of the standard, and changes nothing', async () => {
    const before = (await demo.sql.query('SELECT count(*)::int AS n FROM scim_resource')).rows;
    expect(fault(await send('/Users', 'POST', '{'))).toEqual([400, 'invalidSyntax']);
    expect(fault(await send('/Users', 'POST', '[]'))[0]).toBe(400);
    expect(fault(await send('/Users', 'POST', { userName: 'x' }))).toEqual([400, 'invalidSyntax']);
    expect(fault(await send('/Users', 'POST', { schemas: [userSchema], userName: 'x', active: 'perhaps' }))).toEqual([400, 'invalidValue']);
    expect(fault(await send('/Users', 'POST', { schemas: [userSchema], userName: 'nul\u0000' }))[0]).toBe(400);
    expect(fault(await send('/Users', 'POST', `{"a":${'['.repeat(100)}${']'.repeat(100)}}`))[0]).toBe(400);
    expect(fault(await send('/Users', 'POST', { schemas: [userSchema], userName: 'x', title: 'y'.repeat(5 * 1024 * 1024) }))[0]).toBe(413);
    expect(fault(await send('/Users', 'POST', 'userName=x', { 'content-type': 'application/x-www-form-urlencoded' }))[0]).toBe(415);
    expect(fault(await patch('/Users/none', { op: 'add', path: 'title', value: 'x' }))[0]).toBe(404);
    const { id } = await user({ userName: 'whole' });
    expect(fault(await send(`/Users/${id}`, 'PATCH', { schemas: [], Operations: [{ op: 'turn' }] }))[0]).toBe(400);
    expect(fault(await send(`/Users/${id}`, 'PATCH', { schemas: [], Operations: [{ op: 'add', path: 'no', value: 1 }] }))).toEqual([
      400,
      'invalidPath',
    ]);
    expect((await demo.sql.query('SELECT count(*)::int AS n FROM scim_resource')).rows).toEqual([{ n: before[0].n + 1 }]);
  });
  test('comes from a directory that is not listened to any more', async () => {
    const other = (await demo.server.call('intake/scim', { method: 'POST', cookie: demo.admin, body: { name: 'Second' } }))
      .body as ScimFeedMade;
    const token = other.token;
    expect((await send('/Users', 'POST', { schemas: [userSchema], userName: 'second' }, { token })).status).toBe(201);
    // each sees what it sent itself
    expect((await send('/Users', 'GET', undefined, { token })).body.totalResults).toBe(1);
    // how it is read, as somebody saw it
    const was = other.feed.options;
    const put = (options: object) =>
      demo.server.call(`intake/scim/${other.feed.id}`, { method: 'PUT', cookie: demo.admin, body: { ...was, ...options, was } });
    expect((await put({ placeFrom: 'division' })).status).toBe(200);
    expect(await put({ makePlaces: true })).toMatchObject({ status: 409, body: { detail: expect.stringContaining('changed since') } });
    const turned = (await demo.server.call(`intake/scim/${other.feed.id}/token`, { method: 'POST', cookie: demo.admin }))
      .body as ScimFeedMade;
    expect((await send('/Users', 'GET', undefined, { token })).status).toBe(401);
    expect((await send('/Users', 'GET', undefined, { token: turned.token })).status).toBe(200);
    expect((await demo.server.call(`intake/scim/${other.feed.id}`, { method: 'DELETE', cookie: demo.admin })).status).toBe(204);
    expect((await send('/Users', 'GET', undefined, { token: turned.token })).status).toBe(401);
    expect(await inEstate('person', 'second')).not.toBeNull();
  });
});
