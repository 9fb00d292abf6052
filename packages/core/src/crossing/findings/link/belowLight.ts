import { noChange } from '../../../change/index.js';
import { cost, ms, type FindingKind } from '../../finding.js';

/** A round trip shorter than light needs for the distance, ms. */
export const belowLight: FindingKind = {
  kind: 'delay below what light allows',
  bay: 'Link',
  weight: 'risk',
  detect: ({ evidence, location, gatewayRegion }) => {
    const wrong = evidence.rejected.find(({ because }) => because === 'below what light allows');
    if (!wrong) return null;
    return {
      text: `A round trip of ${ms(wrong.measurement.figures.roundTrips?.medianMs ?? 0)} between ${location.name} and ${gatewayRegion.name} is shorter than light needs: it was not taken there`,
      cost: cost.risk - 4,
      costText: 'looks good, is not',
      sure: 'sure',
      evidence: () => [{ source: 'measured', text: `${wrong.measurement.by}, ${wrong.measurement.at.slice(0, 10)}`, notUsed: true }],
      remedies: () => [
        { text: `Measure at ${location.name}`, change: noChange, ask: 'a field check from where the person sits; 40 seconds' },
      ],
    };
  },
};
