import { cost, figure, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { setOnEndpoint } from '../../setHere.js';

/** All screens together ask for more macroblocks a second than the decoder has. */
export const decodeBudget: FindingKind = {
  kind: 'decode budget exceeded by several screens',
  bay: 'Endpoint',
  weight: 'limited',
  limits: ['frames'],
  detect: (facts, { frames, session, wanted, settings }) => {
    const { endpoint } = facts;
    const { decoding } = frames;
    const { capacity } = decoding;
    if (decoding.by !== 'hardware' || capacity === null || decoding.neededMacroblocksPerS <= capacity) return null;
    const set = (key: 'picture.heldHeight' | 'picture.frameCap' | 'screens.most' | 'picture.codec', value: number | string, text: string) =>
      setOnEndpoint(facts, key, value, text);
    return {
      text: `${plural(session.screens.length, 'screen')} ask ${figure(decoding.neededMacroblocksPerS / 1000)} thousand macroblocks a second of the decoder, it takes ${figure(capacity / 1000)}`,
      cost: frames.limiter === 'decoding' ? cost.short(Math.max(0, 1 - frames.value / wanted.framesAtLeast)) : cost.risk,
      limits: frames.limiter === 'decoding' ? ['frames', 'delay'] : [],
      costText: `${plural(Math.round(frames.cap - frames.value), 'frame')}`,
      sure: 'sure',
      evidence: () => [
        {
          source: endpoint.reportedAt ? 'reported' : 'declared',
          text: `${session.codec.toUpperCase()} decoder, limits of its level in the standard: ${figure(capacity / 1000)} thousand macroblocks a second, ${figure(decoding.neededMacroblocksPerS / 1000)} asked by ${plural(session.screens.length, 'screen')}`,
        },
      ],
      remedies: () => [
        set('picture.heldHeight', 1440, 'Hold its screens at 1440p'),
        set('picture.heldHeight', 1080, 'Hold its screens at 1080p'),
        ...(session.screens.length > 1
          ? [set('screens.most', session.screens.length - 1, `Use ${plural(session.screens.length - 1, 'screen')}`)]
          : []),
        ...(settings['picture.frameCap'] > 30 ? [set('picture.frameCap', 30, 'Cap it at 30 frames')] : []),
        ...(session.codec === 'h264' ? [set('picture.codec', 'hevc', 'Code its picture in H.265')] : []),
      ],
    };
  },
};
