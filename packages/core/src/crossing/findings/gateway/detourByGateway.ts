import { doing, settingTo } from '../../../change/index.js';
import { cost, ms, type FindingKind } from '../../finding.js';

/** Traffic goes by the gateway although a direct path is shorter; ms each round trip. */
export const detourByGateway: FindingKind = {
  kind: 'gateway where a direct path exists',
  bay: 'Gateway',
  weight: 'risk',
  detect: ({ location, gateway }, { delay }) => {
    if (!location.inside || delay.detourMs < 2) return null;
    return {
      text: `${location.name} is on the inside, but goes by ${gateway.name}: ${ms(delay.detourMs)} for nothing`,
      cost: cost.risk + delay.detourMs,
      costText: ms(delay.detourMs),
      sure: 'likely',
      evidence: () => [{ source: 'assumed', text: 'from the distances of the regions' }],
      remedies: () => [
        {
          text: `Go straight to the host from ${location.name}`,
          change: doing(settingTo('transport.gatewayBypass', 'location', location.id, true)),
        },
      ],
    };
  },
};
