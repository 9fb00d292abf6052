import { useEffect, useId, useRef, useSyncExternalStore } from 'react';

/** Something that is done on a page, to be found by its name. */
export interface Action {
  name: string;
  run: () => void;
}

const offered = new Map<string, readonly Action[]>();
let all: readonly Action[] = [];
const told = new Set<() => void>();
const tell = (id: string, actions: readonly Action[] | null) => {
  if (actions) offered.set(id, actions);
  else offered.delete(id);
  all = [...offered.values()].flat();
  for (const each of told) each();
};
const subscribe = (listener: () => void) => {
  told.add(listener);
  return () => told.delete(listener);
};

/** What can be done on the page that is shown besides its buttons. */
export const usePageActions = (): readonly Action[] => useSyncExternalStore(subscribe, () => all);

/** Makes what is done without a button of its own found by name while its page is shown. */
export function useOffers(actions: readonly Action[]): void {
  const id = useId();
  const now = useRef(actions);
  useEffect(() => {
    now.current = actions;
  });
  const names = actions.map(({ name }) => name).join('|');
  useEffect(() => {
    if (names === '') return undefined;
    tell(
      id,
      now.current.map(({ name }, i) => ({ name, run: () => now.current[i]?.run() })),
    );
    return () => tell(id, null);
  }, [names, id]);
}
