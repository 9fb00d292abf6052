import { useSearchParams } from 'react-router';

/** What the address says behind its question mark, and a way to change some of it; null or nothing takes a name out, the rest stays. */
export function useAddress() {
  const [search, setSearch] = useSearchParams();
  const set = (values: Readonly<Record<string, string | null>>, replace = true): void =>
    setSearch(
      () => {
        // What the address is now, not what was last drawn: two changes before the next drawing,
        // such as a search typed and a head pressed, must not undo one another.
        const next = new URLSearchParams(window.location.search);
        for (const [name, value] of Object.entries(values))
          if (value) next.set(name, value);
          else next.delete(name);
        return next;
      },
      { replace },
    );
  return { search, set };
}
