import { doing, fieldsTo } from '../../../change/index.js';
import { cost, ms, type FindingKind } from '../../finding.js';
import { distanceKm, pathMs } from '../../../link/index.js';

/** Another gateway would be nearer both ends; ms each round trip. */
export const gatewayFar: FindingKind = {
  kind: 'gateway far from both ends',
  bay: 'Gateway',
  weight: 'risk',
  detect: ({ location, gatewayRegion, gateway, estate, pool }, { host, settings }) => {
    const hostRegion = host && estate.regions.get(host.region);
    if (!hostRegion || (location.inside && settings['transport.gatewayBypass'])) return null;
    const by = (region: typeof gatewayRegion) => pathMs(distanceKm(location, region)) + pathMs(distanceKm(region, hostRegion));
    const now = by(gatewayRegion);
    // no gateway is nearer than the straight way
    if (now - pathMs(distanceKm(location, hostRegion)) <= 8) return null;
    let best: { id: string; name: string; saved: number } | null = null;
    for (const other of estate.gateways) {
      const region = other.id !== gateway.id && estate.regions.get(other.region);
      const saved = region ? now - by(region) : 0;
      if (saved > (best?.saved ?? 8)) best = { id: other.id, name: other.name, saved };
    }
    if (!best) return null;
    return {
      text: `${gateway.name} lies out of the way between ${location.name} and ${hostRegion.name}: about ${ms(best.saved)} for nothing`,
      cost: cost.risk + best.saved,
      costText: ms(best.saved),
      sure: 'rests on an assumption',
      evidence: () => [{ source: 'assumed', text: 'from the distances; common practice for the detours of cables' }],
      remedies: () => [
        {
          text: `Go by ${best.name}`,
          change: doing(fieldsTo('pool', pool.id, { gateway: best.id })),
          ask: 'the pool must be reachable there',
        },
      ],
    };
  },
};
