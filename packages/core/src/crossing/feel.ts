import type { Bay, Verdict } from '@underpass/contracts';
import type { Delay } from './delay.js';
import type { CrossingFigures } from './figures.js';
import type { Frames } from './frames.js';
import { unlessUnknown, worstVerdict, type Aspect, type Missing, type Question } from './question.js';
import { atLeast, atMost, lossAtMost } from './thresholds.js';
import type { Way } from './way.js';

/** The bay in which what limits the frames lies. */
export const framesBay: Record<Frames['limiter'], Bay> = {
  'frame cap': 'Host',
  screen: 'Desk',
  'host drawing': 'Host',
  'host encoding': 'Host',
  decoding: 'Endpoint',
  'browser drawing': 'Endpoint',
  line: 'Link',
  loss: 'Link',
  'unsteady way': 'Link',
};
/** What has to be found out where frames are in doubt, and where it lies. */
const doubtBay: Record<NonNullable<Frames['missing']>, { bay: Bay; fact: Missing }> = {
  decoders: { bay: 'Endpoint', fact: 'decoders' },
  'graphics of the host': { bay: 'Host', fact: 'graphics of the host' },
  'host figures': { bay: 'Host', fact: 'host figures' },
  'line rate': { bay: 'Link', fact: 'line rate' },
  loss: { bay: 'Link', fact: 'loss' },
  'people at once': { bay: 'Link', fact: 'people at once' },
  'Wi-Fi signal': { bay: 'Local network', fact: 'Wi-Fi signal' },
  line: { bay: 'Link', fact: 'round trips' },
};

/** The part of the delay whose interval is widest: what would settle the delay if it were known. */
function doubtOfDelay({ parts }: Delay, way: Way, frames: Frames): Missing {
  let widest = { doubt: 0, name: '' };
  for (const { name, lowMs, highMs } of parts) if (highMs - lowMs > widest.doubt) widest = { doubt: highMs - lowMs, name };
  switch (widest.name) {
    case 'sent again after loss':
      return 'loss';
    case 'sending the changed area':
      return way.available && way.down ? 'people at once' : 'line rate';
    case 'decode':
      return 'decoders';
    case 'wait for the next frame':
      return doubtBay[frames.missing ?? 'host figures'].fact;
    case 'draw and capture':
    case 'encode':
    case 'way to the host':
      return 'host figures';
    default:
      return 'round trips';
  }
}

/** The bay that takes most of the delay. */
function bayOfDelay({ parts }: Delay): Bay {
  const byBay: Partial<Record<Bay, number>> = {};
  let most: Bay = 'Link';
  for (const { bay, ms } of parts) {
    const sum = (byBay[bay] ?? 0) + ms;
    byBay[bay] = sum;
    if (sum > (byBay[most] ?? 0)) most = bay;
  }
  return most;
}

/** Where the delay decides, its parts are added up by bay only where somebody looks. */
class FeltByDelay implements Question {
  readonly #delay: Delay;
  constructor(
    readonly verdict: Verdict,
    delay: Delay,
  ) {
    this.#delay = delay;
  }
  get bay(): Bay {
    return bayOfDelay(this.#delay);
  }
}

/** How it feels: delay, frames and voice against what the work wants, each with its whole interval. */
export function feelOf(
  f: Pick<CrossingFigures, 'delay' | 'frames' | 'voice' | 'way' | 'wanted' | 'upNeededMbps' | 'assumed'>,
  missing: Missing[],
  aspects: CrossingFigures['aspects'],
  doubts: CrossingFigures['doubts'],
): Question {
  const { delay, frames, voice, way, wanted, upNeededMbps } = f;
  let verdict: Verdict = 'clear';
  let bay = 'Link' as Bay | 'of the delay';
  const doubt = (aspect: Aspect, fact: Missing) => {
    doubts[aspect] = fact;
    missing.push(fact);
  };
  const consider = (aspect: Aspect, next: Verdict, where: Bay | 'of the delay') => {
    aspects[aspect] = next;
    const combined = worstVerdict(verdict, next);
    if (combined !== verdict) bay = where;
    verdict = combined;
  };
  // what rests on the kind of line alone may be far from it
  const delayVerdict = unlessUnknown(atMost(delay, wanted.keyToPixelMs), way.rttKnown);
  if (delayVerdict === 'unknown') doubt('delay', way.rttKnown ? doubtOfDelay(delay, way, frames) : 'round trips');
  consider('delay', delayVerdict, delayVerdict === 'clear' ? 'Link' : 'of the delay');
  // what is too slow on average is told as that
  const stickingVerdict =
    delayVerdict === 'limited' ? 'clear' : atMost(delay.worst, wanted.keyToPixelMs * f.assumed.finding.worstDelayFactor);
  if (stickingVerdict === 'unknown')
    doubt('sticking', way.lossKnown && delay.high > wanted.keyToPixelMs ? doubtOfDelay(delay, way, frames) : 'loss');
  consider('sticking', stickingVerdict, 'Link');
  // a cap below what the work wants is short by itself, whatever else is known
  const framesVerdict = atLeast(frames, Math.min(wanted.framesAtLeast, frames.cap) - 0.05);
  const ofFrames = framesVerdict === 'unknown' ? doubtBay[frames.missing ?? 'line'] : null;
  if (ofFrames) doubt('frames', ofFrames.fact);
  consider('frames', frames.cap < wanted.framesAtLeast ? 'limited' : framesVerdict, ofFrames?.bay ?? framesBay[frames.limiter]);
  const lossVerdict = unlessUnknown(atMost(way.loss, lossAtMost(wanted)), way.lossKnown);
  if (lossVerdict === 'unknown') doubt('loss', 'loss');
  consider('loss', lossVerdict, 'Link');
  if (voice.counts && voice.kept) consider('voice', 'limited', 'Gateway');
  else if (voice.counts && wanted.voiceMosAtLeast !== undefined) {
    const voiceVerdict = voice.heard ? atLeast(voice.heard, wanted.voiceMosAtLeast) : 'unknown';
    if (voiceVerdict === 'unknown') doubt('voice', way.lossKnown ? 'round trips' : 'loss');
    consider('voice', voiceVerdict, voice.carried === 'host' ? 'Workspace' : 'Link');
  }
  if (upNeededMbps >= leastSendingMbps) {
    const upVerdict: Verdict = way.availableUp ? atLeast(way.availableUp, upNeededMbps) : 'unknown';
    if (upVerdict === 'unknown') doubt('sending', way.availableUp ? 'people at once' : 'rate upwards');
    consider('sending', upVerdict, 'Link');
  }
  return bay === 'of the delay' ? new FeltByDelay(verdict, delay) : { verdict, bay };
}

/** Input alone, which every line carries, Mbit/s; what sends more than this wants to be carried. */
const leastSendingMbps = 0.1;
