import type { Applied, Change } from '@underpass/contracts';
import { call } from '../api/client.js';
import { standing } from '../api/refresh.js';
import { useAction } from '../ui/useAction.js';
import type { CrossingAnswer } from './crossingAnswer.js';
import { summaryOf } from './summaryOf.js';

/** Applies what is tried on a crossing; it is told at the foot, and taken back from there. */
export function useApply(answer: CrossingAnswer, change: Change, name: string | null, onApplied: () => void) {
  const { busy, fault, run } = useAction();
  const summary = name ?? summaryOf(change);
  const apply = () =>
    run(async () => {
      const body = { change, summary: summary.slice(0, 300), seen: answer.version };
      const applied = await call<Applied>('changes', 'POST', body);
      await standing(Number(applied.version));
      onApplied();
      return { text: `Applied: ${summary}. It is in force from now on.`, applied, takenBack: `Taken back: ${summary}.` };
    });
  return { apply, busy, fault };
}
