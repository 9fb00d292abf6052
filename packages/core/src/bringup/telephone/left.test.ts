import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
  bootCauses,
  nextQuestion,
  remainingCauses,
  telephoneQuestions,
  telephoneState,
  type BootCause,
  type TelephoneAnswers,
  type TelephoneBefore,
} from '../index.js';

const codes = Object.keys(bootCauses) as BootCause[];

/** Weights as the page on bring-up has them: 20 for what the estate says, a tenth for what another connection would be, 1 for every other. */
const weightOf = (code: BootCause, { cause, connection }: TelephoneBefore): number => {
  if (code === cause) return 20;
  if (connection === 'wired' && code.startsWith('wifi ')) return 0.1;
  return connection === 'wifi' && code === 'cable out' ? 0.1 : 1;
};
const anyBefore: fc.Arbitrary<TelephoneBefore> = fc.record({
  cause: fc.option(fc.constantFrom(...codes), { nil: null }),
  connection: fc.constantFrom('wired' as const, 'wifi' as const, null),
});
/** Answers that somebody gives who has one cause, to some of the questions; some they cannot tell. */
const anyCall = fc.constantFrom(...codes).chain((cause) =>
  fc
    .tuple(
      ...telephoneQuestions.map(({ id, answers, with: allowed }) =>
        fc.option(
          fc.constantFrom(...(allowed[cause] ?? answers.map((each) => each.id)), null).map((answer) => [id, answer] as const),
          { nil: null, freq: 1 },
        ),
      ),
    )
    .map((given) => ({ cause, answers: Object.fromEntries(given.filter((each) => each !== null)) as TelephoneAnswers })),
);

test('what is left, and what is asked next, is what adding it up over every cause and answer says', () => {
  fc.assert(
    fc.property(anyBefore, anyCall, (before, { cause, answers }) => {
      const told = telephoneQuestions.filter(({ id }) => typeof answers[id] === 'string');
      const left = codes.filter((code) =>
        told.every((question) => (question.with[code] ?? [answers[question.id]!]).includes(answers[question.id]!)),
      );
      expect(left).toContain(cause);
      const mass = left.reduce((sum, code) => sum + weightOf(code, before), 0);
      const { causes, notListed } = remainingCauses(before, answers);
      expect(notListed).toBeCloseTo(1 / (mass + 1), 12);
      for (const { code, probability, ruledOutBy } of causes) {
        expect(probability).toBeCloseTo(left.includes(code) ? weightOf(code, before) / (mass + 1) : 0, 12);
        const first = told.find((question) => !(question.with[code] ?? [answers[question.id]!]).includes(answers[question.id]!));
        expect([code, ruledOutBy]).toEqual([code, first?.id ?? null]);
      }
      expect(causes.map(({ probability }) => probability)).toEqual(causes.map(({ probability }) => probability).sort((a, b) => b - a));
      // how much each question leaves on average: over the causes, over the answers that each gives equally often
      const leaves = telephoneQuestions
        .filter(({ id }) => answers[id] === undefined)
        .map((question) => {
          const gives = (code: BootCause) => question.with[code] ?? question.answers.map(({ id }) => id);
          let all = 0;
          for (const code of left)
            for (const answer of gives(code))
              all +=
                (weightOf(code, before) / mass / gives(code).length) *
                left.filter((other) => gives(other).includes(answer)).reduce((sum, other) => sum + weightOf(other, before), 0);
          return { id: question.id, all: all / mass };
        });
      const least = Math.min(...leaves.map(({ all }) => all), 1);
      const next = nextQuestion(before, answers);
      if (least >= 0.999) expect(next).toBeNull();
      else expect(next?.id).toBe(leaves.find(({ all }) => all < least + 1e-7)?.id);
      const state = telephoneState(before, answers);
      if (left.length === 1 && told.length > 0) expect(state).toEqual({ is: 'found', code: left[0] });
      else if (next) expect(state).toEqual({ is: 'asking', question: next });
      else expect(state).toMatchObject({ is: 'several' });
      if (state.is === 'several') expect([...state.codes].sort()).toEqual([...left].sort());
    }),
    { numRuns: 100 },
  );
});

test('the only cause there is left is not found before anybody answered', () => {
  const silent = Object.fromEntries(telephoneQuestions.map(({ id }) => [id, null]));
  expect(telephoneState({ cause: 'no scope', connection: null }, silent).is).toBe('several');
});
