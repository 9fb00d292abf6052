import { doing, fieldsTo, settingTo } from '../../../change/index.js';
import { deskWhy } from '../../desk.js';
import { cost, plural, type FindingKind } from '../../finding.js';

/** A peripheral on the desk neither has a channel nor may be carried. */
export const peripheralNoWay: FindingKind = {
  kind: 'a peripheral has no way through',
  bay: 'Desk',
  weight: 'limited',
  limits: ['desk'],
  detect: ({ endpoint, location }, { desk }) => {
    const stopped = desk.filter((item) => item.peripheral && item.works === false && !item.meant);
    const first = stopped[0];
    if (!first?.peripheral) return null;
    const byRule = stopped.filter((item) => item.because?.code === 'rules forbid');
    return {
      text:
        stopped.length === 1
          ? `${first.name} does not reach the session: ${deskWhy(first.because)}`
          : `${stopped.map((item) => item.name).join(', ')} do not reach the session: ${deskWhy(first.because)}`,
      cost: cost.device + 50 * (stopped.length - 1),
      costText: plural(stopped.length, 'device'),
      sure: 'sure',
      evidence: () => stopped.map((item) => ({ source: 'computed', text: `${item.name}: ${deskWhy(item.because)}` })),
      remedies: () => [
        ...(byRule.length
          ? [
              {
                text: `Let ${byRule.map((item) => item.name.toLowerCase()).join(' and ')} through at ${location.name}`,
                change: doing(
                  settingTo(
                    'redirection.devices',
                    'location',
                    location.id,
                    byRule.map((item) => item.peripheral as string),
                  ),
                ),
              },
              {
                text: 'Let it through on this endpoint only',
                change: doing(
                  settingTo(
                    'redirection.devices',
                    'endpoint',
                    endpoint.id,
                    byRule.map((item) => item.peripheral as string),
                  ),
                ),
              },
            ]
          : []),
        ...(endpoint.clientKind === 'browser'
          ? [
              {
                text: 'Use the native client',
                change: doing(fieldsTo('endpoint', endpoint.id, { clientKind: 'native client' })),
              },
            ]
          : []),
      ],
    };
  },
};
