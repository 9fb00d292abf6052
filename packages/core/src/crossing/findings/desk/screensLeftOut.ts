import { doing, settingTo } from '../../../change/index.js';
import { cost, plural, type FindingKind } from '../../finding.js';

/** Screens on the desk that the settings do not use, though the client could. */
export const screensLeftOut: FindingKind = {
  kind: 'screens left out by the settings',
  bay: 'Desk',
  weight: 'risk',
  detect: ({ endpoint }, { session, settings }) => {
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
          : [
              {
                text: `Span ${plural(most, 'screen')} on this endpoint`,
                change: doing(settingTo('screens.most', 'endpoint', endpoint.id, most)),
              },
            ],
    };
  },
};
