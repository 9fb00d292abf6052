import { doing, fieldsTo } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { setOnEndpoint } from '../../setHere.js';

/** More screens or pixels than the kind of client takes. */
export const screensExceedClient: FindingKind = {
  kind: 'screens exceed the client’s limit',
  bay: 'Desk',
  weight: 'limited',
  limits: ['desk'],
  detect: (facts, { session }) => {
    const { endpoint } = facts;
    // what the settings leave out is told as that
    if (session.pixelsOf === 'setting' && session.leftBecause === 'pixels') return null;
    if ((session.left === 0 && !session.shrunk) || (session.leftBecause !== 'client' && session.leftBecause !== 'pixels')) return null;
    const limit =
      session.leftBecause === 'client'
        ? plural(session.limits.screens, 'screen')
        : `${Math.round(session.limits.pixels / 1e5) / 10} million pixels`;
    const ofDevice = session.leftBecause === 'pixels' && session.pixelsOf === 'device';
    const taker = ofDevice ? 'the device' : `a ${endpoint.clientKind}`;
    return {
      text: session.left
        ? `${plural(session.left, 'screen stays', 'screens stay')} dark: ${taker} takes ${limit}`
        : `The screen has more pixels than ${taker} takes, ${limit}: it is shown smaller and blurred`,
      cost: cost.device + 50 * Math.max(0, session.left - 1) - (session.left ? 0 : 200),
      costText: session.left ? plural(session.left, 'screen') : 'blur',
      sure: 'likely',
      evidence: () => [
        { source: endpoint.reportedAt ? 'reported' : 'declared', text: `${plural(session.native?.length ?? 0, 'screen')} on the desk` },
        ofDevice
          ? { source: 'declared', text: `the device takes ${limit}` }
          : { source: 'assumed', text: `a ${endpoint.clientKind} takes ${limit}; common practice` },
      ],
      remedies: () => [
        ...(endpoint.platform === 'thin' || ofDevice
          ? []
          : [
              {
                text: 'Use the native client',
                change: doing(fieldsTo('endpoint', endpoint.id, { clientKind: 'native client' })),
              },
            ]),
        ...(session.left === 0 ? [setOnEndpoint(facts, 'picture.heldHeight', 2160, 'Hold its screens at 2160p')] : []),
        setOnEndpoint(
          facts,
          'screens.most',
          session.screens.length,
          `Span ${plural(session.screens.length, 'screen')} and leave the rest to local work`,
        ),
      ],
    };
  },
};
