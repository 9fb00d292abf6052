import { supposing } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** The gateway’s certificate is past its last day. */
export const certificateExpired: FindingKind = {
  kind: 'certificate expired',
  bay: 'Gateway',
  weight: 'blocked',
  detect: ({ gateway }, { broken }) => {
    const certificate = gateway.certificate;
    if (broken?.reason !== 'certificate expired' || !certificate) return null;
    return {
      text: `The certificate of ${gateway.address} ended on ${certificate.notAfter}`,
      cost: cost.blocked,
      costText: 'cannot sign in',
      sure: 'sure',
      evidence: () => [{ source: 'declared', text: `valid ${certificate.notBefore} to ${certificate.notAfter}` }],
      remedies: () => [
        {
          text: `Renew the certificate of ${gateway.name}`,
          change: supposing({ suppose: 'object', kind: 'gateway', id: gateway.id, set: { 'certificate.notAfter': '2099-12-31' } }),
          ask: 'a certificate must be issued and put in place',
        },
      ],
    };
  },
};
