import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { emptyEstate, intakeTarget, writeFolder, type Estate, type TableMap } from '@underpass/contracts';
import { readDelimited } from './delimited.js';
import { isFieldWord } from './fieldWords.js';
import { guessColumns, guessKind, mapOf } from './guess.js';
import { MapError } from './intake.js';
import { takeIn } from './take.js';
import { looksLike } from './looksLike.js';
import { NameBook } from './names.js';
import { fieldsOfPattern, partBy, readPattern } from './pattern.js';

const yard = { id: 'yard', name: 'North yard', kind: 'dock', latitude: 53, longitude: 6, lineKind: 'fibre' };
const hall = { id: 'hall', name: 'Wexcombe hall', kind: 'ticket-hall', latitude: 53, longitude: 6, lineKind: 'dsl' };
const estateOf = (parts: object): Estate => ({ ...emptyEstate(), ...parts }) as Estate;
const estate = estateOf({ location: [yard, hall] });
const targetOf = (of: Estate = estate, kind: 'endpoint' | 'person' | 'group' | 'location' = 'endpoint') =>
  intakeTarget(kind, (each) => of[each]);
const sheetOf = (text: string) => readDelimited(text, { isKnown: isFieldWord });

const devices = `Gerätename;Inventar-Nr.;Gerätetyp;Standort;RAM (GB);Auflösung;Eigentum;Plattform;Prozessor;Zugangsart
Kasse 1;INV 1;Thin Client;North Yard;4;1920x1080;Firma;thin;x64;eingebaut
Kasse 2;INV 2;Notebook;wexcombe-hall;16;2x 1920 x 1080;privat;desktop;x64;Browser
`;
const common = {
  ownership: 'managed',
  platform: 'desktop',
  processor: 'x86-64',
  clientKind: 'browser',
  deviceClass: 'laptop',
  location: 'yard',
};
const mapping = (more: Partial<TableMap> & Pick<TableMap, 'columns'>): TableMap => ({
  kind: 'endpoint',
  key: 'id',
  constants: common,
  make: {},
  ...more,
});
const plain = (from: string, to: string) => ({ from, to, with: ' ' });

