import { useAddress } from '../useAddress.js';
import { namedOf, shownOf, type ListColumn } from './columns.js';

/** Filters, order and columns of a list, all in the address, so that it can be sent and kept. */
export function useListAddress<T>(columns: readonly ListColumn<T>[]) {
  const { search, set: change } = useAddress();
  const set = (values: Record<string, string | null>, replace = false) => change(values, replace);
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
