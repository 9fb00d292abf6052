import { asIf, doing, fieldsTo } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';
import { versionFloor } from '../../ladder.js';

/** The client is below the highest version floor that counts for it. */
export const clientTooOld: FindingKind = {
  kind: 'client below the version floor',
  bay: 'Endpoint',
  weight: 'blocked',
  detect: (facts, { broken, settings }) => {
    if (broken?.reason !== 'client too old') return null;
    const floor = versionFloor(facts, settings);
    const { endpoint } = facts;
    return {
      text: `Client ${endpoint.clientVersion} is refused: ${floor?.by} asks for ${floor?.version}`,
      cost: cost.blocked,
      costText: 'cannot sign in',
      sure: 'sure',
      evidence: () => [
        {
          source: endpoint.reportedAt ? 'reported' : 'declared',
          text: `client ${endpoint.clientVersion}, compared field by field with ${floor?.version}`,
        },
      ],
      remedies: () => [
        {
          text: `Update the client to ${floor?.version}`,
          change: asIf('endpoint', endpoint.id, { clientVersion: floor?.version }),
          ask: 'somebody must install it',
        },
        ...(endpoint.platform === 'thin'
          ? []
          : [
              {
                text: 'Use the browser until then',
                change: doing(fieldsTo('endpoint', endpoint.id, { clientKind: 'browser' })),
              },
            ]),
      ],
    };
  },
};
