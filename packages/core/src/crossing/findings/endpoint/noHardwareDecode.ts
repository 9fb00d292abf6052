import { cost, figure, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { needsDecoder } from '../../../screens/index.js';
import { setHere, setOnEndpoint } from '../../setHere.js';

/** No decoder of the endpoint takes the codec and chroma in use. */
export const noHardwareDecode: FindingKind = {
  kind: 'no hardware decode for the stream in use',
  bay: 'Endpoint',
  weight: 'limited',
  limits: ['frames', 'delay'],
  detect: (facts, { frames, session, settings, wanted }) => {
    const { endpoint } = facts;
    if (!needsDecoder(session.codec) || frames.decoding.by !== 'processor') return null;
    const load = frames.decoding.neededMacroblocksPerS / frames.decoding.processor;
    if (load < 0.6) return null;
    const stream = `${session.codec.toUpperCase()}${session.chroma444 ? ' in 4:4:4' : ''}`;
    const short = frames.limiter === 'decoding' ? Math.max(0, 1 - frames.value / wanted.framesAtLeast) : 0;
    const set = (
      key: 'picture.codec' | 'picture.chroma' | 'picture.heldHeight' | 'picture.frameCap' | 'picture.hardwareDecode',
      value: string | number | boolean,
      text: string,
    ) => setOnEndpoint(facts, key, value, text);
    return {
      text: `${endpoint.name} decodes ${stream} on the processor: ${figure(load * 100)} % of it`,
      cost: short > 0 ? cost.short(short) : cost.risk + 30,
      limits: frames.limiter === 'decoding' ? ['frames', 'delay'] : [],
      costText: frames.limiter === 'decoding' ? `${plural(Math.round(frames.cap - frames.value), 'frame')}` : 'hot and slow',
      sure: endpoint.decoders ? 'sure' : 'likely',
      evidence: () => [
        { source: endpoint.decoders ? 'reported' : 'measured', text: `no ${stream} decoder` },
        {
          source: 'assumed',
          text: `${figure(frames.decoding.neededMacroblocksPerS / 1000)} of ${figure(frames.decoding.processor / 1000)} thousand macroblocks a second, ${figure(load * 100)} %; a core decodes about 1080p30, from memory`,
        },
      ],
      remedies: () => [
        ...(session.codec !== 'h264'
          ? [set('picture.codec', 'h264', 'Code this endpoint’s picture in H.264')]
          : [set('picture.codec', 'hevc', 'Code this endpoint’s picture in H.265')]),
        ...(session.chroma444 ? [set('picture.chroma', '4:2:0', 'Use 4:2:0 on this endpoint')] : []),
        ...(settings['picture.hardwareDecode'] ? [] : [set('picture.hardwareDecode', true, 'Switch hardware decoding on')]),
        set('picture.heldHeight', 1080, 'Hold its screens at 1080p'),
        ...(settings['picture.frameCap'] > 30 ? [set('picture.frameCap', 30, 'Cap it at 30 frames')] : []),
        setHere(facts, 'picture.heldHeight', 1080, (where) => `Hold screens ${where} to 1080p`),
      ],
    };
  },
};
