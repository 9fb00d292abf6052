import { noChange } from '../../../change/index.js';
import { cost, figure, type FindingKind } from '../../finding.js';

/** The assumed steps of the sign-on decide whether it is quick enough. */
export const signonNotKnown: FindingKind = {
  kind: 'the sign-on times are not known',
  bay: 'Workspace',
  weight: 'unknown',
  detect: ({ endpoint }, { timeline, usable, wanted }) =>
    usable.verdict !== 'unknown'
      ? null
      : {
          text: `Usable after ${figure(timeline.lowS)} to ${figure(timeline.highS)} s, wanted ${wanted.usableWithinS}: the assumed steps decide`,
          cost: cost.notKnown,
          costText: '1 figure',
          sure: 'rests on an assumption',
          evidence: () => [
            {
              source: 'assumed',
              text: `default durations of the sign-on steps, give or take 15 %: ${figure(timeline.lowS)} to ${figure(timeline.highS)} s`,
            },
          ],
          remedies: () => [
            { text: `Time one sign-in on ${endpoint.name}`, change: noChange, ask: 'makes the time until usable known; 1 minute' },
          ],
        },
};
