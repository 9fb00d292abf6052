import { noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';
import { versionFloor } from '../../ladder.js';

/** A version floor counts and the client’s version is not known. */
export const versionNotKnown: FindingKind = {
  kind: 'the client version is not known',
  bay: 'Endpoint',
  weight: 'unknown',
  detect: (facts, { settings }) => {
    const floor = facts.endpoint.clientVersion === undefined ? versionFloor(facts, settings) : null;
    if (!floor) return null;
    return {
      text: `The client version is not known, and ${floor.by} asks for ${floor.version}`,
      cost: cost.notKnown + 3,
      costText: '1 figure',
      sure: 'rests on an assumption',
      evidence: () => [{ source: 'assumed', text: `a client older than ${floor.version} is refused by ${floor.by}` }],
      remedies: () => [
        {
          text: `Read the version on ${facts.endpoint.name}`,
          change: noChange,
          at: { kind: 'endpoint', id: facts.endpoint.id },
          ask: 'it says whether the client is accepted; 2 minutes',
        },
      ],
    };
  },
};
