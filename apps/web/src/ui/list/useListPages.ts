import { useInfiniteQuery, useQueryClient, type InfiniteData, type QueryKey, type UseInfiniteQueryOptions } from '@tanstack/react-query';
import { useDeferredValue, useMemo } from 'react';

interface Pages {
  total: number;
  rows: readonly object[];
}
/** What a list asks for: pages of rows, with how many there are in all. */
type Listed<Page extends Pages, Key extends QueryKey> = UseInfiniteQueryOptions<Page, Error, InfiniteData<Page>, Key, number> & {
  queryKey: Key;
  initialPageParam: number;
};

/**
 * The pages of a list that is sorted by the server: its rows so far, and what its parts need to sort it, to fetch more and to print it.
 * @param of what is asked for in an order
 */
export function useListPages<Page extends Pages, Key extends QueryKey>(
  of: (sort: string | null) => Listed<Page, Key>,
  address: { sort: string | null; onSort: (sort: string | null) => void },
  enabled = true,
) {
  const client = useQueryClient();
  const pages = useInfiniteQuery({ ...of(address.sort), enabled });
  // a letter that is typed is painted before the list that follows from it
  const data = useDeferredValue(pages.data);
  const rows = useMemo(() => data?.pages.flatMap((page): readonly Page['rows'][number][] => page.rows) ?? [], [data]);
  const total = data?.pages[0]?.total ?? 0;
  const hasMore = pages.hasNextPage && !pages.isFetchingNextPage;
  const onMore = () => void pages.fetchNextPage();
  return {
    pages,
    data,
    rows,
    total,
    sorting: {
      sort: address.sort,
      onSort: (sort: string | null) => {
        // asked for before the screen follows the address
        const { queryKey, queryFn, initialPageParam } = of(sort);
        if (queryFn) void client.prefetchInfiniteQuery({ queryKey, queryFn, initialPageParam });
        address.onSort(sort);
      },
    },
    onNearEnd: () => hasMore && onMore(),
    printing: { rows: rows.length, total, hasMore, onMore },
  };
}
