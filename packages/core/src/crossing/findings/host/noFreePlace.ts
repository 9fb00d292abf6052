import { asIf, noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';

/** Every place of the pool is taken. */
export const noFreePlace: FindingKind = {
  kind: 'no free place on the hosts',
  bay: 'Host',
  weight: 'blocked',
  detect: ({ pool, hosts }, { broken, host }) => {
    if (broken?.reason !== 'no free place') return null;
    const more = host ? Math.max((host.used ?? 0) - host.places + 1, Math.ceil(host.places * 0.1)) : 0;
    const [used, places] = [hosts.reduce((sum, h) => sum + (h.used ?? 0), 0), hosts.reduce((sum, h) => sum + h.places, 0)];
    return {
      text: host ? `Every place in ${pool.name} is taken: ${used} of ${places}` : `${pool.name} has no host`,
      cost: cost.blocked,
      costText: 'waits or is refused',
      sure: 'sure',
      evidence: () => [
        {
          source: host?.reportedAt ? 'reported' : 'declared',
          text: `${used} of ${places} places taken on ${plural(hosts.length, 'host')}`,
        },
      ],
      remedies: () =>
        host
          ? [
              {
                text: `Give ${host.name} ${plural(more, 'place')} more`,
                change: asIf('host', host.id, { places: host.places + more }),
                ask: 'check its memory first',
              },
            ]
          : [{ text: `Put a host into ${pool.name}`, change: noChange, at: { kind: 'pool', id: pool.id }, ask: 'people can then sign in' }],
    };
  },
};
