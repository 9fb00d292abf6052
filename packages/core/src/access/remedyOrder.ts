/** One piece of work: a condition met at one object. */
export interface Work {
  key: string;
  condition: string;
  object: string;
  effortH: number;
}

/** Work done together, since only together it gets somebody through. */
export interface RemedyStep {
  works: Work[];
  /** People who get through once it is done, and did not before. */
  people: string[];
  effortH: number;
}

/**
 * The order in which to do the work, most people per hour of effort first. Each step is what one more person still needs; whoever
 * needs no more than that gets through with it. Greedy: the best next step is taken each time.
 * @param needs per person the keys of everything unmet on their crossings
 */
export function remedyOrder(needs: ReadonlyMap<string, ReadonlySet<string>>, works: ReadonlyMap<string, Work>): RemedyStep[] {
  const left = new Map([...needs].filter(([, keys]) => keys.size > 0));
  const done = new Set<string>();
  const steps: RemedyStep[] = [];
  while (left.size) {
    const options = new Map<string, string[]>();
    for (const keys of left.values()) {
      const open = [...keys].filter((key) => !done.has(key)).sort();
      options.set(open.join('\n'), open);
    }
    let best: RemedyStep | null = null;
    for (const open of options.values()) {
      const together = new Set([...done, ...open]);
      const people = [...left].filter(([, keys]) => [...keys].every((key) => together.has(key))).map(([person]) => person);
      const effortH = open.reduce((sum, key) => sum + (works.get(key)?.effortH ?? 0), 0);
      if (!best || people.length / effortH > best.people.length / best.effortH)
        best = { works: open.flatMap((key) => works.get(key) ?? []), people, effortH };
    }
    if (!best || best.people.length === 0) break;
    steps.push(best);
    for (const { key } of best.works) done.add(key);
    for (const person of best.people) left.delete(person);
  }
  return steps;
}
