import { cost, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { setOnEndpoint } from '../../setHere.js';

/** The host may send more frames a second than a screen shows. */
export const refreshBelowCap: FindingKind = {
  kind: 'screen refresh below the frame cap',
  bay: 'Desk',
  weight: 'risk',
  detect: (facts, { session, settings, demand }) => {
    const { endpoint } = facts;
    const slowest = session.screens.reduce((least, screen) => Math.min(least, screen.refreshHz ?? Infinity), Infinity);
    if (slowest >= settings['picture.frameCap']) return null;
    const cap = Math.max(5, Math.floor(slowest));
    return {
      text: `The host sends up to ${settings['picture.frameCap']} frames, the screen shows ${slowest}`,
      cost: cost.risk + 5,
      costText: `${plural(Math.round(settings['picture.frameCap'] - slowest), 'frame')} thrown away`,
      sure: 'sure',
      evidence: () => [
        {
          source: endpoint.reportedAt ? 'reported' : 'declared',
          text: `screen at ${slowest} Hz; asks for ${demand.p95Mbps.toFixed(1)} Mbit/s`,
        },
      ],
      remedies: () => [setOnEndpoint(facts, 'picture.frameCap', cap, `Cap this endpoint at ${plural(cap, 'frame')}`)],
    };
  },
};
