import type { ChainNode } from '@underpass/contracts';

/** One object on a chain that is drawn. */
export interface Station {
  node: ChainNode;
  x: number;
  room: number;
  /** The link that leads here is missing. */
  gap: boolean;
}

/** Places of the objects of a chain: each in the column of its kind, nested groups side by side in theirs. */
export function stationsOf(nodes: readonly (ChainNode | null)[], column: number, shown: readonly string[]): Station[] {
  const stations: Station[] = [];
  let gap = false;
  for (const node of nodes) {
    if (!node) {
      gap = true;
      continue;
    }
    const at = shown.indexOf(node.kind);
    if (at < 0) continue;
    // nested groups share their column
    const same = nodes.filter((each) => each?.kind === node.kind);
    const n = same.indexOf(node);
    const room = column / same.length;
    stations.push({ node, x: at * column + n * room + 6, room: room - 12, gap });
    gap = false;
  }
  return stations;
}
