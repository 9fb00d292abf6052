import { cost, mbit, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { setHere } from '../../setHere.js';
import { smallerPicture } from '../../smallerPicture.js';

/** A cap on the session is below what the picture asks, Mbit/s. */
export const capTooLow: FindingKind = {
  kind: 'the session’s cap below the picture’s demand',
  bay: 'Gateway',
  weight: 'limited',
  limits: ['frames', 'delay'],
  detect: (facts, figures) => {
    const { way, demand, frames, settings, wanted } = figures;
    const { available } = way;
    if (way.bound !== 'session cap' || !available || available.value >= demand.p95Mbps * settings['picture.qualityFloor']) return null;
    const enough = Math.ceil(demand.p95Mbps * 1.1);
    return {
      text: `The settings hold a session to ${mbit(available.value)}, the picture needs ${mbit(demand.p95Mbps)}`,
      cost: cost.frames(frames.value, wanted.framesAtLeast),
      costText: `${plural(Math.round(frames.cap - frames.value), 'frame')}`,
      sure: 'sure',
      evidence: () => [
        { source: 'declared', text: `session cap ${mbit(available.value)}` },
        { source: 'computed', text: `needed ${mbit(demand.p95Mbps)}; the line has ${mbit(way.down?.value ?? 0)}` },
      ],
      remedies: () => [
        setHere(facts, 'transport.capMbps', enough, (where) => `Let a session take ${enough} Mbit/s ${where}`),
        ...smallerPicture(facts, figures),
      ],
    };
  },
};
