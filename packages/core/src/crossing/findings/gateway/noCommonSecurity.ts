import { asIf, doing, fieldsTo } from '../../../change/index.js';
import type { CrossingFacts } from '../../facts.js';
import { cost, type FindingKind, type Proposal } from '../../finding.js';
import { highestTls, waysToSignIn } from '../../ladder.js';
import { setHere } from '../../setHere.js';

/** The way in is drawn by the host then. */
const weigh = 'the sign-in screen is then drawn by the host: a risk to be weighed';

/** TLS sign-in allowed by the settings and in the pool: by one of them alone nothing is gained. */
function tlsSignIn(facts: CrossingFacts): Proposal {
  const { pool } = facts;
  const off = setHere(facts, 'security.preSession', false, (where) => `Allow TLS sign-in in ${pool.name} and ${where}`);
  // where a lock keeps the setting, the pool alone would change nothing
  if (off.change.patches.length === 0) return off;
  const { hypotheses } = asIf('pool', pool.id, { securityModes: ['tls', 'pre-session'] });
  return { ...off, change: { patches: off.change.patches, hypotheses }, ask: weigh };
}

/** Client, gateway and pool have no security mode or TLS version in common. */
export const noCommonSecurity: FindingKind = {
  kind: 'no common security mode',
  bay: 'Gateway',
  weight: 'blocked',
  detect: (facts, { broken, settings, session }) => {
    if (broken?.reason !== 'no common security mode') return null;
    const { endpoint, gateway, pool } = facts;
    const can = session.limits.preSession;
    const least = settings['security.tlsMinimum'];
    const highest = highestTls(gateway);
    const old = highest !== undefined && highest < least ? highest : null;
    const asked = waysToSignIn(settings, can);
    const without = [pool, gateway].filter(({ securityModes }) => !securityModes.some((mode) => asked.includes(mode)));
    const because = old
      ? `The settings ask for TLS ${least}, and ${gateway.name} speaks ${old} at most`
      : can
        ? `${without.map(({ name }) => name).join(' and ')} ${without.length === 1 ? 'offers' : 'offer'} no way to sign in that the settings allow`
        : `Pre-session sign-in is asked for, and a ${endpoint.clientKind} cannot do it`;
    return {
      text: `${because}: the connection closes at once`,
      cost: cost.blocked,
      costText: 'cannot sign in',
      sure: 'sure',
      evidence: () => [
        {
          source: 'declared',
          text: `${pool.name} offers ${pool.securityModes.join(', ')}; ${gateway.name} ${gateway.securityModes.join(', ')}${highest ? `, TLS up to ${highest}` : ''}`,
        },
        {
          source: 'computed',
          text: `pre-session sign-in ${settings['security.preSession'] ? 'required' : 'not required'}, TLS from ${least}`,
        },
      ],
      remedies: () => [
        ...(old
          ? [
              {
                text: `Have ${gateway.name} speak TLS ${least}`,
                change: asIf('gateway', gateway.id, { tlsHighest: least }),
                ask: 'the gateway must be brought up to date',
              },
              setHere(
                facts,
                'security.tlsMinimum',
                old,
                (where) => `Allow TLS ${old} ${where}`,
                'an older TLS is weaker: whoever answers for security has to agree',
              ),
            ]
          : []),
        // another client speaks no other TLS to the gateway
        ...(can || old
          ? []
          : [
              {
                text: 'Use the native client',
                change: doing(fieldsTo('endpoint', endpoint.id, { clientKind: 'native client' })),
              },
            ]),
        tlsSignIn(facts),
        {
          text: `Let ${gateway.name} and ${pool.name} offer both modes`,
          change: {
            patches: [],
            hypotheses: [
              ...asIf('pool', pool.id, { securityModes: ['tls', 'pre-session'] }).hypotheses,
              ...asIf('gateway', gateway.id, { securityModes: ['tls', 'pre-session'] }).hypotheses,
            ],
          },
        },
      ],
    };
  },
};
