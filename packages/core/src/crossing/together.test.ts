import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { anyCrossing, otherwiseOf } from '../../test/anySmall.js';
import { reached, small } from '../../test/small.js';
import { chanceAtMost, chanceOf, computeFigures, evaluateCrossing, remediesTogether } from './index.js';

const rank = { clear: 0, unknown: 1, limited: 2, blocked: 3 };

describe('remedies together', () => {
  // two faults that have nothing to do with each other: a cap that is too low, and a reader that the rules keep out
  const two = {
    endpoint: { alwaysOn: true, peripherals: ['card-reader'] },
    settings: { 'transport.capMbps': 1 },
  };

  test('two faults, each with a remedy of its own: neither alone is enough, both are', () => {
    const facts = small(two);
    const evaluation = evaluateCrossing(facts);
    for (const { remedies } of evaluation.findings) for (const { effect } of remedies) expect(effect?.becomes).not.toBe('clear');
    const [first] = remediesTogether(facts, evaluation);
    expect(first).toMatchObject({ effect: { becomes: 'clear' }, applicable: true });
    expect(first?.parts).toEqual(
      expect.arrayContaining([expect.stringMatching(/Let a session take/), expect.stringMatching(/card reader/i)]),
    );
    // what both do is what they do once they are done
    const after = facts.reader.after(first!.change).read(facts.ref)!;
    expect(computeFigures(after).verdict).toBe('clear');
  });

  test('three faults take three', () => {
    const facts = small({
      ...two,
      endpoint: { ...two.endpoint, clientVersion: '1.0' },
      pool: { clientFloors: { 'native client': '9.0' } },
    });
    const [first] = remediesTogether(facts, evaluateCrossing(facts));
    expect([first?.parts.length, first?.effect?.becomes, first?.applicable]).toEqual([3, 'clear', false]);
  });

  test('nothing is put together where one is enough, or nothing is wrong', () => {
    for (const otherwise of [{ endpoint: { alwaysOn: true } }, { endpoint: { alwaysOn: true }, settings: { 'transport.capMbps': 1 } }]) {
      const facts = small(otherwise);
      expect(remediesTogether(facts, evaluateCrossing(facts))).toEqual([]);
    }
  });

  test('they always come to more than any single one, and to what is promised; cheapest first', () => {
    fc.assert(
      fc.property(anyCrossing, (any) => {
        const facts = small(otherwiseOf(any));
        const evaluation = evaluateCrossing(facts);
        const single = evaluation.findings.flatMap(({ remedies }) => remedies.map(({ effect }) => rank[effect?.becomes ?? 'blocked']));
        for (const { change, effect } of remediesTogether(facts, evaluation)) {
          expect(rank[effect!.becomes]).toBeLessThan(Math.min(rank[evaluation.figures.verdict], ...single));
          const after = facts.reader.after(change).read(facts.ref);
          expect(after && computeFigures(after).verdict).toBe(effect!.becomes);
        }
      }),
      { numRuns: 120 },
    );
  });
});

describe('the chance of Clear', () => {
  test('a figure between 0 and 10, likeliest 5 (triangular): at most 2 in 8 of 100, at most 5 in half, at most 8 in 92', () => {
    const span = { value: 5, low: 0, high: 10 };
    // (2 − 0)² / (10 · 5) and its mirror
    expect([2, 5, 8, 10, -1].map((limit) => chanceAtMost(span, limit))).toEqual([0.08, 0.5, 0.92, 1, 0].map((n) => expect.closeTo(n, 12)));
    // likeliest at an end
    expect(chanceAtMost({ value: 0, low: 0, high: 10 }, 5)).toBeCloseTo(0.75, 12);
    expect(chanceAtMost({ value: 10, low: 0, high: 10 }, 5)).toBeCloseTo(0.25, 12);
  });

  test('sure of Clear and of Limited; in between by what is not known, and the fact that tells most is named', () => {
    const of = (otherwise: Parameters<typeof small>[0]) => chanceOf(computeFigures(small({ endpoint: { alwaysOn: true }, ...otherwise })));
    expect(of({})).toEqual({ clear: 1, settles: null });
    expect(of({ settings: { 'transport.capMbps': 1 } }).clear).toBe(0);
    expect(of({ gateway: { certificate: undefined } })).toEqual({ clear: 0.95, settles: { fact: 'certificate', chance: 0.95 } });
    const both = of({ gateway: { certificate: undefined }, host: { used: undefined } });
    expect(both).toEqual({ clear: expect.closeTo(0.95 * 0.9, 9), settles: { fact: 'places of the hosts', chance: 0.9 } });
    const loss = of({ measured: { ...reached, datagrams: { passes: true, sent: 2000, lost: 100 } } });
    expect(loss.settles?.fact).toBe('loss');
    expect(loss.clear).toBeGreaterThan(0.2);
    expect(loss.clear).toBeLessThan(0.7);
  });

  test('is 1 exactly where it is Clear, 0 where it is not for certain, and between them where it is not known', () => {
    fc.assert(
      fc.property(anyCrossing, (any) => {
        const figures = computeFigures(small(otherwiseOf(any)));
        const { clear, settles } = chanceOf(figures);
        if (figures.verdict === 'clear') expect([clear, settles]).toEqual([1, null]);
        else if (figures.verdict === 'unknown') {
          expect(clear).toBeGreaterThan(0);
          expect(clear).toBeLessThan(1);
          expect(figures.missing).toContain(settles?.fact);
        } else expect(clear).toBe(0);
      }),
    );
  });
});
