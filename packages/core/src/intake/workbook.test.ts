import { describe, expect, it } from '@jest/globals';
import ExcelJS from 'exceljs';
import { crc32, deflateRawSync } from 'node:zlib';
import { strToU8, Zip, zipSync, type ZipInputFile } from 'fflate';
import { isWorkbook, SheetError } from './sheet.js';
import { readWorkbook } from './workbook.js';

/** A workbook by another hand: the least that ISO/IEC 29500 part 1, 18.2 to 18.4 asks for, its texts in line. */
function byHand(rows: string, more: Record<string, string> = {}): Uint8Array {
  const head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>';
  const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
  const office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
  const packed = 'http://schemas.openxmlformats.org/package/2006';
  const files = {
    '[Content_Types].xml': `${head}<Types xmlns="${packed}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>`,
    '_rels/.rels': `${head}<Relationships xmlns="${packed}/relationships"><Relationship Id="r1" Type="${office}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    'xl/workbook.xml': `${head}<workbook xmlns="${main}" xmlns:r="${office}"><sheets><sheet name="Devices" sheetId="1" r:id="r1"/></sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': `${head}<Relationships xmlns="${packed}/relationships"><Relationship Id="r1" Type="${office}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
    'xl/worksheets/sheet1.xml': `${head}<worksheet xmlns="${main}"><sheetData>${rows}</sheetData></worksheet>`,
    ...more,
  };
  return zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)])));
}
const text = (at: string, value: string) => `<c r="${at}" t="inlineStr"><is><t>${value}</t></is></c>`;

async function written(fill: (sheet: ExcelJS.Worksheet, book: ExcelJS.Workbook) => void): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  fill(book.addWorksheet('Devices'), book);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

describe('a workbook', () => {
  it('is known by how it begins', async () => {
    expect(isWorkbook(await written(() => undefined))).toBe(true);
    expect(isWorkbook(Buffer.from('name;place'))).toBe(false);
  });

  it('is read as it is written by hand: texts, figures, formulas by their value, the row of the file', async () => {
    const sheet = await readWorkbook(
      byHand(
        `<row r="1">${text('A1', 'Devices of the yard')}</row><row r="3">${text('A3', 'name')}${text('B3', 'ram')}${text('C3', 'both')}</row>` +
          `<row r="4">${text('A4', 'A')}<c r="B4"><v>0.1</v></c><c r="C4" t="str"><f>A4&amp;B4</f><v>A0.1</v></c></row>` +
          `<row r="6">${text('A6', 'B')}<c r="B6"><f>1+1</f></c><c r="C6" t="b"><v>1</v></c></row>`,
      ),
    );
    expect(sheet).toMatchObject({ format: 'xlsx', encoding: null, delimiter: null, headerRow: 3, head: ['name', 'ram', 'both'] });
    expect(sheet.rows).toEqual([
      { row: 4, cells: ['A', '0.1', 'A0.1'] },
      { row: 6, cells: ['B', '', 'yes'] },
    ]);
    expect(sheet.sheets).toEqual({ names: ['Devices'], read: 'Devices' });
    expect(sheet.notes.map(({ row, text: told }) => [row, told])).toEqual([
      [6, 'B6: a formula without a value; open the workbook, and save it again'],
      [1, 'a row stands above the head and is left out'],
    ]);
  });

  it('keeps days, times, figures and rich texts as they were meant', async () => {
    const sheet = await readWorkbook(
      await written((own) => {
        own.addRow(['name', 'ends on', 'seen', 'figure', 'rich', 'link', 'wrong']);
        own.addRow([
          'A',
          new Date(Date.UTC(2026, 11, 31)),
          new Date(Date.UTC(2026, 0, 2, 3, 4, 5)),
          0.1 + 0.2,
          { richText: [{ text: 'one ' }, { text: 'two' }] },
          { text: 'page', hyperlink: 'https://portal.example' },
          { error: '#N/A' },
        ]);
      }),
    );
    expect(sheet.rows[0]?.cells).toEqual(['A', '2026-12-31', '2026-01-02T03:04:05Z', '0.3', 'one two', 'page', '']);
    expect(sheet.notes).toEqual([{ row: 2, text: 'G2: the cell says #N/A' }]);
  });

  it('tells merged cells, of which the first alone holds the text', async () => {
    const sheet = await readWorkbook(
      await written((own) => {
        own.addRow(['name', 'site', 'floor']);
        own.addRow(['A', 'Yard', '1']);
        own.addRow(['B', 'x', '2']);
        own.mergeCells('B2:B3');
      }),
    );
    expect(sheet.rows[1]?.cells).toEqual(['B', '', '2']);
    expect(sheet.notes).toContainEqual({ row: 3, text: 'B3 is merged with B2 and counts as empty' });
  });

  it('is read by the sheet that is chosen, and says which there are', async () => {
    const bytes = await written((own, book) => {
      own.addRow(['name']);
      own.addRow(['A']);
      const other = book.addWorksheet('People');
      other.addRow(['name']);
      other.addRow(['Ada']);
    });
    expect((await readWorkbook(bytes)).rows[0]?.cells).toEqual(['A']);
    expect(await readWorkbook(bytes, { sheet: 'People' })).toMatchObject({
      rows: [{ cells: ['Ada'] }],
      sheets: { names: ['Devices', 'People'], read: 'People' },
    });
    await expect(readWorkbook(bytes, { sheet: 'None' })).rejects.toThrow('has no sheet “None”; there are Devices, People');
  });

  it('that is none is refused with words', async () => {
    await expect(readWorkbook(zipSync({ 'a.txt': strToU8('a') }))).rejects.toThrow(SheetError);
    await expect(readWorkbook(Buffer.from('PK\u0003\u0004nonsense'))).rejects.toThrow(SheetError);
    await expect(readWorkbook(await written(() => undefined))).rejects.toThrow('holds no rows');
  });

  it('that would fill the memory is refused before it does, whatever it says of its size', async () => {
    const zeros = Buffer.alloc(301_000_000);
    const parts: Uint8Array[] = [];
    const zip = new Zip((_, part) => parts.push(part));
    // pressed by Node's own zlib: written in script it takes ten seconds
    const sheet: ZipInputFile = { filename: 'xl/worksheets/sheet1.xml', size: zeros.length, crc: crc32(zeros), compression: 8 };
    zip.add(sheet);
    sheet.ondata?.(null, deflateRawSync(zeros, { level: 1 }), true);
    zip.end();
    const bomb = Buffer.concat(parts);
    expect(bomb.length).toBeLessThan(3_000_000);
    await expect(readWorkbook(bomb)).rejects.toThrow('comes to more than 300 MB');
  });
});
