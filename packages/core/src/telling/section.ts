import type { Bay, Verdict } from '@underpass/contracts';
import type { Estimate } from '../units/index.js';
import type { CrossingFacts } from '../crossing/facts.js';
import type { CrossingFigures } from '../crossing/figures.js';
import { bayOfReason, deskWhy } from '../crossing/desk.js';
import { figure } from '../crossing/finding.js';
import { bayFacts, type BayFact } from './sectionFacts.js';

export type SectionQuestion = 'open' | 'usable' | 'feel' | 'works';
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

export const bayOrder: readonly Bay[] = ['Desk', 'Endpoint', 'Local network', 'Link', 'Gateway', 'Host', 'Workspace'];

interface Headroom {
  ratio: number | null;
  unit: string;
  short: string;
  /** Said in place of a multiple. */
  label?: string;
}
const slack = (part: number, total: number, limit: number): number => (part <= 0 ? Infinity : Math.max(0, limit - (total - part)) / part);

function scarcest(options: Headroom[]): Headroom {
  const unknown = options.find((option) => option.ratio === null);
  if (unknown) return unknown;
  return options.reduce((least, option) => ((option.ratio ?? Infinity) < (least.ratio ?? Infinity) ? option : least));
}

function feelHeadroom(bay: Bay, facts: CrossingFacts, f: CrossingFigures, partMs: number): Headroom {
  const delay: Headroom = {
    ratio: slack(partMs, f.delay.value, f.wanted.keyToPixelMs),
    unit: 'delay',
    short: `${Math.round(f.delay.value - f.wanted.keyToPixelMs)} ms over`,
  };
  const { way, demand, frames, session, voice, wanted } = f;
  // frames that the line or the decoder holds back make the host wait too; that is not the host's shortage
  if (bay === 'Host' && frames.limiter !== 'host drawing' && frames.limiter !== 'host encoding')
    partMs -= 500 / Math.max(1, frames.value) - 500 / frames.cap;
  // down to the quality floor a narrower line costs no frames, so it is no shortage
  const rate = (way.available?.value ?? 0) / Math.max(0.01, demand.p95Mbps);
  const rateHeadroom = rate >= f.settings['picture.qualityFloor'] ? Math.max(1, rate) : rate;
  // a delay that is too long is told where most of it arises, not in every bay
  const deciding = partMs >= 0.3 * f.delay.value;
  const options: Headroom[] = deciding || (delay.ratio ?? 0) >= 1 ? [delay] : [];
  switch (bay) {
    case 'Desk': {
      const slowest = Math.min(...session.screens.map((screen) => screen.refreshHz ?? Infinity));
      options.push(
        session.native
          ? {
              ratio: Number.isFinite(slowest) ? slowest / frames.cap : Infinity,
              unit: 'refresh',
              short: `${Math.round(frames.cap - slowest)} frames`,
            }
          : { ratio: null, unit: 'screens', short: '' },
      );
      break;
    }
    case 'Endpoint':
      options.push({
        ratio:
          frames.decoding.capacity === null
            ? frames.missing === 'decoders'
              ? null
              : frames.decoding.processor / Math.max(1, frames.decoding.neededMacroblocksPerS)
            : frames.decoding.capacity / Math.max(1, frames.decoding.neededMacroblocksPerS),
        unit: 'decoding',
        short: `${Math.round(frames.cap - frames.value)} frames`,
      });
      if (frames.limiter === 'browser drawing')
        options.push({ ratio: frames.value / frames.cap, unit: 'drawing', short: `${Math.round(frames.cap - frames.value)} frames` });
      break;
    case 'Local network': {
      const spread = facts.endpoint.connection === 'wifi' ? way.localMs.value : 0.5;
      options.push({ ratio: 20 / Math.max(0.5, spread), unit: 'steadiness', short: `${Math.round(spread)} ms` });
      break;
    }
    case 'Link':
      options.push(
        way.available
          ? {
              ratio: rateHeadroom,
              unit: 'rate',
              short: `${figure(demand.p95Mbps - way.available.value)} Mbit/s`,
            }
          : { ratio: null, unit: 'rate', short: '' },
      );
      if (f.missing.includes('round trips')) options.push({ ratio: null, unit: 'round trip', short: '' });
      break;
    case 'Host':
      options.push(
        frames.missing === 'graphics of the host'
          ? { ratio: null, unit: 'graphics', short: '' }
          : {
              ratio: Math.min(frames.encoding.fps, 1000 / frames.drawMs) / frames.cap,
              unit: 'frames',
              short: `${Math.round(frames.cap - Math.min(frames.encoding.fps, 1000 / frames.drawMs))} frames`,
            },
      );
      break;
    case 'Workspace': {
      const heard = voice.carried === 'host' ? voice.host : voice.endpoint;
      if (voice.counts && wanted.voiceMosAtLeast)
        options.push(
          heard
            ? {
                ratio: (heard.mos - 1) / (wanted.voiceMosAtLeast - 1),
                unit: 'voice',
                short: `${(wanted.voiceMosAtLeast - heard.mos).toFixed(1)} points`,
              }
            : { ratio: null, unit: 'voice', short: '' },
        );
      break;
    }
    case 'Gateway':
      break;
  }
  return options.length ? scarcest(options) : { ratio: Infinity, unit: '', short: '' };
}

