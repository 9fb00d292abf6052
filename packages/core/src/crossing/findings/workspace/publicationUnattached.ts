import { doing, fieldsTo, noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** The publication is attached to no portal. */
export const publicationUnattached: FindingKind = {
  kind: 'publication attached to no portal',
  bay: 'Workspace',
  weight: 'blocked',
  detect: ({ person, resource, publication, estate, gateway }, { broken }) => {
    if (broken?.reason !== 'publication unattached' || !publication) return null;
    const portal = estate.portals.find((each) => each.gateway === gateway.id) ?? estate.portals[0];
    return {
      text: `The publication ${publication.name} is attached to no portal: ${person.name} does not see ${resource.name}, and nothing says so`,
      cost: cost.blocked,
      costText: 'cannot open it',
      sure: 'sure',
      evidence: () => [{ source: 'declared', text: `${publication.name} has no portal` }],
      remedies: () =>
        portal
          ? [
              {
                text: `Attach ${publication.name} to ${portal.name}`,
                change: doing(fieldsTo('publication', publication.id, { portals: [portal.id] })),
              },
            ]
          : [{ text: 'Add a portal and attach the publication to it', change: noChange, ask: 'then everybody who holds it sees it' }],
    };
  },
};
