import { asIf, supposing } from '../../../change/index.js';
import { lineOf } from '../../line.js';
import { setHere } from '../../setHere.js';
import { cost, figure, mbit, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';

/** Loss holds the rate below what the picture asks, Mbit/s: TCP by RFC 5348, UDP where it has to stop by RFC 8083. */
export const lossLimitsRate: FindingKind = {
  kind: 'loss limits the rate although the line is wide',
  bay: 'Link',
  weight: 'limited',
  limits: ['frames', 'delay'],
  explains: ['UDP does not pass', 'the way loses'],
  detect: (facts, { way, demand, frames, wanted, session }) => {
    const { available, down } = way;
    if (!way.lossBound || !available || !down || available.value >= demand.p95Mbps) return null;
    const { location, gateway, endpoint } = facts;
    const tcp = session.transport === 'tcp';
    return {
      text: `${figure(way.loss.value)} % loss holds ${tcp ? 'TCP' : 'the stream'} to ${mbit(available.value)} on a line of ${figure(down.value)}`,
      cost: cost.frames(frames.value, wanted.framesAtLeast),
      costText: `${plural(Math.round(frames.cap - frames.value), 'frame')}`,
      sure: way.lossKnown ? 'sure' : 'rests on an assumption',
      evidence: () => [
        { source: way.loss.source, text: `${figure(way.loss.value)} % of ${way.loss.samples ?? 0} lost, ${way.loss.note}` },
        { source: down.source, text: `${figure(down.value)} Mbit/s towards ${location.name}` },
        {
          source: 'computed',
          text: `${tcp ? 'RFC 5348' : 'ten times RFC 5348, where RFC 8083 has it stop,'} at ${Math.round(way.rtt.value)} ms: ${mbit(available.value)}${tcp ? `; over TCP because of ${session.transportBecause}` : ''}`,
        },
      ],
      remedies: () => [
        ...(session.transportBecause === 'setting' ? [setHere(facts, 'transport.prefer', 'udp', (where) => `Prefer UDP ${where}`)] : []),
        ...(session.transportBecause === 'gateway'
          ? [
              {
                text: `Let UDP through ${gateway.name}`,
                change: asIf('gateway', gateway.id, { udp: true }),
                ask: 'somebody has to open it',
              },
            ]
          : []),
        ...(session.transportBecause === 'udp does not pass'
          ? [
              {
                text: `Open UDP at ${location.name}`,
                change: supposing({ suppose: 'line', ...lineOf({ location, endpoint }), udp: true }),
                ask: 'somebody has to open the port',
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
