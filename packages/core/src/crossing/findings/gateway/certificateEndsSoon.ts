import { noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { dayMs } from '../../ladder.js';

/** Warn this many days ahead; common practice, no source. */
export const certificateAheadDays = 30;

/** The gateway’s certificate ends within the days in which one has to act. */
export const certificateEndsSoon: FindingKind = {
  kind: 'certificate ends soon',
  bay: 'Gateway',
  weight: 'risk',
  detect: ({ gateway, atMs }, { broken }) => {
    const certificate = gateway.certificate;
    if (!certificate || broken?.name === 'certificate trusted') return null;
    const days = Math.floor((dayMs(certificate.notAfter) + 86_400_000 - atMs) / 86_400_000);
    if (days > certificateAheadDays || days < 0) return null;
    return {
      text: `The certificate of ${gateway.address} ends in ${plural(days, 'day')}; then nobody gets in here`,
      cost: cost.risk + (certificateAheadDays - days) / 2,
      costText: plural(days, 'day'),
      sure: 'sure',
      evidence: () => [{ source: 'declared', text: `valid to ${certificate.notAfter}` }],
      remedies: () => [
        {
          text: `Renew the certificate of ${gateway.name}`,
          change: noChange,
          at: { kind: 'gateway', id: gateway.id },
          ask: 'nothing changes today, sign-in goes on afterwards',
        },
      ],
    };
  },
};
