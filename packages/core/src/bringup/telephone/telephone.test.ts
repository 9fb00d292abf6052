import { describe, expect, test } from '@jest/globals';
import {
  bootCauses,
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
const nothing: TelephoneBefore = { cause: null, connection: null };

/** A call with somebody whose device has a cause: of the answers that it allows they give one. */
function called(
  cause: BootCause,
  before: TelephoneBefore,
  pick: (answers: readonly string[]) => string,
): { asked: string[]; state: ReturnType<typeof telephoneState> } {
  const answers: Record<string, string> = {};
  for (let turn = 0; turn < telephoneQuestions.length; turn++) {
    const state = telephoneState(before, answers);
    if (state.is !== 'asking') return { asked: Object.keys(answers), state };
    const { id, with: allowed, answers: possible } = state.question;
    answers[id] = pick(allowed[cause] ?? possible.map((each) => each.id));
  }
  return { asked: Object.keys(answers), state: telephoneState(before, answers) };
}

describe('the questions', () => {
  test('name answers that they have, and causes that there are', () => {
    for (const { id, answers, with: allowed } of telephoneQuestions)
      for (const [code, given] of Object.entries(allowed)) {
        expect([id, codes.includes(code as BootCause)]).toEqual([id, true]);
        expect(given.length).toBeGreaterThan(0);
        for (const answer of given) expect([id, answers.map((each) => each.id)]).toEqual([id, expect.arrayContaining([answer])]);
      }
    expect(new Set(telephoneQuestions.map(({ id }) => id)).size).toBe(telephoneQuestions.length);
  });

  test.each(codes)('%s is found, whichever of its answers is given, within seven', (cause) => {
    for (const pick of [(list: readonly string[]) => list[0]!, (list: readonly string[]) => list.at(-1)!]) {
      const { asked, state } = called(cause, nothing, pick);
      expect([asked, state]).toEqual([asked, { is: 'found', code: cause }]);
      expect(asked.length).toBeLessThanOrEqual(7);
    }
  });

  test('on average there are fewer than half of what one by one would take', () => {
    const lengths = codes.map((cause) => called(cause, nothing, (list) => list[0]!).asked.length);
    const mean = lengths.reduce((sum, each) => sum + each, 0) / lengths.length;
    // log2 of 45 is 5.5 for questions of two answers; these have more
    expect(mean).toBeLessThan(4);
  });
});

describe('what is asked next', () => {
  test('first what tells most: what the screen says', () => expect(nextQuestion(nothing, {})?.id).toBe('screen'));

  test('by hand: of four that are left two and two come before one and three', () => {
    // “No address” leaves no scope, addresses used up, range unreadable: “beside” with its three answers tells them apart best
    const answers: TelephoneAnswers = { screen: 'No address' };
    expect(
      remainingCauses(nothing, answers)
        .causes.filter(({ probability }) => probability > 0)
        .map(({ code }) => code)
        .sort(),
    ).toEqual(['addresses used up', 'no scope', 'range unreadable'].sort());
    expect(nextQuestion(nothing, answers)?.id).toBe('address');
    expect(telephoneState(nothing, { ...answers, address: 'no' })).toEqual({ is: 'found', code: 'no scope' });
  });

  test('somebody who cannot say rules nothing out, and is not asked again', () => {
    const { causes } = remainingCauses(nothing, { screen: null });
    expect(causes.every(({ probability }) => probability > 0)).toBe(true);
    expect(nextQuestion(nothing, { screen: null })?.id).not.toBe('screen');
    expect(telephoneState(nothing, Object.fromEntries(telephoneQuestions.map(({ id }) => [id, null])))).toMatchObject({ is: 'several' });
  });

  test('answers that no cause allows leave nothing of the list', () => {
    expect(telephoneState(nothing, { screen: 'dark' })).toEqual({ is: 'nothing listed' });
    expect(remainingCauses(nothing, { screen: 'dark' })).toMatchObject({ notListed: 1 });
  });
});

describe('what is known before', () => {
  test('what the estate says weighs most, and does not count as found before anything was asked', () => {
    const before: TelephoneBefore = { cause: 'wifi key wrong', connection: 'wifi' };
    const { causes, notListed } = remainingCauses(before, {});
    expect(causes[0]).toMatchObject({ code: 'wifi key wrong', ruledOutBy: null });
    expect(causes.reduce((sum, { probability }) => sum + probability, 0) + notListed).toBeCloseTo(1, 12);
    // 20 of 20 + 43 + 0.1 + 1
    expect(causes[0]?.probability).toBeCloseTo(20 / 64.1, 12);
    expect(telephoneState(before, {}).is).toBe('asking');
  });

  test('a device that is wired is seldom stopped by Wi-Fi, but may be', () => {
    const of = (connection: 'wired' | 'wifi', code: BootCause) =>
      remainingCauses({ cause: null, connection }, {}).causes.find((each) => each.code === code)!.probability;
    expect(of('wired', 'wifi too weak')).toBeCloseTo(of('wired', 'cable out') / 10, 12);
    expect(of('wifi', 'cable out')).toBeCloseTo(of('wifi', 'wifi too weak') / 10, 12);
    expect(telephoneState({ cause: null, connection: 'wired' }, { screen: 'No network', cable: 'no', network: 'none' })).toEqual({
      is: 'found',
      code: 'wifi not set',
    });
  });

  test('what was ruled out stays, with the question that did it', () => {
    const { causes } = remainingCauses(nothing, { screen: 'No network', cable: 'yes' });
    expect(causes.find(({ code }) => code === 'no scope')).toMatchObject({ probability: 0, ruledOutBy: 'screen' });
    expect(causes.find(({ code }) => code === 'wifi too weak')).toMatchObject({ probability: 0, ruledOutBy: 'cable' });
  });

  test('a wrong word of the estate does not keep the true cause from being found', () => {
    for (const cause of codes) {
      const { state } = called(cause, { cause: 'cable out', connection: 'wired' }, (list) => list[0]!);
      expect([cause, state]).toEqual([cause, { is: 'found', code: cause }]);
    }
  });
});

test('somebody at home is led to their network, and never asked for its key', () => {
  for (const thin of [true, false]) {
    const steps = homeJoining(thin);
    expect(steps.length).toBeGreaterThan(4);
    for (const { say, stuck } of steps) {
      expect(stuck.length).toBeGreaterThan(0);
      expect(say).not.toMatch(/read me the key|tell me the key/i);
    }
    expect(steps.some(({ say }) => say.includes('You need not tell it to me'))).toBe(true);
  }
});
