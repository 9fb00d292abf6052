import { bootCauses, type BootCause } from '../boot/index.js';
import { telephoneQuestions, type TelephoneQuestion } from './questions.js';

/** What was answered, by question; null where somebody could not say. */
export type TelephoneAnswers = Readonly<Record<string, string | null>>;

/** What is known of the device before anybody is asked. */
export interface TelephoneBefore {
  /** What the estate says that stops it. */
  cause: BootCause | null;
  connection: 'wired' | 'wifi' | null;
}

/** A cause with what it weighs; those that an answer ruled out stay, with the question that did it. */
export interface Remaining {
  code: BootCause;
  /** Of all causes and of what is on no list together 1. */
  probability: number;
  ruledOutBy: string | null;
}

// what the estate says is right more often than not, and may be old; a device that is said to be wired is seldom on Wi-Fi. Assumed, no source.
const ofEstate = 20;
const otherConnection = 0.1;
/** What is on no list weighs as much as this many causes. */
const notListed = 1;

const codes = Object.keys(bootCauses) as BootCause[];
const allows = (question: TelephoneQuestion, code: BootCause, answer: string): boolean => question.with[code]?.includes(answer) ?? true;

/** Weights before anything is asked. */
function weight(code: BootCause, { cause, connection }: TelephoneBefore): number {
  if (code === cause) return ofEstate;
  const isWifi = code.startsWith('wifi');
  if ((connection === 'wired' && isWifi) || (connection === 'wifi' && code === 'cable out')) return otherConnection;
  return 1;
}

/** Every cause with what it still weighs after what was answered, most likely first; and what is on no list. */
export function remainingCauses(before: TelephoneBefore, answers: TelephoneAnswers): { causes: Remaining[]; notListed: number } {
  const left = codes.map((code) => {
    const against = telephoneQuestions.find((question) => {
      const answer = answers[question.id];
      return answer !== undefined && answer !== null && !allows(question, code, answer);
    });
    return { code, weight: against ? 0 : weight(code, before), ruledOutBy: against?.id ?? null };
  });
  const sum = left.reduce((all, each) => all + each.weight, 0) + notListed;
  const causes = left.map(({ code, weight: own, ruledOutBy }) => ({ code, probability: own / sum, ruledOutBy }));
  return { causes: causes.sort((a, b) => b.probability - a.probability), notListed: notListed / sum };
}

/**
 * The question that leaves least to look among: for each answer what it leaves, weighed by how likely it is. Of those that leave the same the
 * earlier one.
 * @returns null where no question tells what is left apart
 */
export function nextQuestion(before: TelephoneBefore, answers: TelephoneAnswers): TelephoneQuestion | null {
  const { causes } = remainingCauses(before, answers);
  const left = causes.filter(({ probability }) => probability > 0);
  const sum = left.reduce((all, { probability }) => all + probability, 0);
  let best: { question: TelephoneQuestion; leaves: number } | null = null;
  for (const question of telephoneQuestions) {
    if (answers[question.id] !== undefined) continue;
    let leaves = 0;
    let chance = 0;
    for (const { id } of question.answers) {
      const stay = left.filter(({ code }) => allows(question, code, id));
      const weightOf = stay.reduce(
        (all, { code, probability }) => all + probability / (question.with[code]?.length ?? question.answers.length),
        0,
      );
      leaves += weightOf * stay.reduce((all, { probability }) => all + probability, 0);
      chance += weightOf;
    }
    // what is left on average, of all that there is now
    const share = chance === 0 ? sum : leaves / chance;
    if (share < sum * 0.999 && (!best || share < best.leaves - 1e-9)) best = { question, leaves: share };
  }
  return best?.question ?? null;
}

/** How the telephone call stands: what to ask next, what it is, or that it is nothing of this list. */
export type TelephoneState =
  | { is: 'asking'; question: TelephoneQuestion }
  | { is: 'found'; code: BootCause }
  | { is: 'several'; codes: BootCause[] }
  | { is: 'nothing listed' };

/** How a call stands: with one cause left it is found, as long as anything was answered; with several there is a question, or none that tells them apart. */
export function telephoneState(before: TelephoneBefore, answers: TelephoneAnswers): TelephoneState {
  const left = remainingCauses(before, answers).causes.filter(({ probability }) => probability > 0);
  const [first] = left;
  if (!first) return { is: 'nothing listed' };
  const asked = Object.values(answers).some((answer) => answer !== null);
  if (left.length === 1 && asked) return { is: 'found', code: first.code };
  const question = nextQuestion(before, answers);
  return question ? { is: 'asking', question } : { is: 'several', codes: left.map(({ code }) => code) };
}
