import { describe, expect, test } from '@jest/globals';
import type { JobStarted, JobView, ListLook, ListOutcome, OriginsAnswer } from '@underpass/contracts';
import { setTimeout as wait } from 'node:timers/promises';
import { people } from './server.js';
import { withDemo } from './withDemo.js';

const demo = withDemo(49_350);

const ask = <T>(path: string, method = 'GET', body?: unknown, headers: Record<string, string> = {}) =>
  demo.ask<T>(path, method, body, { headers });
/** Takes a list in, or sees what it comes to. */
async function list(rows: string[], what: 'check' | 'take' = 'take', more: object = {}): Promise<ListOutcome> {
  const sent = await fetch(`${demo.server.base}/api/intake/lists?name=devices.csv`, {
    method: 'POST',
    headers: { cookie: demo.engineer, 'x-underpass': '1', 'content-type': 'application/octet-stream' },
    body: ['id;name;location;memoryMB;deviceClass', ...rows].join('\r\n'),
  });
  const look = (await sent.json()) as ListLook;
  const started = await ask<JobStarted>(`intake/lists/${look.id}/${what}`, 'POST', { map: look.map, ...more });
  expect([started.status, started.status === 202 ? '' : started.body]).toEqual([202, '']);
  for (;;) {
    const job = (await ask<JobView>(`jobs/${started.body.job.id}`)).body;
    if (['waiting', 'running'].includes(job.state)) {
      await wait(50);
      continue;
    }
    if (job.state !== 'done') throw new Error(String(job.message));
    return job.result as ListOutcome;
  }
}
const endpoint = async (id: string) => (await ask<{ object: Record<string, unknown> }>(`estate/endpoint/${id}`)).body.object;
async function type(id: string, fields: object): Promise<void> {
  const { body, headers } = await ask<{ object: object }>(`estate/endpoint/${id}`);
  const put = await ask(`estate/endpoint/${id}`, 'PUT', { ...body.object, ...fields }, { 'if-match': headers.get('etag') ?? '' });
  expect(put.status).toBe(200);
}
const origin = async (id: string, field: string) =>
  (await ask<OriginsAnswer>(`intake/origins/endpoint/${id}`)).body.find((each) => each.field === field);

