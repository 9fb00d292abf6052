import { supposing } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** No name of the certificate covers the gateway’s address [RFC 6125 §6.4.3]. */
export const certificateOtherName: FindingKind = {
  kind: 'certificate for another name',
  bay: 'Gateway',
  weight: 'blocked',
  detect: ({ gateway }, { broken }) => {
    const certificate = gateway.certificate;
    if (broken?.reason !== 'certificate for another name' || !certificate) return null;
    return {
      text: `The certificate is for ${certificate.names.join(', ')}, people connect to ${gateway.address}`,
      cost: cost.blocked,
      costText: 'cannot sign in',
      sure: 'sure',
      evidence: () => [{ source: 'declared', text: `names ${certificate.names.join(', ')}` }],
      remedies: () => [
        {
          text: `Issue a certificate that names ${gateway.address}`,
          change: supposing({
            suppose: 'object',
            kind: 'gateway',
            id: gateway.id,
            set: { 'certificate.names': [...certificate.names, gateway.address] },
          }),
          ask: 'a certificate must be issued and put in place',
        },
      ],
    };
  },
};
