import { expect, test } from '@jest/globals';
import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import ExcelJS from 'exceljs';
import { commandLine } from './commandLine.js';

const demo = new URL('../../../demo/saltmarsh', import.meta.url).pathname;
const answer = async (...args: string[]): Promise<Record<string, unknown>> =>
  JSON.parse(await commandLine([...args, '--json'])) as Record<string, unknown>;
const refusal = (...args: string[]): Promise<string> =>
  commandLine(args).then(
    (text) => `was done: ${text}`,
    (error: Error) => error.message,
  );
async function within<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'underpass-intake-'));
  try {
    return await work(folder);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** Bytes of Windows-1252, for letters that ISO 8859-1 has at the same place. */
const list = (rows: string[]): Buffer => Buffer.from(`${rows.join('\r\n')}\r\n`, 'latin1');
const heads = 'Gerätename;Inventar-Nr.;Gerätetyp;Standort;RAM (GB);Eigentum;Plattform;Prozessor;Zugangsart;Kaufpreis';
const rows = [
  'Geräteliste;;;;;;;;;',
  heads,
  'Kasse Süd;W-1;Thin Client;Wexcombe ticket hall;4;Firma;thin;x64;eingebaut;99,00',
  'Kasse Nord;W-2;Notebook;head-office;16;privat;desktop;x64;Browser;1.099,00',
];

test('the columns of a list are told: how it is written, what they look like, the field each is taken for', () =>
  within(async (folder) => {
    const file = join(folder, 'devices.csv');
    writeFileSync(file, list(rows));
    const told = await answer('columns', file, '--kind', 'endpoint');
    expect(told).toMatchObject({ format: 'csv', encoding: 'windows-1252', delimiter: ';', headerRow: 2, rows: 2 });
    expect((told.columns as { name: string; field: string | null }[]).map(({ name, field }) => [name, field])).toEqual([
      ['Gerätename', 'name'],
      ['Inventar-Nr.', 'id'],
      ['Gerätetyp', 'deviceClass'],
      ['Standort', 'location'],
      ['RAM (GB)', 'memoryMB'],
      ['Eigentum', 'ownership'],
      ['Plattform', 'platform'],
      ['Prozessor', 'processor'],
      ['Zugangsart', 'clientKind'],
      ['Kaufpreis', null],
    ]);
    expect((told.columns as object[])[4]).toEqual({
      name: 'RAM (GB)',
      looksLike: 'whole number',
      samples: ['4', '16'],
      field: 'memoryMB',
      sure: expect.any(Number),
    });
    // without a kind the one that fits best
    expect(await answer('columns', file)).toEqual(told);
  }));

test('a workbook and a directory have columns too', () =>
  within(async (folder) => {
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet('Places');
    sheet.addRow(['Standort', 'Leitung', 'Download (Mbit/s)']);
    sheet.addRow(['North yard', 'Glasfaser', 100]);
    await book.xlsx.writeFile(join(folder, 'places.xlsx'));
    expect(await answer('columns', join(folder, 'places.xlsx'), '--kind', 'location')).toMatchObject({
      format: 'xlsx',
      encoding: null,
      headerRow: 1,
      rows: 1,
      columns: [{ field: null }, { field: 'lineKind' }, { field: 'downMbps' }],
    });
    writeFileSync(
      join(folder, 'people.ldif'),
      'version: 1\n\ndn: uid=ada,ou=Yard\nobjectClass: inetOrgPerson\nuid: ada\ncn: Ada Ames\nl: Yard\n',
    );
    expect(await answer('columns', join(folder, 'people.ldif'), '--kind', 'person')).toMatchObject({
      format: 'ldif',
      headerRow: null,
      rows: 1,
      columns: [
        { name: 'dn' },
        { name: 'objectclass' },
        { name: 'uid', field: 'id' },
        { name: 'cn', field: 'name' },
        { name: 'l', field: 'location' },
      ],
    });
  }));

test('a list is taken in: new, changed, as it was, not taken and why; a month later only what changed is another', () =>
  within(async (folder) => {
    cpSync(demo, join(folder, 'estate'), { recursive: true });
    const file = join(folder, 'devices.csv');
    const into = join(folder, 'estate');
    writeFileSync(file, list([...rows, 'Kasse Ost;W-3;Toaster;Wexcombe tiket hall;8;Firma;thin;x64;eingebaut;1,00']));
    const first = await answer('read', file, '--kind', 'endpoint', '--into', into);
    expect(first).toMatchObject({ added: 2, changed: 0, unchanged: 0 });
    expect(first.rejected).toEqual([
      {
        row: 5,
        column: 'Gerätetyp',
        value: 'Toaster',
        text: '“Toaster” is not a word known here',
        wanted: 'one of thin-client, laptop, desktop-computer, tablet, phone, kiosk',
      },
      {
        row: 5,
        column: 'Standort',
        value: 'Wexcombe tiket hall',
        text: 'no location is called “Wexcombe tiket hall”',
        wanted: 'Wexcombe ticket hall (wexcombe)?',
      },
    ]);
    expect(first.values).toContainEqual({ from: 'Notebook', to: 'laptop', column: 'Gerätetyp', field: 'deviceClass', rows: 1 });
    expect(readFileSync(join(into, 'endpoints.csv'), 'utf8')).toContain('W-1,Kasse Süd,wexcombe');
    // what was written is an estate: the crossings of it are evaluated
    expect(await refusal('evaluate', into, '--endpoint', 'W-1')).toMatch(/^was done/);
    writeFileSync(file, list(rows.map((row) => row.replace(';16;', ';32;'))));
    expect(await answer('read', file, '--kind', 'endpoint', '--into', into)).toMatchObject({
      added: 0,
      changed: 1,
      unchanged: 1,
      rejected: [],
    });
    // without a folder nothing is there to look names up in, to compare with, or written
    expect(await answer('read', file, '--kind', 'endpoint')).toMatchObject({ added: 2, rejected: [] });
  }));

test('a mapping that was kept decides, and makes places that are not there', () =>
  within(async (folder) => {
    const [file, map, into] = [join(folder, 'devices.csv'), join(folder, 'map.yaml'), join(folder, 'new', 'estate')];
    writeFileSync(file, list(rows));
    writeFileSync(
      map,
      `kind: endpoint
columns:
  - { from: Gerätename, to: name }
  - { from: Inventar-Nr., to: id }
  - { from: Standort, to: location }
  - { from: Gerätetyp, to: deviceClass, values: { Notebook: tablet } }
constants: { ownership: managed, platform: thin, processor: x86-64, clientKind: browser }
make:
  location: { kind: office, lineKind: fibre, latitude: '53', longitude: '6' }
`,
    );
    const told = await answer('read', file, '--map', map, '--into', into);
    expect(told).toMatchObject({
      added: 2,
      rejected: [],
      made: [{ kind: 'location', name: 'Wexcombe ticket hall' }, { id: 'head-office' }],
    });
    expect(readFileSync(join(into, 'endpoints.csv'), 'utf8')).toMatch(/W-2,Kasse Nord,head-office,.*tablet/);
    expect(readFileSync(join(into, 'locations.csv'), 'utf8')).toContain('wexcombe-ticket-hall,Wexcombe ticket hall,office');
  }));

test('what cannot be read is told, with its place, and nothing is written', () =>
  within(async (folder) => {
    const at = (name: string, text: string | Buffer) => {
      writeFileSync(join(folder, name), text);
      return join(folder, name);
    };
    const good = at('good.csv', 'id,name\n1,a\n');
    expect(await refusal('columns', join(folder, 'none.csv'))).toMatch(/none\.csv: there is no such file/);
    expect(await refusal('columns', at('empty.csv', ''))).toMatch(/empty\.csv:1: holds no rows/);
    expect(await refusal('columns', at('bad.xlsx', Buffer.from('PK\u0003\u0004nonsense')))).toMatch(/bad\.xlsx:1: /);
    expect(await refusal('read', at('changes.ldif', 'dn: cn=a\nchangetype: delete\n'), '--kind', 'person')).toMatch(
      /changes\.ldif:2: is a change/,
    );
    expect(await refusal('read', good)).toBe('--kind: is missing');
    expect(await refusal('read', good, '--kind', 'toaster')).toMatch(/--kind: “toaster” is not one of/);
    expect(await refusal('read', good, '--map', at('a.yaml', 'kind: [\n'))).toMatch(/a\.yaml: /);
    expect(await refusal('read', good, '--map', at('b.yaml', 'kind: endpoint\ncolumns:\n  - { from: id }\n'))).toMatch(
      /b\.yaml: columns\.0 must have either/,
    );
    expect(await refusal('read', good, '--map', at('c.yaml', 'kind: endpoint\ncolumns:\n  - { from: id, to: nothing }\n'))).toMatch(
      /c\.yaml: columns\.0: “nothing” is not a field of it/,
    );
    expect(await refusal('read', good, '--kind', 'person', '--map', at('d.yaml', 'kind: endpoint\ncolumns: []\n'))).toMatch(
      /is a mapping of endpoint/,
    );
    expect(await refusal('read', good, '--kind', 'person', '--into', good)).toMatch(/is a file; give a folder/);
    expect(existsSync(join(folder, 'people.csv'))).toBe(false);
  }));

test('a template is an estate without anything in it, with an example of each kind and every column explained', () =>
  within(async (folder) => {
    const at = join(folder, 'new');
    const { files } = (await answer('template', at)) as { files: string[] };
    expect(files).toEqual(expect.arrayContaining(['endpoints.csv', 'gateways.yaml', 'measurements.csv', 'COLUMNS.md']));
    const page = readFileSync(join(at, 'COLUMNS.md'), 'utf8');
    for (const file of files.filter((name) => name.endsWith('.csv'))) {
      const [head = '', example = ''] = readFileSync(join(at, file), 'utf8').split('\n');
      for (const column of head.split(',')) expect(page).toContain(`\`${column}\``);
      expect(example.startsWith('#')).toBe(true);
    }
    // what is no example is read: nothing; what loses its mark is an object
    expect(await answer('evaluate', at)).toMatchObject({ crossings: [] });
    const groups = readFileSync(join(at, 'groups.csv'), 'utf8').replace(',documents', ',');
    writeFileSync(join(at, 'groups.csv'), groups.replace('\n#', '\n'));
    expect(await answer('read', join(at, 'groups.csv'), '--kind', 'group', '--into', at)).toMatchObject({ unchanged: 1, rejected: [] });
    expect(await refusal('template', at)).toMatch(/is there and not empty/);
  }));

test('gaps: what is known in which way, what hangs on it, and what is best measured next', async () => {
  const told = (await answer('gaps', demo)) as { facts: Record<string, unknown>[]; next: Record<string, unknown>[]; unknown: number };
  expect(told.facts.find(({ kind, field }) => kind === 'location' && field === 'delayMs')).toEqual({
    ...{ kind: 'location', field: 'delayMs', reported: 0 },
    ...{
      measured: expect.any(Number),
      declared: expect.any(Number),
      assumed: expect.any(Number),
      notKnown: expect.any(Number),
      decides: expect.any(Number),
    },
  });
  expect(told.next[0]).toEqual({
    action: expect.stringMatching(/^One field check at /),
    ...{ location: expect.any(String), crossings: expect.any(Number), people: expect.any(Number), minutes: 1 },
  });
  const evaluated = (await answer('evaluate', demo)) as { counts: { unknown: number } };
  expect(told.unknown).toBe(evaluated.counts.unknown);
  expect(await refusal('gaps', join(demo, 'nowhere'))).toMatch(/there is no such folder/);
});
