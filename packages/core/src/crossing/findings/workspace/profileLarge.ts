import { asIf } from '../../../change/index.js';
import { cost, figure, type FindingKind } from '../../finding.js';

/** A profile that takes long to attach, s. */
export const profileLarge: FindingKind = {
  kind: 'profile large or kept far from the host',
  bay: 'Workspace',
  weight: 'risk',
  detect: ({ resource }, { timeline, host, wanted }) => {
    const attach = timeline.steps.find((step) => step.name === 'profile attach')?.seconds ?? 0;
    if (attach < 8 || !host) return null;
    const far = resource.profileRegion !== undefined && resource.profileRegion !== host.region;
    return {
      text: `The profile of ${figure(resource.profileMB ?? 0)} MB takes ${figure(attach)} s${far ? ', it is kept in another region than the host' : ''}`,
      cost: timeline.totalS > wanted.usableWithinS ? cost.waiting(attach) + 40 : cost.waiting(attach) - 30,
      costText: `${figure(attach)} s`,
      sure: 'rests on an assumption',
      evidence: () => [{ source: 'declared', text: `${figure(resource.profileMB ?? 0)} MB for ${resource.name}` }],
      remedies: () => [
        ...(far
          ? [
              {
                text: 'Keep the profiles beside the hosts',
                change: asIf('resource', resource.id, { profileRegion: host.region }),
              },
            ]
          : []),
        {
          text: 'Slim the profile to 200 MB',
          change: asIf('resource', resource.id, { profileMB: 200 }),
          ask: 'leave caches out of it',
        },
      ],
    };
  },
};
