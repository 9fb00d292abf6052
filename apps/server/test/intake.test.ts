import { describe, expect, test } from '@jest/globals';
import type { GapsAnswer, JobStarted, JobView, KeptMap, ListLook, ListOutcome, TableMap } from '@underpass/contracts';
import { readFolder } from '@underpass/contracts';
import ExcelJS from 'exceljs';
import { strFromU8, unzipSync } from 'fflate';
import { setTimeout as wait } from 'node:timers/promises';
import { withDemo } from './withDemo.js';

const demo = withDemo(49_300);

const send = async (bytes: Uint8Array, name = 'devices.csv', cookie = demo.engineer, type = 'application/octet-stream') => {
  const response = await fetch(`${demo.server.base}/api/intake/lists?name=${encodeURIComponent(name)}`, {
    method: 'POST',
    headers: { cookie, 'x-underpass': '1', 'content-type': type },
    body: bytes as never,
  });
  return { status: response.status, body: (await response.json()) as ListLook & { detail?: string } };
};
const sent = async (text: string, name?: string) => {
  const { status, body } = await send(Buffer.from(text, 'latin1'), name);
  expect([status, body.detail]).toEqual([201, undefined]);
  return body;
};
async function outcome(id: string, what: 'check' | 'take', map: TableMap, mends: object = {}): Promise<ListOutcome> {
  const { status, body } = await demo.server.call(`intake/lists/${id}/${what}`, {
    method: 'POST',
    cookie: demo.engineer,
    body: { map, mends },
  });
  expect([status, status === 202 ? '' : body]).toEqual([202, '']);
  for (let i = 0; i < 600; i++, await wait(50)) {
    const job = (await demo.server.call(`jobs/${(body as JobStarted).job.id}`, { cookie: demo.engineer })).body as JobView;
    if (['waiting', 'running'].includes(job.state)) continue;
    expect([job.state, job.message]).toEqual(['done', null]);
    return job.result as ListOutcome;
  }
  throw new Error('the list did not end');
}
const endpoint = async (id: string) =>
  (await demo.server.call(`estate/endpoint/${id}`, { cookie: demo.engineer })) as {
    status: number;
    body: { object: Record<string, unknown> };
  };

const heads = 'Gerätename;Inventar-Nr.;Gerätetyp;Standort;RAM (GB);Eigentum;Plattform;Prozessor;Zugangsart';
const list = (...rows: string[]) => `${[heads, ...rows].join('\r\n')}\r\n`;
const south = 'Kasse Süd;N-1;Thin Client;Wexcombe ticket hall;4;Firma;thin;x64;eingebaut';
const north = 'Kasse Nord;N-2;Notebook;head-office;16;privat;desktop;x64;Browser';
const wrong = 'Kasse Ost;N-3;Toaster;Wexcombe tiket hall;8;Firma;thin;x64;eingebaut';

