import { noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** A measurement that was not taken where the person sits. */
export const wrongVantage: FindingKind = {
  kind: 'measured from the wrong place',
  bay: 'Link',
  weight: 'risk',
  detect: ({ evidence, endpoint }) => {
    const wrong = evidence.rejected.find(({ because }) => because === 'not taken at the desk');
    if (!wrong) return null;
    const { measurement } = wrong;
    const vantage =
      measurement.vantage === 'host' ? 'on the host' : measurement.vantage === 'session' ? 'inside the session' : 'not at the desk';
    return {
      text: `A measurement was taken ${vantage} and is no evidence for this line`,
      cost: cost.risk - 5,
      costText: 'looks good, is not',
      sure: 'sure',
      evidence: () => [
        {
          source: 'measured',
          text: `${measurement.by}, ${measurement.at.slice(0, 10)}${measurement.figures.roundTrips ? `: ${measurement.figures.roundTrips.medianMs} ms` : ''}`,
          notUsed: true,
        },
      ],
      remedies: () => [
        { text: `Measure at the desk of ${endpoint.name}`, change: noChange, ask: 'a field check from where the person sits; 40 seconds' },
      ],
    };
  },
};
