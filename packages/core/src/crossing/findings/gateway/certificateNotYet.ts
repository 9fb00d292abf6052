import { supposing } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** The gateway’s certificate is not valid yet. */
export const certificateNotYet: FindingKind = {
  kind: 'certificate not yet valid',
  bay: 'Gateway',
  weight: 'blocked',
  detect: ({ gateway }, { broken }) => {
    const certificate = gateway.certificate;
    if (broken?.reason !== 'certificate not yet valid' || !certificate) return null;
    return {
      text: `The certificate of ${gateway.address} only counts from ${certificate.notBefore}`,
      cost: cost.blocked,
      costText: 'cannot sign in',
      sure: 'sure',
      evidence: () => [{ source: 'declared', text: `valid ${certificate.notBefore} to ${certificate.notAfter}` }],
      remedies: () => [
        {
          text: `Put the earlier certificate back on ${gateway.name}`,
          change: supposing({ suppose: 'object', kind: 'gateway', id: gateway.id, set: { 'certificate.notBefore': '2000-01-01' } }),
          ask: 'a certificate must be issued and put in place',
        },
      ],
    };
  },
};
