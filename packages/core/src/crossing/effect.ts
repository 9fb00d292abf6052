import type { CrossingFigures } from './figures.js';
import { figure } from './finding.js';

/** What a change does to a crossing; `gain` is the fall of its burden, on the scale of the findings’ costs. */
export interface Effect {
  text: string;
  /** Better for the person on the whole: fewer questions short, or a figure nearer to its threshold. */
  helps: boolean;
  becomes: CrossingFigures['verdict'];
  gain: number;
}

const rank = { blocked: 3, limited: 2, unknown: 1, clear: 0 };
const heard = (f: CrossingFigures) => (f.voice.counts ? (f.voice.carried === 'host' ? f.voice.host : f.voice.endpoint) : null);

/** How far a crossing is from what is wanted, on the scale of the findings' costs; lower is better. */
export function burden(f: CrossingFigures): number {
  const over = (value: number, limit: number) => Math.max(0, value / limit - 1);
  const mos = heard(f);
  const dark = f.desk.filter((item) => item.works === false).length;
  return (
    (f.broken ? 1000 + 20 * f.ladder.filter((step) => step.state === 'not reached').length : 0) +
    500 * Math.min(3, dark) * 0.2 +
    rank[f.verdict] * 40 +
    200 * Math.min(2, over(f.delay.value, f.wanted.keyToPixelMs)) +
    200 * Math.max(0, 1 - f.frames.value / f.wanted.framesAtLeast) +
    (mos && f.wanted.voiceMosAtLeast ? 100 * Math.max(0, f.wanted.voiceMosAtLeast - mos.mos) : 0) +
    20 * over(f.timeline.totalS, f.wanted.usableWithinS) +
    f.delay.value / 100 +
    f.timeline.totalS / 20 -
    (mos?.mos ?? 0) / 2 +
    Math.max(0, f.demand.p95Mbps) / 20 -
    f.session.resolutionShare +
    (f.session.mixedScales ? 10 : 0)
  );
}

/** What a change does, told in the figures it moves. */
export function effectOf(before: CrossingFigures, after: CrossingFigures): Effect {
  const parts: string[] = [];
  const moved = (a: number, b: number, least: number) => Math.abs(a - b) >= least;
  if (before.broken && after.broken?.name !== before.broken.name)
    parts.push(after.broken ? `gets as far as “${after.broken.name}”` : 'opens');
  if (moved(before.frames.value, after.frames.value, 0.5))
    parts.push(`${Math.round(after.frames.value)} frames instead of ${Math.round(before.frames.value)}`);
  if (moved(before.delay.value, after.delay.value, 1))
    parts.push(`${Math.round(after.delay.value)} ms instead of ${Math.round(before.delay.value)}`);
  const [heardBefore, heardAfter] = [heard(before), heard(after)];
  if (heardBefore && heardAfter && moved(heardBefore.mos, heardAfter.mos, 0.05))
    parts.push(`voice ${heardAfter.mos.toFixed(1)} instead of ${heardBefore.mos.toFixed(1)}`);
  if (moved(before.timeline.totalS, after.timeline.totalS, 0.5))
    parts.push(`usable after ${figure(after.timeline.totalS)} s instead of ${figure(before.timeline.totalS)}`);
  const count = (f: CrossingFigures) => f.desk.filter((item) => item.works === true).length;
  if (count(after) !== count(before))
    parts.push(`${count(after)} of ${after.desk.length} things on the desk work instead of ${count(before)}`);
  if (moved(before.demand.p95Mbps, after.demand.p95Mbps, Math.max(0.1, before.demand.p95Mbps * 0.05)))
    parts.push(`asks for ${figure(after.demand.p95Mbps)} Mbit/s instead of ${figure(before.demand.p95Mbps)}`);
  if (before.session.mixedScales && !after.session.mixedScales) parts.push('text has one size on all screens');
  if (after.session.resolutionShare < before.session.resolutionShare - 0.05) parts.push('text is less sharp');
  const gain = burden(before) - burden(after);
  const becomes = after.verdict;
  const words = { clear: 'Clear', limited: 'Limited', blocked: 'Blocked', unknown: 'Unknown' };
  const turns = becomes === before.verdict ? '' : `becomes ${words[becomes]}`;
  const told = [turns, ...parts.slice(0, 4)].filter(Boolean).join(', ');
  return { text: told || 'no figure of this crossing changes', helps: gain > 0.01 && rank[becomes] <= rank[before.verdict], becomes, gain };
}
