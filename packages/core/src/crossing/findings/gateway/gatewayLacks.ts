import { asIf } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** The gateway does not pass the codec or the transport that is asked for. */
export const gatewayLacks: FindingKind = {
  kind: 'gateway lacks a feature in use',
  bay: 'Gateway',
  weight: 'risk',
  explains: ['loss limits the rate although the line is wide'],
  detect: ({ gateway, endpoint }, { session, settings }) => {
    const lacks: { what: string; field: string; value: unknown }[] = [];
    if (session.codec !== session.codecAsked)
      lacks.push({
        what: `${session.codecAsked.toUpperCase()}, so ${session.codec.toUpperCase()} is used`,
        field: 'codecs',
        value: [...gateway.codecs, session.codecAsked],
      });
    if (session.transportBecause === 'gateway') lacks.push({ what: 'UDP, so TCP is used', field: 'udp', value: true });
    if (!gateway.usb && endpoint.peripherals.includes('scanner') && settings['redirection.devices'].includes('scanner'))
      lacks.push({ what: 'USB, so the scanner stays outside', field: 'usb', value: true });
    const first = lacks[0];
    if (!first) return null;
    return {
      text: `${gateway.name} does not carry ${lacks.map((lack) => lack.what).join('; nor ')}`,
      cost: cost.risk + 10 * lacks.length,
      costText: lacks.length === 1 ? '1 feature' : `${lacks.length} features`,
      sure: 'sure',
      evidence: () => [
        {
          source: 'declared',
          text: `${gateway.name}: ${gateway.codecs.join(', ')}; UDP ${gateway.udp === false ? 'no' : 'yes'}; USB ${gateway.usb ? 'yes' : 'no'}`,
        },
      ],
      remedies: () => [
        {
          text: `Switch it on in ${gateway.name}`,
          change: asIf('gateway', gateway.id, Object.fromEntries(lacks.map(({ field, value }) => [field, value]))),
        },
      ],
    };
  },
};
