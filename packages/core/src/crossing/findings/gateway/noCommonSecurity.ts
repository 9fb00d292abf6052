import { asIf, doing, fieldsTo, settingTo } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** Client, gateway and pool have no security mode or TLS version in common. */
export const noCommonSecurity: FindingKind = {
  kind: 'no common security mode',
  bay: 'Gateway',
  weight: 'blocked',
  detect: ({ endpoint, gateway, pool, location }, { broken, settings, session }) => {
    if (broken?.reason !== 'no common security mode') return null;
    const can = session.limits.preSession;
    return {
      text: can
        ? `${pool.name} and the settings share no security mode: the connection closes at once`
        : `Pre-session sign-in is asked for, and a ${endpoint.clientKind} cannot do it: the connection closes at once`,
      cost: cost.blocked,
      costText: 'cannot sign in',
      sure: 'sure',
      evidence: () => [
        {
          source: 'declared',
          text: `${pool.name} offers ${pool.securityModes.join(', ')}; ${gateway.name} ${gateway.securityModes.join(', ')}`,
        },
        {
          source: 'computed',
          text: `pre-session sign-in ${settings['security.preSession'] ? 'required' : 'not required'}, TLS from ${settings['security.tlsMinimum']}`,
        },
      ],
      remedies: () => [
        ...(can
          ? []
          : [
              {
                text: 'Use the native client',
                change: doing(fieldsTo('endpoint', endpoint.id, { clientKind: 'native client' })),
              },
            ]),
        {
          text: `Allow TLS sign-in in ${pool.name}`,
          change: {
            patches: [settingTo('security.preSession', 'location', location.id, false)],
            hypotheses: asIf('pool', pool.id, { securityModes: ['tls', 'pre-session'] }).hypotheses,
          },
          ask: 'the sign-in screen is then drawn by the host: a risk to be weighed',
        },
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
