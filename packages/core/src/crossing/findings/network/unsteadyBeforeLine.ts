import { asIf } from '../../../change/index.js';
import { cost, figure, type FindingKind } from '../../finding.js';
import { setForPerson } from '../../setHere.js';

/** Above these on an idle line, words drop in calls: common practice, no source. */
const mostJitterMs = 20;
const mostLossPercent = 1;

/** Wi-Fi that delays (ms, P95 above the median) or loses (%). */
export const unsteadyBeforeLine: FindingKind = {
  kind: 'jitter or loss before the line',
  bay: 'Local network',
  weight: 'limited',
  limits: ['frames', 'delay', 'sticking', 'voice', 'loss'],
  explains: ['Wi-Fi signal too low', 'the way loses', 'the way holds packets up'],
  detect: (facts, { way, voice, wanted }) => {
    const { endpoint, evidence } = facts;
    const trips = evidence.roundTrips?.value;
    const spread = trips ? trips.p95Ms - trips.medianMs : 0;
    const loss = way.loss.value;
    if (endpoint.connection !== 'wifi' || (spread <= mostJitterMs && loss <= mostLossPercent)) return null;
    const { heard } = voice;
    const short = heard && wanted.voiceMosAtLeast ? Math.max(0, (wanted.voiceMosAtLeast - heard.mos) / 2) : 0;
    return {
      text:
        loss > mostLossPercent
          ? `Wi-Fi loses ${figure(loss)} packets in 100: words drop in calls`
          : `Wi-Fi holds packets up by ${Math.round(spread)} ms now and then: the picture sticks`,
      cost: short > 0 ? cost.short(short) : cost.risk + 35,
      costText: loss > mostLossPercent ? `${figure(loss)} % lost` : `${Math.round(spread)} ms`,
      sure: 'likely',
      evidence: () => [
        ...(way.lossKnown
          ? [
              {
                source: 'measured' as const,
                text: `${figure(loss)} % of ${way.loss.samples ?? 0} datagrams lost (${figure(way.loss.low)} to ${figure(way.loss.high)})`,
              },
            ]
          : []),
        ...(trips
          ? [{ source: 'measured' as const, text: `P95 ${Math.round(trips.p95Ms)} ms, median ${Math.round(trips.medianMs)} ms, idle` }]
          : []),
      ],
      remedies: () => [
        {
          text: 'Use a cable',
          change: {
            patches: [],
            hypotheses: [
              ...asIf('endpoint', endpoint.id, { connection: 'wired' }).hypotheses,
              { suppose: 'line', kind: 'endpoint', id: endpoint.id, jitterMs: 2 },
              { suppose: 'line', kind: 'endpoint', id: endpoint.id, lossPercent: 0 },
            ],
          },
        },
        ...(voice.counts && voice.carried === 'host'
          ? [setForPerson(facts, 'media.callOffload', true, (whom) => `Offload call sound ${whom}`)]
          : []),
      ],
    };
  },
};