describe('a field that several sources say something of', () => {
  test('keeps what somebody typed; what the list says stays visible, and is taken where somebody says so', async () => {
    await list(['S-1;Till south;wexcombe;4096;thin-client'], 'take', { source: 'Inventory' });
    expect(await origin('S-1', 'memoryMB')).toMatchObject({ source: 'list:Inventory', value: '4096', others: [] });
    await type('S-1', { memoryMB: 8192 });
    expect(await origin('S-1', 'memoryMB')).toMatchObject({
      ...{ source: 'typed', by: 'Ines Farrow', value: '8192' },
      others: [{ source: 'list:Inventory', value: '4096' }],
    });
    const next = ['S-1;Till south window;wexcombe;6144;thin-client'];
    const checked = await list(next, 'check', { source: 'Inventory' });
    expect(checked).toMatchObject({ changed: 1, heldTotal: 1 });
    expect(checked.held).toMatchObject([{ id: 'S-1', field: 'memoryMB', value: '6144', stands: '8192', source: 'typed' }]);
    // a check says nothing yet
    expect((await origin('S-1', 'memoryMB'))?.others).toMatchObject([{ value: '4096' }]);
    await list(next, 'take', { source: 'Inventory' });
    expect(await endpoint('S-1')).toMatchObject({ name: 'Till south window', memoryMB: 8192 });
    expect((await origin('S-1', 'memoryMB'))?.others).toMatchObject([{ source: 'list:Inventory', value: '6144' }]);

    const take = (was: string, says: string) =>
      ask<{ detail: string }>('intake/origins/endpoint/S-1', 'POST', { field: 'memoryMB', source: 'list:Inventory', was, says });
    // as it was told, both what stands and what the source says
    const [late, other] = [await take('4096', '6144'), await take('8192', '4096')];
    expect([late.status, late.body.detail]).toEqual([409, 'It is 8192 by now. Nothing was taken over: look again.']);
    expect([other.status, other.body.detail]).toEqual([409, 'list:Inventory says otherwise by now. Nothing was taken over: look again.']);
    expect(await endpoint('S-1')).toMatchObject({ memoryMB: 8192 });
    const taken = await take('8192', '6144');
    expect(taken.status).toBe(200);
    expect(await endpoint('S-1')).toMatchObject({ memoryMB: 6144 });
    expect(await origin('S-1', 'memoryMB')).toMatchObject({ source: 'list:Inventory', others: [] });
    // and follows the list again
    await list(['S-1;Till south window;wexcombe;2048;thin-client'], 'take', { source: 'Inventory' });
    expect(await endpoint('S-1')).toMatchObject({ memoryMB: 2048 });
  });

  test('stays as it is where a source repeats what somebody took back', async () => {
    await list(['S-2;Till north;wexcombe;4096;thin-client']);
    await list(['S-2;Till north;wexcombe;16384;thin-client']);
    const [change] = (await ask<{ changeId: string }[]>('changes')).body;
    expect((await ask(`changes/${change?.changeId}/undo`, 'POST')).status).toBe(200);
    expect(await endpoint('S-2')).toMatchObject({ memoryMB: 4096 });
    expect(await list(['S-2;Till north;wexcombe;16384;thin-client'])).toMatchObject({ changed: 0, heldTotal: 1 });
    expect(await endpoint('S-2')).toMatchObject({ memoryMB: 4096 });
    // somebody wants what the list says after all
    expect(await list(['S-2;Till north;wexcombe;16384;thin-client'], 'take', { over: true })).toMatchObject({ changed: 1, heldTotal: 0 });
    expect(await endpoint('S-2')).toMatchObject({ memoryMB: 16384 });
  });

  test('that somebody typed and took back follows the list again', async () => {
    await list(['S-3;Till west;wexcombe;4096;thin-client']);
    await type('S-3', { memoryMB: 8192 });
    const [change] = (await ask<{ changeId: string }[]>('changes')).body;
    await ask(`changes/${change?.changeId}/undo`, 'POST');
    expect(await origin('S-3', 'memoryMB')).toMatchObject({ source: 'list', value: '4096', others: [] });
    await list(['S-3;Till west;wexcombe;2048;thin-client']);
    expect(await endpoint('S-3')).toMatchObject({ memoryMB: 2048 });
  });

  test('is decided by the order that somebody set, for the kind and for the field', async () => {
    await list(['S-4;Till east;wexcombe;4096;thin-client']);
    await type('S-4', { memoryMB: 8192, name: 'Till at the east door' });
    const turned = ['list', 'typed', 'device', 'ldap', 'scim', 'files'];
    expect((await ask('intake/source-order', 'PUT', { order: { endpoint: { fields: { memoryMB: turned } } } })).status).toBe(200);
    await list(['S-4;Till east;wexcombe;2048;thin-client']);
    expect(await endpoint('S-4')).toMatchObject({ memoryMB: 2048, name: 'Till at the east door' });
    const { status, body } = await ask<{ detail: string; fields: unknown }>('intake/source-order', 'PUT', {
      order: { endpoint: { all: ['list'] } },
    });
    expect([status, JSON.stringify(body)]).toEqual([400, expect.stringContaining('order.endpoint.all')]);
    // one who saw the usual order still is told
    const host = { order: { host: { all: turned, fields: {} } }, was: {} };
    expect(await ask('intake/source-order', 'PUT', host)).toMatchObject({
      status: 409,
      body: { detail: expect.stringContaining('changed since you saw it') },
    });
    const was = (await ask<object>('intake/source-order')).body;
    expect((await ask('intake/source-order', 'PUT', { ...host, was })).status).toBe(200);
    expect((await ask('intake/source-order', 'PUT', { order: {} })).status).toBe(200);
  });

  test('is asked for of what is there alone', async () => {
    expect((await ask('intake/origins/endpoint/nothing-such')).status).toBe(404);
    expect((await ask('intake/origins/endpoint/S-1', 'POST', { field: 'memoryMB', source: 'ldap:Main', was: '', says: '' })).status).toBe(
      409,
    );
    const reader = await demo.server.signIn(people.reader);
    expect((await demo.server.call('intake/source-order', { method: 'PUT', cookie: reader, body: { order: {} } })).status).toBe(403);
  });

  test('says no secret, and nothing of what is gone', async () => {
    await type('S-1', { wifi: { name: 'Hall', security: 'WPA', key: 'a key nobody may read' } });
    expect((await demo.sql.query(`SELECT fields FROM said WHERE object_id = 'S-1' AND fields ? 'wifi'`)).rows).toEqual([]);
    expect((await demo.sql.query(`SELECT source FROM said WHERE object_id = 'S-1'`)).rows.length).toBeGreaterThan(0);
    const { headers } = await ask('estate/endpoint/S-1');
    expect((await ask('estate/endpoint/S-1', 'DELETE', undefined, { 'if-match': headers.get('etag') ?? '' })).status).toBeLessThan(300);
    expect((await demo.sql.query(`SELECT * FROM said WHERE object_id = 'S-1'`)).rows).toEqual([]);
  });
});

describe('what is not in a list any more', () => {
  test('is removed where somebody asks for it by its id, with the rest of the list as one change', async () => {
    await list(['R-1;Old one;wexcombe;4096;thin-client', 'R-2;Other;wexcombe;4096;thin-client']);
    const { missing, ...rest } = await list(['R-2;Other;wexcombe;8192;thin-client'], 'take', { remove: ['R-1'] });
    expect(rest).toMatchObject({ applied: true, removed: 1, changed: 1 });
    expect(missing.map(({ id }) => id)).toContain('R-1');
    expect((await ask('estate/endpoint/R-1')).status).toBe(404);
    const [change] = (await ask<{ changeId: string }[]>('changes')).body;
    expect((await ask(`changes/${change?.changeId}/undo`, 'POST')).status).toBe(200);
    expect(await endpoint('R-1')).toMatchObject({ name: 'Old one' });
    expect(await endpoint('R-2')).toMatchObject({ memoryMB: 4096 });
  });

  test('is not removed where it is in the list, or something rests on it', async () => {
    await expect(list(['R-2;Other;wexcombe;4096;thin-client'], 'take', { remove: ['R-2'] })).rejects.toThrow('is in the list');
    const held = await fetch(`${demo.server.base}/api/intake/lists?name=places.csv`, {
      method: 'POST',
      headers: { cookie: demo.engineer, 'x-underpass': '1', 'content-type': 'application/octet-stream' },
      body: 'id;name;kind\r\nhead-office;Head office;office\r\n',
    });
    const look = (await held.json()) as ListLook;
    const { job } = (await ask<JobStarted>(`intake/lists/${look.id}/take`, 'POST', { map: look.map, remove: ['wexcombe'] })).body;
    let view = job as JobView;
    while (['waiting', 'running'].includes(view.state)) {
      await wait(50);
      view = (await ask<JobView>(`jobs/${job.id}`)).body;
    }
    expect([view.state, view.message]).toEqual([
      'failed',
      expect.stringMatching(/location wexcombe is named by person P.*nothing was written/),
    ]);
    expect((await ask('estate/location/wexcombe')).status).toBe(200);
  });
});
