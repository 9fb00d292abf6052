import type { Group } from '@underpass/contracts';

/**
 * The first loop among nested groups, as the ids along it, the first one again at the end; null where there is none.
 * A group in a loop would be a member of itself.
 */
export function groupLoop(groups: readonly Pick<Group, 'id' | 'memberOf'>[]): string[] | null {
  const parents = new Map(groups.map((group) => [group.id, group.memberOf]));
  const done = new Set<string>();
  for (const { id } of groups) {
    if (done.has(id)) continue;
    // depth first without recursion, so that a long chain cannot exhaust the stack
    const path = [id];
    const onPath = new Set(path);
    const next = [0];
    while (path.length) {
      const here = path.at(-1) as string;
      const parent = (parents.get(here) ?? [])[next.at(-1) as number];
      if (parent === undefined) {
        done.add(here);
        onPath.delete(here);
        path.pop();
        next.pop();
      } else {
        next[next.length - 1] = (next.at(-1) as number) + 1;
        if (onPath.has(parent)) return [...path.slice(path.indexOf(parent)), parent];
        if (!done.has(parent)) {
          path.push(parent);
          onPath.add(parent);
          next.push(0);
        }
      }
    }
  }
  return null;
}
