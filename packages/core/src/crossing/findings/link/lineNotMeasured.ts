import { noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** Round trips, rate or loss of the line are not known, and decide. */
export const lineNotMeasured: FindingKind = {
  kind: 'the line is not known',
  bay: 'Link',
  weight: 'unknown',
  detect: ({ endpoint, evidence, location }, { way, missing }) => {
    const decides = missing.filter((fact) => fact === 'round trips' || fact === 'line rate' || fact === 'loss');
    if (decides.length === 0) return null;
    const few = evidence.roundTrips;
    return {
      text:
        few && !way.rttKnown
          ? `Only ${few.samples} round trips were measured, 20 are needed`
          : `Not known: ${decides.join(' and ')} of the way from ${location.name}, and it decides`,
      cost: cost.notKnown + decides.length,
      costText: decides.length === 1 ? '1 figure' : `${decides.length} figures`,
      sure: 'rests on an assumption',
      evidence: way.rttKnown
        ? [
            {
              source: way.rtt.source,
              text: `round trip ${Math.round(way.rtt.value)} ms, ${Math.round(way.rtt.low)} to ${Math.round(way.rtt.high)}`,
            },
          ]
        : [{ source: 'assumed', text: `round trip ${Math.round(way.rtt.low)} to ${Math.round(way.rtt.high)} ms: ${way.rtt.note}` }],
      remedies: [
        {
          text: `Send a field check to ${endpoint.name}`,
          change: noChange,
          ask: `makes known: ${decides.join(', ')}; 40 seconds of the person’s time`,
        },
      ],
    };
  },
};
