import { asIf } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';
import { setOnEndpoint } from '../../setHere.js';

/** Screens of several scales in a session that takes one. */
export const scalesDiffer: FindingKind = {
  kind: 'scale differs between screens',
  bay: 'Desk',
  weight: 'risk',
  detect: (facts, { session }) => {
    const { endpoint } = facts;
    if (!session.mixedScales) return null;
    const scales = new Set(session.screens.map((screen) => screen.scale));
    const low = Math.min(...scales);
    return {
      text: `Screens have scales ${[...scales].sort((a, b) => a - b).join(' and ')}, a ${endpoint.clientKind} takes one: text is the wrong size on the other`,
      cost: cost.risk + 30,
      costText: '1 screen hard to read',
      sure: 'likely',
      evidence: () => [{ source: endpoint.reportedAt ? 'reported' : 'declared', text: `scales ${[...scales].join(', ')}` }],
      remedies: () => [
        {
          text: `Give every screen the scale ${low}`,
          change: asIf('endpoint', endpoint.id, { screens: endpoint.screens?.map((screen) => ({ ...screen, scale: low })) ?? [] }),
        },
        setOnEndpoint(facts, 'screens.most', 1, 'Use one screen for the session'),
      ],
    };
  },
};