describe('a list', () => {
  test('is looked at, checked, mended, taken in as one change, and a month later changes only what changed', async () => {
    const looked = await sent(list(south, north, wrong));
    expect(looked).toMatchObject({
      format: 'csv',
      encoding: 'windows-1252',
      delimiter: ';',
      headerRow: 1,
      rows: 3,
      kind: 'endpoint',
      by: 'Ines Farrow',
    });
    expect(looked.columns.map(({ field }) => field)).toEqual([
      'name',
      'id',
      'deviceClass',
      'location',
      'memoryMB',
      'ownership',
      'platform',
      'processor',
      'clientKind',
    ]);
    expect(looked.sample[0]).toEqual({ row: 2, cells: south.split(';') });

    const before = await endpoint('N-1');
    const checked = await outcome(looked.id, 'check', looked.map);
    expect(checked).toMatchObject({ applied: false, added: 2, changed: 0, unchanged: 0, rejectedTotal: 1 });
    expect(checked.rejected.map(({ row, column, wanted }) => [row, column, wanted])).toEqual([
      [4, 'Gerätetyp', 'one of thin-client, laptop, desktop-computer, tablet, phone, kiosk'],
      [4, 'Standort', 'Wexcombe ticket hall (wexcombe)?'],
    ]);
    expect(checked.rejectedRows).toEqual([{ row: 4, cells: wrong.split(';') }]);
    expect(checked.missingTotal).toBeGreaterThan(300);
    expect([before.status, (await endpoint('N-1')).status]).toEqual([404, 404]);

    const taken = await outcome(looked.id, 'take', looked.map, { 4: { Gerätetyp: 'kiosk', Standort: 'wexcombe' } });
    expect(taken).toMatchObject({ applied: true, added: 3, rejectedTotal: 0 });
    expect((await endpoint('N-3')).body.object).toMatchObject({
      name: 'Kasse Ost',
      deviceClass: 'kiosk',
      location: 'wexcombe',
      memoryMB: 8192,
    });
    const [change] = (await demo.server.call('changes', { cookie: demo.engineer })).body as {
      summary: string;
      by: string;
      objects: unknown[];
    }[];
    expect([change?.summary, change?.by, change?.objects.length]).toEqual(['List devices.csv', 'Ines Farrow', 3]);

    const later = await sent(list(south, north.replace(';16;', ';32;')));
    expect(await outcome(later.id, 'take', later.map)).toMatchObject({ added: 0, changed: 1, unchanged: 1 });
    expect((await endpoint('N-2')).body.object).toMatchObject({ memoryMB: 32_768 });
  });

  test('may be a workbook, of which another sheet is read where somebody says so, or a directory', async () => {
    const book = new ExcelJS.Workbook();
    book.addWorksheet('About').addRow(['About this list']);
    const sheet = book.addWorksheet('Places');
    sheet.addRow(['Standort', 'Art', 'Leitung', 'Breitengrad', 'Längengrad']);
    sheet.addRow(['Neue Werft', 'Werft', 'Glasfaser', 53.1, 6.2]);
    const { body: looked } = await send(new Uint8Array(await book.xlsx.writeBuffer()), 'places.xlsx');
    expect(looked.sheets).toEqual({ names: ['About', 'Places'], read: 'About' });
    const other = (await demo.server.call(`intake/lists/${looked.id}?sheet=Places&kind=location`, { cookie: demo.engineer }))
      .body as ListLook;
    expect(other).toMatchObject({
      kind: 'location',
      head: ['Standort', 'Art', 'Leitung', 'Breitengrad', 'Längengrad'],
      map: { sheet: 'Places' },
    });
    const map = {
      ...other.map,
      columns: [{ from: 'Standort', to: 'name', with: ' ' }, ...other.map.columns.filter(({ to }) => to !== 'name')],
      key: 'name',
    };
    expect(await outcome(looked.id, 'take', map)).toMatchObject({ added: 1, rejectedTotal: 0 });
    expect((await demo.server.call('estate/location/neue-werft', { cookie: demo.engineer })).body).toMatchObject({
      object: { kind: 'dock', lineKind: 'fibre', latitude: 53.1 },
    });

    const ldif =
      'version: 1\n\ndn: uid=nova,ou=Head office\nobjectClass: inetOrgPerson\nuid: nova\ncn: Nova Newton\n\ndn: ou=Head office\nobjectClass: organizationalUnit\n';
    const directory = await sent(ldif, 'people.ldif');
    expect(directory).toMatchObject({ format: 'ldif', kind: 'person', rows: 1 });
    expect(await outcome(directory.id, 'take', { ...directory.map, constants: { kind: 'staff' } })).toMatchObject({ added: 1 });
    expect((await demo.server.call('estate/person/nova', { cookie: demo.engineer })).body).toMatchObject({
      object: { name: 'Nova Newton', location: 'head-office' },
    });
  });

  test('writes nothing of what is wrong only in the whole, and says it at its row', async () => {
    const looked = await sent(
      'Standort;Art;Leitung;Breitengrad;Längengrad;Öffnet;Schließt\nHalle;Laden;DSL;53;6;08:00;\nHalle 2;Laden;DSL;53;6;08:00;17:00\n',
      'halls.csv',
    );
    const map: TableMap = {
      ...looked.map,
      kind: 'location',
      key: 'name',
      columns: ['name', 'kind', 'lineKind', 'latitude', 'longitude', 'worksFrom', 'worksTo'].map((to, i) => ({
        from: looked.head[i] as string,
        to,
        with: ' ',
      })),
    };
    const checked = await outcome(looked.id, 'check', map);
    expect(checked.rejected[0]).toMatchObject({ row: 2, field: 'worksTo', text: 'a working day has a beginning and an end' });
    const taken = await outcome(looked.id, 'take', map);
    expect(taken).toMatchObject({ applied: false });
    expect((await demo.server.call('estate/location/halle-2', { cookie: demo.engineer })).status).toBe(404);
  });

  test.each([-29, -28, -27, 2 ** 20 - 28, 2_000_000])('is kept as it was sent where it is a million bytes and %i', async (more) => {
    // with 28 bytes more when it is sealed; what is kept is read in parts of 2 ** 20
    const rows = list(south, north);
    const bytes = Buffer.from(`${rows}${'Kasse Süd;N-1\r\n'.repeat(Math.ceil((2 ** 20 + more) / 16))}`, 'latin1').subarray(
      0,
      2 ** 20 + more,
    );
    const { status, body } = await send(bytes);
    expect(status).toBe(201);
    const again = (await demo.server.call(`intake/lists/${body.id}`, { cookie: demo.engineer })).body as ListLook;
    expect({ ...again, id: '' }).toEqual({ ...body, id: '' });
  });

  test('that is none, or no bytes, or of somebody else, or is no more, is told', async () => {
    expect(await send(Buffer.from(''))).toMatchObject({ status: 400 });
    expect(await send(Buffer.from('\n\n'))).toMatchObject({ status: 422, body: { detail: 'Row 1: holds no rows.' } });
    expect(await send(Buffer.from('PK\u0003\u0004nonsense'))).toMatchObject({ status: 422 });
    expect(await send(Buffer.from('dn: cn=a\nchangetype: delete\n'))).toMatchObject({
      status: 422,
      body: { detail: expect.stringContaining('Row 2: is a change') as unknown },
    });
    expect(await send(Buffer.from('{}'), 'a.csv', demo.engineer, 'application/json')).toMatchObject({ status: 415 });
    const looked = await sent(list(south));
    expect((await demo.server.call(`intake/lists/${looked.id}`, { cookie: demo.admin })).status).toBe(404);
    await demo.sql.query(`UPDATE taken_list SET at = now() - interval '25 hours' WHERE id = $1`, [looked.id]);
    await sent(list(south));
    expect((await demo.server.call(`intake/lists/${looked.id}`, { cookie: demo.engineer })).status).toBe(404);
    // what is kept of it is sealed
    const { rows } = await demo.sql.query<{ bytes: Buffer }>('SELECT bytes FROM taken_list');
    expect(rows.length).toBeGreaterThan(0);
    expect(rows.some(({ bytes }) => bytes.includes('Kasse'))).toBe(false);
  });

  test('is for engineers, and a mapping that names what is not there is told at its place', async () => {
    expect((await send(Buffer.from(list(south)), 'a.csv', demo.reader)).status).toBe(403);
    expect((await demo.server.call('intake/maps', { cookie: demo.reader })).status).toBe(403);
    const looked = await sent(list(south));
    const bad = { ...looked.map, constants: { nothing: 'x' } };
    const { body } = await demo.server.call(`intake/lists/${looked.id}/check`, {
      method: 'POST',
      cookie: demo.engineer,
      body: { map: bad },
    });
    const { id } = (body as JobStarted).job;
    let job: JobView;
    do {
      await wait(50);
      job = (await demo.server.call(`jobs/${id}`, { cookie: demo.engineer })).body as JobView;
    } while (['waiting', 'running'].includes(job.state));
    expect([job.state, job.message]).toEqual(['failed', expect.stringContaining('“nothing” is not a field of it')]);
    const { status } = await demo.server.call(`intake/lists/${looked.id}/check`, {
      method: 'POST',
      cookie: demo.engineer,
      body: { map: { ...looked.map, kind: 'toaster' } },
    });
    expect(status).toBe(400);
  });

  test('is seen by whoever sent it alone: others see how far it is, and no cell of it', async () => {
    const looked = await sent(list(wrong.replace('Toaster', 'Toaster of somebody')));
    await outcome(looked.id, 'check', looked.map);
    const [job] = (await demo.server.call('jobs', { cookie: demo.reader })).body as JobView[];
    const seenBy = async (cookie: string) => (await demo.server.call(`jobs/${job?.id}`, { cookie })).body as JobView;
    expect(JSON.stringify(await seenBy(demo.engineer))).toContain('Toaster of somebody');
    for (const cookie of [demo.reader, demo.admin]) expect(await seenBy(cookie)).toMatchObject({ state: 'done', result: null });
  });

  test('ten of one person are kept, and all go where somebody is erased', async () => {
    const ids: string[] = [];
    for (let i = 0; i < 11; i++) ids.push((await sent(list(south))).id);
    const status = async (id: string) => (await demo.server.call(`intake/lists/${id}`, { cookie: demo.engineer })).status;
    expect([await status(ids[0] as string), await status(ids[1] as string), await status(ids[10] as string)]).toEqual([404, 200, 200]);
    expect((await demo.server.call('people/P202/data', { method: 'DELETE', cookie: demo.admin })).status).toBe(204);
    expect(await status(ids[10] as string)).toBe(404);
  });
});

