import { obeys } from '../../../settings/index.js';
import { setHere } from '../../setHere.js';
import { cost, figure, mbit, type FindingKind } from '../../finding.js';

/** Video played in the session that the endpoint could play, Mbit/s. */
export const videoInside: FindingKind = {
  kind: 'video played inside where the endpoint could',
  bay: 'Workspace',
  weight: 'risk',
  detect: (facts, { demand, settings }) => {
    const { endpoint, resource } = facts;
    const share = (resource.content.video ?? 0) + (resource.content['page-video'] ?? 0);
    if (settings['media.videoOffload'] || !obeys('media.videoOffload', endpoint) || share < 0.15 || demand.videoMbps < 0.5) return null;
    return {
      text: `Video is ${Math.round(share * 100)} % of the time in ${resource.name} and takes ${mbit(demand.videoMbps)} of the line`,
      cost: cost.risk + Math.min(20, demand.videoMbps * 3),
      costText: mbit(demand.videoMbps),
      sure: 'likely',
      evidence: () => [{ source: 'declared', text: `${figure(share * 100)} % video in ${resource.name}` }],
      remedies: () => [setHere(facts, 'media.videoOffload', true, (where) => `Play video on the endpoints ${where}`)],
    };
  },
};
