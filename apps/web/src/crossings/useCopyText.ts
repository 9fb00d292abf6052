import { useQueryClient } from '@tanstack/react-query';
import type { CrossingView } from '@underpass/core';
import { useNotice } from '../ui/Notice.js';
import type { CrossingAnswer } from './crossingAnswer.js';
import { crossingText } from './crossingText.js';
import { crossingQueries } from './queries.js';

/** Copies a crossing as text for a message. */
export function useCopyText(): (answer: CrossingAnswer, view: CrossingView, tried: string | null) => void {
  const notice = useNotice();
  const client = useQueryClient();
  return (answer, view, tried) => {
    const address = `${location.origin}/crossings/${encodeURIComponent(answer.id)}`;
    void (async () => {
      // without its history the rest is still worth sending
      const history = await client.ensureQueryData(crossingQueries.history(answer.id, answer.version)).catch(() => []);
      try {
        await navigator.clipboard.writeText(crossingText(answer, view, tried, address, history));
        notice({ text: 'The crossing is copied as text, for a message.' });
      } catch {
        notice({ text: 'The browser does not let this page copy.' });
      }
    })();
  };
}
