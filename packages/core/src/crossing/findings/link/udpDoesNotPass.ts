import { doing, settingTo, supposing } from '../../../change/index.js';
import { lineOf } from '../../line.js';
import { cost, type FindingKind } from '../../finding.js';

/** UDP was tried and does not pass. */
export const udpDoesNotPass: FindingKind = {
  kind: 'UDP does not pass',
  bay: 'Link',
  weight: 'risk',
  detect: ({ evidence, location, endpoint }, { settings }) => {
    const udp = evidence.datagrams;
    if (udp?.value.passes !== false || settings['transport.prefer'] === 'tcp') return null;
    return {
      text: 'UDP does not pass from here: the picture falls back to TCP and suffers more from loss',
      cost: cost.risk + 15,
      costText: 'slower on loss',
      sure: 'sure',
      evidence: [{ source: 'measured', text: `no datagram came back within 5 s, ${udp.by}; loss stays not known` }],
      remedies: [
        {
          text: `Open UDP at ${location.name}`,
          change: supposing({ suppose: 'line', ...lineOf({ location, endpoint }), udp: true }),
          ask: 'then the loss can be measured too',
        },
        {
          text: 'Expect TCP and do not wait for UDP',
          change: doing(
            settingTo(
              'transport.prefer',
              location.ownLines ? 'endpoint' : 'location',
              location.ownLines ? endpoint.id : location.id,
              'tcp',
            ),
          ),
          ask: 'sign-on no longer waits for UDP',
        },
      ],
    };
  },
};
