import type { Bay } from '@underpass/contracts';
import type { CrossingFacts } from '../crossing/facts.js';
import { figure } from '../crossing/finding.js';
import { plural } from '../units/words.js';
import type { CrossingFigures } from '../crossing/figures.js';

/** Which question the drawn section answers. */
export type SectionQuestion = 'open' | 'usable' | 'feel' | 'works';

/** How much more than is needed a bay has, of the scarcest thing in it. */
export interface Headroom {
  /** Available ÷ needed; Infinity where nothing is asked of it, null where it is not known. */
  ratio: number | null;
  /** What is scarcest. */
  unit: string;
  /** By how much it is short. */
  short: string;
  /** Said in place of a multiple. */
  label?: string;
}

/** A bay's share of a limit that others share too: what they leave of it ÷ what it takes. */
const slack = (part: number, total: number, limit: number): number => (part <= 0 ? Infinity : Math.max(0, limit - (total - part)) / part);
const notKnown = (unit: string): Headroom => ({ ratio: null, unit, short: '' });
/** Drawn wide enough to read its label; nothing is measured there. */
const asLabelled = (label: string): Headroom => ({ ratio: 1.2, unit: '', short: '', label });

function scarcest(options: readonly Headroom[]): Headroom {
  const known = options.filter((option) => option.ratio !== null);
  const least = known.length ? known.reduce((a, b) => ((b.ratio ?? 0) < (a.ratio ?? 0) ? b : a)) : null;
  // what is short for certain comes before what is not known
  if (least && (least.ratio ?? 0) < 1) return least;
  return options.find((option) => option.ratio === null) ?? least ?? { ratio: Infinity, unit: '', short: '' };
}

type OfBay = (facts: CrossingFacts, f: CrossingFigures) => Headroom[];
const framesShort = (frames: number): string => `${plural(Math.round(frames), 'frame')}`;

/** What a bay has of its own beside its part of the delay. */
const ownOf: Record<Bay, OfBay> = {
  Desk: (_facts, { session, frames }) => {
    if (!session.native) return [notKnown('screens')];
    const slowest = Math.min(...session.screens.map((screen) => screen.refreshHz ?? Infinity));
    return [
      {
        ratio: Number.isFinite(slowest) ? slowest / frames.cap : Infinity,
        unit: 'refresh',
        short: framesShort(frames.cap - slowest),
      },
    ];
  },
  Endpoint: (_facts, { frames }) => {
    const { capacity, processor, neededMacroblocksPerS } = frames.decoding;
    const lost = framesShort(frames.cap - frames.value);
    const decoding: Headroom =
      capacity === null && frames.missing === 'decoders'
        ? notKnown('decoding')
        : { ratio: (capacity ?? processor) / Math.max(1, neededMacroblocksPerS), unit: 'decoding', short: lost };
    return frames.limiter === 'browser drawing'
      ? [decoding, { ratio: frames.value / frames.cap, unit: 'drawing', short: lost }]
      : [decoding];
  },
  'Local network': ({ endpoint }, { way }) => {
    const spreadMs = endpoint.connection === 'wifi' ? way.localMs.value : 0.5;
    return [{ ratio: 20 / Math.max(0.5, spreadMs), unit: 'steadiness', short: `${Math.round(spreadMs)} ms` }];
  },
  Link: (_facts, { way, demand, settings, missing, frames }) => {
    const rate = (way.available?.value ?? 0) / Math.max(0.01, demand.p95Mbps);
    const line: Headroom = way.available
      ? {
          // down to the quality floor a narrower line costs no frames, so it is no shortage
          ratio: rate >= settings['picture.qualityFloor'] ? Math.max(1, rate) : rate,
          unit: 'rate',
          short: `${figure(demand.p95Mbps - way.available.value)} Mbit/s`,
        }
      : notKnown('rate');
    const lost = frames.limiter === 'loss' || frames.limiter === 'unsteady way';
    return [
      line,
      ...(lost ? [{ ratio: frames.value / frames.cap, unit: 'frames', short: framesShort(frames.cap - frames.value) }] : []),
      ...(missing.includes('round trips') ? [notKnown('round trip')] : []),
      ...(missing.includes('loss') ? [notKnown('loss')] : []),
    ];
  },
  Gateway: () => [],
  Host: (_facts, { frames }) => {
    if (frames.missing === 'graphics of the host') return [notKnown('graphics')];
    const fps = Math.min(frames.encoding.fps, 1000 / frames.drawMs);
    return [{ ratio: fps / frames.cap, unit: 'frames', short: framesShort(frames.cap - fps) }];
  },
  Workspace: (_facts, { voice, wanted }) => {
    if (!voice.counts || !wanted.voiceMosAtLeast) return [];
    const { heard } = voice;
    if (!heard) return [notKnown('voice')];
    return [
      {
        ratio: (heard.mos - 1) / (wanted.voiceMosAtLeast - 1),
        unit: 'voice',
        short: `${(wanted.voiceMosAtLeast - heard.mos).toFixed(1)} points`,
      },
    ];
  },
};

