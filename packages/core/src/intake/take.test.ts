import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { type Estate, type TableMap } from '@underpass/contracts';
import { common, devices, estate, estateOf, hall, sheetOf, targetOf, yard } from '../../test/deviceList.js';
import { guessColumns, mapOf } from './guess.js';
import { MapError } from './intake.js';
import { takeIn } from './take.js';

const mapping = (more: Partial<TableMap> & Pick<TableMap, 'columns'>): TableMap => ({
  kind: 'endpoint',
  key: 'id',
  constants: common,
  make: {},
  ...more,
});
const plain = (from: string, to: string) => ({ from, to, with: ' ' });

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

  it('that are blank say nothing, also where their cells hold blanks', () => {
    const sheet = { ...sheetOf('id;name\n1;a\n'), rows: [[' ', ''], ['1', 'a'], []].map((cells, i) => ({ row: i + 2, cells })) };
    const { taken, rejected } = takeIn(sheet, mapping({ columns: [plain('id', 'id'), plain('name', 'name')] }), targetOf());
    expect([taken.map(({ row }) => row), rejected]).toEqual([[3], []]);
  });

  it('are told with the column that has a part of them, and with none where no column fills it', () => {
    const parted = mapping({ columns: [{ from: 'what', with: ' ', pattern: '{name} ({id})' }] });
    expect(take('what\nA (1)\nB (1)\n', parted).rejected).toEqual([
      { row: 3, column: 'what', field: 'id', value: '1', text: 'stands in row 2 already', wanted: 'each once' },
    ]);
    const nameless = mapping({ columns: [plain('id', 'id')] });
    expect(take('id;x\n1;2\n', nameless).rejected).toMatchObject([{ row: 2, column: '', field: 'name', value: '' }]);
  });

  it('are told apart by a figure as by a text', () => {
    const [a] = take(devices).taken.map(({ object }) => object);
    const there = estateOf({ location: [yard], endpoint: [{ ...a, cores: 4 }] });
    const map = mapping({ key: 'cores', columns: [plain('cores', 'cores'), plain('name', 'name')] });
    expect(take('cores;name\n4;x\n', map, there).taken).toMatchObject([{ change: 'changed', object: { id: 'INV-1', name: 'x' } }]);
    // those that have none are told by none
    const without = estateOf({ location: [yard], endpoint: [a] });
    expect(take('cores;name\n4;x\n', map, without).taken).toMatchObject([{ change: 'added', object: { id: 'x' } }]);
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

  it.each([
    ['“nothing” is not a field of it', mapping({ columns: [plain('id', 'nothing')] })],
    ['“id” is filled by “id + no” already', mapping({ columns: [{ from: ['id', 'no'], with: '', to: 'id' }, plain('name', 'id')] })],
  ])('a mapping that is wrong is told: %s', (message, map) => {
    expect(() => take('id;name\n1;a\n', map)).toThrow(message);
  });

  it('without two columns of a mapping are told so', () => {
    const map = mapping({ columns: [plain('id', 'id'), { from: ['first', 'last'], with: ' ', to: 'name' }] });
    expect(take('id;name\n1;a\n', map).notes).toEqual(['The column “first”, “last” is not in this list; what it fills is left as it is.']);
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
