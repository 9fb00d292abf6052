import type { Bay, Change, Verdict } from '@underpass/contracts';
import { leftBehindOutcomes, type LeftBehindOutcome } from '../access/index.js';
import { explainSetting, settingKeys, type SettingKey, type SettingValues } from '../settings/index.js';
import { shortcutsFor, timelineSteps, type Shortcut, type TimelineStep } from '../signon/index.js';
import { deskWhy } from '../crossing/desk.js';
import { isEmpty, noChange } from '../change/index.js';
import { questionsOf, sentenceOf, type QuestionWords } from './describe.js';
import { evaluateCrossing, type Evaluation, type Finding } from '../crossing/evaluate.js';
import type { CrossingFacts, SessionElsewhere } from '../crossing/facts.js';
import { worstVerdict } from '../crossing/question.js';
import { atLeast } from '../crossing/thresholds.js';
import { dayOf, type Day } from '../crossing/day.js';
import { chanceOf, type Chance } from '../crossing/chance.js';
import { remediesTogether, type RemedyTogether } from '../crossing/together.js';
import { sectionOf, type Section, type SectionQuestion } from './section.js';

/** A figure beside what is wanted of it. */
export interface CompareRow {
  name: string;
  value: number | null;
  /** Between these, as far as it is known. */
  low: number | null;
  high: number | null;
  unit: string;
  digits: number;
  wanted: number | null;
  better: 'less' | 'more';
  verdict: Verdict;
}

/** Everything the crossing's screen shows, plain data for the way out of a worker. */
export interface CrossingView {
  verdict: Verdict;
  sentence: string;
  questions: QuestionWords[];
  sections: Record<SectionQuestion, Section>;
  findings: Finding[];
  /** Several remedies at once, where no single one is enough. */
  together: RemedyTogether[];
  /** How likely it is Clear, and the one fact that would tell most. */
  chance: Chance;
  /** The same over the hours of a working day. */
  day: Day;
  compare: CompareRow[];
  settings: SettingValues;
  delayParts: { name: string; bay: Bay; ms: number; source: string }[];
  steps: TimelineStep[];
  shortcuts: Shortcut[];
  leftBehind: { policy: string; sessions: readonly SessionElsewhere[]; outcomes: LeftBehindOutcome[] };
  ladder: { name: string; state: string; bay: Bay }[];
  desk: { name: string; works: boolean | null; carriedAs: string; why: string }[];
  missing: string[];
}

const weightVerdict: Record<Finding['weight'], Verdict> = { blocked: 'blocked', limited: 'limited', unknown: 'unknown', risk: 'clear' };

/** What is put beside what is wanted, each judged as the crossing is, with all of its interval. */
function compareRows({ figures: f }: Evaluation): CompareRow[] {
  const { aspects, delay, frames, demand, timeline, wanted } = f;
  const { heard } = f.voice;
  const { available } = f.way;
  const rows: CompareRow[] = [
    {
      name: 'Key press to pixel',
      ...spanOf(delay),
      unit: 'ms',
      digits: 0,
      wanted: wanted.keyToPixelMs,
      better: 'less',
      verdict: aspects.delay,
    },
    {
      name: 'Frame rate',
      ...spanOf(frames.missing === 'line rate' ? null : frames),
      unit: 'a second',
      digits: 0,
      wanted: wanted.framesAtLeast,
      better: 'more',
      verdict: aspects.frames,
    },
    {
      name: 'Bandwidth needed',
      ...exactly(demand.p95Mbps),
      unit: 'Mbit/s',
      digits: 1,
      wanted: available?.value ?? null,
      better: 'less',
      verdict: available ? atLeast(available, demand.p95Mbps) : 'unknown',
    },
  ];
  if (f.voice.counts)
    rows.push({
      name: 'Voice quality',
      ...spanOf(heard && { value: heard.mos, low: heard.low, high: heard.high }),
      unit: 'of 5',
      digits: 1,
      wanted: wanted.voiceMosAtLeast ?? null,
      better: 'more',
      verdict: aspects.voice,
    });
  rows.push(
    {
      name: 'Time until usable',
      ...spanOf({ value: timeline.totalS, low: timeline.lowS, high: timeline.highS }),
      unit: 's',
      digits: 1,
      wanted: wanted.usableWithinS,
      better: 'less',
      verdict: aspects.usable,
    },
    {
      name: 'Text sharpness',
      ...exactly(f.session.resolutionShare * (f.session.chroma444 ? 1 : 0.98) * frames.quality),
      unit: 'of 1',
      digits: 2,
      wanted: null,
      better: 'more',
      verdict: 'clear',
    },
  );
  return rows;
}
type Span = Pick<CompareRow, 'value' | 'low' | 'high'>;
const spanOf = (figure: { value: number; low: number; high: number } | null): Span =>
  figure ? { value: figure.value, low: figure.low, high: figure.high } : { value: null, low: null, high: null };
const exactly = (value: number): Span => ({ value, low: value, high: value });

/** The crossing as it would be after a change; null where it would be no more. */
export function viewAfter({ reader, ref }: Pick<CrossingFacts, 'reader' | 'ref'>, change: Change = noChange): CrossingView | null {
  const facts = (isEmpty(change) ? reader : reader.after(change)).read(ref);
  return facts && viewOf(facts, isEmpty(change));
}

/**
 * Everything that is shown of a crossing.
 * @param searched whether remedies are put together too, which is looked at on a crossing as it stands
 */
export function viewOf(facts: CrossingFacts, searched = true): CrossingView {
  const evaluation = evaluateCrossing(facts);
  const { figures, findings } = evaluation;
  const worst = new Map<Bay, Verdict>();
  for (const finding of findings) {
    const verdict = weightVerdict[finding.weight];
    if (verdict !== 'clear') worst.set(finding.bay, worstVerdict(worst.get(finding.bay) ?? 'clear', verdict));
  }
  const section = (question: SectionQuestion) => sectionOf(facts, figures, question, worst);
  return {
    verdict: figures.verdict,
    sentence: sentenceOf(facts, evaluation),
    questions: questionsOf(figures),
    sections: { open: section('open'), usable: section('usable'), feel: section('feel'), works: section('works') },
    findings,
    together: searched ? remediesTogether(facts, evaluation) : [],
    chance: chanceOf(figures),
    day: dayOf(facts),
    compare: compareRows(evaluation),
    settings: figures.settings,
    delayParts: figures.delay.parts.map(({ name, bay, ms, source }) => ({ name, bay, ms, source })),
    steps: timelineSteps(figures.timeline),
    shortcuts: shortcutsFor(figures.signon),
    leftBehind: {
      policy: figures.settings['session.leftBehind'],
      sessions: facts.elsewhere,
      outcomes: leftBehindOutcomes(facts.elsewhere, facts.resource),
    },
    ladder: figures.ladder.map(({ name, state, bay }) => ({ name, state, bay })),
    desk: figures.desk.map(({ name, works, carriedAs, because }) => ({ name, works, carriedAs, why: deskWhy(because) })),
    missing: figures.missing,
  };
}

/** Where each setting in force comes from, for the "why this value" of the controls. */
export const whyOf = (facts: CrossingFacts): Record<SettingKey, { value: unknown; from: string }> =>
  Object.fromEntries(
    settingKeys.map((key) => {
      const { value, deciding } = explainSetting(facts.settings, key, facts.subject);
      return [key, { value, from: deciding ? `${deciding.layer}${deciding.target === '*' ? '' : ` ${deciding.target}`}` : 'our default' }];
    }),
  ) as Record<SettingKey, { value: unknown; from: string }>;
