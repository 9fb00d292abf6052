import { supposing } from '../../../change/index.js';
import { cost, ms, type FindingKind } from '../../finding.js';
import { distanceKm, pathMs } from '../../../link/index.js';

/** The pool has hosts in a region that is nearer, ms each round trip. */
export const regionFar: FindingKind = {
  kind: 'region far although a nearer one has the pool',
  bay: 'Host',
  weight: 'risk',
  detect: ({ location, hosts, estate, gatewayRegion }, { host }) => {
    if (!host || hosts.every(({ region }) => region === host.region)) return null;
    const lengthBy = (regionId: string) => {
      const region = estate.regions.get(regionId);
      return region ? (location.inside ? pathMs(distanceKm(location, region)) : pathMs(distanceKm(gatewayRegion, region))) : Infinity;
    };
    const now = lengthBy(host.region);
    const nearer = hosts.find((other) => other.region !== host.region && lengthBy(other.region) < now - 5);
    if (!nearer) return null;
    const saved = now - lengthBy(nearer.region);
    return {
      text: `The session is on ${host.name} in ${estate.regions.get(host.region)?.name ?? host.region}, ${nearer.name} is ${ms(saved)} nearer`,
      cost: cost.risk + saved,
      costText: ms(saved),
      sure: 'likely',
      evidence: () => [{ source: 'assumed', text: `from the distances of the regions` }],
      remedies: () => [
        {
          text: `Give this person ${nearer.name}`,
          change: supposing({ suppose: 'object', kind: 'host', id: host.id, set: { region: nearer.region } }),
          ask: 'a place must be free there',
        },
      ],
    };
  },
};
