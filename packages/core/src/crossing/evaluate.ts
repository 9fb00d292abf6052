import type { Bay, Change } from '@underpass/contracts';
import { workingDay } from '../day/index.js';
import type { SettingValues } from '../settings/index.js';
import { isApplicable, isEmpty } from '../change/index.js';
import { burden, effectOf, type Effect } from './effect.js';
import type { CrossingFacts } from './facts.js';
import { computeFigures, type CrossingFigures } from './figures.js';
import { type Aspect, type Missing } from './question.js';
import { cost, type EvidenceLine, type FindingKind, type Found, type Proposal } from './finding.js';
import { findingKinds } from './findings/index.js';

/** A change that helps against a finding, with its computed effect. */
export interface Remedy {
  text: string;
  change: Change;
  applicable: boolean;
  effect: Effect | null;
  effectText: string;
  at?: Proposal['at'];
}

/** Something that is wrong on a crossing, with its cost for the person, evidence and remedies, best first. */
export interface Finding {
  kind: string;
  bay: Bay;
  weight: FindingKind['weight'];
  text: string;
  cost: number;
  costText: string;
  sure: 'sure' | 'likely' | 'rests on an assumption';
  evidence: EvidenceLine[];
  remedies: Remedy[];
  /** Findings with the same root cause. */
  consequences: string[];
}

/** One crossing evaluated: figures, and findings dearest first. */
export interface Evaluation {
  figures: CrossingFigures;
  findings: Finding[];
}

/** The figures of a crossing as they would be after a change; null where it would be no more. @param figures what they are now, where that is known */
export function figuresAfter(before: CrossingFacts, change: Change, figures?: CrossingFigures): CrossingFigures | null {
  const facts = before.reader.after(change).readLike(before);
  return facts && computeFigures(facts, undefined, figures);
}

const reached = { clear: 0, unknown: 1, limited: 2, blocked: 3 };
/** What reaches the better verdict comes first; among equals a setting, then a recorded change, then other people's work. */
const order = ({ effect, change, applicable }: Remedy): number =>
  effect ? reached[effect.becomes] * 10 + (!applicable ? 2 : change.patches.every((patch) => patch.do === 'setting') ? 0 : 1) : 50;

/** What a change leaves of a risk, though no figure gets better by it, as a part of what it costs: none of it by a password of one’s own. */
function leftOf({ kind, found }: Met, facts: CrossingFacts, change: Change, after: CrossingFigures, { gain }: Effect): number {
  const later = gain > -0.01 ? facts.reader.after(change).readLike(facts) : null;
  if (!later) return 1;
  const left = kind.detect(later, after);
  return left ? (left.cost * after.assumed.finding.risk) / found.cost : 0;
}

function remediesOf(facts: CrossingFacts, before: CrossingFigures, met: Met): Remedy[] {
  const { found, weight } = met;
  // where something nearer rules, what was meant for the place comes out as what is told for the endpoint anyway
  const told = new Set<string>();
  const isNew = ({ change }: Proposal) => isEmpty(change) || told.size < told.add(JSON.stringify(change)).size;
  const remedies = found
    .remedies()
    .filter(isNew)
    .map((proposal): Remedy => {
      const after = isEmpty(proposal.change) ? null : figuresAfter(facts, proposal.change, before);
      const { text, change, at, ask = '' } = proposal;
      const same = { text, change, ...(at && { at }) };
      if (!after) return { ...same, applicable: false, effect: null, effectText: ask };
      let effect = effectOf(before, after);
      const left = !effect.helps && weight === 'risk' ? leftOf(met, facts, proposal.change, after, effect) : 1;
      if (left < 0.999) effect = { ...effect, helps: true, text: left > 0 ? 'the risk is less' : ask ? '' : 'nothing else changes' };
      return { ...same, applicable: isApplicable(change), effect, effectText: [effect.text, ask].filter(Boolean).join('; ') };
    });
  // A change that makes nothing better is no remedy.
  return remedies
    .filter((remedy) => !remedy.effect || remedy.effect.helps)
    .sort((a, b) => order(a) - order(b) || (b.effect?.gain ?? 0) - (a.effect?.gain ?? 0));
}

const heavy = { blocked: 3, limited: 2, unknown: 1, risk: 0 };

/** A finding as it stands on this crossing. */
interface Met {
  kind: FindingKind;
  found: Found;
  weight: FindingKind['weight'];
}

/**
 * Everything found on a crossing. What a kind that limits finds where nothing is short is told as a risk; what is short and explained
 * by nothing is told by the kind that stands for the rest.
 */
