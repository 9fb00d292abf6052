export {
  nextQuestion,
  remainingCauses,
  telephoneState,
  type Remaining,
  type TelephoneAnswers,
  type TelephoneBefore,
  type TelephoneState,
} from './halving.js';
export { homeJoining, type LedStep } from './led.js';
export { causeTold } from './told.js';
export { telephoneQuestions, type TelephoneQuestion } from './questions.js';
