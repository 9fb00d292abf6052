import type { TextEncoding } from './encoding.js';

/** One row of cells, and the line or row of the file it begins in, counted from 1. */
export interface SheetRow {
  row: number;
  cells: readonly string[];
}

/** What a file of rows holds: the names of its columns and the rows beneath them. */
export interface Sheet {
  format: 'csv' | 'xlsx' | 'ldif' | 'json';
  /** Of text; a workbook says it of itself. */
  encoding: TextEncoding | null;
  /** Between the cells of text. */
  delimiter: string | null;
  /** Line or row that names the columns, counted from 1; null where none does. */
  headerRow: number | null;
  head: readonly string[];
  rows: readonly SheetRow[];
  /** Sheets of a workbook, and the one that was read. */
  sheets?: { names: readonly string[]; read: string };
  /** What was met on the way and is told: cells merged in the head, rows above it, quotes that are not closed. */
  notes: readonly SheetNote[];
}
/** What is told of a row of the file as it is read. */
export interface SheetNote {
  row: number;
  text: string;
}

/** What of a file keeps it from being read at all. */
export class SheetError extends Error {
  constructor(
    message: string,
    /** Line or row, counted from 1. */
    readonly row: number,
  ) {
    super(message);
  }
}

/** Whether bytes begin as a workbook does: an archive [APPNOTE.TXT of the ZIP format, 4.3.7]. */
export const isWorkbook = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4;
