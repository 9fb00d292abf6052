/** Nodes the search may visit before it settles for what it has; keeps the answer repeatable whatever the machine. */
const mostNodes = 50_000;

/** A choice of sets that together hold every element. */
export interface Cover {
  /** Positions of the chosen sets, ascending. */
  chosen: number[];
  /** Whether no smaller choice exists; false means the greedy answer, which may be one or more too large. */
  optimal: boolean;
  /** Nodes that the search visited: the same for the same sets, whatever the machine. */
  nodes: number;
}

/**
 * The fewest of the given sets that together hold every element of any of them (set cover). Solved exactly by branch and bound
 * after the usual reductions; where that would take too long the greedy choice is given and said so. The greedy choice is at
 * most H(n) times too large (Chvátal 1979).
 */
export function setCover(sets: readonly (readonly string[])[]): Cover {
  const ids = new Map<string, number>();
  const original = sets.map((set) => [
    ...new Set(
      set.map((element) => {
        let id = ids.get(element);
        if (id === undefined) ids.set(element, (id = ids.size));
        return id;
      }),
    ),
  ]);
  const inSets: number[][] = Array.from({ length: ids.size }, () => []);
  for (const [i, elements] of undominated(original).entries()) if (elements) for (const e of elements) inSets[e]?.push(i);
  const greedy = greedyCover(original, ids.size);
  const covered = new Uint16Array(ids.size);
  let best = greedy;
  let nodes = 0;
  const chosen: number[] = [];

  /** Elements no two of which share a set need a set each: a floor for what is still to be chosen. */
  const floor = (): number => {
    let n = 0;
    const blocked = new Set<number>();
    for (let e = 0; e < ids.size; e++) {
      if ((covered[e] as number) > 0 || (inSets[e] as number[]).some((set) => blocked.has(set))) continue;
      n++;
      for (const set of inSets[e] as number[]) blocked.add(set);
    }
    return n;
  };
  const search = (): void => {
    if (++nodes > mostNodes) return;
    // the element with the fewest sets left decides soonest
    let rarest = -1;
    for (let e = 0; e < ids.size; e++)
      if (covered[e] === 0 && (rarest < 0 || (inSets[e] as number[]).length < (inSets[rarest] as number[]).length)) rarest = e;
    if (rarest < 0) {
      if (chosen.length < best.length) best = [...chosen];
      return;
    }
    if (chosen.length + floor() >= best.length) return;
    const gain = (set: number) => (original[set] as number[]).filter((e) => covered[e] === 0).length;
    const options = [...(inSets[rarest] as number[])].sort((a, b) => gain(b) - gain(a) || a - b);
    for (const set of options) {
      for (const e of original[set] as number[]) covered[e] = (covered[e] as number) + 1;
      chosen.push(set);
      search();
      chosen.pop();
      for (const e of original[set] as number[]) covered[e] = (covered[e] as number) - 1;
    }
  };
  search();
  return { chosen: [...best].sort((a, b) => a - b), optimal: nodes <= mostNodes, nodes: Math.min(nodes, mostNodes) };
}

/** Sets that lie within another one are left out (null): whatever they cover, the other covers too. */
function undominated(sets: readonly number[][]): (number[] | null)[] {
  const order = sets.map((_, i) => i).sort((a, b) => (sets[b] as number[]).length - (sets[a] as number[]).length || a - b);
  const kept: { i: number; held: Set<number> }[] = [];
  const result: (number[] | null)[] = sets.map(() => null);
  for (const i of order) {
    const elements = sets[i] as number[];
    if (elements.length === 0 || kept.some(({ held }) => elements.every((e) => held.has(e)))) continue;
    kept.push({ i, held: new Set(elements) });
    result[i] = elements;
  }
  return result;
}

function greedyCover(sets: readonly number[][], size: number): number[] {
  const left = new Set(Array.from({ length: size }, (_, e) => e));
  const chosen: number[] = [];
  while (left.size) {
    let best = -1;
    let most = 0;
    for (const [i, elements] of sets.entries()) {
      const gain = elements.reduce((n, e) => n + (left.has(e) ? 1 : 0), 0);
      if (gain > most) [best, most] = [i, gain];
    }
    if (best < 0) break;
    chosen.push(best);
    for (const e of sets[best] as number[]) left.delete(e);
  }
  return chosen;
}
