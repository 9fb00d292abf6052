import { doing, fieldsTo, supposing } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';

/** The browser draws without the graphics of the device; frames a second from the field check. */
export const drawnByProcessor: FindingKind = {
  kind: 'drawn by the processor in the browser',
  bay: 'Endpoint',
  weight: 'limited',
  limits: ['frames'],
  detect: ({ endpoint, evidence }, { frames, wanted }) => {
    const scene = evidence.scene;
    if (endpoint.clientKind !== 'browser' || scene?.value.drawnBy !== 'processor') return null;
    const short = frames.limiter === 'browser drawing' ? Math.max(0, 1 - frames.value / wanted.framesAtLeast) : 0;
    return {
      text: `The browser draws on the processor: ${plural(Math.round(scene.value.averageFps), 'frame')}, ${Math.round(scene.value.low1Fps)} in its slowest moments`,
      cost: short > 0 ? cost.short(short) : cost.risk + 20,
      limits: frames.limiter === 'browser drawing' ? ['frames', 'delay'] : [],
      costText: frames.limiter === 'browser drawing' ? `${plural(Math.round(frames.cap - frames.value), 'frame')}` : 'sluggish',
      sure: 'sure',
      evidence: () => [
        { source: 'measured', text: `drawn by ${scene.value.renderer}, ${scene.value.frames} frames, ${scene.at.slice(0, 10)}` },
      ],
      remedies: () => [
        {
          text: 'Use the native client',
          change: doing(fieldsTo('endpoint', endpoint.id, { clientKind: 'native client' })),
        },
        {
          text: 'Turn on graphics acceleration in the browser',
          change: supposing({ suppose: 'drawing', endpoint: endpoint.id, by: 'graphics' }),
          ask: 'the person switches it on and checks again',
        },
      ],
    };
  },
};
