import { noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** Groups give several desktops, one has to be chosen each time. */
export const desktopsClash: FindingKind = {
  kind: 'two groups give two desktops',
  bay: 'Workspace',
  weight: 'risk',
  detect: ({ person, resource, desktops }) =>
    resource.kind !== 'desktop' || desktops.length < 2
      ? null
      : {
          text: `${person.name} has to choose between ${desktops.join(' and ')} at every sign-in`,
          cost: cost.risk,
          costText: '4 s a sign-in',
          sure: 'sure',
          evidence: () => [{ source: 'declared', text: `groups: ${person.groups.join(', ')}` }],
          remedies: () => [
            {
              text: 'Take the person out of the group whose desktop they do not need',
              change: noChange,
              ask: 'the other desktop opens at once',
            },
          ],
        },
};
