import { noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** TLS 1.3 is asked for, and what the gateway speaks is not known. */
export const tlsNotKnown: FindingKind = {
  kind: 'the TLS versions of the gateway are not known',
  bay: 'Gateway',
  weight: 'unknown',
  detect: ({ gateway }, { missing, settings }) =>
    !missing.includes('TLS of the gateway')
      ? null
      : {
          text: `The settings ask for TLS ${settings['security.tlsMinimum']}, and whether ${gateway.name} speaks it is not known`,
          cost: cost.notKnown + 4,
          costText: '1 fact',
          sure: 'rests on an assumption',
          evidence: () => [{ source: 'declared', text: `TLS ${settings['security.tlsMinimum']} at least` }],
          remedies: () => [
            {
              text: `Ask ${gateway.name} which versions it speaks`,
              change: noChange,
              at: { kind: 'gateway', id: gateway.id },
              ask: '2 minutes',
            },
          ],
        },
};
