import { cost, type FindingKind } from '../../finding.js';
import { setHere, setOnEndpoint } from '../../setHere.js';

/** The session is larger or smaller than the screen, in px. */
export const sessionNotScreenSize: FindingKind = {
  kind: 'session larger or smaller than the screen',
  bay: 'Desk',
  weight: 'risk',
  detect: (facts, { session, settings }) => {
    const { endpoint } = facts;
    if (settings['picture.resolution'] !== 'fixed' || !session.native) return null;
    const odd = session.screens.find((screen) => screen.widthPx !== screen.nativeWidthPx || screen.heightPx !== screen.nativeHeightPx);
    if (!odd) return null;
    const larger = odd.widthPx > odd.nativeWidthPx || odd.heightPx > odd.nativeHeightPx;
    return {
      text: `The session is fixed at ${odd.widthPx} × ${odd.heightPx}, the screen has ${odd.nativeWidthPx} × ${odd.nativeHeightPx}: ${larger ? 'scroll bars' : 'a blurred picture'}`,
      cost: cost.risk + 40,
      costText: larger ? 'scroll bars' : 'blur',
      sure: 'sure',
      evidence: () => [
        { source: endpoint.reportedAt ? 'reported' : 'declared', text: `screen of ${odd.nativeWidthPx} × ${odd.nativeHeightPx}` },
      ],
      remedies: () => [
        setHere(facts, 'picture.resolution', 'follow', (where) => `Follow the window ${where}`),
        setOnEndpoint(facts, 'picture.resolution', 'native', 'Use the native size on this endpoint'),
      ],
    };
  },
};
