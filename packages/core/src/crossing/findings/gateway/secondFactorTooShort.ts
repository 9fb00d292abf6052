import { doing, settingTo } from '../../../change/index.js';
import { cost, figure, type FindingKind } from '../../finding.js';
import { secondFactorNeedsS } from '../../ladder.js';

/** The second factor takes longer than it is given, s. */
export const secondFactorTooShort: FindingKind = {
  kind: 'second factor’s time-out shorter than the way',
  bay: 'Gateway',
  weight: 'blocked',
  detect: ({ location }, { broken, settings, way }) => {
    if (broken?.reason !== 'second factor too slow') return null;
    const timeoutS = settings['security.secondFactorTimeoutS'];
    const needs = secondFactorNeedsS(way.rtt.value);
    const longer = Math.max(25, Math.ceil((needs * 1.5) / 5) * 5);
    return {
      text: `The second factor breaks off after ${timeoutS} s, the way and the person need ${figure(needs)}`,
      cost: cost.blocked,
      costText: 'cannot sign in',
      sure: way.rttKnown ? 'likely' : 'rests on an assumption',
      evidence: [
        { source: way.rtt.source, text: `round trip ${Math.round(way.rtt.value)} ms, four of them` },
        { source: 'assumed', text: '10 s to read and type the code; common practice' },
      ],
      remedies: [
        {
          text: `Let that step take ${longer} s at ${location.name}`,
          change: doing(settingTo('security.secondFactorTimeoutS', 'location', location.id, longer)),
        },
      ],
    };
  },
};
