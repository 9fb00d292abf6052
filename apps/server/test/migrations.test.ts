import { expect, test } from '@jest/globals';
import { DataSource } from 'typeorm';
import { entities } from '../src/database/entities.js';
import { Access1764100000000 } from '../src/database/migrations/1764100000000-Access.js';
import { Beginning1764000000000 } from '../src/database/migrations/1764000000000-Beginning.js';
import { dataSourceOptions, openDatabase } from '../src/database/dataSource.js';
import { makeDatabase } from './server.js';

test('an estate from before publications keeps what everybody had', async () => {
  const old = await makeDatabase();
  const open = (migrations: never[]) =>
    new DataSource({
      type: 'postgres',
      url: old.url,
      entities,
      migrations,
      uuidExtension: 'pgcrypto',
      installExtensions: false,
    }).initialize();
  const before = await open([Beginning1764000000000] as never[]);
  await before.runMigrations();
  const rows: [string, string, object][] = [
    ['gateway', 'G', { id: 'G', name: 'Gate', address: 'g.example' }],
    ['pool', 'P', { id: 'P', name: 'Pool', gateway: 'G' }],
    ['resource', 'a', { id: 'a', name: 'A', kind: 'app', pool: 'P' }],
    ['resource', 'd', { id: 'd', name: 'D', kind: 'desktop', pool: 'P' }],
    ['group', 'x', { id: 'x', name: 'X', rank: 1, resources: ['a', 'd'] }],
    ['group', 'y', { id: 'y', name: 'Y', rank: 2, resources: [] }],
  ];
  for (const [kind, id, data] of rows)
    await before.query("INSERT INTO estate_object (kind, id, data, version) VALUES ($1, $2, $3, nextval('estate_version_seq'))", [
      kind,
      id,
      JSON.stringify(data),
    ]);
  await before.destroy();
  const after = await open([Beginning1764000000000, Access1764100000000] as never[]);
  await after.runMigrations();
  const all = (await after.query('SELECT kind, id, data FROM estate_object')) as {
    kind: string;
    id: string;
    data: Record<string, unknown>;
  }[];
  const one = (kind: string, id: string) => all.find((row) => row.kind === kind && row.id === id)?.data;
  expect(one('group', 'x')).toEqual({ id: 'x', name: 'X', rank: 1, memberOf: [], publications: ['a', 'd'] });
  expect(one('publication', 'd')).toEqual({ id: 'd', name: 'D', kind: 'desktop', pool: 'P', resources: ['d'], portals: ['G'] });
  expect(one('portal', 'G')).toEqual({ id: 'G', name: 'Gate portal', gateway: 'G', address: 'g.example' });
  expect(one('pool', 'P')).toMatchObject({ signIn: ['own directory'], signInGroups: [] });
  await after.undoLastMigration();
  const back = (await after.query("SELECT data FROM estate_object WHERE kind = 'group' AND id = 'x'")) as { data: object }[];
  expect(back[0]?.data).toEqual({ id: 'x', name: 'X', rank: 1, resources: ['a', 'd'] });
  await after.destroy();
  await old.drop();
}, 30_000);

