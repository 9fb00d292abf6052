/** Page of the print sheets [ISO 216 A4], with a margin every printer keeps. */
export const sheet = { widthMm: 210, heightMm: 297, marginMm: 12 } as const;
/** Room for the caption, the place and the reading distance beneath a code, mm. */
const captionMm = 24;
/** Gap between two codes, and the least width captions need, mm. */
const gapMm = 6;
const leastCellMm = 56;

/** Where a code lies on the printed sheets, mm from the upper left corner of its page. */
export interface SheetCell {
  page: number;
  xMm: number;
  yMm: number;
  widthMm: number;
}

/** Largest code with its quiet zone that one page takes, mm. */
export const largestOnSheetMm = Math.min(sheet.widthMm, sheet.heightMm - captionMm) - 2 * sheet.marginMm;

/**
 * Places for codes on pages, row by row, left to right.
 * @param wholeMm size of each code with its quiet zone, at most largestOnSheetMm
 */
export function sheetLayout(count: number, wholeMm: number): SheetCell[] {
  const widthMm = Math.max(wholeMm, leastCellMm);
  const across = Math.max(1, Math.floor((sheet.widthMm - 2 * sheet.marginMm + gapMm) / (widthMm + gapMm)));
  const down = Math.max(1, Math.floor((sheet.heightMm - 2 * sheet.marginMm + gapMm) / (wholeMm + captionMm + gapMm)));
  return Array.from({ length: count }, (_, i) => {
    const onPage = i % (across * down);
    return {
      page: Math.floor(i / (across * down)),
      xMm: sheet.marginMm + (onPage % across) * (widthMm + gapMm),
      yMm: sheet.marginMm + Math.floor(onPage / across) * (wholeMm + captionMm + gapMm),
      widthMm,
    };
  });
}
