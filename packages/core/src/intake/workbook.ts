import ExcelJS from 'exceljs';
import { Unzip, UnzipInflate } from 'fflate';
import { headed, mostColumns, mostRows, type DelimitedOptions } from './delimited.js';
import { SheetError, type Sheet, type SheetNote, type SheetRow } from './sheet.js';

/** What the parts of a workbook may come to when they are unpacked; what comes to more was made to. */
const mostUnpacked = 300_000_000;

/** Unpacks piece by piece and keeps nothing: what an archive says of its own size may be a lie. */
function unpacksTo(bytes: Uint8Array): number {
  let size = 0;
  const unzip = new Unzip((file) => {
    file.ondata = (error, piece) => {
      if (error) throw error;
      size += piece.length;
      if (size > mostUnpacked) throw new SheetError(`comes to more than ${mostUnpacked / 1_000_000} MB when it is unpacked; divide it`, 1);
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  for (let at = 0; at < bytes.length; at += 65_536) unzip.push(bytes.subarray(at, at + 65_536), at + 65_536 >= bytes.length);
  return size;
}

const two = (n: number): string => String(n).padStart(2, '0');
/** A day, with its time where it has one: workbooks keep both as one figure without a zone. */
function dateText(date: Date): string {
  if (Number.isNaN(date.getTime())) return '';
  const [h, m, s] = [date.getUTCHours(), date.getUTCMinutes(), date.getUTCSeconds()];
  const day = date.toISOString().slice(0, 10);
  // a time of day alone is kept as one of the first day there is
  if (date.getUTCFullYear() <= 1900) return `${two(h)}:${two(m)}`;
  return h + m + s === 0 ? day : `${day}T${two(h)}:${two(m)}:${two(s)}Z`;
}

/** The text of a cell; of a formula that of its value, of which it may have none. */
function cellText(value: ExcelJS.CellValue): { text: string; problem?: string } {
  if (value === null || value === undefined) return { text: '' };
  if (value instanceof Date) return { text: dateText(value) };
  if (typeof value === 'boolean') return { text: value ? 'yes' : 'no' };
  // figures are kept in 64 bits, of which 15 digits are what was typed
  if (typeof value === 'number') return { text: String(Number(value.toPrecision(15))) };
  if (typeof value === 'string') return { text: value };
  if ('richText' in value) return { text: value.richText.map(({ text }) => text).join('') };
  if ('error' in value) return { text: '', problem: `the cell says ${value.error}` };
  if ('text' in value) return cellText(value.text as ExcelJS.CellValue);
  if ('formula' in value || 'sharedFormula' in value)
    return value.result === undefined
      ? { text: '', problem: 'a formula without a value; open the workbook, and save it again' }
      : cellText(value.result as ExcelJS.CellValue);
  return { text: '' };
}

/**
 * Reads a sheet of a workbook [ISO/IEC 29500]: the first, or the one that is named; formulas by their value.
 * Hidden rows are read as the others.
 * @throws SheetError of what is no workbook, or of a sheet that is not in it
 */
export async function readWorkbook(
  bytes: Uint8Array,
  options: Omit<DelimitedOptions, 'delimiter'> & { sheet?: string } = {},
): Promise<Sheet> {
  const book = new ExcelJS.Workbook();
  try {
    unpacksTo(bytes);
    await book.xlsx.load(bytes.slice().buffer as never);
  } catch (error) {
    if (error instanceof SheetError) throw error;
    throw new SheetError('cannot be read as a workbook (.xlsx); save it as one, or as CSV', 1);
  }
  const names = book.worksheets.map(({ name }) => name);
  const sheet = options.sheet === undefined ? book.worksheets[0] : book.worksheets.find(({ name }) => name === options.sheet);
  if (!sheet)
    throw new SheetError(names.length ? `has no sheet “${options.sheet}”; there are ${names.join(', ')}` : 'has no sheet in it', 1);
  if (sheet.rowCount > mostRows) throw new SheetError(`has more than ${mostRows} rows; divide it`, mostRows);
  const notes: SheetNote[] = [];
  const all: SheetRow[] = [];
  const merged: { row: number; text: string }[] = [];
  sheet.eachRow((row, at) => {
    const cells: string[] = [];
    row.eachCell({ includeEmpty: true }, (cell, column) => {
      if (column > mostColumns) return;
      const { text, problem } = cellText(cell.value);
      // of merged cells the first holds the text: it is not what the others say
      const hidden = cell.isMerged && cell.master.address !== cell.address;
      cells[column - 1] = hidden ? '' : text;
      if (hidden && text.trim())
        merged.push({ row: at, text: `${cell.address} is merged with ${cell.master.address} and counts as empty` });
      if (problem && notes.length < 50) notes.push({ row: at, text: `${cell.address}: ${problem}` });
    });
    all.push({ row: at, cells: Array.from(cells, (cell) => cell ?? '') });
  });
  const { headerRow, head, rows, notes: told } = headed(all, options, notes);
  return {
    ...{ format: 'xlsx', encoding: null, delimiter: null, headerRow, head, rows },
    sheets: { names, read: sheet.name },
    notes: [...told, ...merged.slice(0, 20)],
  };
}
