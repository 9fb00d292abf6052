import { noChange } from '../../../change/index.js';
import { cost, figure, type FindingKind } from '../../finding.js';
import { secondFactorNeedsS } from '../../ladder.js';
import { setHere } from '../../setHere.js';

/** The time that is given for the second factor is within what people take, s. */
export const secondFactorClose: FindingKind = {
  kind: 'the second factor may break off',
  bay: 'Gateway',
  weight: 'unknown',
  detect: (facts, { missing, settings, way }) => {
    const { gateway } = facts;
    if (!missing.includes('second factor time')) return null;
    const needs = secondFactorNeedsS(way.rtt, facts.estate.assumed.signon);
    const longer = Math.max(25, Math.ceil(needs.high / 5) * 5);
    const givenS = settings['security.secondFactorTimeoutS'];
    return {
      text: `The second factor breaks off after ${givenS} s; people and the way take ${figure(needs.low)} to ${figure(needs.high)} s`,
      cost: cost.notKnown + 6,
      costText: '1 figure',
      sure: 'rests on an assumption',
      evidence: () => [
        { source: 'declared', text: `${givenS} s are given at ${gateway.name}` },
        {
          source: 'assumed',
          text: `${facts.estate.assumed.signon.codeLowS} to ${facts.estate.assumed.signon.codeHighS} s to read and type a code, common practice; with four round trips ${figure(needs.low)} to ${figure(needs.high)} s`,
        },
      ],
      remedies: () => [
        setHere(facts, 'security.secondFactorTimeoutS', longer, (where) => `Let that step take ${longer} s ${where}`),
        { text: 'Time one sign-in with the second factor', change: noChange, ask: 'how long this person takes; 1 minute' },
      ],
    };
  },
};
