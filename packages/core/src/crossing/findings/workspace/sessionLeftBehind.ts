import { noChange } from '../../../change/index.js';
import { byUse } from '../../../access/index.js';
import { setHere } from '../../setHere.js';
import { cost, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';

/** Sessions of the person left on other endpoints. */
export const sessionLeftBehind: FindingKind = {
  kind: 'a session is left behind elsewhere',
  bay: 'Workspace',
  weight: 'risk',
  detect: (facts, { settings, broken }) => {
    const { person, resource, elsewhere } = facts;
    const [latest] = byUse(elsewhere);
    if (!latest || broken) return null;
    const policy = settings['session.leftBehind'];
    const wrong = policy === 'most recent' && latest.resource !== resource.id;
    return {
      text: `${plural(elsewhere.length, 'session')} of ${person.name} left elsewhere: ${
        policy === 'ask'
          ? 'the portal asks which to take up'
          : policy === 'none'
            ? 'a new one is started beside it'
            : wrong
              ? `${latest.resourceName} opens although ${resource.name} was wanted`
              : 'the most recent one is taken up'
      }`,
      cost: wrong ? cost.risk * 3 : cost.risk,
      costText: policy === 'none' ? 'a place stays taken' : 'one more choice',
      sure: 'sure',
      evidence: () =>
        byUse(elsewhere).map((session) => ({
          source: 'reported',
          text: `${session.resourceName}${session.endpoint ? ` on ${session.endpoint}` : ''}, ${session.state}, used ${session.usedAt.slice(0, 16).replace('T', ' ')}`,
        })),
      remedies: () => [
        ...(policy === 'ask'
          ? []
          : [
              setHere(
                facts,
                'session.leftBehind',
                'ask',
                (where) => `Set “Sessions left behind” to ask ${where}`,
                'the portal asks which session to take up',
              ),
            ]),
        elsewhere.length === 1
          ? { text: 'Sign the other session out', change: noChange, ask: 'its place on the host is free again' }
          : { text: 'Sign the other sessions out', change: noChange, ask: 'their places on the hosts are free again' },
      ],
    };
  },
};
