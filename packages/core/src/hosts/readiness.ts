import type { Graphics, Host, Pool } from '@underpass/contracts';

/** Rungs of the ladder to graphics acceleration in a host, in the order they must be climbed. */
export const graphicsRungs = [
  { field: 'card', wanted: true, missing: 'has no graphics card', remedy: 'Put a graphics card into' },
  { field: 'driver', wanted: true, missing: 'has a graphics card without a driver', remedy: 'Install the graphics driver on' },
  {
    field: 'mode',
    wanted: 'display',
    missing: 'has its graphics card set to compute mode',
    remedy: 'Set the graphics card to display mode on',
  },
  {
    field: 'usedForSessions',
    wanted: true,
    missing: 'does not use its graphics card for sessions',
    remedy: 'Use the graphics card for sessions on',
  },
] as const satisfies readonly { field: keyof Graphics; wanted: unknown; missing: string; remedy: string }[];

/** The first rung that is not reached; null where graphics are ready; undefined where nothing is known. */
export function brokenRung(graphics: Graphics | undefined): (typeof graphicsRungs)[number] | null | undefined {
  if (!graphics) return undefined;
  return graphicsRungs.find(({ field, wanted }) => graphics[field] !== wanted) ?? null;
}

const free = (host: Host) => host.places - (host.used ?? 0);

/**
 * The host a broker would give: awake hosts first, then asleep, then off; among them by the pool's placement. Hosts without a
 * free place come last. Deterministic: ties go by id.
 */
export function chooseHost(pool: Pool, hosts: readonly Host[]): Host | undefined {
  const rank = (host: Host) => (free(host) > 0 ? 0 : 10) + (host.power === 'off' ? 2 : host.power === 'asleep' ? 1 : 0);
  let best: Host | undefined;
  for (const host of hosts) {
    if (!best) {
      best = host;
      continue;
    }
    const byRank = rank(host) - rank(best);
    const byFree = pool.placement === 'spread' ? free(best) - free(host) : free(host) - free(best);
    if (byRank < 0 || (byRank === 0 && (byFree < 0 || (byFree === 0 && host.id < best.id)))) best = host;
  }
  return best;
}
