import { noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** Decoders that are not known, and would decide the frame rate or the delay. */
export const decodersNotKnown: FindingKind = {
  kind: 'the decoders are not known',
  bay: 'Endpoint',
  weight: 'unknown',
  detect: ({ endpoint }, { frames, missing }) =>
    frames.missing !== 'decoders' && !missing.includes('decoders')
      ? null
      : {
          text: endpoint.decoders?.length
            ? `Whether a decoder of ${endpoint.name} takes this picture is not known, and it decides`
            : `Whether ${endpoint.name} has a decoder is not known, and it decides`,
          cost: cost.notKnown + 1,
          costText: '1 figure',
          sure: 'rests on an assumption',
          evidence: () => [
            {
              source: 'assumed',
              text:
                frames.missing === 'decoders'
                  ? 'on the processor it would be too slow for this size'
                  : 'on the processor each frame takes longer to decode',
            },
          ],
          remedies: () => [
            { text: `Send a field check to ${endpoint.name}`, change: noChange, ask: 'it asks the browser for its decoders; 40 seconds' },
          ],
        },
};
