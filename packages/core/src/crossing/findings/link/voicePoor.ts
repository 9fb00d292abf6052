import { noChange } from '../../../change/index.js';
import { cost, figure, ms, type FindingKind } from '../../finding.js';

/** A call that is understood with effort: MOS below what the work wants. */
export const voicePoor: FindingKind = {
  kind: 'calls are hard to follow',
  bay: 'Link',
  weight: 'limited',
  limits: ['voice'],
  rest: true,
  detect: (_facts, { voice, wanted, way }) => {
    const heard = voice.carried === 'host' ? voice.host : voice.endpoint;
    if (!heard || wanted.voiceMosAtLeast === undefined) return null;
    return {
      text: `Voice ${heard.mos.toFixed(1)} of 4.5, wanted ${wanted.voiceMosAtLeast.toFixed(1)}`,
      cost: cost.short((wanted.voiceMosAtLeast - heard.mos) / 2),
      costText: `${Math.max(0, wanted.voiceMosAtLeast - heard.mos).toFixed(1)} voice points`,
      sure: way.rttKnown && way.lossKnown ? 'likely' : 'rests on an assumption',
      evidence: [
        { source: way.rtt.source, text: `round trip ${ms(way.rtt.value)}` },
        { source: way.loss.source, text: `${figure(way.loss.value)} % lost` },
        {
          source: 'computed',
          text: `voice ${heard.mos.toFixed(1)} of 4.5 (${heard.low.toFixed(1)} to ${heard.high.toFixed(1)}), R ${heard.r.toFixed(0)}, by ITU-T G.107; wanted ${wanted.voiceMosAtLeast.toFixed(1)}`,
        },
      ],
      remedies: () => [{ text: 'Hold the call by telephone until the way is mended', change: noChange, ask: 'then the call is heard' }],
    };
  },
};
