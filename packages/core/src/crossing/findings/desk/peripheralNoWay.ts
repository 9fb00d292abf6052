import { cost, plural, type FindingKind } from '../../finding.js';

export const peripheralNoWay: FindingKind = {
  kind: 'a peripheral has no way through',
  bay: 'Desk',
  weight: 'limited',
  detect: ({ endpoint, location }, { desk }) => {
    const stopped = desk.filter((item) => item.peripheral && item.works === false);
    const first = stopped[0];
    if (!first?.peripheral) return null;
    const byRule = stopped.filter((item) => item.why.startsWith('the rules'));
    return {
      text:
        stopped.length === 1
          ? `${first.name} does not reach the session: ${first.why}`
          : `${stopped.map((item) => item.name).join(', ')} do not reach the session: ${first.why}`,
      cost: cost.device + 50 * (stopped.length - 1),
      costText: plural(stopped.length, 'device'),
      sure: 'sure',
      evidence: stopped.map((item) => ({ source: 'computed' as const, text: `${item.name}: ${item.why}` })),
      remedies: [
        ...(byRule.length
          ? [
              {
                text: `Let ${byRule.map((item) => item.name.toLowerCase()).join(' and ')} through at ${location.name}`,
                change: [
                  {
                    type: 'setting' as const,
                    key: 'redirection.devices' as const,
                    layer: 'location' as const,
                    target: location.id,
                    value: byRule.map((item) => item.peripheral as string),
                  },
                ],
              },
              {
                text: 'Let it through on this endpoint only',
                change: [
                  {
                    type: 'setting' as const,
                    key: 'redirection.devices' as const,
                    layer: 'endpoint' as const,
                    target: endpoint.id,
                    value: byRule.map((item) => item.peripheral as string),
                  },
                ],
              },
            ]
          : []),
        ...(endpoint.clientKind === 'browser'
          ? [
              {
                text: 'Use the native client',
                change: [
                  { type: 'object' as const, kind: 'endpoint' as const, id: endpoint.id, field: 'clientKind', value: 'native client' },
                ],
              },
            ]
          : []),
      ],
    };
  },
};
