import type { ReactNode } from 'react';

/** A column of a list. */
export interface ListColumn<T> {
  id: string;
  head: string;
  /** Its share of the width, as a track of a grid. */
  width: string;
  right?: boolean;
  cell: (row: T) => ReactNode;
  /** The same as plain text, to copy. */
  text: (row: T) => string;
  /** What it is sorted by where the list is sorted on the page; without it, by its text. */
  sortBy?: (row: T) => number | string;
  /** False where nothing is gained by sorting. */
  sorts?: boolean;
  /** True where it is shown only when somebody chooses it. */
  extra?: boolean;
}

/** Columns by the words of an address: those named, or those that are shown without being asked for. */
export const shownOf = <T>(columns: readonly ListColumn<T>[], named: string | null): string[] => {
  const wanted = named?.split(',') ?? null;
  const [first, ...others] = columns;
  const shown = others.filter(({ id, extra }) => (wanted ? wanted.includes(id) : !extra));
  return [first as ListColumn<T>, ...shown].map(({ id }) => id);
};

/** The same back in the words of an address; null where they are those of before. */
export function namedOf<T>(columns: readonly ListColumn<T>[], shown: readonly string[]): string | null {
  const usual = shownOf(columns, null);
  return shown.length === usual.length && usual.every((id) => shown.includes(id)) ? null : shown.join(',');
}
