import { useSearchParams } from 'react-router';
import { namedOf, shownOf, type ListColumn } from './columns.js';

/** Filters, order and columns of a list, all in the address, so that it can be sent and kept. */
export function useListAddress<T>(columns: readonly ListColumn<T>[]) {
  const [search, setSearch] = useSearchParams();
  const set = (values: Record<string, string | null>, replace = false) =>
    setSearch(
      () => {
        // What the address is now, not what was last drawn: a search typed and a head pressed
        // before the next drawing must not undo one another.
        const next = new URLSearchParams(window.location.search);
        for (const [key, value] of Object.entries(values))
          if (value) next.set(key, value);
          else next.delete(key);
        return next;
      },
      { replace },
    );
  const shown = shownOf(columns, search.get('columns'));
  return {
    search,
    get: (key: string) => search.get(key),
    set,
    sort: search.get('sort'),
    onSort: (sort: string | null) => set({ sort }),
    shown,
    onShown: (next: readonly string[]) => set({ columns: namedOf(columns, next) }, true),
  };
}
