import { looksTyped } from './looksLike.js';
import type { SheetRow } from './sheet.js';

/** Rows from the top among which the head is looked for. */
const mostAbove = 30;
/** A name of a column is no longer than this. */
const longestName = 80;

const filled = (cells: readonly string[]): string[] => cells.map((cell) => cell.trim()).filter(Boolean);

/** Cells up to the last that says something: programs write empty ones behind them as they please. */
export const widthOf = (cells: readonly string[]): number => cells.findLastIndex((cell) => cell.trim() !== '') + 1;

/** Cells that most rows have. */
export function usualWidth(rows: readonly { cells: readonly string[] }[]): number {
  const counts = new Map<number, number>();
  for (const { cells } of rows) {
    const width = widthOf(cells);
    if (width > 0) counts.set(width, (counts.get(width) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0]?.[0] ?? 0;
}

/**
 * The row that names the columns: the first that is nearly as wide as what is usual, names each column once, and holds neither
 * figures nor addresses; what stands above it is a title.
 * @param isKnown whether a text is what a column is called elsewhere
 * @returns its place among the rows, or null where no row is one
 */
export function headerAt(rows: readonly SheetRow[], isKnown: (text: string) => boolean = () => false): number | null {
  const width = usualWidth(rows);
  let best: { at: number; score: number } | null = null;
  for (const [at, { cells }] of rows.slice(0, mostAbove).entries()) {
    const names = filled(cells);
    if (names.length === 0) continue;
    const score = scoreOf(names, width, isKnown);
    // what is known by name is a head wherever it stands; else the first that may be one
    if (score > 0 && (!best || score > best.score + 0.25)) best = { at, score };
  }
  return best?.at ?? null;
}

function scoreOf(names: readonly string[], width: number, isKnown: (text: string) => boolean): number {
  if (names.length < Math.max(1, width * 0.6)) return 0;
  if (new Set(names.map((name) => name.toLowerCase())).size < names.length * 0.6) return 0;
  if (names.some((name) => name.length > longestName)) return 0;
  const known = names.filter(isKnown).length / names.length;
  if (known > 0) return 1 + known;
  return names.some(looksTyped) ? 0 : 1;
}
