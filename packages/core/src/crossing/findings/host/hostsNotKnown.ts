import { noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** Whether the hosts are on, and have a place, is not known. */
export const hostsNotKnown: FindingKind = {
  kind: 'power or places of the hosts are not known',
  bay: 'Host',
  weight: 'unknown',
  detect: ({ pool }, { missing, host }) => {
    const power = missing.includes('power of the hosts');
    if (!host || (!power && !missing.includes('places of the hosts'))) return null;
    return {
      text: power ? `Whether ${host.name} is on is not known` : `How many places of ${host.name} are taken is not known`,
      cost: cost.notKnown + 4,
      costText: '1 fact',
      sure: 'rests on an assumption',
      evidence: () => [{ source: 'assumed', text: `nothing is reported of ${host.name}; a host that is off or full keeps people waiting` }],
      remedies: () => [
        {
          text: `Have the hosts of ${pool.name} report themselves`,
          change: noChange,
          at: { kind: 'pool', id: pool.id },
          ask: 'makes power and places known',
        },
      ],
    };
  },
};
