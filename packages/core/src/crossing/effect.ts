import type { CrossingFigures } from './figures.js';
import { figure } from './finding.js';
import { plural } from '../units/words.js';
import { lossAtMost } from './thresholds.js';

/** What a change does to a crossing; `gain` is the fall of its burden, on the scale of the findings’ costs. */
export interface Effect {
  text: string;
  /** Better for the person on the whole: fewer questions short, or a figure nearer to its threshold. */
  helps: boolean;
  becomes: CrossingFigures['verdict'];
  gain: number;
}

const rank = { blocked: 3, limited: 2, unknown: 1, clear: 0 };

type Item = CrossingFigures['desk'][number];
const works = (item: Item) => item.works === true;
const brokenItem = (item: Item) => item.works === false && !item.meant;
const leftOut = (item: Item) => item.works === false && item.meant;
const slowPort = (item: Item) => item.because?.code === 'port slow';
const notReached = (step: CrossingFigures['ladder'][number]) => step.state === 'not reached';
// counted for every change that is tried, so without a list in between
function countOf<T>(list: readonly T[], is: (item: T) => boolean): number {
  let count = 0;
  for (const item of list) if (is(item)) count++;
  return count;
}

const whole = (value: number) => String(Math.round(value));
const over = (value: number, limit: number) => Math.max(0, value / limit - 1);

/**
 * What makes up the burden, with the reason of each weight: on the scale of the findings' costs, so that what is worst there is worst
 * here. Common practice, no source. The small weights let a change that only goes the right way be told from one that does nothing.
 */
export const burdenTable: readonly { of: string; because: string; points: (f: CrossingFigures) => number }[] = [
  {
    of: 'does not open',
    because: 'nothing else counts until it does; each step nearer is worth something',
    points: (f) => (f.broken ? 1000 + 20 * countOf(f.ladder, notReached) : 0),
  },
  { of: 'verdict', because: 'what is told of the crossing comes before any single figure', points: (f) => rank[f.verdict] * 40 },
  {
    of: 'things on the desk that do not work',
    because: 'a screen or device is as good as not there; the third costs as much as the first',
    points: (f) => 100 * Math.min(3, countOf(f.desk, brokenItem)),
  },
  {
    of: 'left out by a setting or a rule',
    because: 'a choice, but of two ways that do as much the one with more screens',
    points: (f) => 3 * countOf(f.desk, leftOut),
  },
  {
    of: 'delay',
    because: 'twice the threshold is as bad as no picture',
    points: (f) => 200 * Math.min(2, over(f.delay.value, f.wanted.keyToPixelMs)),
  },
  {
    of: 'worst twentieth',
    because: 'it is felt, but seldom',
    points: (f) => 100 * Math.min(2, over(f.delay.worst.value, f.wanted.keyToPixelMs * f.assumed.finding.worstDelayFactor)),
  },
  {
    of: 'frames',
    because: 'no frame at all is as bad as twice the delay',
    points: (f) => 200 * Math.max(0, 1 - f.frames.value / f.wanted.framesAtLeast),
  },
  {
    of: 'voice',
    because: 'two points of MOS are as bad as no frames',
    points: (f) => {
      const mos = f.voice.heard;
      return mos && f.wanted.voiceMosAtLeast ? 100 * Math.max(0, f.wanted.voiceMosAtLeast - mos.mos) : 0;
    },
  },
  {
    of: 'sending',
    because: 'a camera or voice that others do not get is half a device',
    points: (f) => (f.way.availableUp ? 100 * Math.max(0, 1 - f.way.availableUp.value / f.upNeededMbps) : 0),
  },
  {
    of: 'loss',
    because: 'above what a session stands it breaks off; below, it is in frames and delay already',
    points: (f) => 50 * Math.min(2, over(f.way.loss.value, lossAtMost(f.wanted))),
  },
  {
    of: 'time until usable',
    because: 'paid once a sign-in, not at each key',
    points: (f) => 20 * over(f.timeline.totalS, f.wanted.usableWithinS),
  },
  { of: 'facts not known', because: 'each one is a doubt less', points: (f) => 2 * f.missing.length },
  { of: 'every 100 ms', because: 'shorter is better below the threshold too', points: (f) => f.delay.value / 100 },
  { of: 'every 20 s until usable', because: 'sooner is better below the threshold too', points: (f) => f.timeline.totalS / 20 },
  { of: 'every two points of voice', because: 'clearer is better above the threshold too', points: (f) => -(f.voice.heard?.mos ?? 0) / 2 },
  { of: 'every 20 Mbit/s asked', because: 'what is not asked is there for others', points: (f) => Math.max(0, f.onLine.downP95Mbps) / 20 },
  {
    of: 'TCP',
    because: 'it suffers from the first loss, which nobody may have met yet',
    points: (f) => (f.session.transport === 'tcp' ? 1 : 0),
  },
  {
    of: 'screens below their own refresh',
    because: 'a port that is too slow is seen wherever something moves',
    points: (f) => countOf(f.desk, slowPort) * 5,
  },
  { of: 'sharpness', because: 'less of the screen’s own pixels is less to read', points: (f) => -f.session.resolutionShare },
  { of: 'several scales', because: 'text has the wrong size on some screen', points: (f) => (f.session.mixedScales ? 10 : 0) },
];

