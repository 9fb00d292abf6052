import { asIf } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** Every host of the pool is off. */
export const hostsOff: FindingKind = {
  kind: 'the hosts are switched off',
  bay: 'Host',
  weight: 'blocked',
  detect: ({ pool }, { broken, host }) => {
    if (broken?.reason !== 'hosts off' || !host) return null;
    return {
      text: `No host of ${pool.name} with a free place is switched on`,
      cost: cost.blocked,
      costText: 'cannot sign in',
      sure: 'sure',
      evidence: () => [{ source: host.reportedAt ? 'reported' : 'declared', text: `${host.name} is off` }],
      remedies: () => [
        {
          text: `Switch ${host.name} on`,
          change: asIf('host', host.id, { power: 'on' }),
          ask: 'takes 60 to 180 s',
        },
      ],
    };
  },
};
