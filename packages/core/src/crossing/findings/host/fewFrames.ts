import { catalogue } from '../../../settings/index.js';
import { framesBay } from '../../feel.js';
import { setHere } from '../../setHere.js';
import { cost, figure, framesText, mbit, ms, type FindingKind } from '../../finding.js';

/** The least of the frame rates that are offered which is enough, a second. */
const enough = (framesAtLeast: number): number =>
  catalogue['picture.frameCap'].steps?.find((step) => step >= framesAtLeast) ?? Math.ceil(framesAtLeast);

/** Too few frames, by what limits them. */
export const fewFrames: FindingKind = {
  kind: 'too few frames',
  bay: 'Host',
  weight: 'limited',
  limits: ['frames'],
  rest: true,
  detect: (facts, { frames, wanted, settings, way, demand }) => {
    const { limiter, value, cap, drawMs, encoding } = frames;
    const because: Record<typeof limiter, string> = {
      'frame cap': `the settings cap the picture at ${cap}`,
      screen: 'a screen shows no more',
      'host drawing': `the host draws a frame in ${ms(drawMs)}`,
      'host encoding': `the host codes a frame in ${ms(encoding.ms)}`,
      decoding: 'the endpoint decodes no more',
      'browser drawing': 'the browser draws no more',
      line: `of ${mbit(demand.p95Mbps)} the way lets ${mbit(way.available?.value ?? 0)} through`,
      loss: `${figure(way.loss.value)} % are lost on the way`,
      'unsteady way': `the way varies by ${ms(way.spreadMs.value)}`,
    };
    return {
      text: `${framesText(value)}, wanted ${wanted.framesAtLeast}: ${because[limiter]}`,
      cost: cost.frames(value, wanted.framesAtLeast),
      bay: framesBay[limiter],
      costText: `${framesText(Math.max(0, wanted.framesAtLeast - value))}`,
      sure: frames.drawAssumed || encoding.assumed ? 'rests on an assumption' : 'likely',
      evidence: () => [
        { source: 'computed', text: `${framesText(value)} of ${cap}, ${wanted.framesAtLeast} wanted; limited by: ${because[limiter]}` },
        { source: 'declared', text: `frame cap ${settings['picture.frameCap']}` },
      ],
      remedies: () =>
        limiter === 'frame cap'
          ? [
              setHere(
                facts,
                'picture.frameCap',
                enough(wanted.framesAtLeast),
                (where) => `Let the host send ${enough(wanted.framesAtLeast)} frames a second ${where}`,
              ),
            ]
          : [],
    };
  },
};
