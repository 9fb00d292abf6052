import { supposing } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** Nobody, or only managed devices, trust the gateway’s certificate. */
export const certificateNotTrusted: FindingKind = {
  kind: 'certificate not trusted',
  bay: 'Gateway',
  weight: 'blocked',
  detect: ({ gateway }, { broken }) => {
    const certificate = gateway.certificate;
    if (broken?.reason !== 'certificate not trusted' || !certificate) return null;
    return {
      text: `Nothing on this device trusts the certificate of ${gateway.address}`,
      cost: cost.blocked,
      costText: 'cannot sign in',
      sure: 'sure',
      evidence: () => [{ source: 'declared', text: `issued under trust: ${certificate.trust}` }],
      remedies: () => [
        {
          text: `Use a publicly trusted certificate on ${gateway.name}`,
          change: supposing({ suppose: 'object', kind: 'gateway', id: gateway.id, set: { 'certificate.trust': 'public' } }),
          ask: 'a certificate must be issued and put in place',
        },
      ],
    };
  },
};
