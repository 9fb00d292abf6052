import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { isJson, readJsonList } from './jsonList.js';
import { SheetError } from './sheet.js';

describe('an inventory in JSON', () => {
  it('has a column for each field, those within by their names, and what is in a list one behind the other', () => {
    expect(
      readJsonList(
        '[{"id":"a","os":{"name":"x","build":{"no":7}},"users":["p","q"]},{"id":"b","managed":true,"gone":null,"ports":[{"n":1}]}]',
      ),
    ).toEqual({
      ...{ format: 'json', encoding: 'utf-8', delimiter: null, headerRow: null, notes: [] },
      head: ['id', 'os.name', 'os.build.no', 'users', 'managed', 'ports'],
      rows: [
        { row: 1, cells: ['a', 'x', '7', 'p;q', '', ''] },
        { row: 2, cells: ['b', '', '', '', 'yes', '[{"n":1}]'] },
      ],
    });
  });

  it('may stand in an object, as the one list there is', () => {
    expect(readJsonList('{"at":"2026-11-01","devices":[{"id":"a"}]}').rows).toEqual([{ row: 1, cells: ['a'] }]);
  });

  it.each([
    ['{', 'is not valid JSON'],
    ['{"a":1}', 'is no list of objects'],
    ['{"a":[],"b":[]}', 'holds several lists; send one'],
    ['[]', 'holds no rows'],
    ['[{"a":1},7]', 'has something in it that is no object, number 2'],
    [`[{${Array.from({ length: 501 }, (_, i) => `"f${i}":1`).join(',')}}]`, 'has more than 500 fields'],
  ])('%s is refused: %s', (text, message) => {
    expect(() => readJsonList(text)).toThrow(new SheetError(message, 1).message);
  });

  it('is flattened four deep, and what lies deeper is kept as it was', () => {
    expect(readJsonList('[{"a":{"b":{"c":{"d":1}}}},{"a":{"b":{"c":{"d":{"e":1}}}}}]')).toMatchObject({
      head: ['a.b.c.d'],
      rows: [{ cells: ['1'] }, { cells: ['{"e":1}'] }],
    });
  });

  it('leaves nothing of empty lists, and no null among what is plain', () => {
    expect(readJsonList('[{"a":1,"b":[],"c":[null,2],"d":[{"e":1},null],"f":false}]')).toMatchObject({
      head: ['a', 'c', 'd', 'f'],
      rows: [{ cells: ['1', '2', '[{"e":1},null]', 'no'] }],
    });
  });

  it('may have five hundred fields, and the row with one more is named', () => {
    const fields = (from: number, count: number) => `{${Array.from({ length: count }, (_, i) => `"f${from + i}":1`).join(',')}}`;
    expect(readJsonList(`[${fields(0, 500)}]`).head).toHaveLength(500);
    let told: unknown;
    try {
      readJsonList(`[${fields(0, 500)},${fields(500, 1)}]`);
    } catch (error) {
      told = error;
    }
    expect(told).toMatchObject({ message: 'has more than 500 fields', row: 2 });
  });

  it('is known by how it begins', () => {
    expect(isJson('\uFEFF\n [')).toBe(true);
    expect(isJson('{"a":1}')).toBe(true);
    expect(isJson('name;[x]')).toBe(false);
  });

  it('keeps every plain text of every object where it stands', () => {
    const key = fc.constantFrom('a', 'b', 'c');
    fc.assert(
      fc.property(fc.array(fc.dictionary(key, fc.string()), { minLength: 1, maxLength: 8 }), (list) => {
        const { head, rows } = readJsonList(JSON.stringify(list));
        list.forEach((each, i) => {
          for (const name of head) expect(rows[i]?.cells[head.indexOf(name)]).toBe(each[name] ?? '');
        });
      }),
    );
  });
});
