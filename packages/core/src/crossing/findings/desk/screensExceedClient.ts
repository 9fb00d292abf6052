import { doing, fieldsTo, settingTo } from '../../../change/index.js';
import { cost, plural, type FindingKind } from '../../finding.js';

/** More screens or pixels than the kind of client takes. */
export const screensExceedClient: FindingKind = {
  kind: 'screens exceed the client’s limit',
  bay: 'Desk',
  weight: 'limited',
  detect: ({ endpoint }, { session }) => {
    if (session.left === 0 || (session.leftBecause !== 'client' && session.leftBecause !== 'pixels')) return null;
    const limit =
      session.leftBecause === 'client'
        ? plural(session.limits.screens, 'screen')
        : `${Math.round(session.limits.pixels / 1e5) / 10} million pixels`;
    return {
      text: `${plural(session.left, 'screen stays', 'screens stay')} dark: a ${endpoint.clientKind} takes ${limit}`,
      cost: cost.device + 50 * (session.left - 1),
      costText: plural(session.left, 'screen'),
      sure: 'likely',
      evidence: [
        { source: endpoint.reportedAt ? 'reported' : 'declared', text: `${plural(session.native?.length ?? 0, 'screen')} on the desk` },
        { source: 'assumed', text: `a ${endpoint.clientKind} takes ${limit}; common practice` },
      ],
      remedies: [
        ...(endpoint.platform === 'thin'
          ? []
          : [
              {
                text: 'Use the native client',
                change: doing(fieldsTo('endpoint', endpoint.id, { clientKind: 'native client' })),
              },
            ]),
        {
          text: `Span ${plural(session.screens.length, 'screen')} and leave the rest to local work`,
          change: doing(settingTo('screens.most', 'endpoint', endpoint.id, session.screens.length)),
        },
      ],
    };
  },
};
