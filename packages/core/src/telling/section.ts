import type { Bay, Verdict } from '@underpass/contracts';
import type { Estimate } from '../units/index.js';
import type { CrossingFacts } from '../crossing/facts.js';
import type { CrossingFigures } from '../crossing/figures.js';
import { bayOfReason, deskWhy } from '../crossing/desk.js';
import { headroomOf, type SectionQuestion } from './headroom.js';
import { bayFacts, type BayFact } from './sectionFacts.js';

export type { SectionQuestion };

/** A bay of the drawn section: how it stands for the question, with its facts; delay in ms. */
export interface SectionBay {
  bay: Bay;
  verdict: Verdict | null;
  facts: BayFact[];
  state: 'fits' | 'short' | 'not known' | 'blocked' | 'not reached';
  /** Available ÷ needed of the scarcest thing in this bay for the question. */
  headroom: number | null;
  label: string;
  detail: string;
  delayMs: number;
  delayAssumed: boolean;
  signonS: number;
  signonAssumed: boolean;
}
/** The section through a crossing, bay by bay, for one question. */
export interface Section {
  bays: SectionBay[];
  /** What does not get through besides the picture, up to where. */
  ducts: { name: string; bay: Bay; why: string }[];
  totalDelayMs: number;
  limitDelayMs: number;
  delayVerdict: Verdict;
  totalSignonS: number;
  limitSignonS: number;
  signonVerdict: Verdict;
  sources: Record<Exclude<Estimate['source'], 'computed'>, number>;
  steps: { name: string; bay: Bay; state: string }[];
}

/** The bays from the desk to the workspace. */
export const bayOrder: readonly Bay[] = ['Desk', 'Endpoint', 'Local network', 'Link', 'Gateway', 'Host', 'Workspace'];

const withTimes = (ratio: number): string => `${ratio >= 10 ? Math.round(ratio) : ratio.toFixed(ratio < 2 ? 2 : 1)}×`;

/** How a bay stands: where a step is broken, nothing behind it is reached. */
function stateOf({ broken }: CrossingFigures, i: number, ratio: number | null): SectionBay['state'] {
  const brokenAt = broken ? (broken.name === 'entitled' ? 0 : bayOrder.indexOf(broken.bay)) : Infinity;
  if (i > brokenAt) return 'not reached';
  if (i === brokenAt) return 'blocked';
  if (ratio === null) return 'not known';
  return ratio < 0.995 ? 'short' : 'fits';
}

function labelOf({ broken }: CrossingFigures, state: SectionBay['state'], ratio: number | null, label: string | undefined): string {
  if (state === 'blocked') return broken?.name ?? '';
  if (state === 'not reached') return 'not reached';
  if (ratio === null) return 'Not known';
  return label ?? (Number.isFinite(ratio) ? withTimes(ratio) : 'ample');
}

/** What the section drawing shows: a pure function of the evaluated crossing. */
export function sectionOf(facts: CrossingFacts, f: CrossingFigures, question: SectionQuestion, worst: ReadonlyMap<Bay, Verdict>): Section {
  const bays = bayOrder.map((bay, i): SectionBay => {
    const parts = f.delay.parts.filter((part) => part.bay === bay);
    const steps = f.timeline.steps.filter((step) => step.bay === bay && f.timeline.critical.includes(step.name));
    const delayMs = parts.reduce((sum, part) => sum + part.ms, 0);
    const signonS = steps.reduce((sum, step) => sum + step.seconds, 0);
    const { ratio, unit, short, label } = headroomOf(question, bay, facts, f, delayMs, signonS);
    const state = stateOf(f, i, ratio);
    const assumedMs = parts.reduce((sum, part) => sum + (part.source === 'assumed' ? part.ms : 0), 0);
    return {
      bay,
      verdict: worst.get(bay) ?? null,
      facts: bayFacts(bay, facts, f),
      state,
      headroom: state === 'blocked' || state === 'not reached' ? null : ratio,
      label: labelOf(f, state, ratio, label),
      detail: state === 'short' ? `short ${short}` : state === 'blocked' || state === 'not reached' ? '' : unit,
      delayMs,
      delayAssumed: assumedMs > delayMs / 2,
      signonS,
      signonAssumed: steps.some((step) => step.source === 'assumed'),
    };
  });
  const sources: Section['sources'] = { measured: 0, reported: 0, declared: 0, assumed: 0 };
  for (const bay of bays) for (const fact of bay.facts) if (fact.source !== 'computed') sources[fact.source]++;
  const over = (value: { low: number; high: number }, limit: number): Verdict =>
    value.low > limit ? 'limited' : value.high <= limit ? 'clear' : 'unknown';
  return {
    bays,
    ducts: f.desk
      .filter((item) => item.works === false && item.peripheral)
      .map((item) => ({
        name: item.name,
        bay: item.because ? bayOfReason(item.because) : 'Endpoint',
        why: deskWhy(item.because),
      })),
    totalDelayMs: f.delay.value,
    limitDelayMs: f.wanted.keyToPixelMs,
    delayVerdict: over(f.delay, f.wanted.keyToPixelMs),
    totalSignonS: f.timeline.totalS,
    limitSignonS: f.wanted.usableWithinS,
    signonVerdict: f.usable.verdict,
    sources,
    steps: f.ladder.map(({ name, bay, state }) => ({ name, bay, state })),
  };
}
