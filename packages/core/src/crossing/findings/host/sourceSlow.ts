import { supposing } from '../../../change/index.js';
import { cost, figure, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';

/** The host draws fewer frames a second than are wanted. */
export const sourceSlow: FindingKind = {
  kind: 'frame source slower than the cap',
  bay: 'Host',
  weight: 'limited',
  limits: ['frames', 'delay'],
  detect: ({ resource }, { host, frames, wanted }) => {
    if (!host || frames.limiter !== 'host drawing' || frames.value >= wanted.framesAtLeast) return null;
    return {
      text: `${host.name} draws a frame in ${figure(frames.drawMs)} ms: ${plural(Math.round(frames.value), 'frame')} whatever the line`,
      cost: cost.short(1 - frames.value / wanted.framesAtLeast),
      costText: `${plural(Math.round(frames.cap - frames.value), 'frame')}`,
      sure: frames.drawAssumed ? 'rests on an assumption' : 'sure',
      evidence: () => [{ source: host.reportedAt ? 'reported' : 'declared', text: `${figure(frames.drawMs)} ms a frame on ${host.name}` }],
      remedies: () => [
        {
          text: `Lighten the drawing in ${resource.name} or give ${host.name} a faster card`,
          change: supposing({
            suppose: 'object',
            kind: 'host',
            id: host.id,
            set: { drawMs: 1000 / Math.max(30, wanted.framesAtLeast) - 2 },
          }),
          ask: 'the host must be changed',
        },
      ],
    };
  },
};
