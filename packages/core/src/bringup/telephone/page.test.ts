import { expect, test } from '@jest/globals';
import { readFileSync, writeFileSync } from 'node:fs';
import fc from 'fast-check';
import {
  bootCauses,
  causeTold,
  homeJoining,
  nextQuestion,
  remainingCauses,
  telephoneQuestions,
  telephoneState,
  type BootCause,
  type TelephoneAnswers,
  type TelephoneBefore,
} from '../index.js';

const codes = Object.keys(bootCauses) as BootCause[];

test('the page of the telephone in docs is what is asked and said', () => {
  const questions = telephoneQuestions.map(({ id, ask, answers, with: allowed }) => {
    const rows = answers.map((answer) => {
      const stay = codes.filter((code) => allowed[code]?.includes(answer.id));
      return `| ${answer.text} | \`${answer.id}\` | ${stay.join(', ') || '–'} |`;
    });
    const any = codes.filter((code) => !allowed[code]);
    return `## ${ask}\n\`${id}\`\n\n| answer | | given with |\n| --- | --- | --- |\n${rows.join('\n')}\n\n${any.length === 0 ? 'Every cause is named.' : `Any answer may be given with ${any.length === codes.length ? 'every cause' : any.join(', ')}.`}\n`;
  });
  const led = ([true, false] as const).map((thin) => {
    const steps = homeJoining(thin).map(
      ({ say, stuck }, i) => `${i + 1}. ${say}\n${stuck.map(({ what, help }) => `   - *${what}*: ${help}`).join('\n')}`,
    );
    return `## Joining the Wi-Fi of a home: ${thin ? 'a thin client' : 'a computer or telephone'}\n${steps.join('\n')}\n`;
  });
  const text = `# At the telephone\nWhat is asked of somebody beside a device that does not start, and with which causes each answer is given; what leaves least to look among is asked first (written by the tests: \`WRITE=yes npm test unit\`). For whoever has to help without a screen: print it.\n\n${[...questions, ...led].join('\n')}`;
  const page = new URL('../../../../../docs/bringup-telephone.md', import.meta.url);
  if (process.env.WRITE) writeFileSync(page, text);
  expect(readFileSync(page, 'utf8')).toBe(text);
});

test('what a cause is, in the words of a place; what is not known of it is left open', () => {
  const withWords = codes.filter((code) => /\{\w+\}/.test(bootCauses[code].says + bootCauses[code].mend));
  expect(withWords.length).toBeGreaterThan(5);
  for (const code of codes) {
    const { says, mend, shows } = bootCauses[code];
    const names = [...`${says} ${mend}`.matchAll(/\{(\w+)\}/g)].map(([, name]) => name as string);
    const words = Object.fromEntries(names.map((name) => [name, `the ${name}`]));
    const filled = (text: string, by: (name: string) => string) => text.replace(/\{(\w+)\}/g, (_, name: string) => by(name));
    if (code !== 'wifi security differs')
      expect(causeTold(code, words)).toEqual({
        says: filled(says, (name) => `the ${name}`),
        mend: filled(mend, (name) => `the ${name}`),
        shows,
      });
    expect(causeTold(code, {})).toEqual({ says: filled(says, () => '…'), mend: filled(mend, () => '…'), shows });
  }
  // of the security its kind is told in the place of the name, and where it is not known nothing
  const { says } = bootCauses['wifi security differs'];
  expect(says).toContain('{network}');
  const filled = (network: string) => says.replace('{network}', network).replace(/\{\w+\}/g, '…');
  expect(causeTold('wifi security differs', { network: 'the name', security: 'WPA3' }).says).toBe(filled('WPA3'));
  expect(causeTold('wifi security differs', { network: 'the name' }).says).toBe(filled('…'));
});

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
    { numRuns: 300 },
  );
});

test('the only cause there is left is not found before anybody answered', () => {
  const silent = Object.fromEntries(telephoneQuestions.map(({ id }) => [id, null]));
  expect(telephoneState({ cause: 'no scope', connection: null }, silent).is).toBe('several');
});
