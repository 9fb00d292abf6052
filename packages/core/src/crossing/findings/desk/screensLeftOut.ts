import type { CrossingFacts } from '../../facts.js';
import { cost, type FindingKind, type Found } from '../../finding.js';
import { plural } from '../../../units/words.js';
import type { Session } from '../../session.js';
import { setHere, setOnEndpoint } from '../../setHere.js';

/** The settings allow fewer pixels than the screens have. */
function fewerPixels(facts: CrossingFacts, { left, native, limits }: Session): Found {
  const wanted = Math.ceil((native ?? []).reduce((sum, { widthPx, heightPx }) => sum + widthPx * heightPx, 0) / 1e6);
  return {
    text: `${plural(left, 'screen is', 'screens are')} not used: the settings allow ${Math.round(limits.pixels / 1e5) / 10} million pixels`,
    cost: cost.risk + 5 * left,
    costText: plural(left, 'screen'),
    sure: 'sure',
    evidence: () => [{ source: 'declared', text: `${plural(native?.length ?? 0, 'screen')} on the desk, ${wanted} million pixels` }],
    remedies: () => [setHere(facts, 'screens.mostMegapixels', Math.min(200, wanted), (where) => `Allow ${wanted} million pixels ${where}`)],
  };
}

/** Screens on the desk that the settings do not use, though the client could. */
export const screensLeftOut: FindingKind = {
  kind: 'screens left out by the settings',
  bay: 'Desk',
  weight: 'risk',
  detect: (facts, { session, settings }) => {
    const isPixels = session.leftBecause === 'pixels' && session.pixelsOf === 'setting';
    if (isPixels && session.left > 0) return fewerPixels(facts, session);
    if (session.left === 0 || session.leftBecause !== 'setting') return null;
    const all = session.left + session.screens.length;
    const most = Math.min(all, session.limits.screens);
    return {
      text: `${plural(session.left, 'screen is', 'screens are')} not used: the settings span ${session.screens.length} of ${all}`,
      cost: cost.risk + 5 * session.left,
      costText: plural(session.left, 'screen'),
      sure: 'sure',
      evidence: () => [
        {
          source: 'declared',
          text: `${plural(all, 'screen')} on the desk; ${settings['screens.use'] === 'one' ? 'one screen is used' : `${settings['screens.most']} at most`}; ${session.left} left for local work`,
        },
      ],
      remedies: () =>
        settings['screens.use'] === 'one' || most <= session.screens.length
          ? []
          : [setOnEndpoint(facts, 'screens.most', most, `Span ${plural(most, 'screen')} on this endpoint`)],
    };
  },
};
