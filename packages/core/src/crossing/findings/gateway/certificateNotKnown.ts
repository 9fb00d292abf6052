import { noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** The certificate of the gateway is not known: it may be one that nothing trusts. */
export const certificateNotKnown: FindingKind = {
  kind: 'the certificate of the gateway is not known',
  bay: 'Gateway',
  weight: 'unknown',
  detect: ({ gateway }, { missing }) =>
    !missing.includes('certificate')
      ? null
      : {
          text: `Which certificate ${gateway.name} shows is not known: an expired or untrusted one keeps everybody out`,
          cost: cost.notKnown + 4,
          costText: '1 fact',
          sure: 'rests on an assumption',
          evidence: () => [{ source: 'assumed', text: `nothing is told of the certificate of ${gateway.address}` }],
          remedies: () => [
            {
              text: `Read the certificate of ${gateway.name}`,
              change: noChange,
              at: { kind: 'gateway', id: gateway.id },
              ask: 'its names, its dates and who issued it; 2 minutes',
            },
          ],
        },
};
