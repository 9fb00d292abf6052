import { cost, type FindingKind } from '../../finding.js';

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
          change: [{ type: 'hypothesis', fact: 'udp', value: true }],
          ask: 'then the loss can be measured too',
        },
        {
          text: 'Expect TCP and do not wait for UDP',
          change: [
            {
              type: 'setting',
              key: 'transport.prefer',
              layer: location.ownLines ? 'endpoint' : 'location',
              target: location.ownLines ? endpoint.id : location.id,
              value: 'tcp',
            },
          ],
          ask: 'sign-on no longer waits for UDP',
        },
      ],
    };
  },
};
