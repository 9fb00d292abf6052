import type { Verdict } from '@underpass/contracts';
import type { CrossingView } from '@underpass/core';
import { momentAt } from '../ui/times.js';
import { verdictWords } from '../ui/verdictWords.js';
import type { CrossingAnswer } from './crossingAnswer.js';
import type { HistoryEntry } from './historyLine.js';

/**
 * Since when a verdict is told without a break, out of the changes of it, the first one first; null where they end on another one.
 * @param zone that of the place
 */
export function sinceWhen(history: readonly HistoryEntry[], verdict: Verdict, zone: string): string | null {
  const before = history.findLastIndex((entry) => entry.verdict !== verdict);
  const first = history[before + 1];
  if (!first) return null;
  // what was before the first one that is kept, nobody knows
  return `${verdictWords[verdict]} since ${before < 0 ? 'at least ' : ''}${momentAt(first.at, zone)}${first.cause ? `: ${first.cause}` : ''}`;
}

/** A crossing in a few lines for a message: who, what is wrong and since when, what would help, what is tried. */
export function crossingText(
  { between, at, view: now }: CrossingAnswer,
  view: CrossingView,
  tried: string | null,
  address: string,
  history: readonly HistoryEntry[] = [],
): string {
  const since = sinceWhen(history, now.verdict, now.day.zone);
  const lines = [
    `${between.person.name} on ${between.endpoint.name} at ${between.location.name} through to ${between.resource.name}`,
    `${verdictWords[now.verdict]}: ${now.sentence}`,
    ...(since ? [since] : []),
    `As evaluated ${momentAt(at, now.day.zone)}.`,
    ...now.findings
      .slice(0, 5)
      .flatMap(({ bay, text, remedies }) => [
        `- ${bay}: ${text}`,
        ...(remedies[0] ? [`  would help: ${remedies[0].text} (${remedies[0].effectText})`] : []),
      ]),
    ...(now.findings.length > 5 ? [`- and ${now.findings.length - 5} more finding${now.findings.length === 6 ? '' : 's'}`] : []),
    ...(tried ? [`Tried on paper: ${tried}. Then ${verdictWords[view.verdict]}: ${view.sentence}`] : []),
    address,
  ];
  return lines.join('\n');
}
