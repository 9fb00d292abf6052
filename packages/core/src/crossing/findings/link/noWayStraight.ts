import { setHere } from '../../setHere.js';
import { cost, type FindingKind } from '../../finding.js';

/** The client is told to go straight to the host, and there is no way straight to it from where it is. */
export const noWayStraight: FindingKind = {
  kind: 'no way straight to the host',
  bay: 'Link',
  weight: 'blocked',
  detect: (facts, { broken }) =>
    broken?.reason !== 'no way straight from outside'
      ? null
      : {
          text: `The client goes straight to the host, and ${facts.location.name} is not on the inside network`,
          cost: cost.blocked,
          costText: 'cannot connect',
          sure: 'sure',
          evidence: () => [
            { source: 'declared', text: `${facts.location.name}: not on the inside network; hosts are reached by ${facts.gateway.name}` },
          ],
          remedies: () => [setHere(facts, 'transport.wayIn', 'gateway', (where) => `Go through the gateway ${where}`)],
        },
};