/** How far a crossing is from what is wanted, on the scale of the findings' costs; lower is better. See `burdenTable`. */
export function burden(f: CrossingFigures): number {
  let points = 0;
  for (const row of burdenTable) points += row.points(f);
  return points;
}

const burdens = new WeakMap<CrossingFigures, number>();
/** The same, worked out once for figures that are asked about again: several changes are held against them, or they hold for many. */
export function burdenOnce(f: CrossingFigures): number {
  let known = burdens.get(f);
  if (known === undefined) burdens.set(f, (known = burden(f)));
  return known;
}

/** What a change does, told in the figures it moves. */
export function effectOf(before: CrossingFigures, after: CrossingFigures): Effect {
  const parts: string[] = [];
  const moved = (a: number, b: number, least: number) => Math.abs(a - b) >= least;
  // what is written alike is not told: nobody sees that 29.5 s are less than 30
  const tell = (was: string, is: string, words: (is: string, was: string) => string) => {
    if (was !== is) parts.push(words(is, was));
  };
  if (before.broken && after.broken?.name !== before.broken.name)
    parts.push(after.broken ? `gets as far as “${after.broken.name}”` : 'opens');
  if (moved(before.frames.value, after.frames.value, 0.5))
    tell(whole(before.frames.value), whole(after.frames.value), (is, was) => `${plural(Number(is), 'frame')} instead of ${was}`);
  // of a second one or two more are not felt
  if (moved(before.delay.value, after.delay.value, Math.max(1, before.delay.value * 0.01)))
    tell(whole(before.delay.value), whole(after.delay.value), (is, was) => `${is} ms instead of ${was}`);
  const [heardBefore, heardAfter] = [before.voice.heard, after.voice.heard];
  if (heardBefore && heardAfter && moved(heardBefore.mos, heardAfter.mos, 0.05))
    tell(heardBefore.mos.toFixed(1), heardAfter.mos.toFixed(1), (is, was) => `voice ${is} instead of ${was}`);
  if (moved(before.timeline.totalS, after.timeline.totalS, 0.5))
    tell(figure(before.timeline.totalS), figure(after.timeline.totalS), (is, was) => `usable after ${is} s instead of ${was}`);
  const count = (f: CrossingFigures) => countOf(f.desk, works);
  if (count(after) !== count(before))
    parts.push(`${count(after)} of ${after.desk.length} things on the desk work instead of ${count(before)}`);
  if (moved(before.demand.p95Mbps, after.demand.p95Mbps, Math.max(0.1, before.demand.p95Mbps * 0.05)))
    tell(figure(before.demand.p95Mbps), figure(after.demand.p95Mbps), (is, was) => `asks for ${is} Mbit/s instead of ${was}`);
  if (before.session.mixedScales && !after.session.mixedScales) parts.push('text has one size on all screens');
  if (before.session.transport !== after.session.transport) parts.push(`over ${after.session.transport.toUpperCase()}`);
  if (before.way.availableUp && after.way.availableUp && moved(before.way.availableUp.value, after.way.availableUp.value, 0.1))
    tell(figure(before.way.availableUp.value), figure(after.way.availableUp.value), (is, was) => `${is} Mbit/s upwards instead of ${was}`);
  if (moved(before.upNeededMbps, after.upNeededMbps, 0.1))
    tell(figure(before.upNeededMbps), figure(after.upNeededMbps), (is, was) => `sends ${is} Mbit/s instead of ${was}`);
  if (after.session.resolutionShare < before.session.resolutionShare - 0.05) parts.push('text is less sharp');
  const gain = burdenOnce(before) - burden(after);
  const becomes = after.verdict;
  const words = { clear: 'Clear', limited: 'Limited', blocked: 'Blocked', unknown: 'Unknown' };
  const turns = becomes === before.verdict ? '' : `becomes ${words[becomes]}`;
  const told = [turns, ...parts.slice(0, 4)].filter(Boolean).join(', ');
  // what can be told by no figure is no help, however little goes the right way
  const helps = told !== '' && gain > 0.01 && rank[becomes] <= rank[before.verdict];
  return { text: told || 'no figure of this crossing changes', helps, becomes, gain };
}
