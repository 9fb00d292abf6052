import type { ObjectChange, Over } from './over.js';

/** Two layers that lie one over the other, as one: each object from what it was at first to what it is at last. */
export function together(first: Over, second: Over): Over {
  const writes = new Map<string, ObjectChange>();
  for (const write of [...first.writes, ...second.writes]) {
    const key = `${write.kind}/${write.id}`;
    const known = writes.get(key);
    writes.set(key, known ? { ...write, before: known.before } : write);
  }
  return {
    // what was made and removed again in between was never there
    writes: [...writes.values()].filter(({ before, after }) => before !== null || after !== null),
    measurements: [...first.measurements, ...second.measurements],
    supposed: [...first.supposed, ...second.supposed],
  };
}
