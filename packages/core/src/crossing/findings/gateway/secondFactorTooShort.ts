import { setHere } from '../../setHere.js';
import { cost, figure, type FindingKind } from '../../finding.js';
import { secondFactorNeedsS } from '../../ladder.js';

/** The second factor takes longer than it is given, s. */
export const secondFactorTooShort: FindingKind = {
  kind: 'second factor’s time-out shorter than the way',
  bay: 'Gateway',
  weight: 'blocked',
  detect: (facts, { broken, settings, way }) => {
    if (broken?.reason !== 'second factor too slow') return null;
    const timeoutS = settings['security.secondFactorTimeoutS'];
    const needs = secondFactorNeedsS(way.rtt, facts.estate.assumed.signon);
    const longer = Math.max(25, Math.ceil(needs.high / 5) * 5);
    return {
      text: `The second factor breaks off after ${timeoutS} s, the way and the person need ${figure(needs.low)} at least`,
      cost: cost.blocked,
      costText: 'cannot sign in',
      sure: way.rttKnown ? 'likely' : 'rests on an assumption',
      evidence: () => [
        { source: way.rtt.source, text: `round trip ${Math.round(way.rtt.low)} ms, four of them: ${figure((4 * way.rtt.low) / 1000)} s` },
        {
          source: 'assumed',
          text: `${facts.estate.assumed.signon.codeLowS} to ${facts.estate.assumed.signon.codeHighS} s to read and type the code; common practice: ${figure(needs.low)} s at least, and ${timeoutS} s are given`,
        },
      ],
      remedies: () => [setHere(facts, 'security.secondFactorTimeoutS', longer, (where) => `Let that step take ${longer} s ${where}`)],
    };
  },
};