function detect(facts: CrossingFacts, figures: CrossingFigures): Met[] {
  const met: Met[] = [];
  const explained: Partial<Record<Aspect, true>> = {};
  const { aspects } = figures;
  const look = (kind: FindingKind) => {
    const found = kind.detect(facts, figures);
    if (!found) return;
    let { weight } = kind;
    if (weight === 'limited') {
      const short = (found.limits ?? kind.limits ?? []).filter((aspect) => aspects[aspect] === 'limited');
      if (short.length === 0) weight = 'risk';
      for (const aspect of short) explained[aspect] = true;
    }
    // where it is not known, what is missing comes before what is only at risk
    const first = weight === 'unknown' && figures.verdict === 'unknown';
    const times = figures.assumed.finding[weight];
    const costs = (found.cost + (first ? cost.unknownFirst : 0)) * times;
    met.push({ kind, found: costs === found.cost ? found : { ...found, cost: costs }, weight });
  };
  for (const kind of plainKinds) look(kind);
  // each of these says why it does not open, or what is not known and decides
  if (figures.broken !== null) for (const kind of blockingKinds) look(kind);
  if (figures.missing.length > 0) for (const kind of doubtingKinds) look(kind);
  if (figures.verdict === 'limited')
    for (const kind of restKinds) if (kind.limits?.some((aspect) => aspects[aspect] === 'limited' && !explained[aspect])) look(kind);
  return met;
}
const restKinds = findingKinds.filter(({ rest }) => rest);
const blockingKinds = findingKinds.filter(({ weight }) => weight === 'blocked');
const doubtingKinds = findingKinds.filter(({ weight }) => weight === 'unknown');
const plainKinds = findingKinds.filter(({ weight, rest }) => !rest && weight !== 'blocked' && weight !== 'unknown');

/**
 * Evaluates one crossing: the figures, and the findings in order of what they cost, each remedy with its effect computed by
 * evaluating again with the change. Pure and deterministic.
 */
export function evaluateCrossing(facts: CrossingFacts, settings?: SettingValues): Evaluation {
  const figures = computeFigures(facts, settings);
  const found = detect(facts, figures).map((met) => {
    const { found: result, weight } = met;
    const { kind, bay, explains } = met.kind;
    const { text, cost, costText, sure, evidence } = result;
    const remedies = remediesOf(facts, figures, met);
    return {
      finding: {
        kind,
        bay: result.bay ?? bay,
        weight,
        text,
        cost,
        costText,
        sure,
        evidence: evidence(),
        remedies,
        consequences: [] as string[],
      },
      explains: explains ?? [],
    };
  });
  found.sort((a, b) => b.finding.cost - a.finding.cost);
  const told = new Set<string>();
  if (found.length > 1)
    for (const root of found) {
      if (told.has(root.finding.kind)) continue;
      for (const other of found)
        // what holds somebody back is never hidden beneath what does not
        if (
          other !== root &&
          root.explains.includes(other.finding.kind) &&
          !told.has(other.finding.kind) &&
          heavy[root.finding.weight] >= heavy[other.finding.weight]
        ) {
          told.add(other.finding.kind);
          root.finding.consequences.push(other.finding.text);
        }
    }
  return { figures, findings: found.map(({ finding }) => finding).filter(({ kind }) => !told.has(kind)) };
}

/**
 * What does not open does not at any hour; on a line that is no part of a neighbourhood no hour is worse than another where nobody else is
 * on it, or as many are around the clock.
 */
function worstHourOf({ others, line, location, estate }: CrossingFacts, { verdict, way }: CrossingFigures): number | null {
  if (verdict === 'clear' || verdict === 'blocked') return null;
  const { day, lines } = estate.assumed;
  const isSame = others.count === 0 || workingDay(location, day).hours.length === 24;
  if (isSame && !lines[line.lineKind].evening) return null;
  return others.count === 0 || !way.down ? way.rttHour : way.hour;
}

/** Verdict and the kinds found, without remedies: what a whole estate needs for each crossing. */
export interface Summary {
  verdict: CrossingFigures['verdict'];
  /** The bay of the dearest finding that decides the verdict. */
  bay: Bay | null;
  /** Kinds of finding, dearest first. */
  kinds: string[];
  delayMs: number;
  frameRate: number;
  firstBroken: string | null;
  meanMbps: number;
  timeToUsableS: number;
  mos: number | null;
  /** Where it is not known: the fact that is missing first. */
  settles: Missing | null;
  /** The local hour in which it is at its worst, 0 to 23; null where it is Clear, or no hour makes a difference. */
  worstHour: number | null;
  /** How far it is from what is wanted; see `burden`. */
  burden: number;
}

/** The summary of one crossing. A tenth of the work of evaluateCrossing: no remedy is tried. */
export function summariseCrossing(facts: CrossingFacts, settings?: SettingValues): Summary {
  const f = computeFigures(facts, settings);
  const met = detect(facts, f);
  let bay: Bay | null = null;
  let dearest = -1;
  for (const { kind, found, weight } of met)
    if (weight !== 'risk' && found.cost > dearest) {
      dearest = found.cost;
      bay = found.bay ?? kind.bay;
    }
  if (met.length > 1) met.sort((a, b) => b.found.cost - a.found.cost);
  const kinds = met.map(({ kind }) => kind.kind);
  return {
    verdict: f.verdict,
    bay: f.verdict === 'clear' ? null : bay,
    kinds,
    delayMs: f.delay.value,
    frameRate: f.frames.value,
    firstBroken: f.broken?.name ?? null,
    meanMbps: f.demand.meanMbps,
    timeToUsableS: f.timeline.totalS,
    mos: f.voice.heard?.mos ?? null,
    settles: f.verdict === 'unknown' ? (f.missing[0] ?? null) : null,
    worstHour: worstHourOf(facts, f),
    burden: burden(f),
  };
}
