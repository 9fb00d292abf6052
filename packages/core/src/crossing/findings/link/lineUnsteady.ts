import { supposing } from '../../../change/index.js';
import { lineOf } from '../../line.js';
import { cost, ms, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';

/** Where the worst twentieth of the round trips lies further above the median than this, ms, it is news; common practice, no source. */
const noticedSpreadMs = 30;

/** The way holds packets up now and then, on a cable too: ms, P95 above the median. */
export const lineUnsteady: FindingKind = {
  kind: 'the way holds packets up',
  bay: 'Link',
  weight: 'limited',
  limits: ['frames', 'sticking', 'voice'],
  detect: ({ location, endpoint }, { way, frames, wanted, delay, aspects, assumed }) => {
    const spread = way.spreadMs.value;
    const takesFrames = frames.limiter === 'unsteady way' && aspects.frames === 'limited';
    const slows = aspects.sticking === 'limited' && spread > frames.resentWorstMs.value && spread > 0.25 * wanted.keyToPixelMs;
    if (spread <= noticedSpreadMs && !takesFrames && !slows) return null;
    return {
      text: `The way holds packets up by ${ms(spread)} now and then: the picture sticks`,
      cost: takesFrames
        ? cost.frames(frames.value, wanted.framesAtLeast)
        : slows
          ? cost.short((delay.worst.value / wanted.keyToPixelMs / assumed.finding.worstDelayFactor - 1) / 2)
          : cost.risk + 35,
      costText: ms(spread),
      sure: 'likely',
      limits: [...(takesFrames ? (['frames'] as const) : []), ...(slows ? (['sticking'] as const) : []), 'voice'],
      evidence: () => [
        {
          source: way.spreadMs.source,
          text: `the worst twentieth of the round trips is ${ms(spread)} above the median, ${way.spreadMs.note}`,
        },
        {
          source: 'computed',
          text: `${plural(Math.round(frames.value), 'frame')}, ${ms(delay.value)} from key to pixel, ${ms(delay.worst.value)} in the worst twentieth`,
        },
      ],
      remedies: () => [
        {
          text: `Have the way from ${location.name} steadied`,
          change: supposing({ suppose: 'line', ...lineOf({ location, endpoint }), jitterMs: 5 }),
          ask: 'find who fills the line, then show the carrier this figure',
        },
      ],
    };
  },
};
