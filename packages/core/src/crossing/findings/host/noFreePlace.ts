import { doing, fieldsTo, noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** Every place of the pool is taken. */
export const noFreePlace: FindingKind = {
  kind: 'no free place on the hosts',
  bay: 'Host',
  weight: 'blocked',
  detect: ({ pool, hosts }, { broken, host }) => {
    if (broken?.reason !== 'no free place') return null;
    return {
      text: host
        ? `Every place in ${pool.name} is taken: ${hosts.reduce((sum, h) => sum + (h.used ?? 0), 0)} of ${hosts.reduce((sum, h) => sum + h.places, 0)}`
        : `${pool.name} has no host`,
      cost: cost.blocked,
      costText: 'waits or is refused',
      sure: 'sure',
      evidence: [{ source: host?.reportedAt ? 'reported' : 'declared', text: `${hosts.length} hosts, no free place` }],
      remedies: host
        ? [
            {
              text: `Give ${host.name} ${Math.ceil(host.places * 0.1)} places more`,
              change: doing(fieldsTo('host', host.id, { places: Math.ceil(host.places * 1.1) + 1 })),
              ask: 'check its memory first',
            },
          ]
        : [{ text: `Put a host into ${pool.name}`, change: noChange, ask: 'people can then sign in' }],
    };
  },
};
