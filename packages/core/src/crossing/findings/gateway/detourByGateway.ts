import { setHere } from '../../setHere.js';
import { cost, ms, type FindingKind } from '../../finding.js';

/** Traffic goes by the gateway although a direct path is shorter; ms each round trip. */
export const detourByGateway: FindingKind = {
  kind: 'gateway where a direct path exists',
  bay: 'Gateway',
  weight: 'risk',
  detect: (facts, { delay }) => {
    const { location, gateway } = facts;
    if (!location.inside || delay.detourMs < 2) return null;
    return {
      text: `${location.name} is on the inside, but goes by ${gateway.name}: ${ms(delay.detourMs)} for nothing`,
      cost: cost.risk + delay.detourMs,
      costText: ms(delay.detourMs),
      sure: 'likely',
      evidence: () => [{ source: 'assumed', text: 'from the distances of the regions' }],
      remedies: () => [setHere(facts, 'transport.gatewayBypass', true, (where) => `Go straight to the host ${where}`)],
    };
  },
};
