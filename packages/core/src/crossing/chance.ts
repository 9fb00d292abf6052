import type { Aspect, Missing } from './question.js';
import type { CrossingFigures } from './figures.js';
import { lossAtMost } from './thresholds.js';

/** How likely a crossing is Clear, and what would tell most. */
export interface Chance {
  /** 0 to 1. */
  clear: number;
  /** The fact that is not known and weighs most, with the chance that it comes out well. */
  settles: { fact: Missing; chance: number } | null;
}

interface Span {
  value: number;
  low: number;
  high: number;
}

/**
 * Chance that a figure is at most a limit, where it lies between its ends with its value as the likeliest: the triangular distribution
 * [Kotz & van Dorp 2004, ch. 1].
 * @example between 0 and 10, likeliest 5, at most 5: one half
 */
export function chanceAtMost({ value, low, high }: Span, limit: number): number {
  if (high <= limit) return 1;
  if (low > limit) return 0;
  const width = high - low;
  if (!Number.isFinite(width) || width <= 0) return 0.5;
  const peak = Math.min(high, Math.max(low, value));
  if (limit <= peak) return peak === low ? 0 : (limit - low) ** 2 / (width * (peak - low));
  return 1 - (high - limit) ** 2 / (width * (high - peak));
}
const chanceAtLeast = ({ value, low, high }: Span, limit: number): number =>
  chanceAtMost({ value: -value, low: -high, high: -low }, -limit);

/** How often what nobody knows is in order; common practice, no source. */
export const inOrder: Partial<Record<Missing, number>> = {
  'client version': 0.8,
  'reach of the gateway': 0.9,
  certificate: 0.95,
  'TLS of the gateway': 0.9,
  'second factor time': 0.7,
  'power of the hosts': 0.95,
  'places of the hosts': 0.9,
  screens: 0.8,
  'what is assumed': 0.6,
};

/**
 * The chance that a crossing is Clear, by its intervals: of each fact that is not known the chance that what hangs on it is well, facts
 * taken as independent of each other. 0 where something is short for certain.
 */
export function chanceOf(f: CrossingFigures): Chance {
  if (f.verdict === 'clear') return { clear: 1, settles: null };
  if (f.verdict !== 'unknown') return { clear: 0, settles: null };
  const { wanted, delay, frames, way, voice, timeline } = f;
  const { heard } = voice;
  const of: Record<Aspect, () => number> = {
    delay: () => chanceAtMost(delay, wanted.keyToPixelMs),
    sticking: () => chanceAtMost(delay.worst, wanted.keyToPixelMs * f.assumed.finding.worstDelayFactor),
    frames: () => chanceAtLeast(frames, Math.min(wanted.framesAtLeast, frames.cap)),
    loss: () => chanceAtMost(way.loss, lossAtMost(wanted)),
    voice: () =>
      heard && wanted.voiceMosAtLeast ? chanceAtLeast({ value: heard.mos, low: heard.low, high: heard.high }, wanted.voiceMosAtLeast) : 1,
    sending: () => (way.availableUp ? chanceAtLeast(way.availableUp, f.upNeededMbps) : 0.5),
    usable: () => chanceAtMost({ value: timeline.totalS, low: timeline.lowS, high: timeline.highS }, wanted.usableWithinS),
    desk: () => inOrder.screens ?? 1,
  };
  const byFact = new Map<Missing, number>();
  const weigh = (fact: Missing, chance: number) => {
    // what lies on its threshold tells little either way, but never nothing; what hangs on the same fact comes out well or badly together
    byFact.set(fact, Math.min(byFact.get(fact) ?? 1, 0.99, Math.max(0.01, chance)));
  };
  for (const aspect of Object.keys(of) as Aspect[]) {
    const fact = f.doubts[aspect];
    if (f.aspects[aspect] === 'unknown' && fact) weigh(fact, of[aspect]());
  }
  for (const fact of f.missing) if (inOrder[fact] !== undefined && !byFact.has(fact)) weigh(fact, inOrder[fact]);
  let clear = 1;
  let settles: Chance['settles'] = null;
  for (const [fact, chance] of byFact) {
    clear *= chance;
    if (!settles || chance < settles.chance) settles = { fact, chance };
  }
  return { clear, settles };
}