test('a folder to fill in and the demo as an example are taken as they are, and read again', async () => {
  const taken = async (path: string) => {
    const { status, body, headers } = await demo.server.call(path, { cookie: demo.reader });
    expect([status, headers.get('content-type')]).toEqual([200, 'application/zip']);
    return new Map(Object.entries(unzipSync(new Uint8Array(body))).map(([name, bytes]) => [name, strFromU8(bytes)]));
  };
  const template = await taken('intake/template');
  expect(template.get('COLUMNS.md')).toContain('`deviceClass`');
  const { estate, problems } = readFolder(template);
  expect([problems, estate.endpoint]).toEqual([[], []]);
  const folder = readFolder(await taken('intake/demo-folder'));
  expect([folder.problems, folder.estate.endpoint.length]).toEqual([[], 396]);
  expect((await demo.server.call('intake/template')).status).toBe(401);
});

test('mappings are kept by name, replaced, and dropped', async () => {
  const map = { kind: 'endpoint', columns: [{ from: 'Gerät', to: 'name' }], constants: { ownership: 'managed' } };
  const keep = (name: string, more: object = {}, seen: object = {}) =>
    demo.server.call('intake/maps', { method: 'PUT', cookie: demo.engineer, body: { name, map: { ...map, ...more }, ...seen } });
  expect((await keep('Monthly list')).status).toBe(200);
  expect((await keep('monthly LIST', { key: 'name' })).body).toMatchObject({
    name: 'monthly LIST',
    by: 'Ines Farrow',
    map: { key: 'name', make: {} },
  });
  const kept = (await demo.server.call('intake/maps', { cookie: demo.admin })).body as KeptMap[];
  expect(kept.map(({ name }) => name)).toEqual(['monthly LIST']);
  // one that somebody kept meanwhile, or otherwise than it was seen, is not replaced unseen
  for (const was of [null, map])
    expect(await keep('Monthly List', {}, { was })).toMatchObject({
      status: 409,
      body: { detail: expect.stringContaining('Ines Farrow') },
    });
  expect((await keep('Monthly List', { constants: {} }, { was: kept[0]!.map })).status).toBe(200);
  expect((await keep('Another', {}, { was: map })).status).toBe(409);
  expect((await keep('Another', {}, { was: null })).status).toBe(200);
  expect((await demo.server.call('intake/maps/Another', { method: 'DELETE', cookie: demo.engineer })).status).toBe(204);
  expect((await demo.server.call('intake/maps/Monthly%20list', { method: 'DELETE', cookie: demo.engineer })).status).toBe(204);
  expect((await demo.server.call('intake/maps/Monthly%20list', { method: 'DELETE', cookie: demo.engineer })).status).toBe(404);
  expect((await keep('', {})).status).toBe(400);
});

test('gaps: what is known, and what is best learned next, by the names of places', async () => {
  const { status, body } = await demo.server.call('gaps', { cookie: demo.reader });
  expect(status).toBe(200);
  const gaps = body as GapsAnswer;
  const board = (await demo.server.call('crossings?verdict=unknown&limit=1', { cookie: demo.reader })).body as { total: number };
  expect(gaps.unknown).toBe(board.total);
  expect(gaps.next[0]).toMatchObject({
    action: expect.stringMatching(/^One field check at /) as unknown,
    checks: [{ endpoint: expect.any(String) as unknown }],
  });
  expect(gaps.places[0]?.name).not.toBe(gaps.places[0]?.location);
});
