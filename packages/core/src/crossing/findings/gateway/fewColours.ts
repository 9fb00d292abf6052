import { noChange } from '../../../change/index.js';
import { cost, mbit, type FindingKind } from '../../finding.js';

/** The session has fewer than 24 bits of colour. */
export const fewColours: FindingKind = {
  kind: 'connection with too few colours',
  bay: 'Gateway',
  weight: 'risk',
  detect: ({ location }, { settings, demand }) => {
    if (settings['picture.colourDepth'] >= 24) return null;
    return {
      text: `The connection is set to ${settings['picture.colourDepth']} bit of colour: banded pictures, blurred text edges`,
      cost: cost.risk + 15,
      costText: 'ugly picture',
      sure: 'sure',
      evidence: () => [{ source: 'computed', text: `asks for ${mbit(demand.p95Mbps)} as it is` }],
      // No figure of ours measures the look of colours, so the effect is told by what the picture then asks for.
      remedies: () => [
        {
          text: `Use true colour at ${location.name}`,
          change: noChange,
          ask:
            settings['picture.codec'] === 'bitmap' || settings['picture.codec'] === 'progressive'
              ? `true colours for ${mbit(demand.p95Mbps * 1.5)}`
              : 'true colours at the same rate',
        },
      ],
    };
  },
};
