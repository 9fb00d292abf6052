import { doing, fieldsTo, noChange } from '../../../change/index.js';
import { cost, figure, framesText, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { setHere } from '../../setHere.js';

/** Too many sessions share the encoder of a card, macroblocks a second. */
export const encoderShared: FindingKind = {
  kind: 'encoder shared by too many',
  bay: 'Host',
  weight: 'limited',
  limits: ['frames'],
  detect: (facts, { host, frames, session, wanted }) => {
    const { pool } = facts;
    if (!host || frames.encoding.by !== 'card' || frames.encoding.fps >= frames.cap) return null;
    return {
      text: `The encoder of ${host.name} is shared by ${plural(host.used ?? 0, 'session')}: ${framesText(frames.encoding.fps)} are left for this one`,
      cost: frames.limiter === 'host encoding' ? cost.short(Math.max(0.05, 1 - frames.value / wanted.framesAtLeast)) : cost.risk,
      limits: frames.limiter === 'host encoding' ? ['frames', 'delay'] : [],
      costText: `${plural(Math.round(frames.cap - Math.min(frames.cap, frames.encoding.fps)), 'frame')}`,
      sure: host.encoderLoad === undefined ? 'rests on an assumption' : 'sure',
      evidence: () => [
        {
          source: host.reportedAt ? 'reported' : 'declared',
          text:
            host.encoderLoad === undefined
              ? 'load not known, an equal share is taken'
              : `${Math.round(host.encoderLoad * 100)} % of the encoder in use`,
        },
        { source: 'computed', text: `${figure((session.macroblocks * frames.cap) / 1000)} thousand macroblocks a second asked` },
      ],
      remedies: () => [
        setHere(facts, 'picture.heldHeight', 1080, (where) => `Hold screens ${where} at 1080p`),
        {
          text: `Spread the people of ${pool.name} over its hosts`,
          change: doing(fieldsTo('pool', pool.id, { placement: 'spread' })),
        },
        {
          text: `Put a second card into ${host.name}, or give ${pool.name} one host more`,
          change: noChange,
          ask: 'half as many share an encoder; somebody must buy and fit it',
        },
      ],
    };
  },
};
