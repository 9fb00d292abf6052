import { asIf, doing, fieldsTo } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** A personal device where only managed ones are let in, or with less redirected. */
export const personalDevice: FindingKind = {
  kind: 'personal device under a managed-only rule',
  bay: 'Endpoint',
  weight: 'blocked',
  detect: ({ endpoint, person, pool }, { broken, settings }) => {
    if (broken?.reason !== 'personal device refused') return null;
    const byPool = pool.managedOnly;
    return {
      text: byPool
        ? `${pool.name} takes managed devices only, and ${endpoint.name} is ${person.name}’s own`
        : `The settings refuse personal devices, and ${endpoint.name} is ${person.name}’s own`,
      cost: cost.blocked,
      costText: 'cannot sign in',
      sure: 'sure',
      evidence: () => [
        {
          source: 'declared',
          text: `${endpoint.name} is personal; personal devices: ${byPool ? 'refused by the pool' : settings['security.personalDevices']}`,
        },
      ],
      remedies: () => [
        ...(byPool
          ? [
              {
                text: `Let personal devices into ${pool.name}`,
                change: doing(fieldsTo('pool', pool.id, { managedOnly: false })),
                ask: 'a risk to be weighed',
              },
            ]
          : []),
        {
          text: 'Give the person a managed device',
          change: asIf('endpoint', endpoint.id, { ownership: 'managed' }),
          ask: 'a device must be handed out',
        },
      ],
    };
  },
};