describe('what columns are', () => {
  it.each([
    [['192.0.2.7', '198.51.100.3'], 'address'],
    [['256.0.2.7', '198.51.100.300'], 'version'],
    [['2001:db8::1', '2001:db8:0:0:0:0:0:2'], 'address'],
    [['2001:db8:::1'], 'name'],
    [['192.0.2.0/24', '198.51.100.0/25'], 'address range'],
    [['00:00:5e:00:53:01', '00-00-5E-00-53-AF'], 'hardware address'],
    [['1920x1080', '2560 × 1440', '2x 1920x1080 @60'], 'resolution'],
    [['4.12.1', '4.12', '5'], 'version'],
    [['1', '2', '3'], 'whole number'],
    [['1', '2,5', '3'], 'number'],
    [['10 %', '20%'], 'share'],
    [['8 GB', '16 GB'], 'amount'],
    [['ja', 'nein', 'Ja'], 'yes or no'],
    [['31.12.2026', '2026-12-31'], 'date'],
    [['08:30', '7:15'], 'time'],
    [['ada@saltmarsh.example'], 'e-mail address'],
    [['gw.estuary.example'], 'host name'],
    [['cn=Ada,ou=Yard', 'CN=Bo, OU=Hall'], 'distinguished name'],
    [['SN123-456', '7KX9911B'], 'serial number'],
    [['laptop', 'laptop', 'kiosk', 'laptop', 'kiosk', 'laptop'], 'word'],
    [['Ada Ames', 'Bo Brook', 'Cy Crane'], 'name'],
    [['one; two', 'three; four'], 'text'],
    [['', ' '], 'empty'],
    // four of five alike are enough, three of five are not
    [['1', '2', '3', '4', 'x y'], 'whole number'],
    [['1', '2', '3', 'x y', 'z w'], 'text'],
  ])('%j look like %s', (cells, look) => {
    expect(looksLike(cells)).toBe(look);
  });

  it('look at long nonsense as fast as at anything', () => {
    for (const cell of [':'.repeat(5000), '1.'.repeat(3000), `${'a=,'.repeat(2000)}b`, 'A1'.repeat(3000)])
      expect(looksLike([cell])).toBeDefined();
  });

  it('are found by name and content, in German as in English', () => {
    const guesses = guessColumns(sheetOf(devices), targetOf());
    expect(guesses.map(({ field }) => field)).toEqual([
      'name',
      'id',
      'deviceClass',
      'location',
      'memoryMB',
      'screens',
      'ownership',
      'platform',
      'processor',
      'clientKind',
    ]);
    expect(guesses.every(({ sure }) => sure >= 0.5 && sure <= 1)).toBe(true);
  });

  it('are found by content alone where their names say nothing, and never guessed at', () => {
    const guesses = guessColumns(sheetOf('a;b;c;d\nNorth yard;1920x1080;pinched;12\nWexcombe hall;1280x800;blue;13\n'), targetOf());
    expect(guesses.map(({ field }) => field)).toEqual(['location', 'screens', null, null]);
  });

  it('that name what is not there yet are taken by their name all the same', () => {
    expect(guessColumns(sheetOf('Gerätename;Standort\nA;Elsewhere\nB;Nowhere\n'), targetOf()).map(({ field }) => field)).toEqual([
      'name',
      'location',
    ]);
  });

  it('make the kind of the list', () => {
    const all = (['location', 'person', 'endpoint', 'group'] as const).map((kind) => targetOf(estate, kind));
    expect(guessKind(sheetOf(devices), all)?.kind).toBe('endpoint');
    expect(guessKind(sheetOf('Standort;Leitung;Download (Mbit/s);Upload (Mbit/s);Art\nWerft;Glasfaser;100;50;Werft\n'), all)?.kind).toBe(
      'location',
    );
  });

  it.each(['endpoints.csv', 'people.csv', 'locations.csv', 'groups.csv'])('of our own %s are taken for what they are', (file) => {
    const kind = { 'endpoints.csv': 'endpoint', 'people.csv': 'person', 'locations.csv': 'location', 'groups.csv': 'group' }[
      file
    ] as 'endpoint';
    const own = estateOf({
      location: [
        { ...yard, worksFrom: '08:00', worksTo: '17:00', metered: true, ownLines: false, inside: false, timeZone: 'UTC', sharedBy: 5 },
      ],
      group: [{ id: 'g', name: 'All', rank: 1, memberOf: [], publications: [] }],
      person: [{ id: 'p', name: 'Ada', kind: 'staff', location: 'yard', groups: ['g'] }],
      endpoint: [{ id: 'e', name: 'E', person: 'p', users: [], peripherals: ['headset'], alwaysOn: false, ...common }],
    });
    const guesses = guessColumns(sheetOf(writeFolder(own).get(file) as string), targetOf(own, kind));
    for (const { name, field } of guesses) expect([name, field]).toEqual([name, name]);
  });
});

