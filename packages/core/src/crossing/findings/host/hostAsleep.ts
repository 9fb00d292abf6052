import { doing, fieldsTo } from '../../../change/index.js';
import { cost, figure, type FindingKind } from '../../finding.js';

/** The host has to wake first, s. */
export const hostAsleep: FindingKind = {
  kind: 'the host is asleep',
  bay: 'Host',
  weight: 'risk',
  detect: ({ pool }, { host, timeline, broken }) => {
    if (broken || host?.power !== 'asleep' || pool.spareHosts > 0) return null;
    const wake = timeline.steps.find((step) => step.name === 'wake')?.seconds ?? 0;
    return {
      text: `The first person of the day wakes ${host.name}: ${figure(wake)} s more`,
      cost: cost.waiting(wake),
      costText: `${figure(wake)} s`,
      sure: 'likely',
      evidence: () => [
        { source: host.reportedAt ? 'reported' : 'declared', text: `${host.name} is asleep` },
        { source: 'assumed', text: '25 s from sleep; common practice' },
      ],
      remedies: () => [
        {
          text: `Keep one host of ${pool.name} awake`,
          change: doing(fieldsTo('pool', pool.id, { spareHosts: 1 })),
        },
      ],
    };
  },
};
