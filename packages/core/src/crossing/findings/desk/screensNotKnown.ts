import { noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** Screens nobody has told of. */
export const screensNotKnown: FindingKind = {
  kind: 'the screens are not known',
  bay: 'Desk',
  weight: 'unknown',
  detect: ({ endpoint }, { session }) =>
    session.native
      ? null
      : {
          text: 'The screens are not known, so one of 1920 × 1080 is assumed',
          cost: cost.notKnown,
          costText: '1 figure',
          sure: 'rests on an assumption',
          evidence: () => [{ source: 'assumed', text: '1 × 1920 × 1080; our default' }],
          remedies: () => [
            {
              text: `Send a field check to ${endpoint.name}`,
              change: noChange,
              ask: 'it counts the screens; 40 seconds of the person’s time',
            },
          ],
        },
};
