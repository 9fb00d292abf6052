import { supposing } from '../../../change/index.js';
import { lineOf } from '../../line.js';
import { setHere } from '../../setHere.js';
import { cost, type FindingKind } from '../../finding.js';

/** UDP was tried and does not pass. */
export const udpDoesNotPass: FindingKind = {
  kind: 'UDP does not pass',
  bay: 'Link',
  weight: 'risk',
  detect: (facts, { settings }) => {
    const { evidence, location, endpoint } = facts;
    const udp = evidence.datagrams;
    if (udp?.value.passes !== false || settings['transport.prefer'] === 'tcp') return null;
    return {
      text: 'UDP does not pass from here: the picture falls back to TCP and suffers more from loss',
      cost: cost.risk + 15,
      costText: 'slower on loss',
      sure: 'sure',
      evidence: () => [{ source: 'measured', text: `no datagram came back within 5 s, ${udp.by}; loss stays not known` }],
      remedies: () => [
        {
          text: `Open UDP at ${location.name}`,
          change: supposing({ suppose: 'line', ...lineOf({ location, endpoint }), udp: true }),
          ask: 'then the loss can be measured too',
        },
        setHere(
          facts,
          'transport.prefer',
          'tcp',
          (where) => `Expect TCP ${where} and do not wait for UDP`,
          'sign-on no longer waits for UDP',
        ),
      ],
    };
  },
};
