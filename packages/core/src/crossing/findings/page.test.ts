import { expect, test } from '@jest/globals';
import { kindWords } from '@underpass/contracts';
import { readFileSync, writeFileSync } from 'node:fs';
import { farScenarios } from '../../../test/farScenarios.js';
import { nearScenarios } from '../../../test/nearScenarios.js';
import { otherSides } from '../../../test/otherSides.js';
import { evaluateCrossing, type Finding } from '../index.js';
import { findingKinds } from './index.js';

const scenarios = [...nearScenarios, ...farScenarios, ...otherSides];

/** A finding as it is told on the crossing of a scenario. */
function told({ text, weight, cost, costText, sure, bay, evidence, remedies }: Finding, ofKind: (typeof findingKinds)[number]): string {
  const here = [
    ...(bay === ofKind.bay ? [] : [`told at *${bay}*`]),
    ...(weight === ofKind.weight ? [] : [`here a ${weight}`]),
    `costs ${Number(cost.toPrecision(5))} (${costText})`,
    sure,
  ];
  const rests = evidence.map((line) => `  - ${line.source}: ${line.text}${line.notUsed ? ' (not used)' : ''}`);
  const mends = remedies.map(
    ({ text: does, effect, effectText, at }) =>
      `  - → **${does}**${effect ? `, ${effect.becomes}` : ''}: ${effectText}${at ? `; written at ${kindWords[at.kind].one.toLowerCase()} ${at.id}` : ''}`,
  );
  return [`- ${text}`, `  ${here.join('; ')}.`, ...rests, ...mends].join('\n');
}

/** What the page says of a kind. */
function sectionOf(ofKind: (typeof findingKinds)[number]): string {
  const { kind, bay, weight, limits, explains } = ofKind;
  const rows = scenarios
    .filter((scenario) => scenario.kind === kind)
    .map(({ from, make }) => {
      const { findings } = evaluateCrossing(make(from));
      const found = findings.find((finding) => finding.kind === kind);
      if (found) return told(found, ofKind);
      const above = findings.find(({ consequences }) => consequences.length > 0);
      if (!above) throw new Error(`nothing is told of ${kind}`);
      return `- Told beneath “${above.text}”: ${above.consequences.join('; ')}`;
    });
  const may = limits?.length ? `; may hold back ${limits.join(', ')}` : '';
  const beneath = explains?.length ? `; tells beneath it: ${explains.join(', ')}` : '';
  return `## ${kind}\n${bay}; ${weight}${may}${beneath}.\n\n${rows.join('\n')}\n`;
}

const page = new URL('../../../../../docs/findings.md', import.meta.url);
const head = `# Every finding\nThe ${findingKinds.length} kinds of finding, each on crossings that show it and are sound but for that: how it is told, what it costs on the scale of findings, what it rests on, and what mends it with the verdict and effect worked out (written by the tests: \`WRITE=yes npm test unit\`). What a crossing is, and the scale: [crossing](crossing.md).\n`;
if (process.env.WRITE) writeFileSync(page, [head, ...findingKinds.map(sectionOf)].join('\n'));
const [first, ...written] = readFileSync(page, 'utf8').split(/\n(?=## )/);

test('the page of findings in docs has a part for each kind, in their order', () => {
  expect(first).toBe(head);
  expect(written.map((text) => text.split('\n')[0])).toEqual(findingKinds.map(({ kind }) => `## ${kind}`));
});

// a test for each: of a fault only those that go through it are run
test.each(findingKinds.map((each, i) => [each.kind, each, i] as const))(
  'the page in docs tells of %s what its scenarios show',
  (_, each, i) => {
    expect(written[i]).toBe(sectionOf(each));
  },
);
