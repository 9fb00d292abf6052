import type { ObjectKind } from '@underpass/contracts';
import { readDelimited } from './delimited.js';
import { directorySheet, kindOfEntries, sheetOfEntries } from './directory/entries.js';
import { isLdif, readLdif } from './directory/ldif.js';
import { readText } from './encoding.js';
import { isFieldWord } from './fieldWords.js';
import { isJson, readJsonList } from './jsonList.js';
import { isWorkbook, type Sheet } from './sheet.js';

/** How a list is read, where somebody says it; what is not said is found by what the file holds. */
export interface ReadAs {
  /** Kind of object its entries are of, in a directory: the others of it are left out. Null: all entries, as they are. */
  kind?: ObjectKind | null | undefined;
  /** Sheet of a workbook. */
  sheet?: string | undefined;
  /** Line that names the columns, counted from 1; 0 where none does. */
  headerRow?: number | undefined;
}

/**
 * The rows of a file, whatever of its sorts it is: a workbook, a directory, objects in JSON, or text.
 * @returns the rows, and of a directory the kind of object they are of
 * @throws SheetError of what cannot be read, with its row
 */
export async function readSheet(
  bytes: Uint8Array,
  { kind, sheet, headerRow }: ReadAs = {},
): Promise<{ sheet: Sheet; kind: ObjectKind | null }> {
  const headed = { isKnown: isFieldWord, ...(headerRow === undefined ? {} : { headerRow }) };
  if (isWorkbook(bytes)) {
    // what reads workbooks is large, and most lists are text
    const { readWorkbook } = await import('./workbook.js');
    return { sheet: await readWorkbook(bytes, { ...headed, ...(sheet === undefined ? {} : { sheet }) }), kind: kind ?? null };
  }
  const { text } = readText(bytes);
  if (isJson(text)) return { sheet: readJsonList(text), kind: kind ?? null };
  if (!isLdif(text)) return { sheet: readDelimited(bytes, headed), kind: kind ?? null };
  const { entries, notes } = readLdif(text);
  const of = kind === undefined ? kindOfEntries(entries) : kind;
  return { sheet: of ? directorySheet(entries, of, notes) : sheetOfEntries(entries, notes), kind: of };
}
