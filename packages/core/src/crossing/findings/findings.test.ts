import { describe, expect, test } from '@jest/globals';
import { farScenarios } from '../../../test/farScenarios.js';
import { nearScenarios } from '../../../test/nearScenarios.js';
import { noFaults } from '../../../test/noFaults.js';
import { otherSides } from '../../../test/otherSides.js';
import { dock, home, office } from '../../../test/scenes.js';
import { computeFigures, evaluateCrossing } from '../index.js';
import { findingKinds } from './index.js';
import { addedDelayGrade } from './link/delayUnderLoad.js';

const scenarios = [...nearScenarios, ...farScenarios, ...otherSides];

describe('every kind of finding', () => {
  test('the crossings that the scenarios begin with are sound', () => {
    for (const facts of [office, home, dock])
      expect([
        facts.endpoint.id,
        computeFigures(facts).verdict,
        evaluateCrossing(facts).findings.filter(({ weight }) => weight !== 'risk'),
      ]).toEqual([facts.endpoint.id, 'clear', []]);
  });

  test('has a scenario that shows it', () => {
    expect([...new Set(scenarios.map(({ kind }) => kind))].sort()).toEqual(findingKinds.map(({ kind }) => kind).sort());
  });

  test.each(scenarios)('$kind', ({ kind, from, make, says, mended }) => {
    const facts = make(from);
    const { findings } = evaluateCrossing(facts);
    const found = findings.find((finding) => finding.kind === kind);
    const told = [
      ...findings.map((finding) => `${finding.kind}: ${finding.text}`),
      ...findings.flatMap(({ consequences }) => consequences),
    ];
    if (!found) {
      // told beneath its root cause: the sentence must still be there
      expect(told.join('\n')).toMatch(says);
      return;
    }
    expect(found.text).toMatch(says);
    expect(found.evidence.length).toBeGreaterThan(0);
    expect(found.costText.length).toBeGreaterThan(0);
    if (from !== facts && (from === office || from === home || from === dock))
      expect(evaluateCrossing(from).findings.map((finding) => finding.kind)).not.toContain(kind);
    if (!mended) return;
    const remedy = found.remedies.find(({ text }) => mended[0].test(text));
    expect([kind, found.remedies.map(({ text }) => text), remedy?.effect?.becomes]).toEqual([kind, expect.anything(), mended[1]]);
  });

  test.each(noFaults)('$kind: not told where it is none', ({ kind, from, make }) => {
    const facts = make(from);
    // by the kind itself: beneath another it would not be told either
    expect(findingKinds.find((each) => each.kind === kind)?.detect(facts, computeFigures(facts))).toBeNull();
  });
});

// common practice, no source: 30, 60 and 200 ms
test.each([
  [0, 'good'],
  [30, 'good'],
  [30.1, 'fair'],
  [60, 'fair'],
  [60.1, 'poor'],
  [200, 'poor'],
  [200.1, 'very poor'],
] as const)('%f ms added by a full line are %s', (addedMs, grade) => {
  expect(addedDelayGrade(addedMs)).toBe(grade);
});
