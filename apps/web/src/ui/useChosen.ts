import { useState } from 'react';

/** Rows that are chosen with check boxes, by identifier. */
export function useChosen(first: readonly string[] = []) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(() => new Set(first));
  const toggle = (id: string) =>
    setChosen((old) => {
      const next = new Set(old);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  return { chosen, setChosen, toggle };
}