function headroomOf(
  question: SectionQuestion,
  bay: Bay,
  facts: CrossingFacts,
  f: CrossingFigures,
  partMs: number,
  partS: number,
): Headroom {
  if (question === 'feel') return feelHeadroom(bay, facts, f, partMs);
  if (question === 'usable')
    return {
      ratio: slack(partS, f.timeline.totalS, f.wanted.usableWithinS),
      unit: 'time',
      short: `${figure(f.timeline.totalS - f.wanted.usableWithinS)} s`,
    };
  if (question === 'works') {
    if (bay !== 'Desk') return { ratio: 1.2, unit: '', short: '', label: '–' };
    const works = f.desk.filter((item) => item.works).length;
    const label = `${works} of ${f.desk.length}`;
    if (f.desk.some((item) => item.works === null)) return { ratio: null, unit: 'screens', short: '' };
    return { ratio: works === f.desk.length ? 1.2 : works / f.desk.length, unit: 'work', short: `${f.desk.length - works}`, label };
  }
  const steps = f.ladder.filter((step) => step.bay === bay);
  const passed = steps.filter((step) => step.state === 'passed' || step.state === 'assumed').length;
  return { ratio: 1.2, unit: '', short: '', label: steps.length ? `${passed} of ${steps.length} steps` : '–' };
}

const withTimes = (ratio: number): string => `${ratio >= 10 ? Math.round(ratio) : ratio.toFixed(ratio < 2 ? 2 : 1)}×`;

/** What the section drawing shows: a pure function of the evaluated crossing. */
export function sectionOf(facts: CrossingFacts, f: CrossingFigures, question: SectionQuestion, worst: ReadonlyMap<Bay, Verdict>): Section {
  const brokenAt = f.broken ? bayOrder.indexOf(f.broken.bay) : -1;
  const brokenFirst = f.broken?.name === 'entitled' ? 0 : brokenAt;
  const bays = bayOrder.map((bay, i): SectionBay => {
    const parts = f.delay.parts.filter((part) => part.bay === bay);
    const steps = f.timeline.steps.filter((step) => step.bay === bay && f.timeline.critical.includes(step.name));
    const delayMs = parts.reduce((sum, part) => sum + part.ms, 0);
    const signonS = steps.reduce((sum, step) => sum + step.seconds, 0);
    const { ratio, unit, short, label } = headroomOf(question, bay, facts, f, delayMs, signonS);
    const state =
      f.broken && i > brokenFirst
        ? 'not reached'
        : f.broken && i === brokenFirst
          ? 'blocked'
          : ratio === null
            ? 'not known'
            : ratio < 0.995
              ? 'short'
              : 'fits';
    const assumedMs = parts.reduce((sum, part) => sum + (part.source === 'assumed' ? part.ms : 0), 0);
    return {
      bay,
      verdict: worst.get(bay) ?? null,
      facts: bayFacts(bay, facts, f),
      state,
      headroom: state === 'blocked' || state === 'not reached' ? null : ratio,
      label:
        state === 'blocked'
          ? (f.broken?.name ?? '')
          : state === 'not reached'
            ? 'not reached'
            : ratio === null
              ? 'Not known'
              : (label ?? (Number.isFinite(ratio) ? withTimes(ratio) : 'ample')),
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
