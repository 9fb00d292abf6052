import type { CrossingView } from '@underpass/core';
import { moment } from '../ui/times.js';
import { verdictWords } from '../ui/verdictWords.js';
import type { CrossingAnswer } from './crossingAnswer.js';

/** A crossing in a few lines for a message: who, what is wrong and since when it is told so, what would help, what is tried. */
export function crossingText(
  { between, at, view: now }: CrossingAnswer,
  view: CrossingView,
  tried: string | null,
  address: string,
): string {
  const lines = [
    `${between.person.name} on ${between.endpoint.name} at ${between.location.name} through to ${between.resource.name}`,
    `${verdictWords[now.verdict]}: ${now.sentence}`,
    `As evaluated ${moment(at)}.`,
    ...now.findings
      .slice(0, 5)
      .flatMap(({ bay, text, remedies }) => [
        `- ${bay}: ${text}`,
        ...(remedies[0] ? [`  would help: ${remedies[0].text} (${remedies[0].effectText})`] : []),
      ]),
    ...(now.findings.length > 5 ? [`- and ${now.findings.length - 5} more findings`] : []),
    ...(tried ? [`Tried on paper: ${tried}. Then ${verdictWords[view.verdict]}: ${view.sentence}`] : []),
    address,
  ];
  return lines.join('\n');
}