function feelHeadroom(bay: Bay, facts: CrossingFacts, f: CrossingFigures, partMs: number): Headroom {
  const { frames, delay, wanted } = f;
  // frames that the line or the decoder holds back make the host wait too; that is not the host's shortage
  const heldBackMs =
    bay === 'Host' && frames.limiter !== 'host drawing' && frames.limiter !== 'host encoding'
      ? 500 / Math.max(1, frames.value) - 500 / frames.cap
      : 0;
  const ownMs = partMs - heldBackMs;
  const ofDelay: Headroom = {
    ratio: slack(partMs, delay.value, wanted.keyToPixelMs),
    unit: 'delay',
    short: `${Math.round(delay.value - wanted.keyToPixelMs)} ms over`,
  };
  // a delay that is too long is told where most of it arises, not in every bay
  const deciding = ownMs >= 0.3 * delay.value;
  const own = ownOf[bay](facts, f);
  return scarcest(deciding || (ofDelay.ratio ?? 0) >= 1 ? [ofDelay, ...own] : own);
}

function openLabel(bay: Bay, { ladder }: CrossingFigures): Headroom {
  const steps = ladder.filter((step) => step.bay === bay);
  const passed = steps.filter((step) => step.state === 'passed' || step.state === 'assumed').length;
  const doubted = steps.find((step) => step.state === 'not known');
  if (doubted) return { ...notKnown(doubted.name), label: `${doubted.name}?` };
  return asLabelled(!steps.length ? '–' : passed === steps.length ? 'passes' : `${passed} of ${steps.length} steps`);
}

function worksHeadroom(bay: Bay, { desk }: CrossingFigures): Headroom {
  if (bay !== 'Desk') return asLabelled('–');
  const works = desk.filter((item) => item.works).length;
  const label = `${works} of ${desk.length}`;
  if (desk.some((item) => item.works === null)) return notKnown('screens');
  // what is meant not to work is no shortage
  const wanted = desk.filter((item) => !item.meant).length;
  return { ratio: works >= wanted ? 1.2 : works / wanted, unit: 'work', short: `${wanted - works}`, label };
}

/**
 * The headroom of a bay for a question.
 * @param partMs its part of the delay
 * @param partS its part of the sign-on
 */
export function headroomOf(
  question: SectionQuestion,
  bay: Bay,
  facts: CrossingFacts,
  f: CrossingFigures,
  partMs: number,
  partS: number,
): Headroom {
  switch (question) {
    case 'feel':
      return feelHeadroom(bay, facts, f, partMs);
    case 'usable':
      return {
        ratio: slack(partS, f.timeline.totalS, f.wanted.usableWithinS),
        unit: 'time',
        short: `${figure(f.timeline.totalS - f.wanted.usableWithinS)} s`,
      };
    case 'works':
      return worksHeadroom(bay, f);
    case 'open':
      return openLabel(bay, f);
  }
}
