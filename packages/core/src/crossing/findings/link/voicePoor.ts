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
    const { heard } = voice;
    const atLeast = wanted.voiceMosAtLeast;
    if (!heard || atLeast === undefined) return null;
    return {
      text: `Voice ${heard.mos.toFixed(1)} of 4.5, wanted ${atLeast.toFixed(1)}`,
      cost: cost.short((atLeast - heard.mos) / 2),
      costText: `${Math.max(0, atLeast - heard.mos).toFixed(1)} voice points`,
      sure: way.rttKnown && way.lossKnown ? 'likely' : 'rests on an assumption',
      evidence: () => [
        { source: way.rtt.source, text: `round trip ${ms(way.rtt.value)}` },
        { source: way.loss.source, text: `${figure(way.loss.value)} % lost` },
        {
          source: 'computed',
          text: `voice ${heard.mos.toFixed(1)} of 4.5 (${heard.low.toFixed(1)} to ${heard.high.toFixed(1)}), R ${heard.r.toFixed(0)}, by ITU-T G.107; wanted ${atLeast.toFixed(1)}`,
        },
      ],
      remedies: () => [{ text: 'Hold the call by telephone until the way is mended', change: noChange, ask: 'then the call is heard' }],
    };
  },
};
