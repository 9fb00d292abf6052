import { supposing } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** A whole desktop opened for one app. */
export const desktopForOneApp: FindingKind = {
  kind: 'full desktop where one app is used',
  bay: 'Workspace',
  weight: 'risk',
  detect: ({ resource }) => {
    if (resource.kind !== 'desktop' || !resource.onlyApp) return null;
    return {
      text: `A whole desktop is opened for ${resource.onlyApp} alone`,
      cost: cost.risk + 3,
      costText: 'more of everything',
      sure: 'likely',
      evidence: () => [{ source: 'declared', text: `${resource.name} is used for ${resource.onlyApp} only` }],
      remedies: () => [
        {
          text: `Publish ${resource.onlyApp} as an app`,
          change: supposing({ suppose: 'object', kind: 'resource', id: resource.id, set: { kind: 'app' } }),
        },
      ],
    };
  },
};
