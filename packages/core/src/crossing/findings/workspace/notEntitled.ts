import { noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** No group of the person holds a publication of the resource. */
export const notEntitled: FindingKind = {
  kind: 'not entitled',
  bay: 'Workspace',
  weight: 'blocked',
  detect: ({ person, resource }, { broken }) =>
    broken?.reason !== 'not entitled'
      ? null
      : {
          text: `No group of ${person.name} gives ${resource.name}: it is not in the list`,
          cost: cost.blocked,
          costText: 'cannot open it',
          sure: 'sure',
          evidence: () => [{ source: 'declared', text: `groups: ${person.groups.join(', ') || 'none'}` }],
          remedies: () => [
            {
              text: `Put ${person.name} into a group that has ${resource.name}`,
              change: noChange,
              at: { kind: 'person', id: person.id },
              ask: 'it appears at the next sign-in',
            },
          ],
        },
};
