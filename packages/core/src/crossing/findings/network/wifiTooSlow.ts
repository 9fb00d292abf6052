import { asIf } from '../../../change/index.js';
import { cost, mbit, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { smallerPicture } from '../../smallerPicture.js';

/** Wi-Fi carries less than the picture asks, Mbit/s. */
export const wifiTooSlow: FindingKind = {
  kind: 'Wi-Fi below the picture’s demand',
  bay: 'Local network',
  weight: 'limited',
  limits: ['frames', 'delay'],
  explains: ['Wi-Fi signal too low'],
  detect: (facts, figures) => {
    const { endpoint } = facts;
    const { way, demand, frames, settings, wanted } = figures;
    const { available } = way;
    if (way.bound !== 'Wi-Fi' || !available || available.value >= demand.p95Mbps * settings['picture.qualityFloor']) return null;
    const dbm = endpoint.wifiSignalDbm;
    return {
      text: `Wi-Fi ${dbm === undefined ? 'of unknown signal' : `at ${dbm} dBm`} carries ${mbit(available.value)}, the picture needs ${mbit(demand.p95Mbps)}`,
      cost: cost.frames(frames.value, wanted.framesAtLeast),
      costText: `${plural(Math.round(frames.cap - frames.value), 'frame')}`,
      sure: 'likely',
      evidence: () => [
        { source: dbm === undefined ? 'assumed' : endpoint.reportedAt ? 'reported' : 'declared', text: available.note },
        {
          source: 'computed',
          text: `${mbit(available.value)} of its rate usable, needed ${mbit(demand.p95Mbps)}; IEEE 802.11, least sensitivity`,
        },
      ],
      remedies: () => [
        { text: 'Use a cable', change: asIf('endpoint', endpoint.id, { connection: 'wired' }), ask: 'somebody has to lay it' },
        {
          text: 'Sit nearer to the access point, or use another band',
          change: asIf('endpoint', endpoint.id, { wifiSignalDbm: -60 }),
          ask: 'check again afterwards',
        },
        ...smallerPicture(facts, figures),
      ],
    };
  },
};
