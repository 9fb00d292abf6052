import { noChange } from '../../../change/index.js';
import { cost, ms, type FindingKind } from '../../finding.js';

/** Slow from key press to pixel, by no single part, ms. */
export const slowAltogether: FindingKind = {
  kind: 'slow from key to pixel',
  bay: 'Host',
  weight: 'limited',
  limits: ['delay'],
  rest: true,
  detect: (_facts, { delay, wanted }) => {
    const parts = [...delay.parts].sort((a, b) => b.ms - a.ms).slice(0, 3);
    const [most] = parts;
    if (!most) return null;
    return {
      text: `${ms(delay.value)} from key to pixel, wanted ${wanted.keyToPixelMs}: most of it is ${most.name}, ${ms(most.ms)}`,
      cost: cost.short((delay.value / wanted.keyToPixelMs - 1) / 2),
      costText: ms(delay.value - wanted.keyToPixelMs),
      bay: most.bay,
      sure: parts.some(({ source }) => source === 'assumed') ? 'rests on an assumption' : 'likely',
      evidence: () => [
        ...parts.map(({ name, bay, ms: part, source }) => ({ source, text: `${name}, ${bay}: ${ms(part)}` })),
        { source: 'computed', text: `${ms(delay.value)} of all parts together, ${wanted.keyToPixelMs} ms wanted` },
      ],
      remedies: () => [{ text: `Shorten ${most.name}`, change: noChange, ask: 'the largest part comes first' }],
    };
  },
};