describe('rows that are taken in', () => {
  const take = (text: string, map?: TableMap, of: Estate = estate) => {
    const sheet = sheetOf(text);
    const target = targetOf(of);
    return takeIn(sheet, map ?? mapOf('endpoint', sheet, guessColumns(sheet, target)), target);
  };

  it('become objects in our words, and each translation is told', () => {
    const { taken, rejected, translated } = take(devices);
    expect(rejected).toEqual([]);
    expect(taken.map(({ row, change, object }) => ({ row, change, object }))).toMatchObject([
      {
        row: 2,
        change: 'added',
        object: {
          id: 'INV-1',
          name: 'Kasse 1',
          deviceClass: 'thin-client',
          location: 'yard',
          memoryMB: 4096,
          ownership: 'managed',
          clientKind: 'thin-client firmware',
          screens: [{ widthPx: 1920 }],
        },
      },
      {
        row: 3,
        object: {
          id: 'INV-2',
          deviceClass: 'laptop',
          location: 'hall',
          memoryMB: 16384,
          ownership: 'personal',
          screens: [{ widthPx: 1920 }, { heightPx: 1080 }],
        },
      },
    ]);
    expect(translated).toContainEqual({ column: 'Gerätetyp', field: 'deviceClass', from: 'Notebook', to: 'laptop', rows: 1 });
    expect(translated).toContainEqual({ column: 'Prozessor', field: 'processor', from: 'x64', to: 'x86-64', rows: 2 });
  });

  it('are told with row, column, what is wrong and what would be right', () => {
    const { taken, rejected } = take(devices.replace('Thin Client', 'Toaster').replace('North Yard', 'Wexcomb hall'));
    expect(taken).toHaveLength(1);
    expect(rejected).toEqual([
      {
        row: 2,
        column: 'Gerätetyp',
        field: 'deviceClass',
        value: 'Toaster',
        text: '“Toaster” is not a word known here',
        wanted: 'one of thin-client, laptop, desktop-computer, tablet, phone, kiosk',
      },
      {
        row: 2,
        column: 'Standort',
        field: 'location',
        value: 'Wexcomb hall',
        text: 'no location is called “Wexcomb hall”',
        wanted: 'Wexcombe hall (hall)?',
      },
    ]);
  });

  it('a month later change what changed, and what is in no column stays', () => {
    const first = take(devices).taken.map(({ object }) => ({ ...object, firmware: '1.2' }));
    const before = estateOf({ location: [yard, hall], endpoint: first });
    const later = take(devices.replace('16;2x', '32;2x'), undefined, before);
    expect(later.taken.map(({ change }) => change)).toEqual(['unchanged', 'changed']);
    expect(later.taken[1]?.object).toMatchObject({ memoryMB: 32768, firmware: '1.2' });
    expect(later.missing).toEqual([]);
    // an empty cell says nothing, and takes nothing away
    expect(take(devices.replace('16;2x', ';2x'), undefined, before).taken[1]).toMatchObject({
      change: 'unchanged',
      object: { memoryMB: 16384 },
    });
    expect(take(devices.split('\n').slice(0, 2).join('\n'), undefined, before).missing.map(({ id }) => id)).toEqual(['INV-2']);
  });

  it('fill what is the same for all only where it is not known, and never take the id of another', () => {
    const [a] = take(devices).taken.map(({ object }) => object);
    const there = estateOf({ location: [yard, hall], endpoint: [a] });
    const map = mapping({ key: 'name', columns: [plain('name', 'name'), plain('no', 'id')], constants: { ...common, firmware: '2.0' } });
    const { taken, rejected } = take('name;no\nKasse 1;INV 1\nKasse 9;inv-1\nKasse 8;INV 1\n', map, there);
    expect(taken.map(({ object }) => object)).toMatchObject([
      { id: 'INV-1', ownership: 'managed', deviceClass: 'thin-client', firmware: '2.0' },
      { id: 'inv-1' },
    ]);
    expect(rejected).toEqual([
      { row: 4, column: 'no', field: 'id', value: 'INV-1', text: 'is the id of another one', wanted: 'an id of its own' },
    ]);
  });

  it('are found by another key, and told where several have it or two rows are one', () => {
    const [a] = take(devices).taken.map(({ object }) => object);
    const twins = estateOf({ location: [yard], endpoint: [a, { ...a, id: 'other' }] });
    const map = mapping({ key: 'name', columns: [plain('name', 'name')] });
    expect(take('name\nkasse  1\n', map, estateOf({ location: [yard], endpoint: [a] })).taken[0]).toMatchObject({
      change: 'changed',
      object: { id: 'INV-1', name: 'kasse 1' },
    });
    expect(take('name\nKasse 1\n', map, twins).rejected[0]).toMatchObject({ row: 2, text: 'is what several are called: INV-1, other' });
    expect(take('name\nKasse 1\nkasse 1\n', map, twins).taken).toEqual([]);
    expect(take('name;x\nNew;1\nnew;2\n', map, twins).rejected).toMatchObject([
      { row: 3, column: 'name', text: 'stands in row 2 already' },
    ]);
    // one that is not taken is not missing for all that
    expect(
      take(
        'name;cores\nKasse 1;many\n',
        mapping({ key: 'name', columns: [plain('name', 'name'), plain('cores', 'cores')] }),
        estateOf({ location: [yard], endpoint: [a] }),
      ).missing,
    ).toEqual([]);
  });

  it('get ids of their names, each its own', () => {
    const map = mapping({ key: 'model', columns: [plain('name', 'name'), plain('model', 'model')] });
    expect(take('name;model\nKasse;A\nKasse;B\nKäsße;C\n', map).taken.map(({ object }) => object.id)).toEqual([
      'kasse',
      'kasse-2',
      'kas-e',
    ]);
  });

  it('without what they are told by, or without letters, are told', () => {
    const map = mapping({ columns: [plain('id', 'id'), plain('name', 'name')] });
    expect(take('id;name\n;\n;x\n1;\n', map).rejected).toMatchObject([{ row: 4, field: 'name', text: 'is missing' }]);
    expect(take('id;name\n—;…\n', map).rejected[0]).toMatchObject({ row: 2, column: 'id', text: 'is missing: the row is told by it' });
  });

  it('are put together of columns, and parted by patterns', () => {
    const both = mapping({ columns: [{ from: ['first', 'last'], with: ' ', to: 'name' }] });
    expect(take('first;last\nAda;Ames\n;Brook\n', both).taken.map(({ object }) => object.name)).toEqual(['Ada Ames', 'Brook']);
    const parted = mapping({
      columns: [{ from: 'what', with: ' ', pattern: '{location}-{name} ({id})' }],
      constants: { ...common, location: 'hall' },
    });
    const { taken, rejected } = take('what\nyard-PC 7 (E7)\nyard PC 8\n', parted);
    expect(taken[0]?.object).toMatchObject({ id: 'E7', name: 'PC 7', location: 'yard' });
    expect(rejected[0]).toMatchObject({ row: 3, column: 'what', value: 'yard PC 8', text: 'is not made like {location}-{name} ({id})' });
  });

  it('take values as the mapping says, also to nothing', () => {
    const map = mapping({
      columns: [plain('id', 'id'), plain('name', 'name'), { ...plain('type', 'deviceClass'), values: { Toaster: 'kiosk', Thing: '' } }],
    });
    const { taken } = take('id;name;type\n1;a;Toaster\n2;b;Thing\n', map);
    expect(taken.map(({ object }) => (object as { deviceClass?: string }).deviceClass)).toEqual(['kiosk', 'laptop']);
  });

  it('make what they name where the mapping says so, once each, and tell names that are nearly alike', () => {
    const make = { location: { kind: 'office', latitude: '1', longitude: '2', lineKind: 'fibre' } };
    const map = mapping({ columns: [plain('id', 'id'), plain('name', 'name'), plain('site', 'location')], make });
    const { taken, made, alike } = take('id;name;site\n1;a;Wexcombe\n2;b;wexcombe\n3;c;South quay\n4;d;South quai\n', map, estateOf({}));
    expect(made.map(({ object, rows }) => [object.id, rows])).toEqual([
      ['wexcombe', 2],
      ['south-quay', 1],
      ['south-quai', 1],
    ]);
    expect(taken).toHaveLength(4);
    expect(alike).toEqual([{ column: 'site', field: 'location', values: ['South quay', 'South quai'] }]);
    expect(take('id;name;site\n1;a;Wexcombe\n', map).alike).toEqual([
      { column: 'site', field: 'location', values: ['Wexcombe hall', 'Wexcombe'] },
    ]);
    // what is not said of a place is taken to be so, and marked; of a person there is nothing to take
    const poor = mapping({ columns: [...map.columns, plain('who', 'person')], make: { location: { lineKind: 'fibre' }, person: {} } });
    const { made: few, rejected } = take('id;name;site;who\n1;a;Elsewhere;Ada\n', poor);
    expect(few[0]?.object).toMatchObject({ lineKind: 'fibre', kind: 'office', assumed: ['kind', 'latitude', 'longitude'] });
    expect(rejected[0]?.text).toMatch(/^person “Ada” cannot be made: kind must be one of staff/);
  });

  it('may name one another, also one further down', () => {
    const target = targetOf(estate, 'group');
    const sheet = sheetOf('id;name;rank;member of\ninner;Inner;1;Outer\nouter;Outer;2;\n');
    const { taken, rejected } = takeIn(sheet, mapOf('group', sheet, guessColumns(sheet, target)), target);
    expect(rejected).toEqual([]);
    expect(taken[0]?.object).toMatchObject({ memberOf: ['outer'] });
  });

  it('notice a list whose columns are others', () => {
    const map = mapping({ columns: [plain('id', 'id'), plain('name', 'name'), plain('cores', 'cores')], heads: ['id', 'name', 'cores'] });
    expect(take('id;name;kerne\n1;a;4\n', map).notes).toEqual([
      'The column “cores” is not in this list; what it fills is left as it is.',
      'New since the mapping was made, and not taken: “kerne”.',
    ]);
  });

  it.each([
    ['key', mapping({ key: 'nothing', columns: [] })],
    ['constants.nothing', mapping({ columns: [], constants: { nothing: '1' } })],
    ['columns.0', mapping({ columns: [plain('id', 'nothing')] })],
    ['columns.1', mapping({ columns: [plain('id', 'id'), plain('name', 'id')] })],
  ])('are not taken by a mapping that is wrong at %s', (place, map) => {
    expect(() => take('id;name\n1;a\n', map)).toThrow(MapError);
    try {
      take('id;name\n1;a\n', map);
    } catch (error) {
      expect((error as MapError).place).toBe(place);
    }
  });

  it('tell how far they are', () => {
    const told: [number, number][] = [];
    const sheet = sheetOf(`id;name\n${Array.from({ length: 1200 }, (_, i) => `${i};n${i}`).join('\n')}\n`);
    takeIn(sheet, mapping({ columns: [plain('id', 'id'), plain('name', 'name')] }), targetOf(), (done, total) => told.push([done, total]));
    expect(told).toEqual([
      [0, 1200],
      [500, 1200],
      [1000, 1200],
      [1200, 1200],
    ]);
  });

  it('whatever is in the cells, every row is taken or told, and nothing else is changed', () => {
    const cell = fc.oneof(
      fc.string({ maxLength: 20 }),
      fc.constantFrom('laptop', 'Notebook', 'North yard', 'hall', '8 GB', '1.024', '1,024', 'ja', '1920x1080', '-', 'INV 1'),
    );
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 4, maxLength: 4 }), { maxLength: 15 }), (rows) => {
        const sheet = {
          format: 'csv',
          encoding: 'utf-8',
          delimiter: ';',
          headerRow: 1,
          head: ['id', 'type', 'site', 'ram'],
          rows: rows.map((cells, i) => ({ row: i + 2, cells })),
          notes: [],
        } as const;
        const { taken, rejected } = takeIn(
          sheet,
          mapping({
            columns: [
              plain('id', 'id'),
              plain('id', 'name'),
              plain('type', 'deviceClass'),
              plain('site', 'location'),
              plain('ram', 'memoryMB'),
            ].map((each, i) => (i === 1 ? { ...each, from: 'id' } : each)),
          }),
          targetOf(),
        );
        const told = new Set([...taken.map(({ row }) => row), ...rejected.map(({ row }) => row)]);
        for (const { row, cells } of sheet.rows) expect(told.has(row)).toBe(cells.some((each) => each.trim() !== ''));
        expect(taken.filter(({ row }) => rejected.some((each) => each.row === row))).toEqual([]);
        expect(new Set(taken.map(({ object }) => object.id)).size).toBe(taken.length);
      }),
    );
  });
});

