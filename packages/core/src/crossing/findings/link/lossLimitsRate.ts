import { doing, fieldsTo, settingTo, supposing } from '../../../change/index.js';
import { lineOf } from '../../line.js';
import { cost, figure, mbit, type FindingKind } from '../../finding.js';

/** Loss holds TCP below what the picture asks, Mbit/s [RFC 5348]. */
export const lossLimitsRate: FindingKind = {
  kind: 'loss limits the rate although the line is wide',
  bay: 'Link',
  weight: 'limited',
  explains: ['UDP does not pass'],
  detect: ({ location, gateway, endpoint }, { way, demand, frames, wanted, session }) => {
    if (!way.lossBound || !way.available || !way.down || way.available.value >= demand.p95Mbps) return null;
    const own = location.ownLines;
    return {
      text: `${figure(way.loss?.value ?? 0)} % loss holds TCP to ${mbit(way.available.value)} on a line of ${figure(way.down.value)}`,
      cost: cost.short(Math.max(0.05, 1 - frames.value / wanted.framesAtLeast)),
      costText: `${Math.round(frames.cap - frames.value)} frames`,
      sure: 'sure',
      evidence: [
        { source: 'measured', text: `${figure(way.loss?.value ?? 0)} % of ${way.loss?.samples ?? 0} datagrams lost` },
        {
          source: 'computed',
          text: `RFC 5348 at ${Math.round(way.rtt.value)} ms: ${mbit(way.available.value)}; over TCP because of ${session.transportBecause}`,
        },
      ],
      remedies: [
        ...(session.transportBecause === 'setting'
          ? [
              {
                text: 'Prefer UDP here',
                change: doing(settingTo('transport.prefer', own ? 'endpoint' : 'location', own ? endpoint.id : location.id, 'udp')),
              },
            ]
          : []),
        ...(session.transportBecause === 'gateway'
          ? [
              {
                text: `Let UDP through ${gateway.name}`,
                change: doing(fieldsTo('gateway', gateway.id, { udp: true })),
              },
            ]
          : []),
        {
          text: 'Have the line mended',
          change: supposing({ suppose: 'line', ...lineOf({ location, endpoint }), lossPercent: 0 }),
          ask: 'show the carrier this figure',
        },
      ],
    };
  },
};