test('servers that start at the same moment on an empty database bring it to its version once', async () => {
  const fresh = await makeDatabase();
  const sources = await Promise.all([1, 2, 3, 4].map(() => openDatabase(dataSourceOptions(fresh.url))));
  const rows = (await sources[0]?.query('SELECT name FROM migrations ORDER BY id')) as { name: string }[];
  expect(rows.map(({ name }) => name)).toEqual([
    'Beginning1764000000000',
    'Access1764100000000',
    'Doors1764200000000',
    'OneChange1764300000000',
    'Exports1764400000000',
    'WhereTo1764500000000',
    'Views1764600000000',
    'BootReports1764700000000',
    'FirmwareFiles1764800000000',
    'DraftsKept1764900000000',
    'Lists1765000000000',
    'Sources1765100000000',
    'Feeds1765200000000',
    'Enrolment1765300000000',
    'Order1765400000000',
  ]);
  // and the last can be taken back and made again, with what was measured and what was kept on paper
  const [one] = sources as [DataSource];
  await one.query(
    `CREATE TABLE measurement_2025 PARTITION OF measurement FOR VALUES FROM ('2025-01-01') TO ('2026-01-01');
     INSERT INTO measurement VALUES ('m', '2025-03-03T10:00:00Z', 'x', 'ping', 'desk', NULL, NULL, 'l', false, NULL, '{}', 2)`,
  );
  const kept = [
    { patches: [{ do: 'setting', key: 'picture.frameCap', layer: 'organisation', target: '*', value: 24 }], hypotheses: [] },
    { patches: [{ do: 'change', kind: 'host', id: 'H1', set: { 'graphics.mode': 'display' } }], hypotheses: [] },
    { patches: [{ do: 'move', people: ['P1'], leave: 'a', join: null }], hypotheses: [] },
  ];
  for (const [i, change] of kept.entries())
    await one.query('INSERT INTO draft (id, name, change, created_by, created_at) VALUES ($1, $2, $3, $4, now())', [
      `00000000-0000-4000-8000-00000000000${i}`,
      `draft ${i}`,
      JSON.stringify(change),
      'x',
    ]);
  await one.query(
    `INSERT INTO job (id, kind, name, by_name, created_at, state, step, done, total, request)
     SELECT gen_random_uuid(), k, k, 'x', now(), 'done', '', 1, 1, '{}' FROM unnest('{import,export}'::text[]) k`,
  );
  for (let i = 0; i < 4; i++) await one.undoLastMigration();
  expect(await one.query("SELECT to_regclass('enrol_device') AS a, to_regclass('feed') AS b, to_regclass('said') AS c")).toEqual([
    { a: null, b: null, c: null },
  ]);
  await one.undoLastMigration();
  expect(await one.query("SELECT to_regclass('taken_list') AS a, to_regclass('table_map') AS b")).toEqual([{ a: null, b: null }]);
  await one.undoLastMigration();
  expect(
    await one.query("SELECT column_name FROM information_schema.columns WHERE table_name = 'draft' AND column_name = 'updated_at'"),
  ).toEqual([]);
  await one.undoLastMigration();
  expect(await one.query("SELECT to_regclass('firmware_file') AS table")).toEqual([{ table: null }]);
  await one.undoLastMigration();
  expect(await one.query("SELECT to_regclass('boot_report') AS table")).toEqual([{ table: null }]);
  await one.undoLastMigration();
  expect(await one.query("SELECT to_regclass('kept_view') AS table")).toEqual([{ table: null }]);
  await one.undoLastMigration();
  expect(
    await one.query(
      "SELECT column_name FROM information_schema.columns WHERE table_name = 'measurement' AND column_name IN ('target', 'medium')",
    ),
  ).toEqual([]);
  await one.undoLastMigration();
  expect(await one.query('SELECT kind FROM job')).toEqual([{ kind: 'import' }]);
  await one.undoLastMigration();
  expect(await one.query('SELECT change, access FROM draft ORDER BY id')).toEqual([
    { change: [{ type: 'setting', key: 'picture.frameCap', layer: 'organisation', target: '*', value: 24 }], access: null },
    { change: [{ type: 'object', kind: 'host', id: 'H1', field: 'graphics.mode', value: 'display' }], access: null },
    { change: [], access: { move: { people: ['P1'], leave: 'a', join: null } } },
  ]);
  await one.undoLastMigration();
  const part = async () => ((await one.query('SELECT tableoid::regclass::text AS part FROM measurement')) as { part: string }[])[0]?.part;
  expect(await part()).toBe('measurement_2025_03');
  await one.runMigrations();
  expect(await part()).toBe('measurement_2025');
  expect(((await one.query('SELECT change FROM draft ORDER BY id')) as { change: object }[]).map(({ change }) => change)).toEqual(kept);
  await Promise.all(sources.map((source) => source.destroy()));
  await fresh.drop();
}, 60_000);

test('what was changed by hand before sources were told counts as typed; what lists, imports and Underpass itself wrote does not', async () => {
  const old = await makeDatabase();
  const source = await openDatabase(dataSourceOptions(old.url));
  for (let i = 0; i < 4; i++) await source.undoLastMigration();
  const change = async (by: string, summary: string, objects: number, before: object, after: object) => {
    const [{ id }] = (await source.query(
      `INSERT INTO change_set (id, at, by_name, summary, objects) VALUES (gen_random_uuid(), '2026-11-01T08:00:00Z', $1, $2, $3) RETURNING id`,
      [by, summary, objects],
    )) as [{ id: string }];
    await source.query(
      `INSERT INTO audit_entry (id, change_id, kind, object_id, before, after) VALUES (gen_random_uuid(), $1, 'host', 'h', $2, $3)`,
      [...[id, JSON.stringify(before), JSON.stringify(after)]],
    );
  };
  await source.query(
    `INSERT INTO estate_object (kind, id, data, version, deleted) VALUES ('host', 'h', '{"id":"h"}', nextval('estate_version_seq'), false)`,
  );
  await change('Ines Farrow', 'Host h', 1, { id: 'h', places: 4, name: 'H' }, { id: 'h', places: 6, name: 'H' });
  await change('Ines Farrow', 'List hosts.csv', 1, { id: 'h', drawMs: 4 }, { id: 'h', drawMs: 6 });
  await change('Ines Farrow', 'Import of 3 files', 1, { id: 'h', encodeMs: 4 }, { id: 'h', encodeMs: 6 });
  await change('Ines Farrow', 'Many at once', 101, { id: 'h', power: 'on' }, { id: 'h', power: 'off' });
  await change('Underpass', 'Field check', 1, { id: 'h', used: 1 }, { id: 'h', used: 2 });
  await source.runMigrations();
  expect(await source.query('SELECT kind, object_id, source, fields FROM said')).toEqual([
    { kind: 'host', object_id: 'h', source: 'typed', fields: { places: { value: 6, at: '2026-11-01T08:00:00Z', by: 'Ines Farrow' } } },
  ]);
  await source.destroy();
  await old.drop();
}, 30_000);