describe('names and patterns', () => {
  it('are found by id, by name whatever its case and accents, and only where one has it', () => {
    const book = new NameBook([
      { id: 'a', name: 'Büro Süd' },
      { id: 'b', name: 'Twin' },
      { id: 'c', name: 'twin' },
    ]);
    expect(book.find(' A ')).toEqual({ id: 'a' });
    expect(book.find('buro sud')).toEqual({ id: 'a' });
    expect(book.find('TWIN')).toEqual({ several: ['b', 'c'] });
    expect(book.find('other')).toBeNull();
  });

  it('are near by a slip or two, or as part of one another', () => {
    const book = new NameBook([
      { id: 'w', name: 'Wexcombe hall' },
      { id: 's', name: 'Sand' },
    ]);
    expect(book.near('Wexcome hall').map(({ id }) => id)).toEqual(['w']);
    expect(book.near('Wexcmbe hal').map(({ id }) => id)).toEqual(['w']);
    expect(book.near('Wxcm hal')).toEqual([]);
    expect(book.near('wexcombe').map(({ id }) => id)).toEqual(['w']);
    // of short names one slip alone
    expect(book.near('Sant').map(({ id }) => id)).toEqual(['s']);
    expect(book.near('Sett')).toEqual([]);
    expect(book.near('')).toEqual([]);
  });

  it('part what they put together', () => {
    const word = fc.string({ unit: fc.constantFrom('a', 'b', '7', ' '), minLength: 1, maxLength: 8 }).map((text) => text.trim() || 'a');
    fc.assert(
      fc.property(word, word, word, (a, b, c) => {
        expect(partBy(readPattern('{x}-{y} ({z})'), `${a}-${b} (${c})`)).toEqual({ x: a, y: b, z: c });
      }),
    );
    expect(fieldsOfPattern(readPattern('a {x}{y} b'))).toEqual(['x', 'y']);
    expect(partBy(readPattern('{x}'), 'all of it')).toEqual({ x: 'all of it' });
    expect(partBy(readPattern('no {x}'), 'yes it')).toBeNull();
    expect(partBy(readPattern('{x} end'), 'a end more')).toBeNull();
  });
});
