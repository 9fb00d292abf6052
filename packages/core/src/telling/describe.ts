import type { Bay } from '@underpass/contracts';
import type { Evaluation } from '../crossing/evaluate.js';
import type { CrossingFacts } from '../crossing/facts.js';
import type { CrossingFigures } from '../crossing/figures.js';
import type { Question } from '../crossing/question.js';
import { figure } from '../crossing/finding.js';
import { plural } from '../units/words.js';

/** One of the four questions with its answer in words. */
export interface QuestionWords {
  question: 'Does it open?' | 'How long until it is usable?' | 'How does it feel?' | 'What works on the desk?';
  key: 'open' | 'usable' | 'feel' | 'works';
  verdict: Question['verdict'];
  bay: Bay;
  answer: string;
  more: string;
}

/** The four questions in words. */
export function questionsOf(f: CrossingFigures): QuestionWords[] {
  const passed = f.ladder.filter((step) => step.state === 'passed' || step.state === 'assumed').length;
  const longest = f.timeline.steps.reduce<(typeof f.timeline.steps)[number] | null>(
    (most, step) => (most && most.seconds >= step.seconds ? most : step),
    null,
  );
  const works = f.desk.filter((item) => item.works === true).length;
  const doubted = f.ladder.find((step) => step.state === 'not known');
  const not = f.desk.find((item) => item.works === false && !item.meant) ?? f.desk.find((item) => item.works === false);
  const busyMs = Math.round(f.delay.value - f.delay.idleMs);
  const unknown = f.desk.find((item) => item.works === null);
  return [
    {
      question: 'Does it open?',
      key: 'open',
      verdict: f.open.verdict,
      bay: f.open.bay,
      answer: f.broken ? 'No' : doubted ? 'Not known' : 'Yes',
      more: f.broken ? `stops at “${f.broken.name}”` : doubted ? `may stop at “${doubted.name}”` : `${passed} of ${f.ladder.length} steps`,
    },
    {
      question: 'How long until it is usable?',
      key: 'usable',
      verdict: f.broken ? 'blocked' : f.usable.verdict,
      bay: f.usable.bay,
      answer: f.broken ? 'Never' : `${f.timeline.totalS.toFixed(1)} s`,
      more: longest ? `longest: ${longest.name}, ${figure(longest.seconds)} s` : '',
    },
    {
      question: 'How does it feel?',
      key: 'feel',
      verdict: f.feel.verdict,
      bay: f.feel.bay,
      answer:
        f.frames.missing === 'line rate'
          ? `${Math.round(f.delay.value)} ms`
          : `${Math.round(f.frames.value)} of ${f.frames.cap} frames, ${Math.round(f.delay.value)} ms`,
      more:
        f.feel.verdict === 'unknown'
          ? 'not known'
          : f.feel.verdict === 'limited'
            ? `${f.feel.bay} decides`
            : busyMs >= 2
              ? `${Math.round(f.delay.idleMs)} ms idle`
              : '',
    },
    {
      question: 'What works on the desk?',
      key: 'works',
      verdict: f.works.verdict,
      bay: 'Desk',
      answer: `${works} of ${f.desk.length}`,
      more: not
        ? `${not.name.toLowerCase()} ${not.carriedAs === 'not allowed' ? 'not allowed' : not.carriedAs === 'session' ? 'shown smaller' : not.meant ? 'left out' : 'stays dark'}`
        : unknown
          ? 'screens not known'
          : '',
    },
  ];
}

/** The reason of the verdict in one sentence, which must make sense without the picture. */
export function sentenceOf(facts: CrossingFacts, { figures: f, findings }: Evaluation): string {
  const deciding = findings.find((finding) => finding.weight === (f.verdict === 'clear' ? 'risk' : f.verdict));
  if (f.verdict === 'clear')
    return `Opens in ${f.timeline.totalS.toFixed(0)} s and answers in ${Math.round(f.delay.value)} ms at ${plural(Math.round(f.frames.value), 'frame')}${deciding ? `. At risk: ${lower(deciding.text)}` : ''}.`;
  if (!deciding) return `${facts.resource.name} is ${f.verdict} here.`;
  const others = findings.filter((finding) => finding !== deciding && finding.weight !== 'risk').length;
  return `${deciding.text}${others ? `, and ${plural(others, 'more finding')}` : ''}.`;
}

/** A sentence goes on small, unless it starts with a name of two words. */
const lower = (text: string) =>
  /^[A-Z][a-z]/.test(text) && !/^[A-Z]\S* [A-Z]/.test(text) ? (text[0] as string).toLowerCase() + text.slice(1) : text;
