import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import Papa from 'papaparse';
import { readDelimited } from './delimited.js';
import { isFieldWord } from './fieldWords.js';
import { SheetError } from './sheet.js';

// written by the csv module of Python 3.11, in each delimiter, with every cell quoted and with those alone that need it
const byPython = JSON.parse(readFileSync(new URL('fixtures/written-by-python.json', import.meta.url), 'utf8')) as {
  rows: string[][];
  texts: { delimiter: string; text: string }[];
};
const read = (text: string) => readDelimited(text, { isKnown: isFieldWord });

describe('rows of text', () => {
  it.each([
    ['a comma', ',', 'name,place\nA,Yard\nB,Hall\n'],
    ['a semicolon', ';', 'name;place\nA;Yard\nB;Hall\n'],
    ['a tab', '\t', 'name\tplace\nA\tYard\nB\tHall\n'],
    ['a bar', '|', 'name|place\nA|Yard\nB|Hall\n'],
  ])('are parted by %s, which is found', (_, delimiter, text) => {
    expect(read(text)).toMatchObject({
      delimiter,
      headerRow: 1,
      head: ['name', 'place'],
      rows: [{ row: 2 }, { row: 3, cells: ['B', 'Hall'] }],
    });
  });

  it('are not parted by the comma of a decimal', () => {
    const sheet = read('Ort;Breite;Preis\nA;53,1;1,5\nB;53,2;2,5\nC;53,3;9,0\n');
    expect(sheet).toMatchObject({ delimiter: ';', head: ['Ort', 'Breite', 'Preis'] });
  });

  it('are not parted by the comma of a price in every row either, where the last column is empty', () => {
    const rows = Array.from({ length: 30 }, (_, i) => `Kasse ${i};N-${i};Head office;${i + 300},00;`).join('\r\n');
    for (const isKnown of [isFieldWord, () => false])
      expect(
        readDelimited(`List of October\r\n\r\nGerätename;Inventar-Nr.;Standort;Kaufpreis;Bemerkung\r\n${rows}\r\n`, { isKnown }),
      ).toMatchObject({
        ...{ delimiter: ';', headerRow: 3 },
        head: ['Gerätename', 'Inventar-Nr.', 'Standort', 'Kaufpreis', 'Bemerkung'],
      });
  });

  it('are parted by what the first line names', () => {
    expect(read('sep=|\nname|place\nA, B|Yard\n')).toMatchObject({
      delimiter: '|',
      headerRow: 2,
      rows: [{ row: 3, cells: ['A, B', 'Yard'] }],
    });
  });

  it('have their head where it stands, counted in lines of the file; what is above is told', () => {
    const sheet = read('List of devices,,\n"as of\nOctober",,\n\nname,type,site\nA,laptop,Yard\n');
    expect(sheet.headerRow).toBe(5);
    expect(sheet.head).toEqual(['name', 'type', 'site']);
    expect(sheet.rows).toEqual([{ row: 6, cells: ['A', 'laptop', 'Yard'] }]);
    expect(sheet.notes[0]?.text).toBe('2 rows stand above the head and are left out');
  });

  it('count the lines that a quoted cell goes over, with any end of line', () => {
    expect(read('name,remark\r\nA,"one\r\ntwo\r\nthree"\r\nB,x\r\n').rows.map(({ row }) => row)).toEqual([2, 5]);
  });

  it('may have no head at all', () => {
    const sheet = read('192.0.2.1,1920x1080\n192.0.2.2,1280x800\n');
    expect(sheet).toMatchObject({ headerRow: null, head: ['Column 1', 'Column 2'] });
    expect(sheet.rows).toHaveLength(2);
  });

  it('have a head where somebody says it is, and none at nought', () => {
    const text = 'x,y\nname,place\nA,Yard\n';
    expect(readDelimited(text, { headerRow: 2 })).toMatchObject({ headerRow: 2, head: ['name', 'place'], rows: [{ row: 3 }] });
    expect(readDelimited(text, { headerRow: 0 })).toMatchObject({ headerRow: null, rows: [{ row: 1 }, { row: 2 }, { row: 3 }] });
    expect(() => readDelimited(text, { headerRow: 9 })).toThrow(SheetError);
  });

  it('name a column that stands twice, and one without a name, and drop empty ones at the end', () => {
    const sheet = read('name,name,,site,,\nA,B,C,D,,\n');
    expect(sheet.head).toEqual(['name', 'name (2)', 'Column 3', 'site']);
    expect(sheet.notes.map(({ text }) => text)).toEqual(['two columns are called “name”; the later one is called “name (2)” here']);
  });

  it('tell a quoted cell that is not closed, with its line', () => {
    expect(read('name,place\nA,Yard\nB,"Hall\nC,Yard\n').notes).toContainEqual({
      row: 3,
      text: 'a quoted cell is not closed, or has text after its closing quote',
    });
  });

  it('are refused where there are none, or where it is no text', () => {
    expect(() => read('\n \n')).toThrow('holds no rows');
    expect(() => read('a\0b')).toThrow('characters that no text has');
    expect(() => read(`${Array.from({ length: 501 }, (_, i) => `c${i}`).join(',')}\n`)).toThrow('501 columns');
  });

  it('say in which line their head was looked for, and which is too wide', () => {
    const told = (text: string, headerRow?: number): unknown => {
      try {
        return readDelimited(text, headerRow === undefined ? {} : { headerRow });
      } catch (error) {
        return error;
      }
    };
    expect(told('a,b\n\n1,2\n', 2)).toMatchObject({ message: 'is blank, so it cannot name the columns', row: 2 });
    const wide = (count: number) => Array.from({ length: count }, (_, i) => `c${i}`).join(',');
    expect(told(`${wide(500)}\n1,2\n`)).toMatchObject({ headerRow: 1 });
    expect(told(`\n\n${wide(501)}\n1,2\n`)).toMatchObject({ message: 'has 501 columns; 500 are read', row: 3 });
    expect(told(`${wide(501)}\n`, 0)).toMatchObject({ message: 'has 501 columns; 500 are read', row: 1 });
    // what stands above is told at its first row, and names that stand twice at theirs
    expect(told('\nList,,\n\nname,name,site\nA,B,C\n', 4)).toMatchObject({
      notes: [
        { row: 2, text: 'a row stands above the head and is left out' },
        { row: 4, text: 'two columns are called “name”; the later one is called “name (2)” here' },
      ],
    });
  });

  it.each(byPython.texts)('come back as another program wrote them: $delimiter, $text', ({ delimiter, text }) => {
    const { rows } = readDelimited(text, { delimiter, headerRow: 0 });
    expect(rows.map(({ cells }) => cells)).toEqual(byPython.rows);
  });

  it('come back as they were written, all quoted', () => {
    const cell = fc.string({ maxLength: 12 }).filter((text) => !text.includes('\0'));
    fc.assert(
      fc.property(
        fc.constantFrom(',', ';', '\t', '|'),
        fc
          .integer({ min: 2, max: 6 })
          .chain((width) => fc.array(fc.array(cell, { minLength: width, maxLength: width }), { minLength: 1, maxLength: 12 })),
        (delimiter, rows) => {
          const filled = rows.filter((cells) => cells.some((each) => each.trim()));
          const text = Papa.unparse(rows, { delimiter, newline: '\r\n', quotes: true });
          if (filled.length === 0) return expect(() => readDelimited(text, { delimiter, headerRow: 0 })).toThrow(SheetError);
          expect(readDelimited(text, { delimiter, headerRow: 0 }).rows.map(({ cells }) => cells)).toEqual(filled);
        },
      ),
    );
  });
});
